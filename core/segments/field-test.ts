import type { IsoDate } from '../dates/index.ts';
import { kept, manyOf, showField } from '../fields/index.ts';
import type { FieldKind, Kept } from '../fields/index.ts';
import type { Formats } from '../money/index.ts';
import { fold } from '../names/index.ts';

/** What a condition asks of a custom field's value; money in cents, both ends included, null for an open end. */
export type FieldTest =
  | { is: 'filled' }
  | { is: 'any-of'; values: string[] }
  | { is: 'contains'; text: string }
  | { is: 'between'; atLeast: number | null; atMost: number | null }
  | { is: 'dates'; from: IsoDate | null; to: IsoDate | null };

/** Whether a kept value passes. An empty value passes nothing. */
export function meets(test: FieldTest, value: Kept): boolean {
  if (value === '') return false;
  switch (test.is) {
    case 'filled':
      return true;
    case 'any-of':
      return value.startsWith('[')
        ? manyOf(value).some((one) => test.values.includes(one))
        : test.values.includes(value);
    case 'contains':
      return fold(value).includes(fold(test.text));
    case 'between': {
      const number = Number(value);
      return number >= (test.atLeast ?? -Infinity) && number <= (test.atMost ?? Infinity);
    }
    case 'dates':
      return (test.from === null || value >= test.from) && (test.to === null || value <= test.to);
  }
}

/** `is at least $500.00`: what a test asks of a field of a kind, its values written as the field's are. */
export function describeFieldTest(test: FieldTest, kind: FieldKind, formats: Formats): string {
  const show = (value: string | number): string => showField({ kind }, kept(String(value)), formats);
  switch (test.is) {
    case 'filled':
      return 'is filled in';
    case 'any-of':
      return `is ${test.values.map((value) => (['text', 'one', 'many'].includes(kind) ? value : show(value))).join(' or ') || 'nothing'}`;
    case 'contains':
      return `contains “${test.text}”`;
    case 'between':
      return bounds(test.atLeast, test.atMost, 'at least', 'at most', show);
    case 'dates':
      return bounds(test.from, test.to, 'on or after', 'on or before', show);
  }
}

function bounds<T>(low: T | null, high: T | null, from: string, to: string, say: (value: T) => string): string {
  const parts = [low === null ? '' : `${from} ${say(low)}`, high === null ? '' : `${to} ${say(high)}`].filter(Boolean);
  return `is ${parts.join(' and ') || 'anything'}`;
}

/** Whether the lower bound of a test lies above the upper, so that nothing meets it. */
export function isUpsideDown(test: FieldTest): boolean {
  if (test.is === 'between') return above(test.atLeast, test.atMost);
  return test.is === 'dates' && above(test.from, test.to);
}

/** Whether a lower bound lies above an upper one. */
export const above = <T extends number | string>(low: T | null, high: T | null): boolean =>
  low !== null && high !== null && low > high;
