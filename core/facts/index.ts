import { Column, Dictionary, grown, Ragged } from './ragged.ts';
import type { Kept } from '../fields/index.ts';

export { Dictionary, Ragged, Column, grown } from './ragged.ts';

/** What facts know of one supporter. Region and city are those of the address that is used today. */
export interface SupporterFacts {
  id: number;
  kind: number;
  region: string;
  city: string;
  /** The name as lists are sorted by it. */
  sortName: string;
  /** Bits of `FLAG` and of `WISHES`. */
  flags: number;
  /** The id of the household a person belongs to, a household's own id, or 0. */
  household: number;
  tags: readonly number[];
  groups: readonly number[];
  fields: readonly (readonly [field: number, value: Kept])[];
  /** Values of custom fields of their gifts. */
  giftFields: readonly (readonly [field: number, value: Kept])[];
  gifts: readonly GiftFacts[];
  splits?: readonly SplitFacts[];
  credits?: readonly CreditFacts[];
}

/**
 * One gift: day number, cents, and the ids of what it went to (0: none). A gift split over several places has 0 in
 * all three, and its parts in `splits`.
 */
export interface GiftFacts {
  day: number;
  cents: number;
  fund: number;
  campaign: number;
  appeal: number;
  /** The place of its payment method in `METHOD_CODES`. */
  method: number;
}

/** A part of a split gift; `gift` holds the parts of one gift together. */
export interface SplitFacts extends GiftFacts {
  gift: number;
}

/**
 * Recognition of a part of somebody else's gift. `gift` and `part` name the part of the gift, `of` is its amount,
 * and `donor` the id of its legal donor.
 */
export interface CreditFacts extends SplitFacts {
  part: number;
  of: number;
  donor: number;
}

const placed = () => ({
  day: new Column(new Int32Array(16)),
  cents: new Column(new Float64Array(16)),
  fund: new Column(new Uint32Array(16)),
  campaign: new Column(new Uint32Array(16)),
  appeal: new Column(new Uint32Array(16)),
  method: new Column(new Uint8Array(16)),
});

/** Flags of a supporter beside the bits of `WISHES`: in the trash, and emptied out of it or gone. */
export const FLAG = { trashed: 4, erased: 8 } as const;

/**
 * The columns that questions about many supporters are answered from. A supporter has a slot, given out in the
 * order of first sight and never moved; `ids[slot]` is its id. A supporter that is gone keeps its slot with the
 * `trashed` flag, so that its gifts still count in financial totals while no list shows it.
 */
export class Facts {
  ids = new Uint32Array(16);
  region = new Uint16Array(16);
  city = new Uint32Array(16);
  flags = new Uint16Array(16);
  household = new Uint32Array(16);
  kind = new Uint8Array(16);
  readonly sortNames: string[] = [];
  size = 0;
  readonly regions = new Dictionary();
  readonly cities = new Dictionary();
  /** For each custom field the values of the slots that have one. */
  readonly fields = new Map<number, Map<number, Kept>>();
  /** For each custom field of gifts the values that each slot's gifts have. */
  readonly giftFields = new Map<number, Map<number, Kept[]>>();
  /** For each household the slots that belong to it, its own among them. */
  private readonly homes = new Map<number, Set<number>>();
  readonly gifts = new Ragged(placed());
  /** Parts of the gifts that are split; the parts of a gift stand together. */
  readonly splits = new Ragged({ ...placed(), gift: new Column(new Uint32Array(16)) });
  /** Recognition without the money. */
  readonly credits = new Ragged({
    ...placed(),
    gift: new Column(new Uint32Array(16)),
    part: new Column(new Uint8Array(16)),
    of: new Column(new Float64Array(16)),
    donor: new Column(new Uint32Array(16)),
  });
  readonly tags = new Ragged({ tag: new Column(new Uint32Array(16)) });
  readonly groups = new Ragged({ group: new Column(new Uint32Array(16)) });
  private slots = new Int32Array(16).fill(-1);

  /** The slot of a supporter id, or -1. */
  slotOf(id: number): number {
    return this.slots[id] ?? -1;
  }

  /** Where a supporter is reached by post from now on. */
  setPlace(slot: number, region: string, city: string): void {
    this.region[slot] = this.regions.code(region);
    this.city[slot] = this.cities.code(city);
  }

