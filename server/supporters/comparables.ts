import type { Comparable, Known } from '@tallystick/core/duplicates';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { nameColumns } from './views.ts';
import { bySupporter } from './ways.ts';
import type { SupporterRecord } from './supporter.entity.ts';

type Named = NameParts & Pick<SupporterRecord, 'id' | 'state' | 'former_last' | 'nickname' | 'merged_into'>;

/** A supporter as they are compared with others: by every name and every way, the former ones too. */
export interface Compared extends Comparable {
  id: number;
  name: string;
  state: SupporterRecord['state'];
  /** Whom the number leads to, of who was merged into another. */
  mergedInto: number | null;
}

/** Records as they are compared to find out which of them are one; those that there are not are missing. */
export async function knownOfMany(sql: Sql, ids: readonly number[]): Promise<Map<number, Known & Compared>> {
  if (ids.length === 0) return new Map();
  const compared = await comparedOf(sql, ids);
  const [rows, outside] = await Promise.all([
    sql.rows<Pick<SupporterRecord, 'id' | 'middle' | 'suffix' | 'birthday'>>(
      'SELECT id, middle, suffix, birthday FROM supporter WHERE id IN (?)',
      [ids],
    ),
    sql.rows<{ id: number; number: string }>(
      `SELECT supporter_id AS id, CONCAT(source, '|', called) AS number FROM known_as
       WHERE supporter_id IN (?) AND called NOT LIKE '=%'`, // known_as_supporter (supporter_id)
      [ids],
    ),
  ]);
  return new Map(
    compared.flatMap((one) => {
      const row = rows.find(({ id }) => id === one.id);
      const numbers = outside.filter(({ id }) => id === one.id).map(({ number }) => number);
      if (!row) return [];
      const { middle, suffix, birthday } = row;
      return [[one.id, { ...one, middle, suffix, birthday, outside: numbers }] as const];
    }),
  );
}

/**
 * What is compared of each of the supporters, wherever they are; those that there are not are missing. Who is known by
 * name alone has no ways: that is for those who need not be told from others.
 */
export async function comparedOf(sql: Sql, ids: readonly number[], nameOnly = false): Promise<Compared[]> {
  const found: Compared[] = [];
  const read = (slice: readonly number[]) => {
    // email_supporter, phone_supporter (supporter_id), address_facts (supporter_id, ...)
    const of = <T>(columns: string, table: string) =>
      nameOnly
        ? Promise.resolve([])
        : sql.rows<T & { supporter_id: number }>(
            `SELECT supporter_id, ${columns} FROM ${table} WHERE supporter_id IN (?)`,
            [slice],
          );
    return Promise.all([
      sql.rows<Named>(
        `SELECT s.id, s.state, s.former_last, s.nickname, s.merged_into, ${nameColumns('s')} FROM supporter s WHERE s.id IN (?)`,
        [slice],
      ),
      of<{ address: string }>('address', 'email').then(bySupporter),
      of<{ number: string }>('number', 'phone').then(bySupporter),
      of<{ street: string; postal: string; city: string }>('street, postal, city', 'address').then(bySupporter),
    ]);
  };
  await eachChunk(ids, 2000, read, ([rows, emails, phones, addresses]) => {
    for (const row of rows) {
      const { id, kind, first, last, former_last: formerLast, nickname, organization, state } = row;
      found.push({
        mergedInto: row.merged_into,
        ...{ id, state, name: displayName(row), kind, first, last, formerLast, nickname, organization },
        emails: (emails.get(id) ?? []).map(({ address }) => address),
        phones: (phones.get(id) ?? []).map(({ number }) => number),
        addresses: addresses.get(id) ?? [],
      });
    }
  });
  return found;
}
