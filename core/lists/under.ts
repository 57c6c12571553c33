/** Numbers kept under keys. Most keys have one, which then takes no list. */
export class Under<K> {
  private readonly kept = new Map<K, number | number[]>();

  put(key: K, one: number): void {
    const same = this.kept.get(key);
    if (same === undefined) this.kept.set(key, one);
    else if (typeof same === 'number') this.kept.set(key, [same, one]);
    else same.push(one);
  }

  /** Takes a number away from a key that has it, once. */
  take(key: K, one: number): void {
    const same = this.kept.get(key);
    if (same === one) this.kept.delete(key);
    else if (typeof same === 'object') {
      const at = same.indexOf(one);
      if (at >= 0) same.splice(at, 1);
      if (same.length === 0) this.kept.delete(key);
    }
  }

  /** Those under a key, in the order in which they came. */
  of(key: K): readonly number[] {
    const same = this.kept.get(key);
    return typeof same === 'number' ? [same] : (same ?? NONE);
  }
}

const NONE: readonly number[] = [];
