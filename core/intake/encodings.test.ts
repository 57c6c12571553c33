import { describe, expect, it } from 'vitest';
import { rankReadings } from './index.ts';

const rank = (...texts: string[]) =>
  rankReadings(texts.map((text, at) => ({ encoding: `e${at}`, likely: 0, text: `Name\n${text}` })));

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
    const { readings, sure } = rank(wrong, right);
    expect([readings[0]?.words[0], sure]).toEqual([right.split(' ')[0], true]);
  });

  it('is in doubt between letters that may both be, and shows the words that tell', () => {
    const { readings, sure } = rank('Erdős, Café', 'Erdõs, Café');
    expect(sure).toBe(false);
    expect(readings.map(({ words }) => words)).toEqual([['Erdős'], ['Erdõs']]);
  });

  it('is sure where all read the same, and offers each reading once', () => {
    expect(rank('Café', 'Café', 'CafÈ').readings[0]).toEqual({ encoding: 'e0', words: ['Café'] });
    expect(rank('Café', 'Café')).toEqual({ readings: [{ encoding: 'e0', words: ['Café'] }], sure: true });
  });

  it('is never sure of what no reading makes words of', () => expect(rank('\ufffd\ufffd', '¶¤').sure).toBe(false));
});
