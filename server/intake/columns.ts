import { fieldByContent } from '@tallystick/core/intake';
import type { IntakeColumn } from '@tallystick/core/intake';
import type { JudgedRow } from './fates.ts';

const [MOST_SAMPLES, MOST_LISTED] = [24, 300];

/** What a column of a file holds: samples, how full it is, and its values, those that cannot be read first. */
export function columnOf(heading: string, at: number, column: IntakeColumn | null, rows: readonly JudgedRow[]) {
  const values = new Map<string, { many: number; reason: string | null }>();
  const samples = new Set<string>();
  let filled = 0;
  for (const { line, problems } of rows) {
    const cell = (line.cells[at] ?? '').trim();
    if (cell === '') continue;
    filled++;
    if (samples.size < MOST_SAMPLES) samples.add(cell);
    const value = values.get(cell) ?? { many: 0, reason: null };
    value.many++;
    if (column !== null) value.reason ??= problems.find(({ field }) => field === column)?.reason ?? null;
    values.set(cell, value);
  }
  const listed = [...values]
    .map(([value, known]) => ({ value, ...known }))
    .sort((a, b) => Number(b.reason !== null) - Number(a.reason !== null) || b.many - a.many);
  return {
    ...{ heading, filled, distinct: values.size, samples: [...samples], values: listed.slice(0, MOST_LISTED) },
    more: listed.length > MOST_LISTED,
    likely: column === null ? fieldByContent([...samples]) : null,
  };
}
