import { fold, otherNames, properCase } from '../names/index.ts';

/* Of several records that are one: which stays, and which value of each field is the best to keep. */

/** What a record has in a field; empty where it has nothing. */
export interface Side {
  id: number;
  value: string;
  /** The day it was last given this value; null where that is not known. */
  since: string | null;
  /** Whether a person typed it, and not a file or a feed. */
  byHand: boolean;
  /** False for a way to reach them that is ended or marked undeliverable. */
  sound?: boolean;
}

/** What kind of value decides which is the better one. */
export type Sort = 'name' | 'birthday' | 'way' | 'other';

export interface Proposal {
  /** The record whose value is proposed. */
  from: number;
  /** Why, in words that follow `because`; empty where nothing speaks for it but that its record stays. */
  why: string;
  differs: boolean;
}

/** What speaks for one value before another, the strongest first; each is asked of those that the ones before left. */
const GROUNDS: readonly { sorts: readonly Sort[]; why: string; of: (side: Side, all: readonly Side[]) => boolean }[] = [
  { sorts: ['way'], why: 'it still reaches them', of: ({ sound }) => sound !== false },
  { sorts: ['name'], why: 'it is not all in capitals', of: ({ value }) => isWellWritten(value) },
  { sorts: ['name'], why: 'it is the whole name', of: ({ value }, all) => !isShort(value, all) },
  { sorts: ['birthday'], why: 'it has the year', of: ({ value }) => !value.startsWith('-') },
  { sorts: ['name', 'birthday', 'way', 'other'], why: 'a person typed it', of: ({ byHand }) => byHand },
  {
    sorts: ['name', 'birthday', 'way', 'other'],
    why: 'it is the newest',
    of: ({ since }, all) => since !== null && all.every((other) => other.since === null || other.since <= since),
  },
];

/**
 * The best value of a field. What is empty never goes before what is not; of several that are left the value of who
 * stays is kept. Throws where there is no side.
 */
export function proposed(sort: Sort, sides: readonly Side[], stays: number): Proposal {
  const filled = sides.filter(({ value }) => value !== '');
  const own = sides.find(({ id }) => id === stays) ?? sides[0];
  if (!own) throw new Error('Nothing to choose from.');
  const values = new Set(filled.map(({ value }) => value));
  if (values.size === 0) return { from: own.id, why: '', differs: false };
  const same = (id: number): Side | undefined => filled.find((side) => side.id === id);
  if (values.size === 1) {
    const [only] = filled;
    const from = same(stays)?.id ?? only?.id ?? own.id;
    return { from, why: filled.length < sides.length ? 'it is the only one' : '', differs: false };
  }
  let left: readonly Side[] = filled;
  let why = '';
  for (const ground of GROUNDS) {
    if (!ground.sorts.includes(sort)) continue;
    const better = left.filter((side) => ground.of(side, left));
    if (better.length === 0 || better.length === left.length) continue;
    left = better;
    why = ground.why;
    if (new Set(left.map(({ value }) => value)).size === 1) break;
  }
  const from = left.find(({ id }) => id === stays)?.id ?? left[0]?.id ?? own.id;
  const decided = new Set(left.map(({ value }) => value)).size === 1;
  return { from, why: decided ? why : '', differs: true };
}

/** Whether a name is written with capitals and small letters as names are, `McDonald` and `van der Berg` too. */
function isWellWritten(name: string): boolean {
  const letters = name.replace(/[^\p{L}]/gu, '');
  if (letters.length < 2) return true;
  return (letters !== letters.toUpperCase() && letters !== letters.toLowerCase()) || properCase(name) === name;
}

/** Whether a name is an initial, or a short form, of another among them. */
function isShort(name: string, all: readonly Side[]): boolean {
  const text = fold(name).replace(/\.$/, '');
  return all.some(({ value }) => {
    const other = fold(value);
    if (other === text) return false;
    if (text.length === 1) return other.startsWith(text);
    return other.startsWith(`${text} `) || (isCalled(text, other) && !isCalled(other, text));
  });
}

/** Whether the one is what bearers of the other are called: Bob of Robert. The first name of each group is whole. */
const isCalled = (short: string, whole: string): boolean =>
  otherNames(whole).includes(short) && short.length < whole.length;

/** What is known of a record to tell which of several should stay. */
export interface Weighed {
  id: number;
  gifts: number;
  /** How many fields and ways it has. */
  filled: number;
}

/** The record that should stay: with the most gifts, else the fullest, else the oldest number. Throws without any. */
export function staying(records: readonly Weighed[]): { id: number; why: string } {
  const [first, second] = [...records].sort((a, b) => b.gifts - a.gifts || b.filled - a.filled || a.id - b.id);
  if (!first) throw new Error('Nobody to choose from.');
  const why =
    second === undefined || first.gifts > second.gifts
      ? 'it has the most gifts'
      : first.filled > second.filled
        ? 'it says the most'
        : 'it is the oldest';
  return { id: first.id, why };
}
