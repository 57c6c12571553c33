import type { Condition, Group } from './condition.ts';

/** For each slot whether a part holds: 1 or 0. */
export type Mask = Uint8Array;

/**
 * Of whom parts of questions hold, kept as long as neither facts nor the day change, so that while one line of a
 * question is written the others are not looked for again.
 */
export class Masks {
  private readonly known = new Map<string, Mask>();

  /** So many are kept; what was asked longest ago goes first. */
  constructor(private readonly most: number) {}

  clear(): void {
    this.known.clear();
  }

  /** Whether a part is known, of a group all that it is put together from. */
  knows(part: Condition | Group, setting: string): boolean {
    if (part.kind !== 'group') return this.known.has(keyOf(part, setting));
    return part.parts.every((one) => one.off === true || this.knows(one, setting));
  }

  /** What is known of a part asked so, or is made now. */
  of(part: Condition | Group, setting: string, make: () => Mask): Mask {
    const key = keyOf(part, setting);
    const mask = this.known.get(key) ?? make();
    this.known.delete(key);
    this.known.set(key, mask);
    const oldest = this.known.keys().next().value;
    if (this.known.size > this.most && oldest !== undefined) this.known.delete(oldest);
    return mask;
  }
}

function keyOf(part: Condition | Group, setting: string): string {
  const { off: _off, ...asked } = part;
  return `${setting} ${JSON.stringify(asked)}`;
}
