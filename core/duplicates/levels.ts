import { forgiven, slips } from '../names/index.ts';
import type { Profile, Street } from './profile.ts';

/*
 * How two records agree in each field, as a level. The first level of every field is that one of them says nothing; it
 * speaks neither for nor against. What each of the others weighs is in `model.ts`.
 */

export const LEVELS = {
  first: ['nothing', 'same', 'short', 'slip', 'initial', 'sound', 'differs'],
  middle: ['nothing', 'same', 'initial', 'differs'],
  last: ['nothing', 'same', 'former', 'part', 'slip', 'sound', 'differs'],
  name: ['nothing', 'same', 'part', 'slip', 'differs'],
  generation: ['nothing', 'neither', 'same', 'one', 'differs'],
  email: ['nothing', 'same', 'differs'],
  phone: ['nothing', 'same', 'seven', 'differs'],
  street: ['nothing', 'same', 'building', 'slip', 'postal', 'differs'],
  birthday: ['nothing', 'same', 'day', 'near', 'differs'],
  outside: ['nothing', 'same', 'differs'],
} as const;
export type Field = keyof typeof LEVELS;
export type Level<F extends Field = Field> = (typeof LEVELS)[F][number];
export const FIELDS = Object.keys(LEVELS) as Field[];

/** The levels of two records by the place of the field in `FIELDS`, each by its place in `LEVELS`. */
export type Agreement = Uint8Array;

export const levelOf = <F extends Field>(agreement: Agreement, field: F): Level<F> =>
  LEVELS[field][agreement[FIELDS.indexOf(field)] ?? 0] as Level<F>;

const PLACE = Object.fromEntries(FIELDS.map((field, at) => [field, at])) as Record<Field, number>;
const CODE = Object.fromEntries(
  FIELDS.map((field) => [field, Object.fromEntries(LEVELS[field].map((level, at) => [level, at]))]),
) as { [F in Field]: Record<Level<F>, number> };

/** How two records of one kind agree, written into `into`. */
export function agreementOf(a: Profile, b: Profile, into: Agreement = new Uint8Array(FIELDS.length)): Agreement {
  into.fill(0);
  if (a.kind === 'person') {
    const swapped = a.first !== '' && a.first === b.last && b.first === a.last && a.first !== a.last;
    into[PLACE.first] = CODE.first[swapped ? 'slip' : firstLevel(a, b)];
    into[PLACE.last] = CODE.last[swapped ? 'slip' : lastLevel(a, b)];
    into[PLACE.middle] = CODE.middle[middleLevel(a.middle, b.middle)];
    into[PLACE.generation] = CODE.generation[generationLevel(a, b)];
    into[PLACE.birthday] = CODE.birthday[birthdayLevel(a.birthday, b.birthday)];
  } else into[PLACE.name] = CODE.name[nameLevel(a.words, b.words)];
  into[PLACE.email] = CODE.email[sharing(a.emails, b.emails)];
  into[PLACE.phone] = CODE.phone[phoneLevel(a.phones, b.phones)];
  into[PLACE.street] = CODE.street[streetLevel(a.streets, b.streets)];
  into[PLACE.outside] = CODE.outside[outsideLevel(a.outside, b.outside)];
  return into;
}

function firstLevel(a: Profile, b: Profile): Level<'first'> {
  if (a.first === '' || b.first === '') return 'nothing';
  if (a.first === b.first) return 'same';
  if (a.first.length === 1 || b.first.length === 1) return a.first[0] === b.first[0] ? 'initial' : 'differs';
  if (a.called.includes(b.first) || b.called.includes(a.first)) return 'short';
  if (isSlip(a.first, b.first)) return 'slip';
  return isAlike(a.firstSounds, b.firstSounds) && a.first[0] === b.first[0] ? 'sound' : 'differs';
}

function lastLevel(a: Profile, b: Profile): Level<'last'> {
  if (a.last === '' || b.last === '') return 'nothing';
  if (a.last === b.last) return 'same';
  if (a.formerLast !== '' && (a.formerLast === b.last || a.formerLast === b.formerLast)) return 'former';
  if (b.formerLast !== '' && b.formerLast === a.last) return 'former';
  if (a.lastParts.includes(b.last) || b.lastParts.includes(a.last)) return 'part';
  if (isSlip(a.last, b.last)) return 'slip';
  return isAlike(a.lastSounds, b.lastSounds) ? 'sound' : 'differs';
}

const isAlike = (a: readonly string[], b: readonly string[]): boolean =>
  a.some((key) => key.length > 1 && b.includes(key));

/** Whether two words are one but for slips of typing, as many as words of their length are forgiven. */
function isSlip(a: string, b: string): boolean {
  const most = Math.min(forgiven(a), forgiven(b));
  if (most === 0 || Math.abs(a.length - b.length) > most) return false;
  // Somebody mistypes one end of a word, seldom both.
  if (a[0] !== b[0] && a.at(-1) !== b.at(-1)) return false;
  return slips(a, b, most) <= most;
}

