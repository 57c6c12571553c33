import { expect, it } from 'vitest';
import { lately } from './index.ts';

/** A function of texts, with how often it was asked. */
function counting(most?: number) {
  const made: string[] = [];
  const of = lately((text) => {
    made.push(text);
    return text === '' ? null : text.toUpperCase();
  }, most);
  return { made, of };
}

it('makes something of a text once', () => {
  const { made, of } = counting();
  expect(['a', 'b', 'a', '', 'b', ''].map(of)).toEqual(['A', 'B', 'A', null, 'B', null]);
  expect(made).toEqual(['a', 'b', '']);
});

it('keeps no more than it may', () => {
  const { made, of } = counting(2);
  for (const text of ['a', 'b', 'c', 'a']) expect(of(text)).toBe(text.toUpperCase());
  expect(made).toEqual(['a', 'b', 'c', 'a']);
});

it('keeps no long text', () => {
  const { made, of } = counting();
  const [long, longest] = ['x'.repeat(200), 'x'.repeat(201)];
  for (const text of [long, longest, long, longest]) expect(of(text)).toBe(text.toUpperCase());
  expect(made).toEqual([long, longest, longest]);
});

it('keeps nothing for a while where texts do not come again, and begins anew after that', () => {
  const { made, of } = counting();
  for (let at = 0; at < 1_000; at++) of(`t${at}`);
  expect(['x', 'x', 'x'].map(of)).toEqual(['X', 'X', 'X']);
  expect(made.filter((text) => text === 'x')).toHaveLength(3);
  for (let at = 0; at < 9_000; at++) of('y');
  expect(made.filter((text) => text === 'y').length).toBeLessThan(8_010);
  const before = made.length;
  of('y');
  expect(made).toHaveLength(before);
});
