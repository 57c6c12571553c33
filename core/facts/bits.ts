/** A set of slots as bits. */
export class Bits {
  readonly words: Uint32Array;

  constructor(readonly size: number) {
    this.words = new Uint32Array((size + 31) >>> 5);
  }

  add(index: number): void {
    const word = index >>> 5;
    this.words[word] = (this.words[word] ?? 0) | (1 << (index & 31));
  }

  /** The same set with room for more. */
  copy(size: number): Bits {
    const copy = new Bits(size);
    copy.words.set(this.words);
    return copy;
  }

  has(index: number): boolean {
    return ((this.words[index >>> 5] ?? 0) & (1 << (index & 31))) !== 0;
  }

  count(): number {
    const { words } = this;
    let total = 0;
    for (let at = 0; at < words.length; at++) {
      let word = words[at] as number;
      if (word === 0) continue;
      word -= (word >>> 1) & 0x55555555;
      word = (word & 0x33333333) + ((word >>> 2) & 0x33333333);
      total += Math.imul((word + (word >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
    }
    return total;
  }

  /** The indexes in the set, ascending; made at once, since a generator takes ten times as long. */
  [Symbol.iterator](): IterableIterator<number> {
    const { words } = this;
    const list: number[] = [];
    for (let at = 0; at < words.length; at++)
      for (let word = words[at] as number; word !== 0; word &= word - 1)
        list.push((at << 5) + 31 - Math.clz32(word & -word));
    return list.values();
  }
}
