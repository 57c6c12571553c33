import { describe, expect, it } from 'vitest';
import { freshPlan, planOf, scheduleOf } from './plan.ts';
import type { TypedPlan } from './plan.ts';

const typed = (over: Partial<TypedPlan> = {}): TypedPlan => ({ ...freshPlan('2026-11-23'), ...over });

describe('planOf', () => {
  it('is so many equal installments at first', () =>
    expect(planOf(typed(), 1_200)).toEqual({
      kind: 'count',
      schedule: { start: '2026-11-23', every: 'month', lastDay: false },
      count: 12,
    }));

  it('reads how much each time, and dates as people write them', () =>
    expect(planOf(typed({ kind: 'each', each: '$25', start: '1/31/2027', lastDay: true }), 1_200)).toEqual({
      kind: 'each',
      schedule: { start: '2027-01-31', every: 'month', lastDay: true },
      each: 25_00,
    }));

  it('is one row of all of it at once', () =>
    expect(planOf(typed({ kind: 'once' }), 1_200)).toEqual({
      kind: 'rows',
      rows: [{ due: '2026-11-23', cents: 1_200 }],
    }));

  it('takes rows of its own', () =>
    expect(
      planOf(
        typed({
          kind: 'rows',
          rows: [
            { due: '2026-12-01', amount: '5' },
            { due: '2027-01-01', amount: '7.00' },
          ],
        }),
        1_200,
      ),
    ).toEqual({
      kind: 'rows',
      rows: [
        { due: '2026-12-01', cents: 500 },
        { due: '2027-01-01', cents: 700 },
      ],
    }));

  it.each<[string, Partial<TypedPlan>]>([
    ['no count', { count: '' }],
    ['a count of none', { count: '0' }],
    ['half a count', { count: '2.5' }],
    ['no first day', { start: '' }],
    ['no amount each', { kind: 'each', each: '' }],
    ['a row without an amount', { kind: 'rows', rows: [{ due: '2026-12-01', amount: '' }] }],
    ['a row without a day', { kind: 'rows', rows: [{ due: '', amount: '5' }] }],
    ['at once on no day', { kind: 'once', start: 'soon' }],
  ])('is none yet with %s', (_name, over) => expect(planOf(typed(over), 1_200)).toBeNull());
});

it('has no schedule without a day', () => {
  expect(scheduleOf({ start: 'x', every: 'week', lastDay: false })).toBeNull();
  expect(scheduleOf({ start: '2026-11-23', every: 'week', lastDay: false })).toMatchObject({ every: 'week' });
});
