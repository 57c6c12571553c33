import type { Slots } from './postings.ts';

/** Some of whom a word is worth the same. */
export interface Equal {
  worth: number;
  slots: ArrayLike<number>;
}

/** Who has one word of a query, and what it is worth for each: lists are taken from the one that is worth the most on. */
export class Matches {
  /** Everybody who has it, in the order in which they were taken; the first `many` count. */
  private slots = new Uint32Array(64);
  private worth = new Uint8Array(64);
  many = 0;
  private readonly parts: { worth: number; end: number }[] = [];

  /** Forgets everybody; slots are less than `size` from now on. */
  begin(size: number): void {
    const { slots, worth } = this;
    for (let at = 0; at < this.many; at++) worth[slots[at] as number] = 0;
    this.many = this.parts.length = 0;
    if (worth.length >= size) return;
    this.slots = new Uint32Array(size * 2);
    this.worth = new Uint8Array(size * 2);
  }

  /** Takes who is in a list, but for those who are taken already and those for whom `not` holds. */
  take(list: Slots, gain: number, not?: (slot: number) => boolean): void {
    const { slots, worth } = this;
    let many = this.many;
    for (let at = 0; at < list.length; at++) {
      const slot = list[at] as number;
      if (worth[slot] !== 0 || not?.(slot)) continue;
      worth[slot] = gain;
      slots[many++] = slot;
    }
    this.many = many;
    const last = this.parts.at(-1);
    if (last?.worth === gain) last.end = many;
    else this.parts.push({ worth: gain, end: many });
  }

  worthOf(slot: number): number {
    return this.worth[slot] as number;
  }

  /** Those who are taken; until the next query begins. */
  all(): Uint32Array {
    return this.slots.subarray(0, this.many);
  }

  byWorth(): Equal[] {
    return this.parts.map(({ worth, end }, at) => ({
      worth,
      slots: this.slots.subarray(this.parts[at - 1]?.end ?? 0, end),
    }));
  }
}
