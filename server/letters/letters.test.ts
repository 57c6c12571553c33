import { inflateSync } from 'node:zlib';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Block } from '@tallystick/core/letters';
import { LETTER, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { stretches, undrawable } from './fonts.ts';
import { layOut, layOutOne } from './lines.ts';
import type { Piece } from './lines.ts';
import type { PrintedLetter } from './pdf.ts';
import { lettersPdf } from './printing.ts';

const names = (text: string) =>
  stretches(text, 'sans').map((piece) => [piece.text, /([\w-]+)\.(woff|ttf)$/.exec(piece.font)?.[1]]);

describe('stretches', () => {
  it.each([
    ['plain Latin in one file', 'Ana-María', [['Ana-María', 'public-sans-latin-400-normal']]],
    [
      'letters from the wider Latin',
      'Łukasz',
      [
        ['Ł', 'public-sans-latin-ext-400-normal'],
        ['ukasz', 'public-sans-latin-400-normal'],
      ],
    ],
    ['Arabic whole, with its spaces', 'مريم نجار', [['مريم نجار', 'NotoSansArabic_400Regular']]],
    ['a Chinese name', '李 小龍', [['李 小龍', 'NotoSansSC_400Regular']]],
    ['a Korean name', '김영희', [['김영희', 'NotoSansKR_400Regular']]],
    ['a vowel sign with its letter', 'श्रीमती', [['श्रीमती', 'NotoSansDevanagari_400Regular']]],
    ['Georgian and Armenian', 'ქართ Հայ', [['ქართ Հայ', 'DejaVuSans']]],
    ['nothing', '', []],
  ])('keeps %s', (_title, text, expected) => expect(names(text)).toEqual(expected));

  it('loses no character of any text', () => {
    for (const text of ['Ång Привет Ελλάδα 李小龍 🌟🌠 \u200f x', 'a\nb\tc', '\ud83d'])
      expect(
        stretches(text, 'serif-bold')
          .map((piece) => piece.text)
          .join(''),
      ).toBe(text);
  });
});

describe('undrawable', () => {
  it.each([
    ['Ana-María O’Brien “x” – € 5', []],
    ['李 小龍 مريم שָׁלוֹם 김 नमस्ते ਸਿੰਘ தமிழ் ไทย ខ្មែរ မြန်မာ አበበ Հայ ქართ', []],
    ['a joiner \u200d, a mark \u200f and a soft\u00ad hyphen', []],
    ['🌟 for Ana 🌟🌠', ['🌟', '🌠']],
    ['\ud83d alone', ['\ud83d']],
  ])('of %s', (text, expected) => expect(undrawable(text)).toEqual(expected));
});

describe('layOut', () => {
  /** Every sign is one wide, so that places can be counted. */
  const count = ({ text }: Piece): number => [...text].length;
  const lines = (text: string, room = Infinity) => {
    const { lines: found, rightToLeft } = layOut([{ text, face: 'sans' }], room, count);
    return { seen: found.map((line) => line.pieces.map((piece) => piece.text).join('|')), rightToLeft };
  };
  it.each([
    ['plain text', 'Dear Ana', ['Dear Ana'], false],
    ['a name that runs right to left among words that do not', 'Dear مريم, thanks', ['Dear |مريم|, thanks'], false],
    // Read from the right: the first word stands last, the number keeps its own order, brackets face the other way.
    ['a paragraph read from the right', 'مريم (نجار) 50', ['50| (|نجار|)| |مريم'], true],
    ['Latin within Hebrew', 'שלום Ana Lee כהן', ['כהן| |Ana Lee| |שלום'], true],
    ['nothing', '', [], false],
  ])('orders %s', (_title, text, seen, rightToLeft) => expect(lines(text)).toEqual({ seen, rightToLeft }));

  it('breaks lines by what has been read, not by where it stands', () =>
    expect(lines('אבג דהו זחט', 7).seen).toEqual(['דהו| |אבג', 'זחט']));
  it('breaks at line ends, and leaves a word wider than the room on a line of its own', () =>
    expect(lines('שלום\nabcdefgh ij', 5).seen).toEqual(['שלום', 'abcdefgh', 'ij']));
  it('keeps a link with the words that it is of', () => {
    const { lines: found } = layOut(
      [
        { text: 'see ', face: 'sans' },
        { text: 'مريم نجار', face: 'sans', link: 'https://example.org' },
      ],
      Infinity,
      count,
    );
    expect(found[0]?.pieces.map((piece) => [piece.text, piece.link])).toEqual([
      ['see ', null],
      ['نجار', 'https://example.org'],
      [' ', 'https://example.org'],
      ['مريم', 'https://example.org'],
    ]);
  });
  it('loses no sign of any text, however it is broken', () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('Ana', 'مريم', 'שלום', '李', '50', '(', ')', ',', '-', '김', '\u0301'), {
          maxLength: 12,
        }),
        fc.integer({ min: 1, max: 12 }),
        (words, room) => {
          const text = words.join(' ');
          const signs = (of: string): string => [...of.replaceAll(/[\s()]/gu, '')].sort().join('');
          expect(signs(lines(text, room).seen.join('').replaceAll('|', ''))).toBe(signs(text));
        },
      ),
    ));

  it('cuts to one line with an ellipsis, and leaves what fits', () => {
    const one = (text: string, room: number) =>
      layOutOne([{ text, face: 'sans' }], room, count)
        .pieces.map((piece) => piece.text)
        .join('');
    expect([one('Ana Lee', 7), one('Ana Lee', 6), one('Ana\nLee', 9), one('Ana', 0)]).toEqual([
      'Ana Lee',
      'Ana L…',
      'Ana Lee',
      '…',
    ]);
  });
});

