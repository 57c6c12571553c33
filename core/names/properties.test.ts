import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressed, addressing, DEFAULT_RULES, displayName, FORMS, ruleFault } from './index.ts';
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
