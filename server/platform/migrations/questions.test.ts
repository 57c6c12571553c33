import { describe, expect, it } from 'vitest';
import { Group } from '@tallystick/contract/segments';
import {
  all,
  anyOf,
  between,
  during,
  gave,
  inGroup,
  not,
  rows,
  stateIs,
  tagged,
  total,
} from '@tallystick/core/segments';
import { renewed } from './1791300000000-questions.ts';

describe('a condition as it was written before', () => {
  const ever = { kind: 'ever' };
  const thisYear = { kind: 'fiscal-year', ago: 0 } as const;
  it.each<[object, object]>([
    [{ kind: 'region', regions: ['NV', 'CA'] }, stateIs('NV', 'CA')],
    [{ kind: 'tag', tag: 4, not: true }, not(tagged(4))],
    [{ kind: 'in-group', group: 2, not: false }, inGroup(2)],
    [{ kind: 'wish', wish: 'no_mail' }, rows('wishes', [anyOf('kind', 'no_mail')])],
    [
      { kind: 'kind', kinds: ['person'] },
      { kind: 'field', field: 'kind', test: { is: 'any-of', values: ['person'] } },
    ],
    [{ kind: 'gave', fund: null, window: ever }, gave()],
    [
      { kind: 'gave', fund: 2, campaign: null, method: 'card', window: thisYear, not: true },
      not(gave(anyOf('fund', 2), anyOf('method', 'card'), during(thisYear))),
    ],
    [{ kind: 'total', fund: null, window: ever, atLeast: 500, atMost: null }, total([], 500)],
    [
      { kind: 'total', fund: 1, window: ever, credit: 'both', atLeast: null, atMost: 9 },
      { ...total([anyOf('fund', 1)], null, 9), credit: 'both' },
    ],
    [
      { kind: 'last-gift', from: '2026-01-01', to: null },
      rows('gifts', [], 'last', { is: 'in', window: { kind: 'since', from: '2026-01-01' } }),
    ],
    [{ kind: 'last-gift', from: null, to: null }, rows('gifts', [], 'last', { is: 'filled' })],
    [
      { kind: 'gifts', measure: 'first', fund: null, window: ever, within: thisYear },
      rows('gifts', [], 'first', { is: 'in', window: thisYear }),
    ],
    [
      { kind: 'gifts', measure: 'largest', fund: null, window: ever, cents: { atLeast: 5, atMost: null }, atLeast: 7 },
      rows('gifts', [{ part: 'cents', test: between(5) }], 'largest', between(7)),
    ],
    [
      {
        kind: 'gifts',
        measure: 'change',
        fund: null,
        window: thisYear,
        against: { kind: 'fiscal-year', ago: 1 },
        atLeast: 1,
      },
      { ...rows('gifts', [during(thisYear)], 'change', between(1)), against: { kind: 'fiscal-year', ago: 1 } },
    ],
    [
      { kind: 'field', field: 3, test: { is: 'contains', text: 'dark' } },
      { kind: 'field', field: 'own:3', test: { is: 'contains', values: ['dark'] } },
    ],
    [
      { kind: 'gift-field', field: 3, test: { is: 'dates', from: '2026-01-01', to: '2026-02-01' } },
      {
        ...{ kind: 'field', field: 'gift-own:3' },
        test: { is: 'in', window: { kind: 'between', from: '2026-01-01', to: '2026-02-01' } },
      },
    ],
  ])('%j means what it meant', (before, now) => {
    const group = renewed({
      kind: 'group',
      join: 'all',
      parts: [before, { kind: 'group', join: 'any', parts: [before] }],
    });
    expect(group).toEqual(all(now as never, { kind: 'group', join: 'any', parts: [now as never] }));
    expect(Group.safeParse(group).error).toBeUndefined();
  });
});