const letter = (blocks: Block[], over: Partial<PrintedLetter> = {}): PrintedLetter => ({
  letterhead: { name: 'Test', lines: ['Town'] },
  addressee: ['Ana'],
  date: 'today',
  blocks,
  ...over,
});
const paragraph = (text: string): Block => ({
  kind: 'paragraph',
  number: 0,
  runs: [{ text, bold: false, italic: false, link: null }],
});
const pages = (pdf: Buffer): number => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0;

describe('lettersPdf', () => {
  it('begins each letter on a page of its own', async () =>
    expect(pages(await lettersPdf([letter([paragraph('a')]), letter([paragraph('b')]), letter([])]))).toBe(3));
  it('breaks a long letter over pages and keeps the receipt together', async () => {
    const receipt = {
      number: '2026-000001',
      lines: Array.from({ length: 5 }, (_, index): [string, string] => [`line ${index}`, 'x'.repeat(200)]),
      statement: 'Thanks.',
    };
    expect(
      pages(
        await lettersPdf([
          letter(
            Array.from({ length: 30 }, () => paragraph('words '.repeat(20))),
            { receipt },
          ),
        ]),
      ),
    ).toBeGreaterThan(1);
  });
  it('marks every page of a proof, and no page of a real letter', async () => {
    const long = Array.from({ length: 60 }, () => paragraph('words '.repeat(20)));
    const [real, proof] = [await lettersPdf([letter(long)]), await lettersPdf([letter(long)], 'PROOF')];
    expect(pages(proof)).toBe(pages(real));
    // The mark is drawn with an opacity of its own, which a plain letter never asks for.
    expect(proof.toString('latin1')).toContain('/ca 0.12');
    expect(real.toString('latin1')).not.toContain('/ca 0.12');
  });
  it.each([
    ['Gurmukhi', 'ਗੁਰਪ੍ਰੀਤ ਸਿੰਘ'],
    ['Telugu', 'శ్రీనివాస్'],
    ['Malayalam', 'കൃഷ്ണൻ'],
    ['Arabic in a long paragraph', 'عزيزتي مريم '.repeat(300)],
    ['an emoji, as a box', '🌟'],
  ])('draws %s', async (_title, text) =>
    expect(pages(await lettersPdf([letter([paragraph(text)], { addressee: [text.slice(0, 20)] })]))).toBe(1),
  );
  it('says for copying and reading aloud what shaped letters stand for', async () => {
    const pdf = await lettersPdf([letter([paragraph('مريم')])]);
    const streams = pdf
      .toString('latin1')
      .split(/stream\r?\n/)
      .map((part) => part.split('endstream')[0] ?? '');
    const opened = streams.flatMap((part) => {
      try {
        return [inflateSync(Buffer.from(part, 'latin1')).toString('latin1')];
      } catch {
        return [];
      }
    });
    expect(opened.join()).toContain('/ActualText');
  });
  it('draws every kind of block', async () => {
    const runs = [
      { text: 'bold', bold: true, italic: false, link: null },
      { text: ' italic ', bold: false, italic: true, link: null },
      { text: 'both', bold: true, italic: true, link: 'https://example.org' },
    ];
    const blocks = (['paragraph', 'heading', 'bullet', 'numbered'] as const).map((kind, number): Block => ({
      kind,
      number,
      runs,
    }));
    const pdf = await lettersPdf([letter([...blocks, { kind: 'paragraph', number: 0, runs: [] }])]);
    expect(pages(pdf)).toBe(1);
    expect(pdf.toString('latin1')).toContain('https://example.org');
  });
});

describe('letter templates', () => {
  let test: TestApp;
  beforeAll(async () => {
    test = await openTestApp();
  });
  afterAll(() => test.close());

  it('are added, changed with their version, and taken back by undo', async () => {
    const made = await test.call('POST', '/letters', { name: 'Short', subject: 'Thanks', body: LETTER });
    const id = Number(made.body['id']);
    const change = (version: number, subject: string) =>
      test.call('PUT', `/letters/${id}`, { name: 'Short', subject, body: LETTER, version });
    const changed = await change(1, 'Many thanks');
    expect(changed.status).toBe(200);
    expect((await change(1, 'Late')).body['error']).toMatchObject({ code: 'stale' });
    await test.call('POST', `/changes/${String(changed.body['revision'])}/undo`, {});
    const letters = (await test.call('GET', '/letters')).body['items'] as {
      id: number;
      subject: string;
      version: number;
    }[];
    expect(letters.find((one) => one.id === id)).toMatchObject({ subject: 'Thanks', version: 3 });
    expect((await change(2, 'Begun before the undo')).status).toBe(409);
  });

  it.each([
    ['no name', { name: ' ', subject: 'x', body: LETTER }],
    ['no subject', { name: 'x', subject: '', body: LETTER }],
    ['no body', { name: 'x', subject: 'x' }],
  ])('with %s are refused', async (_title, body) =>
    expect((await test.call('POST', '/letters', body)).status).toBe(400),
  );
});
