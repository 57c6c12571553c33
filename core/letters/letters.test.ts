import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  plainWords,
  escapeHtml,
  lettersHtml,
  lettersText,
  LONGEST_SUBJECT,
  mergeLetter,
  mergeLine,
  mergeValues,
  unknownFields,
} from './index.ts';
import type { LetterNode, MergeSubject } from './index.ts';

const text = (words: string, ...marks: string[]): LetterNode => ({
  type: 'text',
  text: words,
  marks: marks.map((type) => ({ type })),
});
const field = (name: string, fallback = ''): LetterNode => ({ type: 'mergeField', attrs: { field: name, fallback } });
const paragraph = (...content: LetterNode[]): LetterNode => ({ type: 'paragraph', content });
const doc = (...content: LetterNode[]): LetterNode => ({ type: 'doc', content });
const html = (node: LetterNode, values = {}): string => lettersHtml(mergeLetter(node, values).blocks);

describe('mergeLetter', () => {
  it('puts values, then fallbacks, and reports what has neither', () => {
    const letter = doc(
      paragraph(text('Dear '), field('salutation', 'friend'), text(', '), field('first'), field('fund', 'our work')),
    );
    expect(mergeLetter(letter, { salutation: 'Ana' })).toEqual({
      blocks: [
        {
          kind: 'paragraph',
          number: 0,
          runs: [{ text: 'Dear Ana, our work', bold: false, italic: false, link: null }],
        },
      ],
      missing: ['first'],
    });
    expect(mergeLetter(letter, { salutation: '', first: 'A' }).blocks[0]?.runs[0]?.text).toBe('Dear friend, Aour work');
  });

  it('keeps forms: bold, lists, headings, breaks, links', () => {
    const link: LetterNode = {
      type: 'text',
      text: 'here',
      marks: [{ type: 'link', attrs: { href: 'https://example.org/?a=1&b=2' } }],
    };
    const letter = doc(
      { type: 'heading', attrs: { level: 2 }, content: [text('News')] },
      paragraph(text('a', 'bold'), text('b', 'bold', 'italic'), { type: 'hardBreak' }, link),
      {
        type: 'bulletList',
        content: [
          { type: 'listItem', content: [paragraph(text('one'))] },
          { type: 'listItem', content: [paragraph(text('two'))] },
        ],
      },
      { type: 'orderedList', content: [{ type: 'listItem', content: [paragraph(text('first'))] }] },
    );
    expect(html(letter)).toBe(
      '<h2>News</h2><p><strong>a</strong><strong><em>b</em></strong><br><a href="https://example.org/?a=1&amp;b=2">here</a></p><ul><li>one</li><li>two</li></ul><ol><li>first</li></ol>',
    );
    expect(lettersText(mergeLetter(letter, {}).blocks)).toBe(
      'News\n\nab\nhere (https://example.org/?a=1&b=2)\n\n- one\n\n- two\n\n1. first',
    );
  });

  it('drops links that could run something, and keeps their words', () => {
    const bad: LetterNode = {
      type: 'text',
      text: 'click',
      marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }],
    };
    expect(html(doc(paragraph(bad)))).toBe('<p>click</p>');
  });

  it('keeps the words of nodes that it does not know', () =>
    expect(html(doc({ type: 'strange', content: [paragraph(text('kept'))] }))).toBe('<p>kept</p>'));

  it('never lets a value become markup', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (value, fallback) => {
        const made = html(doc(paragraph(field('first', fallback))), { first: value });
        return !/<(?!\/?p>|br>)/.test(made);
      }),
    );
    expect(html(doc(paragraph(field('first'))), { first: '<img src=x onerror=alert(1)>' })).toBe(
      '<p>&lt;img src=x onerror=alert(1)&gt;</p>',
    );
  });
});

describe('plainWords', () => {
  const text = (words: string, ...marks: string[]): LetterNode => ({
    ...{ type: 'text', text: words, marks: marks.map((type) => ({ type })) },
  });
  const paragraph = (...content: LetterNode[]): LetterNode => ({ type: 'paragraph', content });
  it('are all that is said, in one line, whatever its form', () => {
    const list = { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(text('one'))] }] };
    const doc = {
      type: 'doc',
      content: [paragraph(text('A be'), text('quest', 'bold'), { type: 'hardBreak' }, text('of hers')), list],
    };
    expect(plainWords(doc)).toBe('A bequest of hers one');
    expect([plainWords({ type: 'doc' }), plainWords(paragraph(text('  ')))]).toEqual(['', '']);
  });
});

