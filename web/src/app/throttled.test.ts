import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { throttled } from './throttled.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('hands on what comes close together once, soon', () => {
  const handed: string[][] = [];
  const { add } = throttled((words) => handed.push(words), 150, 1000);
  add(['gifts']);
  vi.advanceTimersByTime(100);
  add(['gifts', 'supporters']);
  vi.advanceTimersByTime(49);
  expect(handed).toEqual([]);
  vi.advanceTimersByTime(1);
  expect(handed).toEqual([['gifts', 'supporters']]);
});

it('is not put off by what comes steadily, and hands on the last', () => {
  const handed: string[][] = [];
  const { add } = throttled((words) => handed.push(words), 150, 1000);
  for (let step = 0; step < 50; step++) {
    add([`a${step}`]);
    vi.advanceTimersByTime(100);
  }
  // Five seconds: once soon after the first, then each second.
  expect(handed.length).toBe(5);
  vi.advanceTimersByTime(1000);
  expect(handed.flat()).toEqual(Array.from({ length: 50 }, (_, step) => `a${step}`));
});

it('hands on nothing once it is stopped', () => {
  const handed: string[][] = [];
  const { add, stop } = throttled((words) => handed.push(words), 150, 1000);
  add(['gifts']);
  stop();
  vi.advanceTimersByTime(5000);
  expect(handed).toEqual([]);
});
