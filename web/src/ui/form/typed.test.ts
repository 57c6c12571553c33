import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import {
  chosenId,
  orNone,
  picked,
  readInto,
  said,
  typedAmount,
  typedCount,
  typedDay,
  typedGiftAmount,
} from './typed.ts';

/** What a text is read as, or what is said of it. */
const read = <Value, Typed>(schema: z.ZodType<Value, Typed>, typed: Typed): unknown => {
  const result = schema.safeParse(typed);
  return result.success ? result.data : result.error.issues.map((issue) => issue.message).join(' ');
};

describe('what is typed', () => {
  it.each([
    ['an amount', typedGiftAmount, ' $1,250.50 ', 1_250_50],
    ['an amount that is none', typedGiftAmount, 'much', '“much” is not an amount.'],
    ['an amount that may be nothing', typedAmount, '0', 0],
    ['a day as people write it', typedDay, '3/14/2026', '2026-03-14'],
    ['a day that is none', typedDay, '2026-02-30', '“2026-02-30” is not a day in the calendar.'],
    ['a count', typedCount('Whole numbers.'), ' 12 ', 12],
    ['a count that is none', typedCount('Whole numbers.'), '12.5', 'Whole numbers.'],
    ['a text with room around it', said('Write it.'), '  so ', 'so'],
    ['a text that is missing', said('Write it.'), '  ', 'Write it.'],
    ['a choice', chosenId, '12', 12],
    ['no choice', chosenId, '', null],
    ['nothing where nothing may be', orNone(typedDay, null), ' ', null],
    ['something where nothing may be', orNone(typedGiftAmount, null), '5', 500],
    ['something wrong where nothing may be', orNone(typedGiftAmount, null), 'x', '“x” is not an amount.'],
  ] as [string, z.ZodType<unknown, string>, string, unknown][])('%s', (_name, schema, typed, value) =>
    expect(read(schema, typed)).toEqual(value),
  );

  it('is somebody, or asks for one', () => {
    expect(read(picked('Who?'), { id: 7, name: 'Ana' })).toBe(7);
    expect(read(picked('Who?'), null)).toBe('Who?');
  });

  it('is held to the contract too, with its faults at their fields', () => {
    const body = z.object({ cents: z.number().max(1000, 'At most $10.'), note: z.string().max(3, 'Too long.') });
    const form = readInto(z.object({ cents: typedGiftAmount, note: z.string() }), body);
    expect(read(form, { cents: '9.50', note: 'so' })).toEqual({ cents: 950, note: 'so' });
    const faults = form.safeParse({ cents: '12', note: 'too much' }).error?.issues ?? [];
    expect(faults.map(({ path, message }) => [path.join('.'), message])).toEqual([
      ['cents', 'At most $10.'],
      ['note', 'Too long.'],
    ]);
  });
});
