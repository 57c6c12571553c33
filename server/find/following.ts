import { FindIndex } from '@tallystick/core/find';
import type { FindQuery, Found } from '@tallystick/core/find';
import { displayName } from '@tallystick/core/names';
import type { SupporterKind } from '@tallystick/core/names';
import type { FollowerDb, Following } from '../platform/follower.ts';

export type FindQuestion = FindQuery & { ask: 'find' };
export interface FindAnswers {
  find: Found;
}

type Cells = readonly (string | number | null)[];
const NAMES_SQL = 'SELECT id, kind, prefix, first, middle, last, suffix, organization FROM supporter WHERE trashed = 0';

/** Keeps the find index over every supporter that is not in the trash. */
export class FindFollowing implements Following {
  private index = new FindIndex();

  async load(db: FollowerDb): Promise<void> {
    const emails = new Map<number, string[]>();
    const phones = new Map<number, string[]>();
    await db.stream('SELECT supporter_id, address FROM email', (row) => add(emails, row));
    await db.stream('SELECT supporter_id, number FROM phone', (row) => add(phones, row));
    await db.stream(NAMES_SQL, (row) => this.put(row, emails, phones));
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    const [names, emailRows, phoneRows] = await Promise.all([
      db.rows(`${NAMES_SQL} AND id IN (?)`, [ids]),
      db.rows('SELECT supporter_id, address FROM email WHERE supporter_id IN (?)', [ids]),
      db.rows('SELECT supporter_id, number FROM phone WHERE supporter_id IN (?)', [ids]),
    ]);
    const emails = new Map<number, string[]>();
    const phones = new Map<number, string[]>();
    for (const row of emailRows) add(emails, row);
    for (const row of phoneRows) add(phones, row);
    for (const id of ids) this.index.remove(id);
    for (const row of names) this.put(row, emails, phones);
  }

  answer(given: unknown): Found {
    return this.index.find(given as FindQuestion);
  }

  private put(row: Cells, emails: Map<number, string[]>, phones: Map<number, string[]>): void {
    const id = Number(row[0]);
    const part = (at: number): string => String(row[at] ?? '');
    const name = displayName({
      kind: part(1) as SupporterKind,
      prefix: part(2),
      first: part(3),
      middle: part(4),
      last: part(5),
      suffix: part(6),
      organization: part(7),
    });
    this.index.put({
      id,
      kind: part(1) as SupporterKind,
      name,
      emails: emails.get(id) ?? [],
      phones: phones.get(id) ?? [],
    });
  }
}

function add(into: Map<number, string[]>, row: Cells): void {
  const owner = Number(row[0]);
  const list = into.get(owner);
  if (list) list.push(String(row[1]));
  else into.set(owner, [String(row[1])]);
}
