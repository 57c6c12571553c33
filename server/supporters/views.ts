import type { NameParts } from '@tallystick/core/names';
import { chunks, eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';

/**
 * What other areas read supporters by: selects to stand where a table would. MariaDB merges each into the question that
 * uses it, so the indexes beneath serve as if the table stood there.
 */
export const PEOPLE = `(SELECT id, kind, prefix, first, middle, last, suffix, organization, sort_name, household_id, state FROM supporter)`;

/** Who has died. */
export const DECEASED = `(SELECT supporter_id FROM wish WHERE kind = 'deceased')`;

const NAME_COLUMNS = ['kind', 'prefix', 'first', 'middle', 'last', 'suffix', 'organization'] as const;
/** The columns that `displayName` makes a name of, for a list of columns. `kind` is the name of the first of them. */
export const nameColumns = (alias: string, kind = 'kind'): string =>
  NAME_COLUMNS.map((column) => `${alias}.${column}${column === 'kind' ? ` AS ${kind}` : ''}`).join(', ');

export type Named = NameParts & { id: number };

/** The parts of the names of those of the ids that exist, the erased too, with where they are. */
export async function namesOf(sql: Sql, ids: readonly number[]): Promise<(Named & { state: string })[]> {
  const found: (Named & { state: string })[] = [];
  for (const slice of chunks(ids, 2000))
    found.push(
      ...(await sql.rows<Named & { state: string }>(
        `SELECT s.id, s.state, ${nameColumns('s')} FROM supporter s WHERE s.id IN (?)`,
        [slice],
      )),
    );
  return found;
}

/** Active supporters who have one of the addresses, each address in lower case. */
export async function namesByEmail(sql: Sql, emails: readonly string[]): Promise<(Named & { address: string })[]> {
  const found: (Named & { address: string })[] = [];
  await eachChunk(
    emails,
    2000,
    (slice) =>
      sql.rows<Named & { address: string }>(
        `SELECT DISTINCT s.id, ${nameColumns('s')}, LOWER(e.address) AS address FROM email e JOIN supporter s ON s.id = e.supporter_id
         WHERE s.state = 'active' AND e.address IN (?)`, // email_address (address)
        [slice],
      ),
    (rows) => void found.push(...rows),
  );
  return found;
}

/** Active supporters whose sorting name begins with one of the words, which are folded, as whole words. */
export async function namesBySorting(sql: Sql, words: readonly string[]): Promise<Named[]> {
  const found: Named[] = [];
  // supporter_name (state, sort_name): the sorting name begins with the last name or the organization's. Between a word
  // and the same with a digit stands what has a sign after it that is no letter.
  await eachChunk(
    words,
    200,
    (slice) =>
      sql.rows<Named>(
        `SELECT s.id, ${nameColumns('s')} FROM supporter s WHERE s.state = 'active'
         AND (${slice.map(() => '(s.sort_name >= ? AND s.sort_name < ?)').join(' OR ')})`,
        slice.flatMap((word) => [word, `${word}0`]),
      ),
    (rows) => void found.push(...rows),
  );
  return found;
}

/** Whom the numbers lead to of those that were merged into another; others are missing. */
export async function ledTo(sql: Sql, ids: readonly number[]): Promise<Map<number, number>> {
  const found = new Map<number, number>();
  for (const slice of chunks(ids, 2000))
    for (const { id, into } of await sql.rows<{ id: number; into: number }>(
      'SELECT id, merged_into AS `into` FROM supporter WHERE id IN (?) AND merged_into IS NOT NULL',
      [slice],
    ))
      found.set(id, into);
  return found;
}

/** As `ledTo`, of all. */
export const everyLed = async (sql: Sql): Promise<Map<number, number>> =>
  new Map(
    (
      await sql.rows<{ id: number; into: number }>(
        'SELECT id, merged_into AS `into` FROM supporter WHERE merged_into IS NOT NULL', // supporter_merged (merged_into)
      )
    ).map(({ id, into }) => [id, into]),
  );

/** Those of some supporters who have died. */
export const deceasedAmong = async (sql: Sql, ids: readonly number[]): Promise<Set<number>> =>
  new Set(
    (
      await sql.rows<{ id: number }>(
        // wish_pair (supporter_id, kind)
        `SELECT supporter_id AS id FROM wish WHERE kind = 'deceased' AND supporter_id IN (?)`,
        [ids],
      )
    ).map(({ id }) => id),
  );

/** Who comes first in a household; null where nobody was chosen. */
export const primaryOf = async (sql: Sql, householdId: number): Promise<number | null> =>
  (await sql.rows<{ id: number | null }>('SELECT primary_id AS id FROM supporter WHERE id = ?', [householdId]))[0]
    ?.id ?? null;

/** The household that someone belongs to, or is; null for who belongs to none. */
export async function householdOf(sql: Sql, id: number): Promise<number | null> {
  const [row] = await sql.rows<{ home: number | null }>(
    `SELECT COALESCE(household_id, IF(kind = 'household', id, NULL)) AS home FROM supporter WHERE id = ?`,
    [id],
  );
  return row?.home ?? null;
}

/** A household with everyone in it. */
export async function homeOf(sql: Sql, householdId: number): Promise<number[]> {
  // supporter_household (household_id)
  const rows = await sql.rows<{ id: number }>('SELECT id FROM supporter WHERE household_id = ?', [householdId]);
  return [householdId, ...rows.map((row) => row.id)];
}

export type Trashed = NameParts & { id: number };
/** Those of the supporters that are in the trash. */
export const trashedOf = (sql: Sql, ids: readonly number[]): Promise<Trashed[]> =>
  ids.length === 0
    ? Promise.resolve([])
    : sql.rows<Trashed>(`SELECT s.id, ${nameColumns('s')} FROM supporter s WHERE s.state = 'trash' AND s.id IN (?)`, [
        ids,
      ]);

/** The household and everyone in it who is not in the trash, for each of the ids that shares a home. */
export async function homesOf(
  sql: Sql,
  ids: readonly number[],
): Promise<Map<number, { id: number; people: number[] }>> {
  const found = new Map<number, { id: number; people: number[] }>();
  for (const slice of chunks(ids, 2000)) {
    const rows = await sql.rows<{ id: number; home: number }>(
      `SELECT id, COALESCE(household_id, id) AS home FROM supporter WHERE id IN (?) AND (household_id IS NOT NULL OR kind = 'household')`,
      [slice],
    );
    if (rows.length === 0) continue;
    // supporter_household (household_id)
    const members = await sql.rows<{ id: number; home: number }>(
      `SELECT id, household_id AS home FROM supporter WHERE household_id IN (?) AND state = 'active' ORDER BY id`,
      [rows.map(({ home }) => home)],
    );
    const peopleOf = new Map<number, number[]>();
    for (const { id, home } of members) peopleOf.set(home, [...(peopleOf.get(home) ?? []), id]);
    for (const { id, home } of rows) found.set(id, { id: home, people: peopleOf.get(home) ?? [] });
  }
  return found;
}
