import mysql from 'mysql2/promise';
import type { Facts, ListName } from '@tallystick/core/facts';
import { NO_DAY } from '@tallystick/core/facts';
import { MADE, madeList } from './made-facts.ts';

/*
 * Made facts as tables of a database, so that a question of them can be asked by SQL: one table for people and one for
 * each list that questions are about, `who` for whose row it is, with an index on it. Days are numbers, none is NULL.
 */

const LISTS = {
  gifts: ['day', 'cents', 'fund', 'method'],
  wishes: ['kind'],
  tags: ['tag'],
  groups: ['group'],
  phones: ['from', 'to', 'bad'],
  ties: ['role', 'other', 'from', 'to'],
  sendings: ['kind', 'subject', 'outcome', 'day', 'opened', 'back'],
  installments: ['day', 'open'],
  recurring: ['failing'],
  credits: ['kind'],
  changes: ['kind', 'day'],
} as const satisfies Partial<Record<ListName | 'gifts' | 'credits', readonly string[]>>;
const SOME = 5_000;

type Value = string | number | null;

/** Writes them into the database behind a URL, under the names `made_people`, `made_gifts` and so on. */
export async function writeMadeTables(url: string, facts: Facts): Promise<mysql.Connection> {
  const connection = await mysql.createConnection({ uri: url, multipleStatements: true });
  const put = async (table: string, columns: readonly string[], rows: Iterable<Value[]>): Promise<void> => {
    const all = [...rows];
    const types = columns.map((name, at) => {
      const some = all.find((row) => row[at] !== null)?.[at];
      return `\`${name}\` ${typeof some === 'string' ? 'VARCHAR(40)' : 'INT'}`;
    });
    await connection.query(`CREATE TABLE made_${table} (${types.join(', ')})`);
    for (let from = 0; from < all.length; from += SOME)
      await connection.query(`INSERT INTO made_${table} VALUES ?`, [all.slice(from, from + SOME)]);
    const key = columns.includes('who') ? 'who' : 'id';
    await connection.query(`ALTER TABLE made_${table} ADD KEY (\`${key}\`); ANALYZE TABLE made_${table}`);
  };
  await put('people', PEOPLE, peopleOf(facts));
  for (const [list, columns] of Object.entries(LISTS))
    await put(list, ['who', ...columns], rowsOf(facts, list as keyof typeof LISTS));
  await put(
    'list',
    ['id'],
    [...madeList(facts)].map((id) => [id]),
  );
  return connection;
}

const PEOPLE = ['id', 'kind', 'household', 'postal', 'birthday', 'mailable', 'telescope', 'matches'] as const;

function* peopleOf(facts: Facts): Generator<Value[]> {
  const { kind, household, postal, birthday, mailable } = facts.people;
  const own = (field: number, slot: number): string => facts.fields.get(field)?.get(slot) ?? '';
  for (let slot = 0; slot < facts.size; slot++)
    yield [
      ...[facts.ids[slot] ?? 0, kind.values[slot] ?? 0, household.values[slot] ?? 0, postal.at(slot)],
      ...[birthday.values[slot] ?? 0, mailable.values[slot] ?? 0],
      ...[own(MADE.telescope, slot), own(MADE.matches, slot)],
    ];
}

function* rowsOf(facts: Facts, name: keyof typeof LISTS): Generator<Value[]> {
  const list = facts.listOf(name);
  const columns = LISTS[name].map((column) => (list.columns as Record<string, Column>)[column]);
  for (let slot = 0; slot < facts.size; slot++) {
    const from = list.start[slot] ?? 0;
    for (let row = from; row < from + (list.count[slot] ?? 0); row++)
      yield [facts.ids[slot] ?? 0, ...columns.map((column) => valueAt(column, row))];
  }
}

interface Column {
  values: ArrayLike<number>;
  words?: { words: readonly string[] } | undefined;
}
function valueAt(column: Column | undefined, row: number): Value {
  const value = column?.values[row] ?? 0;
  if (column?.words) return column.words.words[value] ?? '';
  return value === NO_DAY ? null : value;
}
