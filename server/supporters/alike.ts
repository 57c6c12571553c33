import type { Known } from '@tallystick/core/duplicates';
import { eachChunk } from '../platform/db.ts';

/** Somebody who may be the one that was asked about, and how likely (0 to 1). */
export interface LikelyOne {
  id: number;
  chance: number;
}
/** Whoever keeps all active records compared. */
export interface Measure {
  /** Of each of those asked about who is like them, the likeliest first, of those at least so likely. */
  likes(asked: readonly Known[], least: number): Promise<LikelyOne[][]>;
  /** Who has each of some surnames (`surnameOf`), by number. */
  named(surnames: readonly string[]): Promise<(readonly number[])[]>;
}

/** So many are asked about at once, so that other questions come between. */
const AT_ONCE = 500;
/** So many milliseconds somebody who types waits at most. */
const PATIENCE = 250;

/**
 * Who is like somebody, by the one measure of all records, wherever somebody comes in: typed, on a sheet, in a file.
 * Whatever keeps the records compared says how; until then nobody is like anybody.
 */
export class Alike {
  private measure: Measure | null = null;

  by(measure: Measure): void {
    this.measure = measure;
  }

  /** Of each of them; waits until all records are read. */
  async all(asked: readonly Known[], least: number): Promise<LikelyOne[][]> {
    const found: LikelyOne[][] = [];
    if (!this.measure) return asked.map(() => []);
    const { measure } = this;
    await eachChunk(
      asked,
      AT_ONCE,
      (slice) => measure.likes(slice, least),
      (likes) => void found.push(...likes),
    );
    return found;
  }

  /** The numbers of all who have each of some surnames; waits until all records are read. */
  async named(surnames: readonly string[]): Promise<(readonly number[])[]> {
    return surnames.length === 0 ? [] : ((await this.measure?.named(surnames)) ?? surnames.map(() => []));
  }

  /** As `all`, for somebody who types: null where it is not known at once, as while all records are read. */
  async soon(asked: readonly Known[], least: number): Promise<LikelyOne[][] | null> {
    return Promise.race([
      this.all(asked, least).catch(() => null),
      new Promise<null>((resolve) => setTimeout(resolve, PATIENCE, null).unref()),
    ]);
  }
}
