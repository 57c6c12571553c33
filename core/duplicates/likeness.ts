import { streetForms } from '../contact/index.ts';
import { firmWords } from '../fullnames/index.ts';
import { digitsOf, fold, forgiven, otherNames, slips, sounds, wordsOf } from '../names/index.ts';
import type { SupporterKind } from '../supporters/index.ts';

/** What of a supporter is compared to find out whether two records are one. */
export interface Comparable {
  kind: SupporterKind;
  first: string;
  last: string;
  formerLast: string;
  nickname: string;
  organization: string;
  emails: readonly string[];
  phones: readonly string[];
  addresses: readonly { street: string; postal: string; city?: string }[];
}

/** How alike two records look: `score` from 0 to 100, and each reason in words. */
export interface Likeness {
  score: number;
  reasons: string[];
}

/**
 * Compares two records by name, e-mail, telephone and address, and says why they look alike. A name alone is a
 * hint; a name with any way to reach them is a likely double. Nothing in common gives a score of 0.
 */
export function likeness(a: Comparable, b: Comparable): Likeness {
  const found = [nameLikeness(a, b), ...contactLikeness(a, b)].filter((one) => one.score > 0);
  return {
    score: Math.min(
      100,
      found.reduce((sum, one) => sum + one.score, 0),
    ),
    reasons: found.map((one) => one.reason),
  };
}

interface Hint {
  score: number;
  reason: string;
}
const NONE: Hint = { score: 0, reason: '' };

function nameLikeness(a: Comparable, b: Comparable): Hint {
  if (a.kind !== 'person' || b.kind !== 'person') {
    const [one, two] = [wordsOf(a.organization), wordsOf(b.organization)];
    if (one.length === 0 || two.length === 0) return NONE;
    if (one.join(' ') === two.join(' ')) return { score: 50, reason: 'same name' };
    if (firmWords(a.organization).join(' ') === firmWords(b.organization).join(' '))
      return { score: 45, reason: 'same name but for The or a legal form' };
    const shared = one.filter((word) => two.includes(word)).length;
    return shared > 0 && shared >= Math.min(one.length, two.length)
      ? { score: 30, reason: 'one name is part of the other' }
      : NONE;
  }
  const crossed = (one: Comparable, two: Comparable): boolean => one.first !== '' && fold(one.first) === fold(two.last);
  if (crossed(a, b) && crossed(b, a) && fold(a.first) !== fold(a.last))
    return { score: 45, reason: 'first and last name swapped' };
  const last = lastLikeness(a, b);
  if (last === NONE) return NONE;
  // Half a name says little by itself; with an address it does.
  if ((a.first === '' || b.first === '') && last.score === 50) return { score: 20, reason: 'same last name' };
  const first = firstLikeness(a, b);
  if (first === NONE) return NONE;
  const reason = [...new Set([first.reason, last.reason])];
  return {
    score: Math.min(first.score, last.score),
    reason: reason.length === 1 ? (reason[0] ?? '') : reason.filter((one) => one !== 'same name').join(', '),
  };
}

function lastLikeness(a: Comparable, b: Comparable): Hint {
  const [one, two] = [fold(a.last), fold(b.last)];
  if (one === '' || two === '') return NONE;
  if (one === two) return { score: 50, reason: 'same name' };
  const former = (text: string, other: Comparable): boolean =>
    other.formerLast !== '' && fold(other.formerLast) === text;
  if (former(one, b) || former(two, a)) return { score: 45, reason: 'a former last name' };
  // 'Cruz' and 'Cruz-Smith': one took a name besides their own.
  if (wordsOf(one).some((word) => word.length > 2 && wordsOf(two).includes(word)))
    return { score: 40, reason: 'part of the last name' };
  return wordLikeness(one, two, 'last name');
}

function firstLikeness(a: Comparable, b: Comparable): Hint {
  const called = (one: Comparable): string[] => [one.first, one.nickname].map(fold).filter(Boolean);
  const [one, two] = [called(a), called(b)];
  if (one.length === 0 || two.length === 0) return NONE;
  if (one.some((name) => two.includes(name))) return { score: 50, reason: 'same name' };
  if (one.some((name) => otherNames(name).some((other) => two.includes(other))))
    return { score: 45, reason: 'a short form of the first name' };
  const [x = '', y = ''] = [one[0], two[0]];
  if (x[0] === y[0] && (x.length === 1 || y.length === 1 || /^\p{L}\.$/u.test(x) || /^\p{L}\.$/u.test(y)))
    return { score: 30, reason: 'the first letter of the first name' };
  if (x.startsWith(`${y} `) || y.startsWith(`${x} `)) return { score: 45, reason: 'part of the first name' };
  return wordLikeness(x, y, 'first name');
}

function wordLikeness(one: string, two: string, what: string): Hint {
  const most = Math.min(forgiven(one), forgiven(two));
  if (most > 0 && slips(one, two, most) <= most) return { score: 40, reason: `a slip in the ${what}` };
  const keys = sounds(two);
  return one.length > 2 && sounds(one).some((key) => key.length > 1 && keys.includes(key))
    ? { score: 35, reason: `a ${what} that sounds alike` }
    : NONE;
}

function contactLikeness(a: Comparable, b: Comparable): Hint[] {
  const email = a.emails.find((one) => b.emails.some((two) => one.toLowerCase() === two.toLowerCase()));
  const number = (text: string): string => digitsOf(text.replace(/\s*(ext\.?|x)\s*\d+.*$/i, '')).slice(-10);
  const phone = a.phones.find((one) => number(one).length >= 7 && b.phones.some((two) => number(one) === number(two)));
  const address = a.addresses.find((one) => b.addresses.some((two) => sameStreet(one, two)));
  return [
    email === undefined ? NONE : { score: 50, reason: `same e-mail ${email}` },
    phone === undefined ? NONE : { score: 30, reason: `same telephone ${phone}` },
    address === undefined ? NONE : { score: 30, reason: `same address ${address.street.split('\n')[0] ?? ''}` },
  ];
}

type Address = Comparable['addresses'][number];

function sameStreet(a: Address, b: Address): boolean {
  const [one, two] = [wordsOf(a.street), wordsOf(b.street)];
  if (one.length < 2 || two.length < 2) return false;
  // 'Perseid Place' and 'Perseid Pl' are forms of one; what is not known as such shares the first letters of each word.
  const alike =
    one.length === two.length &&
    one.every((word, at) => {
      const other = two[at] ?? '';
      return streetForms(word).includes(other) || (at > 0 && word.slice(0, 2) === other.slice(0, 2));
    });
  if (a.city && b.city && fold(a.city) !== fold(b.city)) return false;
  const postal = (text: string): string => text.replace(/\s/g, '').slice(0, 5).toLowerCase();
  return alike && (a.postal === '' || b.postal === '' || postal(a.postal) === postal(b.postal));
}
