import { inAList } from '../words/index.ts';
import { fold } from '../names/index.ts';
import { agreementOf, levelOf } from './levels.ts';
import type { Agreement, Field } from './levels.ts';
import { profileOf } from './profile.ts';
import type { Known } from './profile.ts';

/** In what two records may agree, as groups are chosen by; each with the levels of which one at least is the same. */
export const REASONS = {
  name: { label: 'the name', same: [['first', 'last'], ['name']] },
  street: { label: 'the address', same: [['street']] },
  email: { label: 'the e-mail', same: [['email']] },
  phone: { label: 'the telephone', same: [['phone']] },
  birthday: { label: 'the birthday', same: [['birthday']] },
  outside: { label: 'a number elsewhere', same: [['outside']] },
} as const satisfies Record<string, { label: string; same: readonly (readonly Field[])[] }>;
export type ReasonField = keyof typeof REASONS;

/** Whether two records agree in what is asked for: of a name in both its parts. */
export const agreeIn = (agreement: Agreement, reason: ReasonField): boolean =>
  REASONS[reason].same.some((fields: readonly Field[]) =>
    fields.every((field) => levelOf(agreement, field) === 'same'),
  );

const NEAR: readonly [Field, readonly string[]][] = [
  ['email', ['same']],
  ['phone', ['same', 'seven']],
  ['street', ['same', 'building', 'slip']],
  ['outside', ['same']],
];

/** Whether two agree in a way to reach them or a number elsewhere, exactly or but for a slip: in more than what they are called. */
export function agreeInMore(one: Known, other: Known): boolean {
  const agreement = agreementOf(profileOf(one), profileOf(other));
  return NEAR.some(([field, levels]) => levels.includes(levelOf(agreement, field)));
}

/**
 * Why two records look alike, in words, and what differs: `same last name and address`, `first names Bob and Robert`,
 * `e-mail differs`. What neither says is not spoken of.
 */
export function reasonsOf(one: Known, other: Known): string[] {
  const agreement = agreementOf(profileOf(one), profileOf(other));
  const level = <F extends Parameters<typeof levelOf>[1]>(field: F) => levelOf(agreement, field);
  const same: string[] = [];
  const near: string[] = [];
  const differs: string[] = [];
  const both = (what: string, a: string, b: string): string => `${what} ${a} and ${b}`;
  const [first, last] = [level('first'), level('last')];
  const swapped = first === 'slip' && last === 'slip' && fold(one.first) === fold(other.last);
  if (swapped) near.push('first and last name swapped');
  else {
    if (first === 'same' && last === 'same') same.push('name');
    else if (first === 'same') same.push('first name');
    else if (last === 'same') same.push('last name');
    if (first === 'differs') differs.push(both('first names', one.first, other.first));
    else if (first !== 'same' && first !== 'nothing') near.push(both('first names', one.first, other.first));
    if (last === 'former') near.push('a former last name');
    else if (last === 'part') near.push('part of the last name');
    else if (last === 'slip' || last === 'sound') near.push(both('last names', one.last, other.last));
    else if (last === 'differs') differs.push(both('last names', one.last, other.last));
  }
  const name = level('name');
  if (name === 'same') same.push('name');
  else if (name === 'part') near.push('one name is part of the other');
  else if (name === 'slip') near.push(both('names', one.organization, other.organization));
  else if (name === 'differs') differs.push(both('names', one.organization, other.organization));
  const middle = level('middle');
  if (middle === 'differs') differs.push(both('middle names', one.middle, other.middle));
  const street = level('street');
  if (street === 'same') same.push('address');
  else if (street === 'building') near.push('same house, another unit');
  else if (street === 'slip') near.push('a slip in the street');
  else if (street === 'postal') near.push('same ZIP');
  else if (street === 'differs') differs.push('address differs');
  for (const [field, word] of [
    ['email', 'e-mail'],
    ['phone', 'telephone'],
    ['outside', 'number elsewhere'],
  ] as const) {
    const found = level(field);
    if (found === 'same') same.push(word);
    else if (found === 'seven') near.push('telephone without its area code');
    else if (found === 'differs') differs.push(`${word} differs`);
  }
  const birthday = level('birthday');
  if (birthday === 'same') same.push('birthday');
  else if (birthday === 'day') near.push('same day of birth, without the year');
  else if (birthday === 'near') near.push('a slip in the birthday');
  else if (birthday === 'differs') differs.push('birthday differs');
  const generation = level('generation');
  if (generation === 'differs' || generation === 'one') differs.push('one suffix is not the other');
  return [...(same.length > 0 ? [`same ${inAList(same)}`] : []), ...near, ...differs];
}
