import { describe, expect, it } from 'vitest';
import { rankReadings, toldApart } from './index.ts';

/** Each text is its own encoding's name. */
const rank = (...texts: string[]) =>
  rankReadings(texts.map((text) => ({ encoding: text, likely: 0, text: `Name\n${text}` })));

describe('the reading of letters that looks right', () => {
  it.each<[string, string, string]>([
    ['has no capital amid a word', 'Müller', 'MŸller'],
    ['has no sign amid a word', 'Wójcik Łukasz', 'W¶jcik £ukasz'],
    ['has words of one script', 'Иванов', 'Ивaноv'],
    ['has no letter that is none', 'José', 'Jos\ufffd'],
    ['has an apostrophe where one is left out', 'women’s', 'womenís'],
    ['has quotation marks around a word', '“Dark”', 'ìDarkî'],
    ['has no row of vowels', 'Dvořák', 'Dvoøák'],
    ['has no row of consonants', 'Søren', 'Sřren'],
    ['has no letter before a vowel that is never there', 'señoritas João', 'seńoritas Joăo'],
    ['has a dash by itself', '–', 'ñ'],
  ])('%s', (_title, right, wrong) => {
    const { encodings, sure } = rank(wrong, right);
    expect([encodings[0], sure]).toEqual([right, true]);
  });

  it('is in doubt between letters that may both be', () =>
    expect(rank('Erdős, Café', 'Erdõs, Café')).toEqual({ encodings: ['Erdős, Café', 'Erdõs, Café'], sure: false }));

  it('is sure where all read the same, and is offered once', () => {
    const same = ['e0', 'e1'].map((encoding) => ({ encoding, likely: 0, text: 'Café' }));
    expect(rankReadings(same)).toEqual({ encodings: ['e0'], sure: true });
  });

  it('is shown by the words that tell, or by any where all are the same', () => {
    const shown = (...texts: string[]) =>
      toldApart(texts.map((text) => ({ encoding: '', text }))).map(({ words }) => words);
    expect(shown('Dvořák Café', 'Dvoøák Café')).toEqual([['Dvořák'], ['Dvoøák']]);
    expect(shown('Café', 'Café')).toEqual([['Café'], ['Café']]);
  });

  it('is never sure of what no reading makes words of', () => expect(rank('\ufffd\ufffd', '¶¤').sure).toBe(false));
});
