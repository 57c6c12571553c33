/** Which slots hold which words; words are found by their beginning. */
export class Postings {
  private readonly slotsOf = new Map<string, number[]>();
  /** Every word, sorted; new ones wait in `fresh` until they are merged. */
  private sorted: string[] = [];
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

  *beginningWith(prefix: string): Generator<string> {
    this.merge();
    let low = 0;
    let high = this.sorted.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((this.sorted[middle] ?? '') < prefix) low = middle + 1;
      else high = middle;
    }
    for (let at = low; at < this.sorted.length; at++) {
      const word = this.sorted[at] ?? '';
      if (!word.startsWith(prefix)) return;
      yield word;
    }
  }

  private merge(): void {
    if (this.fresh.length === 0) return;
    if (this.sorted.length === 0 || this.fresh.length > 64) this.sorted = this.sorted.concat(this.fresh).sort();
    else
      for (const word of this.fresh) {
        let at = this.sorted.findIndex((other) => other >= word);
        if (at < 0) at = this.sorted.length;
        this.sorted.splice(at, 0, word);
      }
    this.fresh = [];
  }
}
