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

  remove(index: number): void {
    const word = index >>> 5;
    this.words[word] = (this.words[word] ?? 0) & ~(1 << (index & 31));
  }

  /** Leaves out what is not in another set of the same size. */
  keep(other: Bits): void {
    for (let at = 0; at < this.words.length; at++) this.words[at] = (this.words[at] ?? 0) & (other.words[at] ?? 0);
  }

  copy(): Bits {
    const copy = new Bits(this.size);
    copy.words.set(this.words);
    return copy;
  }

  has(index: number): boolean {
    return ((this.words[index >>> 5] ?? 0) & (1 << (index & 31))) !== 0;
  }

  count(): number {
    let total = 0;
    for (let word of this.words) {
      word -= (word >>> 1) & 0x55555555;
      word = (word & 0x33333333) + ((word >>> 2) & 0x33333333);
      total += (((word + (word >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
    }
    return total;
  }

  /** The indexes in the set, ascending. */
  *[Symbol.iterator](): Generator<number> {
    for (let w = 0; w < this.words.length; w++) {
      let word = this.words[w] ?? 0;
      while (word !== 0) {
        const low = word & -word;
        yield (w << 5) + (31 - Math.clz32(low));
        word ^= low;
      }
    }
  }
}
