import { addressOn, wayOn, waysOn } from '@tallystick/core/contact';
import type { Way, WaysOn } from '@tallystick/core/contact';
import type { IsoDate } from '@tallystick/core/dates';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { AddressRecord, EmailRecord, PhoneRecord, WayRecord } from './supporter.entity.ts';

type Shared = Pick<EmailRecord, 'preferred' | 'valid_from' | 'valid_to' | 'bad_on'>;
/** A way as it is stored, with what the rule of the day asks of it. */
export type Stored<T extends Shared> = Omit<T, 'preferred'> & Way;
export type StoredAddress = Stored<AddressRecord> & { seasonFrom: string | null; seasonTo: string | null };
export type Ways = WaysOn<Stored<EmailRecord>, Stored<PhoneRecord>, StoredAddress>;

/**
 * A row that was just read as a way. It is made one where it stands, part by part: for a file there are a hundred thousand,
 * and an object that is put together from others is ten times as slow to make.
 */
function way<T extends Shared>(row: T): Stored<T> {
  const stored = row as unknown as { preferred: boolean } & Omit<Way, 'preferred'>;
  stored.preferred = row.preferred === 1;
  stored.validFrom = row.valid_from;
  stored.validTo = row.valid_to;
  stored.badOn = row.bad_on;
  return stored as unknown as Stored<T>;
}
function addressWay(row: AddressRecord): StoredAddress {
  const stored = way(row) as StoredAddress;
  stored.seasonFrom = row.season_from;
  stored.seasonTo = row.season_to;
  return stored;
}

export const NO_WAYS: Ways = {
  ...{ email: null, phone: null, address: null },
  lost: { email: null, phone: null, address: null },
};

/** By which ways each of the supporters is reached on a day. */
export async function waysOf(sql: Sql, ids: readonly number[], today: IsoDate): Promise<Map<number, Ways>> {
  const all = await storedOf(sql, ids);
  return new Map([...all].map(([id, ways]) => [id, waysOn(ways, today)]));
}

/** Every way that can be used on a day, the one that is used first, and it alone preferred. */
export async function usableOf(sql: Sql, ids: readonly number[], today: IsoDate) {
  const all = await storedOf(sql, ids);
  return new Map(
    [...all].map(([id, ways]) => {
      const usable = <T extends { id: number }>(each: readonly T[], on: (one: readonly T[]) => T | null): T[] => {
        const best = on(each);
        return each
          .filter((one) => on([one]) !== null)
          .map((one) => ({ ...one, preferred: one.id === best?.id }))
          .sort((a, b) => Number(b.preferred) - Number(a.preferred));
      };
      return [
        id,
        {
          emails: usable(ways.emails, (some) => wayOn(some, today)),
          phones: usable(ways.phones, (some) => wayOn(some, today)),
          addresses: usable(ways.addresses, (some) => addressOn(some, today)),
        },
      ];
    }),
  );
}

/** Rows of some supporters as they were once, from those that are there now; as they are where nothing is said. */
export type AsThen = <R extends { id: number }>(
  table: string,
  now: readonly R[],
  of: readonly number[],
) => Promise<readonly R[]>;
const asNow: AsThen = (_table, now) => Promise.resolve(now);

export const WAY_TABLES = ['email', 'phone', 'address'] as const;
type WayTable = (typeof WAY_TABLES)[number];

/** Every way of a supporter, in the order that they came. */
export interface StoredWays {
  emails: Stored<EmailRecord>[];
  phones: Stored<PhoneRecord>[];
  addresses: StoredAddress[];
}

/** A row of a way as one statement reads them all: `at` is its address, number or street; what it has none of is empty. */
type WayRow = WayRecord & Pick<AddressRecord, InPlace> & { way: WayTable; at: string };
type InPlace = 'city' | 'region' | 'postal' | 'country' | 'season_from' | 'season_to';
const SHARED = 'id, version, supporter_id, label, preferred, valid_from, valid_to, bad_on, bad_reason';
const NOWHERE = `'' AS city, '' AS region, '' AS postal, '' AS country, NULL AS season_from, NULL AS season_to`;
const WAYS_SQL: Record<WayTable, string> = {
  // email_supporter, phone_supporter (supporter_id), address_facts (supporter_id, ...)
  email: `SELECT 'email' AS way, ${SHARED}, address AS at, ${NOWHERE} FROM email WHERE supporter_id IN (?)`,
  phone: `SELECT 'phone' AS way, ${SHARED}, number AS at, ${NOWHERE} FROM phone WHERE supporter_id IN (?)`,
  address: `SELECT 'address' AS way, ${SHARED}, street AS at, city, region, postal, country, season_from, season_to
    FROM address WHERE supporter_id IN (?)`,
};
/** What a row has in common with those of the other ways. */
const sharedOf = (row: WayRow): WayRecord => ({
  id: row.id,
  version: row.version,
  supporter_id: row.supporter_id,
  label: row.label,
  preferred: row.preferred,
  valid_from: row.valid_from,
  valid_to: row.valid_to,
  bad_on: row.bad_on,
  bad_reason: row.bad_reason,
});

/** The rows of every way of some supporters, former and bad ones too, in the order that they came, in one question. */
export async function wayRows(sql: Sql, ids: readonly number[], only: readonly WayTable[] = WAY_TABLES) {
  const rows: { email: EmailRecord[]; phone: PhoneRecord[]; address: AddressRecord[] } = {
    ...{ email: [], phone: [], address: [] },
  };
  if (only.length === 0) return rows;
  const asked = await sql.rows<WayRow>(
    only.map((table) => WAYS_SQL[table]).join(' UNION ALL '),
    only.map(() => ids),
  );
  for (const row of asked) {
    const shared = sharedOf(row);
    if (row.way === 'email') rows.email.push(Object.assign(shared, { address: row.at }));
    else if (row.way === 'phone') rows.phone.push(Object.assign(shared, { number: row.at }));
    else {
      const { at: street, city, region, postal, country, season_from, season_to } = row;
      rows.address.push(Object.assign(shared, { street, city, region, postal, country, season_from, season_to }));
    }
  }
  for (const table of only) rows[table].sort((a, b) => a.id - b.id);
  return rows;
}

/** Every way of each of the supporters, former and bad ones too; of the others but those of `only` there are none. */
export async function storedOf(
  sql: Sql,
  ids: readonly number[],
  asThen = asNow,
  only: readonly WayTable[] = WAY_TABLES,
) {
  const found = new Map<number, StoredWays>();
  for (const slice of chunks(ids, 2000)) {
    const now = await wayRows(sql, slice, only);
    const then = async <R extends { id: number }>(table: WayTable, rows: readonly R[]): Promise<readonly R[]> =>
      only.includes(table) ? asThen(table, rows, slice) : rows;
    const [emails, phones, addresses] = await Promise.all([
      then('email', now.email),
      then('phone', now.phone),
      then('address', now.address),
    ]);
    const [emailsOf, phonesOf, addressesOf] = [bySupporter(emails), bySupporter(phones), bySupporter(addresses)];
    for (const id of slice)
      found.set(id, {
        emails: (emailsOf.get(id) ?? []).map(way),
        phones: (phonesOf.get(id) ?? []).map(way),
        addresses: (addressesOf.get(id) ?? []).map(addressWay),
      });
  }
  return found;
}

export function bySupporter<T extends { supporter_id: number }>(rows: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const row of rows) {
    const group = groups.get(row.supporter_id);
    if (group) group.push(row);
    else groups.set(row.supporter_id, [row]);
  }
  return groups;
}
