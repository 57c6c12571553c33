/** Chance from a fixed seed (mulberry32): the same demo every time. */
export class Chance {
  constructor(private state: number) {}

  /** From 0 up to and without 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  happens(probability: number): boolean {
    return this.next() < probability;
  }

  pick<T>(items: readonly [T, ...T[]]): T {
    return items[Math.floor(this.next() * items.length)] ?? items[0];
  }

  /** One of the items by weight. */
  weighted<T>(items: readonly [readonly [T, number], ...(readonly [T, number])[]]): T {
    let left = this.next() * items.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [item, weight] of items) {
      left -= weight;
      if (left < 0) return item;
    }
    return items[0][0];
  }
}
