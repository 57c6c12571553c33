/** So many may change their names before places are given anew: a merge of all, some hundredths of a second for a million. */
const MOST_CHANGED = 500;

/**
 * The order of names, told by places in it: two numbers that lie near each other are compared faster than two words that
 * lie anywhere. Whose name changed since places were given is compared by the name.
 */
export class NameOrder {
  private placeOf = new Int32Array(0);
  /** Every slot that has a place, in order; one whose name changed has its place no longer. */
  private order: number[] = [];
  private readonly fresh = new Set<number>();

  constructor(
    private readonly nameOf: (slot: number) => string,
    private readonly idOf: (slot: number) => number,
    private readonly most = MOST_CHANGED,
  ) {}

  /** A slot that is new, or has another name. */
  changed(slot: number): void {
    this.fresh.add(slot);
  }

  /** Whether one comes before another: by name, then by id. */
  before(a: number, b: number): boolean {
    if (this.fresh.size > this.most) this.give();
    if (this.fresh.size > 0 && (this.fresh.has(a) || this.fresh.has(b))) return this.byName(a, b) < 0;
    return (this.placeOf[a] as number) < (this.placeOf[b] as number);
  }

  private byName(a: number, b: number): number {
    const [x, y] = [this.nameOf(a), this.nameOf(b)];
    return x === y ? this.idOf(a) - this.idOf(b) : x < y ? -1 : 1;
  }

  /** Gives places anew: what had one stays in its order, and the fresh are put between. */
  private give(): void {
    const { fresh } = this;
    const came = [...fresh].sort((a, b) => this.byName(a, b));
    const merged: number[] = [];
    let next = 0;
    for (const slot of this.order) {
      if (fresh.has(slot)) continue;
      for (; next < came.length && this.byName(came[next] as number, slot) < 0; next++)
        merged.push(came[next] as number);
      merged.push(slot);
    }
    for (; next < came.length; next++) merged.push(came[next] as number);
    this.placeOf = new Int32Array(merged.reduce((most, slot) => Math.max(most, slot), -1) + 1);
    merged.forEach((slot, place) => (this.placeOf[slot] = place));
    this.order = merged;
    fresh.clear();
  }
}
