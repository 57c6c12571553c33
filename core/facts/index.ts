import { Column, Dictionary, grown, Ragged } from './ragged.ts';

export { Dictionary, Ragged, Column, grown } from './ragged.ts';

/** What facts know of one supporter. Region is the state or province of the preferred address. */
export interface SupporterFacts {
  id: number;
  kind: number;
  region: string;
  /** Bits of `WISH`. */
  flags: number;
  tags: readonly number[];
  gifts: readonly GiftFacts[];
}

/** One gift: day number, cents, and the ids of what it went to (0: none). */
export interface GiftFacts {
  day: number;
  cents: number;
  fund: number;
  campaign: number;
  appeal: number;
}

/** Flags of a supporter that lists and segments ask about. */
export const FLAG = { noEmail: 1, deceased: 2, trashed: 4, hasEmail: 8 } as const;

/**
 * The columns that questions about many supporters are answered from. A supporter has a slot, given out in the
 * order of first sight and never moved; `ids[slot]` is its id. A supporter that is gone keeps its slot with the
 * `trashed` flag, so that its gifts still count in financial totals while no list shows it.
 */
export class Facts {
  ids = new Uint32Array(16);
  region = new Uint16Array(16);
  flags = new Uint8Array(16);
  kind = new Uint8Array(16);
  size = 0;
  readonly regions = new Dictionary();
  readonly gifts = new Ragged({
    day: new Column(new Int32Array(16)),
    cents: new Column(new Float64Array(16)),
    fund: new Column(new Uint32Array(16)),
    campaign: new Column(new Uint32Array(16)),
    appeal: new Column(new Uint32Array(16)),
  });
  readonly tags = new Ragged({ tag: new Column(new Uint32Array(16)) });
  private slots = new Int32Array(16).fill(-1);

  /** The slot of a supporter id, or -1. */
  slotOf(id: number): number {
    return this.slots[id] ?? -1;
  }

  /** The slot of a supporter id, adding one where there is none yet. */
  addSupporter(id: number, kind: number, region: string, flags: number): number {
    let slot = this.slotOf(id);
    if (slot < 0) {
      slot = this.size++;
      if (slot >= this.ids.length) this.growSupporters();
      if (id >= this.slots.length) {
        const bigger = new Int32Array(Math.max(id + 1, this.slots.length * 2)).fill(-1);
        bigger.set(this.slots);
        this.slots = bigger;
      }
      this.slots[id] = slot;
      this.ids[slot] = id;
      this.gifts.replace(slot, []);
      this.tags.replace(slot, []);
    }
    this.kind[slot] = kind;
    this.region[slot] = this.regions.code(region);
    this.flags[slot] = flags;
    return slot;
  }

  /** Puts what is now true of one supporter in the place of what was. */
  replace(supporter: SupporterFacts): void {
    const slot = this.addSupporter(supporter.id, supporter.kind, supporter.region, supporter.flags);
    this.gifts.replace(slot, supporter.gifts);
    this.tags.replace(
      slot,
      supporter.tags.map((tag) => ({ tag })),
    );
  }

  /** Takes a supporter whose row no longer exists out of every answer, gifts included. */
  remove(id: number): void {
    const slot = this.slotOf(id);
    if (slot < 0) return;
    this.flags[slot] = FLAG.trashed;
    this.gifts.replace(slot, []);
    this.tags.replace(slot, []);
  }

  private growSupporters(): void {
    const size = this.ids.length * 2;
    this.ids = grown(this.ids, size);
    this.region = grown(this.region, size);
    this.flags = grown(this.flags, size);
    this.kind = grown(this.kind, size);
  }
}