describe('mergeLine', () => {
  it('fills fields of a subject', () => {
    expect(mergeLine('For {first|you}, {last}', { first: 'Ana' })).toEqual({ text: 'For Ana, ', missing: ['last'] });
    expect(mergeLine('For {first|you}', {})).toEqual({ text: 'For you', missing: [] });
    expect(mergeLine('{unknown} {}', {}).text).toBe('{unknown} {}');
  });
  it('leaves no room for another header line', () =>
    expect(mergeLine('Hello {first}', { first: 'a\r\nBcc: all@example.org' }).text).toBe(
      'Hello a Bcc: all@example.org',
    ));
});

describe('mergeValues', () => {
  const subject: MergeSubject = {
    id: 10_001,
    lifetimeCents: 0,
    lastGiftOn: null,
    addressing: { addressee: 'Ana Cruz', formal: 'Ana Cruz', informal: 'Ana' },
    name: { kind: 'person', prefix: '', first: 'Ana', middle: '', last: 'Cruz', suffix: '', organization: '' },
  };
  const setting = { organization: 'Juniper Basin', currency: 'USD', locale: 'en-US', today: '2026-11-23' };
  it('leaves empty what is not known, so that fallbacks apply', () => {
    expect(mergeValues(subject, setting)).toMatchObject({
      salutation: 'Ana',
      name: 'Ana Cruz',
      supporterNumber: 'S-10001',
      lifetimeTotal: '',
      lastGiftDate: '',
      today: 'November 23, 2026',
    });
    expect(mergeValues(subject, setting)).not.toHaveProperty('giftAmount');
  });
  it('speaks of the gift where there is one', () => {
    const gift = { id: 20_001, cents: 2_500, date: '2026-11-02', fund: 'Van', receiptNumber: '2026-000001' };
    expect(mergeValues({ ...subject, gift, lifetimeCents: 2_500, lastGiftOn: '2026-11-02' }, setting)).toMatchObject({
      giftAmount: '$25.00',
      giftDate: 'November 2, 2026',
      fund: 'Van',
      receiptNumber: '2026-000001',
      lifetimeTotal: '$25.00',
    });
  });
});

it('escapeHtml escapes all that matters', () =>
  expect(escapeHtml('<a b="c">&')).toBe('&lt;a b=&quot;c&quot;&gt;&amp;'));

describe('names that every object has', () => {
  const NAMES = ['constructor', 'toString', '__proto__', 'hasOwnProperty', 'valueOf'];
  it.each(NAMES)('{%s} is no field: it stands as it was typed in a line, and leaves nothing in a letter', (name) => {
    expect(mergeLine(`Dear {${name}}`, {})).toEqual({ text: `Dear {${name}}`, missing: [] });
    expect(mergeLetter(doc(paragraph(field(name, 'friend'))), {}).blocks[0]?.runs[0]?.text).toBe('friend');
    expect(unknownFields({ subject: `{${name}|x}`, body: doc(paragraph(field(name))) }, [])).toEqual([name]);
  });
});

describe('unknownFields', () => {
  it('knows ours and those of the organisation, wherever they stand', () => {
    const body = doc({ type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(field('field7'))] }] });
    const letter = { subject: 'Hello {first|friend} {field7}', body };
    expect(unknownFields(letter, [7])).toEqual([]);
    expect(unknownFields(letter, [8])).toEqual(['field7']);
    expect(unknownFields({ subject: 'a {b} {nick}', body: doc(paragraph(field('nick'))) }, [])).toEqual(['b', 'nick']);
  });
});

it('a subject has an end, and no sign of it is cut in two', () => {
  for (let first = 0; first < 4; first++) {
    const { text: line } = mergeLine('{first}', { first: 'x'.repeat(first) + '\u{1F319}'.repeat(300) });
    expect(line.length).toBeLessThanOrEqual(LONGEST_SUBJECT);
    expect(line).toMatch(/^x*(\u{1F319})+…$/u);
  }
  expect(mergeLine('x'.repeat(LONGEST_SUBJECT), {}).text).toBe('x'.repeat(LONGEST_SUBJECT));
});
