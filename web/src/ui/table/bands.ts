import { bandAfter } from '@tallystick/core/lists';

/** A band of amounts in words: `$100.00 to $249.99`, and of numbers, which may have parts, `100 to below 250`. */
export function bandShown(from: number, unit: number, show: (value: number) => string): string {
  if (from < 0) return 'Below zero';
  if (from === 0) return unit === 1 ? '0 to below 1' : show(0);
  const next = bandAfter(from, unit);
  if (next === null) return `${show(from)} or more`;
  return unit === 1 ? `${show(from)} to below ${show(next)}` : `${show(from)} to ${show(next - 1)}`;
}
