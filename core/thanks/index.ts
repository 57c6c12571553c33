/** `2026-004117`: the year of issue and the place in that year's gapless series. */
export function receiptNumber(year: number, sequence: number): string {
  return `${year}-${String(sequence).padStart(6, '0')}`;
}
