/** Who has a word: an array where it is kept at rest, since nothing of it changes. */
export type Slots = Uint32Array | readonly number[];

/**
 * Which slots hold which words; words are found by their beginning. What stands when it is settled is kept at rest: all
 * words in order, and the slots of one after those of the word before it, so that who has any word that begins so is one
 * run of numbers. What comes later is kept beside.
 */
export class Postings {
  private rest: readonly string[] = [];
  private starts = new Uint32Array(1);
  private flat = new Uint32Array(0);
  private moving = new Moving();

  add(word: string, slot: number): void {
    this.moving.add(word, slot);
  }

  /** Takes out what was added since it was settled. */
  remove(word: string, slot: number): void {
    this.moving.remove(word, slot);
  }

  /** Puts at rest what was added so far; once, since what is at rest stays. */
  settle(): void {
    const { moving } = this;
    this.rest = moving.words().filter((word) => moving.slots(word).length > 0);
    this.starts = new Uint32Array(this.rest.length + 1);
    this.rest.forEach((word, at) => (this.starts[at + 1] = (this.starts[at] as number) + moving.slots(word).length));
    this.flat = new Uint32Array(this.starts[this.rest.length] as number);
    // Ascending, so that who is looked at one after the other lies near each other.
    this.rest.forEach((word, at) => this.flat.set(Uint32Array.from(moving.slots(word)).sort(), this.starts[at]));
    this.moving = new Moving();
  }

  has(word: string): boolean {
    return this.rest[placeIn(this.rest, word)] === word || this.moving.slots(word).length > 0;
  }

  /** Tells who has a word. */
  each(word: string, tell: (slots: Slots) => void): void {
    const at = placeIn(this.rest, word);
    if (this.rest[at] === word) tell(this.run(at, at + 1));
    tell(this.moving.slots(word));
  }

  /** Tells who has a word that begins so, and whether it is the whole of it. */
  eachBeginning(prefix: string, tell: (slots: Slots, whole: boolean) => void): void {
    const from = placeIn(this.rest, prefix);
    const end = placeWhere(this.rest, from, (word) => !word.startsWith(prefix));
    const begins = this.rest[from] === prefix ? from + 1 : from;
    if (begins > from) tell(this.run(from, begins), true);
    if (end > begins) tell(this.run(begins, end), false);
    this.moving.eachBeginning(prefix, (word, slots) => tell(slots, word === prefix));
  }

  /** Tells every word that was ever added. */
  eachWord(tell: (word: string) => void): void {
    this.rest.forEach(tell);
    this.moving.words().forEach(tell);
  }

  private run(from: number, to: number): Uint32Array {
    return this.flat.subarray(this.starts[from], this.starts[to]);
  }
}

/** Words and their slots while they come and go. */
class Moving {
  private readonly slotsOf = new Map<string, number[]>();
  /** Every word, sorted, and beside each its slots; new ones wait in `fresh` until they are merged. */
  private sorted: string[] = [];
  private lists: number[][] = [];
  private fresh: string[] = [];

  add(word: string, slot: number): void {
    const list = this.slotsOf.get(word);
    if (list) list.push(slot);
    else {
      this.slotsOf.set(word, [slot]);
      this.fresh.push(word);
    }
  }

  remove(word: string, slot: number): void {
    const list = this.slotsOf.get(word);
    const at = list?.indexOf(slot) ?? -1;
    if (list && at >= 0) list.splice(at, 1);
  }

  slots(word: string): readonly number[] {
    return this.slotsOf.get(word) ?? [];
  }

  /** Every word that was ever added, in order. */
  words(): readonly string[] {
    this.merge();
    return this.sorted;
  }

  eachBeginning(prefix: string, tell: (word: string, slots: readonly number[]) => void): void {
    this.merge();
    const { sorted, lists } = this;
    for (let at = placeIn(sorted, prefix); at < sorted.length; at++) {
      const word = sorted[at] as string;
      if (!word.startsWith(prefix)) return;
      tell(word, lists[at] as number[]);
    }
  }

  private merge(): void {
    if (this.fresh.length === 0) return;
    if (this.sorted.length === 0 || this.fresh.length > 64) {
      this.sorted = this.sorted.concat(this.fresh).sort();
      this.lists = this.sorted.map((word) => this.slotsOf.get(word) ?? []);
    } else
      for (const word of this.fresh) {
        const at = placeIn(this.sorted, word);
        this.sorted.splice(at, 0, word);
        this.lists.splice(at, 0, this.slotsOf.get(word) ?? []);
      }
    this.fresh = [];
  }
}

/** The first place from one on where something holds, which holds of all that come after, too. */
function placeWhere(sorted: readonly string[], from: number, holds: (word: string) => boolean): number {
  let [low, high] = [from, sorted.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (holds(sorted[middle] as string)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Where a word stands among sorted ones, or would stand. */
const placeIn = (sorted: readonly string[], word: string): number => placeWhere(sorted, 0, (one) => one >= word);
