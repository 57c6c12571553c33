import { expect, it } from 'vitest';
import { Under } from './under.ts';

it('keeps numbers under keys, and takes them away one by one', () => {
  const under = new Under<string>();
  under.put('a', 1);
  under.put('a', 2);
  under.put('b', 3);
  under.put('a', 4);
  expect([under.of('a'), under.of('b'), under.of('c')]).toEqual([[1, 2, 4], [3], []]);
  under.take('a', 2);
  under.take('a', 9);
  under.take('b', 9);
  under.take('c', 1);
  expect([under.of('a'), under.of('b')]).toEqual([[1, 4], [3]]);
  under.take('a', 1);
  under.take('a', 4);
  under.take('b', 3);
  expect([under.of('a'), under.of('b')]).toEqual([[], []]);
  under.put('a', 5);
  expect(under.of('a')).toEqual([5]);
});

it('keeps a number twice that came twice', () => {
  const under = new Under<number>();
  under.put(7, 1);
  under.put(7, 1);
  under.take(7, 1);
  expect(under.of(7)).toEqual([1]);
});
