import fc from 'fast-check';
import isEmail from 'validator/es/lib/isEmail.js';
import { describe, expect, it } from 'vitest';
import { addressed, addressing, DEFAULT_RULES, displayName, FORMS, normalEmail, ruleFault } from './index.ts';
import type { AddressedParty, FullName } from './index.ts';

/* What holds of any name whatever, hard or easy. */

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

describe('an e-mail address', () => {
  const sign = fc.constantFrom(...'abZ09._-+@%!\'"é'.split(''));
  const text = (maxLength: number) => fc.array(sign, { maxLength }).map((signs) => signs.join(''));
  const domain = fc.oneof(
    text(12),
    fc.constantFrom(
      'example.org',
      'EXAMPLE.org',
      'a.b.co',
      'example',
      'a..b.org',
      '-a.org',
      'a-.org',
      'a_b.org',
      '1.2.3.4',
    ),
    fc.constantFrom(
      `${'d'.repeat(63)}.org`,
      `${'d'.repeat(64)}.org`,
      `${'d.'.repeat(126)}org`,
      'example.c0m',
      'xn--bcher-kva.example',
    ),
  );
  const mailbox = fc.oneof(
    text(10),
    fc.constantFrom('ada', 'a.b+c', 'a..b', '.a', 'a.', 'm'.repeat(64), 'm'.repeat(65)),
  );

  it('that has nothing around it is one where the library says so, in small letters', () => {
    fc.assert(
      fc.property(mailbox, domain, (before, after) => {
        const written = `${before}@${after}`;
        fc.pre(/^[\w.+@-]+$/.test(written) && !/[.:;,]$/.test(written));
        const small = written.toLowerCase();
        expect(normalEmail(written)).toBe(isEmail(small) ? small : null);
      }),
      { numRuns: 2_000 },
    );
  });
});
