import { describe, expect, it } from 'vitest';
import { namedIn, readDetails, readRow } from './index.ts';
import type { IntakeColumn } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

const row = (cells: Partial<Record<IntakeColumn, string>>) => {
  const [columns, values] = [Object.keys(cells) as IntakeColumn[], Object.values(cells) as string[]];
  const { draft } = readRow(columns, values, PLAIN_SETTING);
  return { draft, details: readDetails(draft, columns, values, PLAIN_SETTING).details };
};
const ana = row({
  first: 'Ana',
  last: 'Cruz',
  email: 'home@example.org',
  street: '1 Lyra St',
  postal: '89801',
  spouse: 'Bo Cruz',
});
/** Whether Ana's spouse is found among rows, and which it is. */
const found = (...others: ReturnType<typeof row>[]): number | null => {
  const spouse = ana.details.spouse;
  const one = spouse && namedIn([ana, ...others])(ana, spouse);
  return one ? others.indexOf(one) : null;
};

describe('whom a row names, in another row', () => {
  it.each<[string, Partial<Record<IntakeColumn, string>>]>([
    ['the same e-mail', { email: 'home@example.org' }],
    ['the same address, otherwise written', { street: '1 LYRA STREET', postal: '89801-1234' }],
    ['naming each other', { spouse: 'Ana Cruz' }],
  ])('is found by %s', (_says, more) => {
    expect(found(row({ first: 'Di', last: 'Vale' }), row({ first: 'BO', last: 'cruz', ...more }))).toBe(1);
  });
  it.each<[string, Partial<Record<IntakeColumn, string>>]>([
    ['nothing but the name', {}],
    ['another address', { street: '9 Vega Way', postal: '89801' }],
    ['another spouse', { spouse: 'Di Vale' }],
  ])('is not, by %s', (_says, more) => expect(found(row({ first: 'Bo', last: 'Cruz', ...more }))).toBeNull());
  it('is not, where two have the name, unless one of them does not count as things stand', () => {
    const bo = { first: 'Bo', last: 'Cruz', email: 'home@example.org' };
    const [one, other, spouse] = [row(bo), row(bo), ana.details.spouse];
    expect(found(one, other)).toBeNull();
    let counts = [true, true, true];
    const named = namedIn([ana, one, other], (at) => counts[at] === true);
    const whom = () => spouse && named(ana, spouse);
    expect(whom()).toBeNull();
    counts = [true, false, true];
    expect(whom()).toBe(other);
    counts = [true, false, false];
    expect(whom()).toBeNull();
  });
});
