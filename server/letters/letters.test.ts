import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Block } from '@tallystick/core/letters';
import { LETTER, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { stretches } from './fonts.ts';
import { lettersPdf } from './pdf.ts';
import type { PrintedLetter } from './pdf.ts';

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
    ['Arabic whole, with its spaces', 'مريم نجار', [['مريم نجار', 'DejaVuSans']]],
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