  /** The slot of a supporter id, adding one where there is none yet. */
  addSupporter(
    id: number,
    kind: number,
    region: string,
    flags: number,
    city = '',
    household = 0,
    sortName = '',
  ): number {
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
      for (const rows of [this.gifts, this.splits, this.credits]) rows.replace(slot, []);
      this.tags.replace(slot, []);
      this.groups.replace(slot, []);
    }
    this.kind[slot] = kind;
    this.region[slot] = this.regions.code(region);
    this.city[slot] = this.cities.code(city);
    this.flags[slot] = flags;
    this.sortNames[slot] = sortName;
    this.moveHome(slot, household);
    return slot;
  }

  /** The slots of a household, its own record's among them; a supporter without one is alone. */
  homeOf(slot: number): Iterable<number> {
    const home = this.household[slot] ?? 0;
    return home === 0 ? [slot] : (this.homes.get(home) ?? [slot]);
  }

  /** Those of a household who are not in the trash; who is there, or whose household is, shares a home with nobody. */
  sharersOf(slot: number): number[] {
    const home = this.household[slot] ?? 0;
    const gone = (one: number): boolean => ((this.flags[one] ?? 0) & FLAG.trashed) !== 0;
    const record = this.slotOf(home);
    if (home === 0 || gone(slot) || (record >= 0 && gone(record))) return [slot];
    return [...this.homeOf(slot)].filter((one) => !gone(one));
  }

  setField(slot: number, field: number, value: Kept): void {
    const values = this.fields.get(field);
    if (values) values.set(slot, value);
    else this.fields.set(field, new Map([[slot, value]]));
  }

  addGiftField(slot: number, field: number, value: Kept): void {
    const bySlot = this.giftFields.get(field) ?? new Map<number, Kept[]>();
    this.giftFields.set(field, bySlot);
    const values = bySlot.get(slot);
    if (values) values.push(value);
    else bySlot.set(slot, [value]);
  }

  private forgetFields(slot: number): void {
    for (const values of this.fields.values()) values.delete(slot);
    for (const values of this.giftFields.values()) values.delete(slot);
  }

  private moveHome(slot: number, household: number): void {
    const before = this.household[slot] ?? 0;
    if (before !== 0) this.homes.get(before)?.delete(slot);
    this.household[slot] = household;
    if (household === 0) return;
    const home = this.homes.get(household);
    if (home) home.add(slot);
    else this.homes.set(household, new Set([slot]));
  }

  /** Puts what is now true of one supporter in the place of what was. */
  replace(supporter: SupporterFacts): number {
    const { id, kind, region, flags, city, household, sortName } = supporter;
    const slot = this.addSupporter(id, kind, region, flags, city, household, sortName);
    this.gifts.replace(slot, supporter.gifts);
    this.splits.replace(slot, supporter.splits ?? []);
    this.credits.replace(slot, supporter.credits ?? []);
    this.tags.replace(
      slot,
      supporter.tags.map((tag) => ({ tag })),
    );
    this.groups.replace(
      slot,
      supporter.groups.map((group) => ({ group })),
    );
    this.forgetFields(slot);
    for (const [field, value] of supporter.fields) this.setField(slot, field, value);
    for (const [field, value] of supporter.giftFields) this.addGiftField(slot, field, value);
    return slot;
  }

  /** Takes a supporter whose row no longer exists out of every answer, gifts included. */
  remove(id: number): void {
    const slot = this.slotOf(id);
    if (slot < 0) return;
    this.flags[slot] = FLAG.trashed | FLAG.erased;
    this.moveHome(slot, 0);
    for (const rows of [this.gifts, this.splits, this.credits]) rows.replace(slot, []);
    this.tags.replace(slot, []);
    this.groups.replace(slot, []);
    this.forgetFields(slot);
  }

  private growSupporters(): void {
    const size = this.ids.length * 2;
    this.ids = grown(this.ids, size);
    this.region = grown(this.region, size);
    this.city = grown(this.city, size);
    this.household = grown(this.household, size);
    this.flags = grown(this.flags, size);
    this.kind = grown(this.kind, size);
  }
}
