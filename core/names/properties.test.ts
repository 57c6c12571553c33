import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addressed,
  addressing,
  DEFAULT_RULES,
  displayName,
  FORMS,
  looksLikeOrganization,
  ruleFault,
  splitName,
  splitPeople,
} from './index.ts';
import type { AddressedParty, FullName } from './index.ts';

/* What holds of any name whatever, hard or easy. */

const word = fc.oneof(
  fc.constantFrom('Ana', 'de la', 'O’Neill', 'Cruz-Smith', 'von', 'Jr.', 'Dr.', '李', 'نجار', '🌟', 'McDonald', 'y'),
  fc.string({ unit: 'grapheme', maxLength: 8 }),
);
const text = fc.array(word, { maxLength: 6 }).map((words) => words.join(' '));
const part = fc.oneof(fc.constant(''), fc.constantFrom('Ana', 'Lee', 'Dr.', 'Cruz', 'Park', 'L.', 'Nan'));
const name: fc.Arbitrary<FullName> = fc.record({
  kind: fc.constantFrom('person' as const, 'household' as const, 'organization' as const),
  prefix: part,
  first: part,
  middle: part,
  last: part,
  suffix: part,
  nickname: part,
  organization: fc.constantFrom('The Park Home', 'Cobalt Bakery'),
});
const person = name.map((one): FullName => ({ ...one, kind: 'person', organization: '' }));
const party: fc.Arbitrary<AddressedParty> = fc.record({ name, people: fc.array(person, { maxLength: 3 }) });

describe('splitting', () => {
  it('loses no word of a name that has no brackets, quotes or commas, and makes none up', () => {
    fc.assert(
      fc.property(text, (full) => {
        const plain = full
          .normalize('NFC')
          .replace(/[(),"“”«»'‘’]/g, ' ')
          .replace(/\s+/g, ' ')
          .trim();
        const { prefix, first, middle, last, suffix } = splitName(plain);
        // Whatever the case: some letters have several small forms for one capital, or two capitals for one small form.
        const letters = (words: string): string =>
          Array.from(words, (letter) => letter.toLowerCase().toUpperCase().toLowerCase())
            .flatMap((folded) => [...folded.replace(/[^\p{L}\p{N}]/gu, '')])
            .sort()
            .join('');
        // A suffix is written in its own way: 'Senior' is 'Sr.'.
        if (suffix === '') expect(letters([prefix, first, middle, last].join(''))).toBe(letters(plain));
      }),
    );
  });

  it('takes any text without failing, for one or two people', () => {
    fc.assert(
      fc.property(text, (full) => {
        expect(splitPeople(full).length).toBeGreaterThanOrEqual(1);
        expect(typeof looksLikeOrganization(full)).toBe('boolean');
      }),
    );
  });
});

describe('addressing anyone', () => {
  it('leaves no brace, no double space and no comma at an end, and is empty only for the nameless', () => {
    fc.assert(
      fc.property(party, (one) => {
        const forms = addressing(one);
        for (const form of Object.keys(FORMS) as (keyof typeof FORMS)[]) {
          expect(forms[form]).not.toMatch(/[{}]| {2}|^[ ,]|[ ,]$/);
          if (displayName(one.name) !== '') expect(forms[form]).not.toBe('');
        }
      }),
    );
  });

  it('an override written now is never stale, whatever the rules say', () => {
    fc.assert(
      fc.property(party, fc.constantFrom('', 'Dear all'), (one, written) => {
        const computed = addressing(one, DEFAULT_RULES);
        const override = { salutationFormal: { text: written, instead: computed.salutationFormal } };
        expect(addressed(computed, override).salutationFormal).toMatchObject({ text: written, stale: false });
      }),
    );
  });

  it('finds a fault in whatever is not a rule, and never throws', () => {
    fc.assert(fc.property(fc.string(), (rule) => ['string', 'object'].includes(typeof ruleFault(rule))));
    expect(ruleFault('{a.first} {b.middle?} | {name}')).toBeNull();
  });
});