function middleLevel(a: string, b: string): Level<'middle'> {
  if (a === '' || b === '') return 'nothing';
  if (a === b) return 'same';
  return a[0] !== b[0] ? 'differs' : a.length === 1 || b.length === 1 ? 'initial' : 'differs';
}

function nameLevel(a: readonly string[], b: readonly string[]): Level<'name'> {
  if (a.length === 0 || b.length === 0) return 'nothing';
  const [one, other] = [a.join(' '), b.join(' ')];
  if (one === other || one.replace(/ /g, '') === other.replace(/ /g, '')) return 'same';
  const shared = a.filter((word) => b.includes(word)).length;
  if (shared > 0 && shared >= Math.min(a.length, b.length) && Math.min(a.length, b.length) > 1) return 'part';
  if (shared >= 2 && shared >= Math.max(a.length, b.length) - 1) return 'part';
  return isSlip(one, other) ? 'slip' : 'differs';
}

function generationLevel(a: Profile, b: Profile): Level<'generation'> {
  if (a.generation === b.generation) return a.generation === '' ? 'neither' : 'same';
  return a.generation === '' || b.generation === '' ? 'one' : 'differs';
}

function sharing(a: readonly string[], b: readonly string[]): 'nothing' | 'same' | 'differs' {
  if (a.length === 0 || b.length === 0) return 'nothing';
  return a.some((one) => b.includes(one)) ? 'same' : 'differs';
}

function phoneLevel(a: readonly string[], b: readonly string[]): Level<'phone'> {
  const level = sharing(a, b);
  if (level !== 'differs') return level;
  // A number that is written without its area code.
  return a.some((one) => b.some((other) => (one.length < 10 || other.length < 10) && one.slice(-7) === other.slice(-7)))
    ? 'seven'
    : 'differs';
}

const STREET_ORDER = ['same', 'building', 'slip', 'postal', 'differs'] as const;

function streetLevel(a: readonly Street[], b: readonly Street[]): Level<'street'> {
  if (a.length === 0 || b.length === 0) return 'nothing';
  let best: number = STREET_ORDER.length - 1;
  for (const one of a) for (const other of b) best = Math.min(best, STREET_ORDER.indexOf(addressLevel(one, other)));
  return STREET_ORDER[best] ?? 'differs';
}

function addressLevel(a: Street, b: Street): (typeof STREET_ORDER)[number] {
  const samePlace = a.postal !== '' && b.postal !== '' ? a.postal === b.postal : a.city !== '' && a.city === b.city;
  const withoutPlace = (a.postal === '' && a.city === '') || (b.postal === '' && b.city === '');
  if (!samePlace && !withoutPlace) {
    // A ZIP with a slip, where all else is one.
    const sameCity = a.city !== '' && a.city === b.city;
    return sameCity && a.house !== '' && a.house === b.house && a.street === b.street && a.unit === b.unit
      ? 'same'
      : 'differs';
  }
  if (a.street === '' || b.street === '') return samePlace && a.postal !== '' ? 'postal' : 'differs';
  if (a.house === b.house && a.street === b.street) return a.unit === b.unit ? 'same' : 'building';
  if (a.house === b.house && a.house !== '' && isSlip(a.street, b.street)) return 'slip';
  if (a.street === b.street && isSlip(`no${a.house}`, `no${b.house}`) && a.house.length > 2) return 'slip';
  return samePlace && a.postal !== '' ? 'postal' : 'differs';
}

function birthdayLevel(a: string, b: string): Level<'birthday'> {
  if (a === '' || b === '') return 'nothing';
  if (a === b) return 'same';
  const [day, other] = [a.slice(-5), b.slice(-5)];
  if (a.startsWith('-') || b.startsWith('-')) return day === other ? 'day' : 'differs';
  const [year, month, date] = a.split('-');
  const [year2, month2, date2] = b.split('-');
  const same = Number(year === year2) + Number(month === month2) + Number(date === date2);
  const swapped = year === year2 && month === date2 && date === month2;
  // Parent and child may share a day; a slip in a year is near it.
  if (same === 2) return year === year2 || isSlip(`yy${year ?? ''}`, `yy${year2 ?? ''}`) ? 'near' : 'differs';
  return swapped ? 'near' : 'differs';
}

function outsideLevel(a: readonly string[], b: readonly string[]): Level<'outside'> {
  const level = sharing(a, b);
  if (level !== 'differs') return level;
  const source = (one: string): string => one.slice(0, one.indexOf('|'));
  return a.some((one) => b.some((other) => source(one) === source(other))) ? 'differs' : 'nothing';
}
