import { formatDate } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { manyOf } from '../fields/index.ts';
import { fold } from '../names/index.ts';

/** What a condition asks of a custom field's value; money in cents, both ends included, null for an open end. */
export type FieldTest =
  | { is: 'filled' }
  | { is: 'any-of'; values: string[] }
  | { is: 'contains'; text: string }
  | { is: 'between'; atLeast: number | null; atMost: number | null }
  | { is: 'dates'; from: IsoDate | null; to: IsoDate | null };

/** Whether a kept value passes. An empty value passes nothing. */
export function meets(test: FieldTest, value: string): boolean {
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

export function describeFieldTest(test: FieldTest): string {
  switch (test.is) {
    case 'filled':
      return 'is filled in';
    case 'any-of':
      return `is ${test.values.map((value) => (value === '1' ? 'yes' : value === '0' ? 'no' : value)).join(' or ') || 'nothing'}`;
    case 'contains':
      return `contains “${test.text}”`;
    case 'between':
      return bounds(test.atLeast, test.atMost, 'at least', 'at most', String);
    case 'dates':
      return bounds(test.from, test.to, 'on or after', 'on or before', formatDate);
  }
}

function bounds<T>(low: T | null, high: T | null, from: string, to: string, say: (value: T) => string): string {
  const parts = [low === null ? '' : `${from} ${say(low)}`, high === null ? '' : `${to} ${say(high)}`].filter(Boolean);
  return `is ${parts.join(' and ') || 'anything'}`;
}
