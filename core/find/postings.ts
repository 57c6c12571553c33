/** Which slots hold which words; words are found by their beginning. */
export class Postings {
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

  /** Tells every word that begins so, in order, with its slots. */
  eachBeginning(prefix: string, tell: (word: string, slots: readonly number[]) => void): void {
    this.merge();
    const { sorted, lists } = this;
    for (let at = this.placeOf(prefix); at < sorted.length; at++) {
      const word = sorted[at] as string;
      if (!word.startsWith(prefix)) return;
      tell(word, lists[at] as number[]);
    }
  }

  /** Where a word stands, or would stand. */
  private placeOf(word: string): number {
    let low = 0;
    let high = this.sorted.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((this.sorted[middle] as string) < word) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private merge(): void {
    if (this.fresh.length === 0) return;
    if (this.sorted.length === 0 || this.fresh.length > 64) {
      this.sorted = this.sorted.concat(this.fresh).sort();
      this.lists = this.sorted.map((word) => this.slotsOf.get(word) ?? []);
    } else
      for (const word of this.fresh) {
        const at = this.placeOf(word);
        this.sorted.splice(at, 0, word);
        this.lists.splice(at, 0, this.slotsOf.get(word) ?? []);
      }
    this.fresh = [];
  }
}
