import { describe, expect, it } from 'vitest';
import { fieldsWith } from '@tallystick/core/catalogue';
import { FIRST_VIEW } from '@tallystick/core/segments';
import { View } from '@tallystick/contract/segments';
import {
  choiceOf,
  picksOf,
  showable,
  sortOf,
  withChoice,
  withColumn,
  withoutColumn,
  withSort,
  withStep,
} from './columns.ts';

const view = View.parse(FIRST_VIEW);
const fields = fieldsWith([{ id: 3, about: 'supporter', name: 'Telescope', kind: 'text', choices: [] }]);
const ids = ({ columns }: View): string[] => columns.map(({ id }) => id);

describe('what a column can show', () => {
  const offered = showable(fields, 'supporter');
  it('is everything that is known, each once, in a form that the server takes', () => {
    expect(new Set(offered.map(({ value }) => value)).size).toBe(offered.length);
    for (const one of offered) {
      const made = View.safeParse(withColumn(view, one.begin()));
      expect([one.label, made.success]).toEqual([one.label, true]);
    }
  });
  it('is found by its name and by the other words for it', () => {
    const found = (text: string) =>
      offered
        .filter(({ label, words }) => `${label} ${words ?? ''}`.toLowerCase().includes(text))
        .map(({ label }) => label);
    expect(found('telescope')).toEqual(['Telescope']);
    expect(found('spouse')).toContain('Tie: the other’s name');
    expect(found('total given')).toEqual(['Total given', 'Change of the total given']);
  });
  it('has the parts of gifts only where there is one row for each', () => {
    const gift = (rows: View['rows']) => showable(fields, rows).some(({ value }) => String(value).startsWith('part:'));
    expect([gift('supporter'), gift('gifts')]).toEqual([false, true]);
  });
  it('is one of several by the rules that fit', () => {
    expect(picksOf('emails')).toEqual(['all', 'preferred']);
    expect(picksOf('pledges')).toEqual(['all', 'latest', 'earliest', 'largest']);
    expect(picksOf('tags')).toEqual(['all']);
  });
});

describe('the columns of a view', () => {
  it('get ids of their own, however often some are taken out', () => {
    const shows = { kind: 'field', field: 'town' } as const;
    let next: View = { ...view, columns: [] };
    for (let many = 0; many < 5; many++)
      next = withColumn(many === 3 ? withoutColumn(next, 'c1') : next, { shows, width: 90 });
    expect(new Set(ids(next)).size).toBe(4);
  });
  it('move one place, and stay at the ends', () => {
    expect(ids(withStep(view, 'number', -1)).slice(0, 2)).toEqual(['number', 'name']);
    expect(withStep(view, 'name', -1)).toEqual(view);
    expect(ids(withStep(view, 'name', 1)).slice(0, 2)).toEqual(['number', 'name']);
  });
  it('take what sorted and put together with them when they go', () => {
    const sorted: View = { ...view, sorts: [{ column: 'town', down: true }], groupBy: 'town' };
    expect(withoutColumn(sorted, 'town')).toMatchObject({ sorts: [], groupBy: null });
    expect(withoutColumn(sorted, 'state')).toMatchObject({ sorts: sorted.sorts, groupBy: 'town' });
  });
  it('are what tables keep of them, and back', () => {
    expect(withChoice(view, choiceOf(view), 48, 1000)).toEqual(view);
    const wider = withChoice(view, { ...choiceOf(view), widths: { name: 5000.4, town: 10.2 } }, 48, 1000);
    expect([wider.columns[0]?.width, wider.columns[2]?.width]).toEqual([1000, 48]);
  });
  it('sort as addresses write it, and back', () => {
    const sorted = withSort(view, 'town,-lifetime');
    expect(sorted.sorts).toEqual([
      { column: 'town', down: false },
      { column: 'lifetime', down: true },
    ]);
    expect(sortOf(sorted)).toBe('town,-lifetime');
    expect(withSort(view, '').sorts).toEqual([]);
  });
});
