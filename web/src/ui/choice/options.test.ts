import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { afterChoosing, found } from './options.ts';
import type { Option } from './options.ts';

const FUNDS: Option[] = [
  { value: 1, label: 'General Operating', also: 'GEN unrestricted' },
  { value: 2, label: 'Telescope Van', also: 'VAN' },
  { value: 3, label: 'Comet Year Exhibit', also: 'COMET', closed: true },
  { value: 4, label: 'Caravan to Perú', also: 'PERU' },
  { value: 5, label: 'Old Van', also: 'OV', closed: true },
];
const labels = (query: string, lately: string[] = []): string[] =>
  found(FUNDS, query, lately).map(({ label }) => label);

describe('found', () => {
  it.each([
    ['any part of a name, its beginning first', 'van', ['Telescope Van', 'Caravan to Perú', 'Old Van']],
    ['a code', 'gen', ['General Operating']],
    ['a synonym', 'unres', ['General Operating']],
    ['words in any order', 'van tel', ['Telescope Van']],
    ['without its accents', 'peru', ['Caravan to Perú']],
    ['one that is closed', 'comet', ['Comet Year Exhibit']],
    ['nothing', 'xyz', []],
  ])('finds %s', (_title, query, expected) => expect(labels(query)).toEqual(expected));

  it('puts those chosen lately first until something is typed, and closed ones last', () => {
    expect(labels('', ['4', '3'])).toEqual([
      'Caravan to Perú',
      'General Operating',
      'Telescope Van',
      'Comet Year Exhibit',
      'Old Van',
    ]);
    expect(labels('van', ['4'])[0]).toBe('Telescope Van');
  });
  it('gives each option at most once, and all where nothing is typed', () =>
    fc.assert(
      fc.property(fc.array(fc.record({ value: fc.nat(), label: fc.string() })), fc.string(), (options, query) => {
        const hits = found(options, query);
        expect(new Set(hits).size).toBe(hits.length);
        expect(hits.every((one) => (options as Option[]).includes(one))).toBe(true);
        expect(found(options, ' ')).toHaveLength(options.length);
      }),
    ));
  it('finds one among five thousand', () => {
    const many = Array.from({ length: 5000 }, (_, index) => ({ value: index, label: `Choice ${index}` }));
    expect(found(many, '4999').map(({ value }) => value)).toEqual([4999]);
  });
});

it('remembers five choices, each once', () =>
  expect(afterChoosing(['1', '2', '3', '4', '5'], '3')).toEqual(['3', '1', '2', '4', '5']));
it('forgets the sixth', () => expect(afterChoosing(['1', '2', '3', '4', '5'], '6')).toEqual(['6', '1', '2', '3', '4']));
