import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readParty, splitName, splitPeople } from './index.ts';

/* What holds of any text whatever, hard or easy. */

const word = fc.oneof(
  fc.constantFrom('Ana', 'de la', 'O’Neill', 'Cruz-Smith', 'von', 'Jr.', 'Dr.', '李', 'نجار', '🌟', 'McDonald', 'y'),
  fc.string({ unit: 'grapheme', maxLength: 8 }),
);
const text = fc.array(word, { maxLength: 6 }).map((words) => words.join(' '));

describe('splitting', () => {
  it('loses no word of a name that has no brackets, quotes or commas, and makes none up', () => {
    fc.assert(
      fc.property(text, (full) => {
        const plain = full
          .normalize('NFC')
          .replace(/[(),"“”«»'‘’]/g, ' ')
          .replace(/\s+/g, ' ')
          .trim();
        const { prefix, first, middle, last, suffix, nickname, formerLast, aside } = splitName(plain);
        // Whatever the case: some letters have several small forms for one capital, or two capitals for one small form.
        const letters = (words: string): string =>
          Array.from(words, (letter) => letter.toLowerCase().toUpperCase().toLowerCase())
            .flatMap((folded) => [...folded.replace(/[^\p{L}\p{N}]/gu, '')])
            .sort()
            .join('');
        // A suffix is written in its own way: 'Senior' is 'Sr.'.
        const rest = suffix + nickname + formerLast + aside;
        if (rest === '') expect(letters([prefix, first, middle, last].join(''))).toBe(letters(plain));
      }),
    );
  });

  it('takes any text without failing, for one or two people', () => {
    fc.assert(
      fc.property(text, (full) => {
        expect(splitPeople(full).length).toBeGreaterThanOrEqual(1);
        const party = readParty(full);
        expect(party.kind === 'person' ? party.people.length : 1).toBe(1);
        expect(party.people.length).toBeLessThan(full.length + 2);
      }),
    );
  });
});
