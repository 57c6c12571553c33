import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Facts, FLAG, rowWith } from '../facts/index.ts';
import { readPasted } from './index.ts';

const facts = new Facts();
const email = (address: string) => ({ lists: { emails: [rowWith('emails', { address })] } });
facts.replace({ id: 10_482, first: 'Ana', last: 'Starr', ...email('Ana.Starr@Example.org') });
facts.replace({ id: 10_483, first: 'Ben', last: 'Núñez', nickname: 'Benny', ...email('home@example.org') });
facts.replace({ id: 10_484, first: 'Cleo', last: 'Núñez', ...email('home@example.org') });
facts.replace({ id: 10_485, organization: 'Tansy Creek Books, Inc.' });
facts.replace({ id: 10_486, first: 'Ana', last: 'Starr', flags: FLAG.trashed });
facts.replace({ id: 10_487, first: 'Dev', last: 'Mensah' });
facts.replace({ id: 10_488, first: 'Dev', last: 'Mensah' });
const read = (...lines: string[]) => readPasted(lines.join('\n'), facts);

describe('a pasted list', () => {
  it.each([
    ...['10482', 'S-10482', 's10482', ' "10482" ', '10482.0', '0010482', 'S-10482,', '\u00a010482\ufeff'],
    ...['ana.starr@example.org', 'Ana Starr <ANA.STARR@EXAMPLE.ORG>', 'Starr\tana.starr@example.org\t89001'],
    ...['Ana Starr', 'Starr, Ana', 'STARR ANA', 'Ana\tStarr', 'x\tS-10482'],
  ])('%j means supporter 10482', (line) => expect([...read(line).ids]).toEqual([10_482]));

  it.each([
    ['Benny Nunez', [10_483]],
    ['tansy creek books inc.', [10_485]],
    ['10486', []],
    ['999999999', []],
    ['Supporter number', []],
    ['#N/A', []],
    ['nobody@example.org', []],
    ['home@example.org', []],
    ['Dev Mensah', []],
  ])('%j means %j', (line, ids) => expect([...read(line).ids]).toEqual(ids));

  it('the number of who was merged into another means that one, once', () => {
    const led = new Map([[10_999, 10_482]]);
    expect(readPasted('S-10999\n10482\n10998', facts, led)).toMatchObject({
      ...{ ids: Uint32Array.of(10_482), doubled: 1, unknown: ['10998'] },
    });
  });

  it('says how many were found, doubled, unknown and ambiguous, and keeps those to look at', () => {
    const { ids, ...rest } = read(
      'Number',
      '10482',
      'S-10482',
      '',
      ' , ',
      '10483',
      'home@example.org',
      'dev mensah',
      '77',
    );
    expect([[...ids], rest]).toEqual([
      [10_482, 10_483],
      {
        ...{ lines: 7, doubled: 1, unknown: ['Number', '77'], unknownTotal: 2, ambiguousTotal: 2 },
        ambiguous: [
          { line: 'home@example.org', ids: [10_483, 10_484] },
          { line: 'dev mensah', ids: [10_487, 10_488] },
        ],
      },
    ]);
  });

  it('accounts for every line, whatever is pasted', () => {
    const line = fc.oneof(fc.string(), fc.constantFrom('10482', 'Dev Mensah', 'Ana Starr', '', 'home@example.org'));
    fc.assert(
      fc.property(fc.array(line), (lines) => {
        const { ids, lines: held, doubled, unknownTotal, ambiguousTotal } = read(...lines);
        expect(ids.length + doubled + unknownTotal + ambiguousTotal).toBe(held);
      }),
    );
  });

  it('takes no longer for a line than it is long', () => {
    const { unknownTotal } = read('a'.repeat(300_000), `${'a'.repeat(300_000)}@`, '@'.repeat(300_000));
    expect(unknownTotal).toBe(3);
  });

  it('keeps as many unknown lines as anybody looks through, and counts them all', () => {
    const many = read(...Array.from({ length: 5000 }, (_, at) => `x${at}`), 'y'.repeat(9000));
    expect([many.unknown.length, many.unknownTotal]).toEqual([1000, 5001]);
  });
});
