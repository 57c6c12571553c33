import type { Card, ReadCard } from '../vcard/index.ts';
import { counted } from '../words/index.ts';
import type { IntakeColumn } from './fields.ts';

/* How what is no plain table becomes one, and what is odd about a table. */

/** A row of a file with its number there, the first being 1. */
export interface FileRow {
  row: number;
  cells: string[];
}

/** So many rows at the top are looked at for the headings. */
const LOOKED_AT = 40;

/**
 * Where the table of a file begins, as an index: notes above it fill few of its columns. The first row where there are
 * none.
 */
export function tableStart(rows: readonly (readonly string[])[]): number {
  const filled = rows.slice(0, LOOKED_AT).map((row) => row.filter((cell) => cell.trim() !== '').length);
  const most = Math.max(0, ...filled);
  return most < 3
    ? 0
    : Math.max(
        0,
        filled.findIndex((many) => many >= Math.max(2, most * 0.6)),
      );
}

/**
 * Objects (one for each line of a file) as a table: a column for each key, in the order that they come in. Throws an
 * Error a person can act on for what is no table at all.
 */
export function tableOfObjects(objects: readonly unknown[]): { headings: string[]; rows: string[][] } {
  const places = new Map<string, number>();
  const flat = objects.map((object) => flattened(object));
  for (const one of flat) for (const key of one.keys()) if (!places.has(key)) places.set(key, places.size);
  const headings = [...places.keys()];
  return { headings, rows: flat.map((one) => headings.map((key) => one.get(key) ?? '')) };
}

/** Deeper than this nothing is taken apart. */
const DEEPEST = 6;

function flattened(value: unknown, under = '', into = new Map<string, string>(), depth = 0): Map<string, string> {
  if (value === null || value === undefined) return into;
  if (Array.isArray(value) && value.every((one) => typeof one !== 'object' || one === null))
    return into.set(under, value.filter((one) => one !== null).join('; '));
  if (typeof value !== 'object')
    return into.set(under || 'value', typeof value === 'string' ? value : JSON.stringify(value));
  if (depth >= DEEPEST)
    throw new Error(
      `A row holds something more than ${DEEPEST} deep, under “${under.slice(0, 60)}”. Make it a plain table first.`,
    );
  const entries: [string, unknown][] = Array.isArray(value)
    ? value.map((one, at) => [String(at + 1), one])
    : Object.entries(value);
  for (const [key, one] of entries) flattened(one, under === '' ? key : `${under} ${key}`, into, depth + 1);
  return into;
}

const [WAYS, TAGS_SIGN] = [3, '; '];

