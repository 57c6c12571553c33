import { grown } from '../facts/index.ts';

/** A figure of every row, read once each and again of those that changed; `NaN` for none. */
export class Figures {
  private values = new Float64Array(0);

  constructor(private readonly figureOf: (row: number) => number) {}

  /** Reads rows 0 to `size` anew. */
  build(size: number): void {
    this.values = new Float64Array(size);
    for (let row = 0; row < size; row++) this.values[row] = this.figureOf(row);
  }

  /** Reads rows that changed, or are new. */
  move(rows: Iterable<number>): void {
    for (const row of rows) {
      if (row >= this.values.length) this.values = grown(this.values, (row + 1) * 2);
      this.values[row] = this.figureOf(row);
    }
  }

  at(row: number): number {
    return this.values[row] as number;
  }
}
