import { FindIndex } from '@tallystick/core/find';
import type { Detail, Findable, FindQuery, Found } from '@tallystick/core/find';
import { displayName, supporterParts } from '@tallystick/core/names';
import type { Param, Sql } from '../platform/db.ts';
import type { FollowerDb, Replica } from '../platform/follower.ts';
import type { SupporterKind } from '@tallystick/core/supporters';

export type FindQuestion = FindQuery & { ask: 'find' };
export interface FindAnswers {
  find: Found;
}

type Cells = readonly (string | number | null)[];
const NAMES_SQL = `SELECT s.id, s.kind, s.prefix, s.first, s.middle, s.last, s.suffix, s.organization, s.nickname, s.former_last
  FROM supporter s WHERE s.state = 'active'`;
/** What is found beside the name, by the owner. */
const DETAILS = {
  emails: 'SELECT supporter_id, address FROM email',
  phones: 'SELECT supporter_id, number FROM phone',
  streets: 'SELECT supporter_id, street FROM address',
  // An organization is found by the people who stand for it.
  contacts: `SELECT r.other_id AS supporter_id, CONCAT(p.first, ' ', p.last) FROM relation r JOIN relation_kind k ON k.id = r.kind_id
    AND k.code = 'contact' JOIN supporter p ON p.id = r.supporter_id AND p.state = 'active'`,
  // The numbers and names of records that were merged into one lead to it.
  merged: `SELECT s.merged_into AS supporter_id,
    CONCAT('S-', s.id, ' ', IF(s.kind = 'person', CONCAT_WS(' ', s.first, s.last, s.nickname, s.former_last), s.organization))
    FROM supporter s WHERE s.merged_into IS NOT NULL`,
} as const;
/** The organizations that people stand for: what they are found by changes with the people. */
const STAND_FOR_SQL = `SELECT r.other_id FROM relation r JOIN relation_kind k ON k.id = r.kind_id AND k.code = 'contact'
  WHERE r.supporter_id IN (?)`;
type Details = Record<keyof typeof DETAILS, Map<number, string[]>>;
const noDetails = (): Details => ({
  ...{ emails: new Map(), phones: new Map(), streets: new Map(), contacts: new Map(), merged: new Map() },
});
const KINDS_OF_DETAIL = Object.keys(DETAILS) as (keyof Details)[];

type Ask = (sql: string, params: readonly Param[]) => Promise<readonly Cells[]>;

/**
 * What each of the supporters can be found by; nobody who is in the trash is among them. What is `given` is not asked.
 */
async function findables(ask: Ask, ids: readonly number[], given: Partial<Details> = {}): Promise<Findable[]> {
  const narrow = (kind: keyof Details): string =>
    kind === 'contacts'
      ? `${DETAILS[kind]} WHERE r.other_id IN (?)`
      : kind === 'merged' // supporter_merged (merged_into)
        ? `${DETAILS[kind]} AND s.merged_into IN (?)`
        : `${DETAILS[kind]} WHERE supporter_id IN (?)`;
  const details = { ...noDetails(), ...given };
  const [names] = await Promise.all([
    ask(`${NAMES_SQL} AND s.id IN (?)`, [ids]),
    ...KINDS_OF_DETAIL.filter((kind) => !given[kind]).map(async (kind) => {
      for (const row of await ask(narrow(kind), [ids])) add(details[kind], row);
    }),
  ]);
  return names.map((row) => findable(row, details));
}

/** The same in the main thread, for telling by what somebody was found. */
export const findablesOf = (sql: Sql, ids: readonly number[], given: Partial<Details>): Promise<Findable[]> =>
  findables(
    async (text, params) => (await sql.rows<Record<string, string | number>>(text, params)).map(Object.values),
    ids,
    given,
  );

/** Keeps the find index over every supporter that is not in the trash. */
export class FindReplica implements Replica {
  private index = new FindIndex();

  async load(db: FollowerDb): Promise<void> {
    const details = noDetails();
    for (const kind of KINDS_OF_DETAIL) await db.stream(DETAILS[kind], (row) => add(details[kind], row));
    const coming: { id: number; name: string }[] = [];
    await db.stream(NAMES_SQL, (row) => coming.push({ id: Number(row[0]), name: nameOf(row) }));
    this.index.expect(coming);
    await db.stream(NAMES_SQL, (row) => this.index.put(findable(row, details)));
    this.index.settle();
  }

  async reload(db: FollowerDb, changed: readonly number[]): Promise<void> {
    const firms = await db.rows(STAND_FOR_SQL, [changed]);
    const ids = [...new Set([...changed, ...firms.map((row) => Number(row[0]))])];
    const entries = await findables((sql, params) => db.rows(sql, params), ids);
    for (const id of ids) this.index.remove(id);
    for (const entry of entries) this.index.put(entry);
  }

  answer(given: unknown): Found {
    return this.index.find(given as FindQuestion);
  }
}

const part = (row: Cells, at: number): string => String(row[at] ?? '');

function nameOf(row: Cells): string {
  const [kind, prefix, first, middle, last, suffix, organization] = [1, 2, 3, 4, 5, 6, 7].map((at) => part(row, at));
  return displayName(
    supporterParts({ kind: kind as SupporterKind, prefix, first, middle, last, suffix, organization }),
  );
}

function findable(row: Cells, details: Details): Findable {
  const id = Number(row[0]);
  const detail = (by: Detail['by'], texts: readonly string[]): Detail[] =>
    texts.filter(Boolean).map((text) => ({ by, text }));
  return {
    ...{ id, kind: part(row, 1) as SupporterKind, name: nameOf(row) },
    otherNames: [...detail('nickname', [part(row, 8)]), ...detail('former name', [part(row, 9)])],
    emails: details.emails.get(id) ?? [],
    phones: details.phones.get(id) ?? [],
    details: [
      ...detail('street', details.streets.get(id) ?? []),
      ...detail('contact', details.contacts.get(id) ?? []),
      ...detail('merged record', details.merged.get(id) ?? []),
    ],
  };
}

function add(into: Map<number, string[]>, row: Cells): void {
  const owner = Number(row[0]);
  const list = into.get(owner);
  if (list) list.push(String(row[1]));
  else into.set(owner, [String(row[1])]);
}