/** Cards as a table, with where each column goes; what a card has more of than there are places for is told. */
export function tableOfCards(cards: readonly ReadCard[]): {
  headings: string[];
  columns: (IntakeColumn | null)[];
  labels: Record<string, string>;
  rows: string[][];
  remarks: string[];
} {
  const ways = Array.from({ length: WAYS }, (_, at) => at);
  const nth = (at: number): string => (at === 0 ? '' : ` ${at + 1}`);
  type Cell = readonly [heading: string, column: IntakeColumn | null, (card: ReadCard) => string];
  const to = <F extends string>(field: F, at: number) => (at === 0 ? field : `${field}:${at + 1}`) as IntakeColumn;
  const all: Cell[] = [
    ['Prefix', 'prefix', (card) => card.prefix],
    ['First name', 'first', (card) => card.first],
    ['Middle name', 'middle', (card) => card.middle],
    ['Last name', 'last', (card) => card.last],
    ['Suffix', 'suffix', (card) => card.suffix],
    ['Name', 'wholeName', (card) => (card.first + card.last + card.organization === '' ? card.fullName : '')],
    ['Nickname', 'nickname', (card) => card.nickname],
    ['Organization', 'organization', (card) => (isPerson(card) ? '' : card.organization)],
    ['Employer', 'employer', (card) => (isPerson(card) ? card.organization : '')],
    ['Job title', 'jobTitle', (card) => (isPerson(card) ? card.jobTitle : '')],
    ['Birthday', 'birthday', (card) => card.birthday],
    ...ways.map((at): Cell => [`E-mail${nth(at)}`, to('email', at), (card) => card.emails[at]?.address ?? '']),
    ...ways.map((at): Cell => [`Telephone${nth(at)}`, to('phone', at), (card) => card.phones[at]?.number ?? '']),
    ...ways.flatMap((at): Cell[] =>
      (['street', 'city', 'region', 'postal', 'country'] as const).map((part) => [
        `${part === 'region' ? 'State' : part === 'postal' ? 'ZIP' : part.replace(/^./, (a) => a.toUpperCase())}${nth(at)}`,
        to(part, at),
        (card) => card.addresses[at]?.[part] ?? '',
      ]),
    ),
    ['Tags', 'tag', (card) => card.tags.join(TAGS_SIGN)],
    ['Note', 'remark', (card) => card.note],
  ];
  const used = all.filter(([, , read]) => cards.some((card) => read(card) !== ''));
  const more = cards.filter(({ emails, phones, addresses }) =>
    [emails, phones, addresses].some(({ length }) => length > WAYS),
  ).length;
  const besides = new Map<string, number>();
  for (const name of cards.flatMap((card) => card.besides)) besides.set(name, (besides.get(name) ?? 0) + 1);
  return {
    headings: used.map(([heading]) => heading),
    columns: used.map(([, column]) => column),
    labels: Object.fromEntries(
      used.flatMap(([, column]) => {
        const label = column === null ? null : labelOfCards(cards, column);
        return column !== null && label !== null ? [[column, label]] : [];
      }),
    ),
    rows: cards.map((card) => used.map(([, , read]) => read(card))),
    remarks: [
      ...(more === 0
        ? []
        : [`${counted(more, 'card has', 'cards have')} more than ${WAYS} ways of a kind; the first ${WAYS} are read.`]),
      ...(besides.size === 0
        ? []
        : [
            `Not read of the cards: ${[...besides].map(([name, many]) => `${name.toUpperCase()} (${counted(many, 'card')})`).join(', ')}.`,
          ]),
    ],
  };
}

const isPerson = (card: Card): boolean => card.kind === 'person' && card.first + card.last !== '';

/** The label that all cards give the nth way of a kind; null where they differ. */
function labelOfCards(cards: readonly Card[], column: IntakeColumn): string | null {
  const [field, nth = '1'] = column.split(':');
  const ways = field === 'email' ? 'emails' : field === 'phone' ? 'phones' : field === 'street' ? 'addresses' : null;
  if (ways === null) return null;
  const labels = new Set(cards.flatMap((card) => card[ways][Number(nth) - 1]?.label ?? []));
  const [only] = labels;
  return labels.size === 1 && only ? only : null;
}

/** What is odd about a table, in words: rows of another length, empty columns, headings that stand twice. */
export function remarksOn(headings: readonly string[], rows: readonly (readonly string[])[]): string[] {
  const remarks: string[] = [];
  const width = headings.length;
  const short = rows.filter((row) => row.length < width).length;
  const long = rows.filter((row) => row.slice(width).some((cell) => cell.trim() !== '')).length;
  if (short > 0) remarks.push(`${counted(short, 'row has', 'rows have')} fewer cells than there are columns.`);
  if (long > 0) remarks.push(`${counted(long, 'row has', 'rows have')} more cells than there are columns.`);
  const empty = headings.filter((_, at) => !rows.some((row) => (row[at] ?? '').trim() !== '')).length;
  if (empty > 0 && rows.length > 0) remarks.push(`${counted(empty, 'column is', 'columns are')} empty.`);
  const folded = headings.map((heading) => heading.trim().toLowerCase());
  const twice = [...new Set(headings.filter((heading, at) => heading !== '' && folded.indexOf(folded[at] ?? '') < at))];
  if (twice.length > 0)
    remarks.push(
      `Several columns are headed ${twice
        .slice(0, 3)
        .map((heading) => `“${heading}”`)
        .join(', ')}.`,
    );
  return remarks;
}
