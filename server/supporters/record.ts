import type { Row } from '@tallystick/core/changes';
import { withOnePreferred } from '@tallystick/core/contact';
import type { Way } from '@tallystick/core/contact';
import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { placeKept } from '@tallystick/core/regions';
import { addressing, displayName, fold, FORMS, sortName } from '@tallystick/core/names';
import type { AddressedParty, AddressingRules, Form, Overrides, NameParts } from '@tallystick/core/names';
import type { SupporterDraft } from '@tallystick/contract/supporters';
import type { Actor } from '../platform/changes.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Wish } from '@tallystick/core/wishes';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { isKept } from './kept-tags.ts';
import type { WayRecord, WishRecord, SupporterRecord } from './supporter.entity.ts';
import {
  SupporterTable,
  SupporterTagTable,
  TagTable,
  WishTable,
  AddressTable,
  EmailTable,
  PhoneTable,
} from './supporter.entity.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import type { RowOf } from '../platform/tables.ts';

/** What of a supporter's row is not drafted: it has acts of its own. */
type Apart = 'id' | 'version' | 'addressing' | 'household_id' | 'primary_id' | 'state' | 'merged_into';

/** A supporter's row as a draft has it; a column that is forgotten here does not compile. */
export function supporterRow(draft: SupporterDraft): Omit<RowOf<typeof SupporterTable>, Apart> {
  const { kind, prefix, first, middle, last, suffix, nickname, formerLast, organization, orgKind, birthday } = draft;
  return {
    kind,
    prefix,
    first,
    middle,
    last,
    suffix,
    nickname,
    former_last: formerLast,
    organization,
    org_kind: orgKind,
    birthday,
    sort_name: sortName(draft),
  };
}

type Drafted = Way & { id?: number | undefined; label: string; badReason: string };
const wayRow = (way: Drafted) => ({
  id: way.id ?? 0,
  label: way.label,
  preferred: way.preferred ? 1 : 0,
  valid_from: way.validFrom,
  valid_to: way.validTo,
  bad_on: way.badOn,
  bad_reason: way.badOn === null ? '' : way.badReason,
});

/** The day, and the country (ISO code) that addresses without one are in. */
interface Where {
  today: IsoDate;
  home: string;
}

/** The rows of each contact table that a draft asks for, `id` 0 for new ones; `preferred` are the ids preferred now. */
export function contactRows(
  draft: SupporterDraft,
  { today, home }: Where,
  preferred: Record<'email' | 'phone' | 'address', number | null> = { email: null, phone: null, address: null },
): Record<'email' | 'phone' | 'address', (Row & { id: number })[]> {
  const yesterday = addDays(today, -1);
  return {
    email: withOnePreferred(draft.emails, preferred.email, today, yesterday).map((way) => ({
      ...wayRow(way),
      address: way.address,
    })),
    phone: withOnePreferred(draft.phones, preferred.phone, today, yesterday).map((way) => ({
      ...wayRow(way),
      number: way.number,
    })),
    address: withOnePreferred(draft.addresses, preferred.address, today, yesterday).map((way) => ({
      ...wayRow(way),
      street: way.street,
      city: way.city,
      postal: way.postal,
      ...placeKept({ region: way.region, country: way.country }, home),
      season_from: way.seasonFrom,
      season_to: way.seasonTo,
    })),
  };
}

/** Makes the ways of a supporter what the draft says: inserts, updates and removes as little as needed. */
/** The tables of the ways to reach someone, by kind. */
export const WAYS = { email: EmailTable, phone: PhoneTable, address: AddressTable } as const;

export async function syncContact(tx: Transaction, id: number, draft: SupporterDraft, where: Where): Promise<void> {
  const existing = { email: [] as WayRecord[], phone: [] as WayRecord[], address: [] as WayRecord[] };
  const tables = ['email', 'phone', 'address'] as const;
  for (const table of tables)
    existing[table] = await tx.sql.rows<WayRecord>(
      `SELECT * FROM ${table} WHERE supporter_id = ? ORDER BY id FOR UPDATE`,
      [id],
    );
  const preferred = (table: (typeof tables)[number]): number | null =>
    existing[table].find((way) => way.preferred === 1)?.id ?? null;
  const wanted = contactRows(draft, where, {
    email: preferred('email'),
    phone: preferred('phone'),
    address: preferred('address'),
  });
  for (const table of tables) {
    const known = new Set(existing[table].map((row) => row.id));
    const keep = new Set(wanted[table].map((row) => row.id));
    await tx.removeAll(
      WAYS[table],
      [...known].filter((one) => !keep.has(one)),
    );
    for (const { id: wayId, ...row } of wanted[table]) {
      if (known.has(wayId)) await tx.rewrite(WAYS[table], [wayId], row);
      else await tx.insertRows(WAYS[table], [{ supporter_id: id, ...row }]);
    }
  }
}

/** Makes a supporter's wishes what is asked; those that stay as they were keep who set them. */
export async function syncWishes(
  tx: Transaction,
  actor: Actor,
  id: number,
  wishes: NonNullable<SupporterDraft['wishes']>,
  today: IsoDate,
): Promise<void> {
  const had = await tx.sql.rows<WishRecord>('SELECT * FROM wish WHERE supporter_id = ? FOR UPDATE', [id]);
  const wanted = new Map(wishes.map((wish) => [wish.kind, wish]));
  await tx.removeAll(
    WishTable,
    had.filter((row) => !wanted.has(row.kind)).map((row) => row.id),
  );
  for (const [kind, wish] of wanted) {
    const row = had.find((one) => one.kind === kind);
    const since = wish.since ?? row?.since ?? today;
    const next = { since, source: wish.source || row?.source || 'by hand', happened_on: wish.happenedOn };
    if (!row) await tx.insert(WishTable, { supporter_id: id, kind, ...next, set_by: actor.name });
    else if (row.since !== next.since || row.source !== next.source || row.happened_on !== next.happened_on)
      await tx.update(WishTable, row.id, { ...next, set_by: actor.name });
  }
}

/** What somebody wishes, or what is so of them. */
export const wishesOf = async (sql: Sql, id: number): Promise<Wish[]> =>
  (await sql.rows<WishRecord>('SELECT * FROM wish WHERE supporter_id = ? ORDER BY id', [id])).map(({ kind }) => kind);

/** Marks an address as one that bounced on every record that has it. */
export async function noteBounce(tx: Transaction, address: string, on: IsoDate): Promise<void> {
  // email_address (address)
  const emails = await tx.sql.rows<{ id: number }>(
    'SELECT id FROM email WHERE address = ? AND bad_on IS NULL FOR UPDATE',
    [address],
  );
  for (const { id } of emails) await tx.update(EmailTable, id, { bad_on: on, bad_reason: 'bounced' });
}

/** Notes that somebody died, on a day where it is known, and who said so; answers whether it was noted already. */
export async function noteDeceased(
  tx: Transaction,
  actor: Actor,
  id: number,
  { today, on, source }: { today: IsoDate; on: IsoDate | null; source: string },
): Promise<boolean> {
  // wish_pair (supporter_id, kind)
  const [known] = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM wish WHERE supporter_id = ? AND kind = 'deceased' FOR UPDATE`,
    [id],
  );
  if (known) await tx.update(WishTable, known.id, { source, ...(on === null ? {} : { happened_on: on }) });
  else
    await tx.insert(WishTable, {
      ...{ supporter_id: id, kind: 'deceased', since: today, source, set_by: actor.name, happened_on: on },
    });
  return known !== undefined;
}

/** Makes a supporter's tags what is asked, by name; those put on by something else keep their source, those that a segment keeps stay. */
export async function syncTags(tx: Transaction, id: number, names: readonly string[]): Promise<void> {
  const tags = new Set((await tagIds(tx, names)).values());
  const had = await tx.sql.rows<{ id: number; tag_id: number; source: string }>(
    'SELECT id, tag_id, source FROM supporter_tag WHERE supporter_id = ? FOR UPDATE',
    [id],
  );
  await tx.removeAll(
    SupporterTagTable,
    had.filter((tag) => !tags.has(tag.tag_id) && !isKept(tag.source)).map((tag) => tag.id),
  );
  const has = new Set(had.map((tag) => tag.tag_id));
  await tx.insertAll(
    SupporterTagTable,
    [...tags].filter((tag) => !has.has(tag)).map((tag) => ({ supporter_id: id, tag_id: tag, source: 'hand' })),
  );
}

/** The overrides to keep: each with what the rules say now, so that a later change of the name can be noticed. */
export function overridesOf(
  asked: Partial<Record<Form, string>>,
  party: AddressedParty,
  rules: AddressingRules,
  before: Overrides,
): string | null {
  const computed = addressing(party, rules);
  const kept: Overrides = { ...before };
  for (const form of Object.keys(FORMS) as Form[]) {
    const text = asked[form];
    if (text === undefined) continue;
    if (text === '') delete kept[form];
    else if (text === before[form]?.text) continue;
    else kept[form] = { text, instead: computed[form] };
  }
  return Object.keys(kept).length === 0 ? null : JSON.stringify(kept);
}

/**
 * Locks a supporter's row to change something about them; refuses one that is gone (404), or in the trash (409), from
 * where it is restored first.
 */
export async function lockSupporter(tx: Transaction, id: number, what: string): Promise<SupporterRecord> {
  const row = (await tx.lock(SupporterTable, [id])).get(id);
  if (!row || row.state === 'erased') throw notFound(what);
  if (row.merged_into !== null) throw mergedAway(id, row.merged_into);
  if (row.state === 'trash') throw new Problem(409, 'in-trash', `${what} is in the trash; restore the record first.`);
  return row;
}

/** The refusal of a number that leads to another record by now, which is named for people and for programs. */
export function mergedAway(id: number, into: number): Problem {
  const message = `${supporterNumber(id)} was merged into ${supporterNumber(into)}; use that record. Nothing was saved.`;
  return new Problem(409, 'merged', message, { details: { mergedInto: into } });
}

export function nameOf(row: NameParts): string {
  return displayName(row);
}
/**
 * The ids of tags by the names given, making those that do not exist yet. Names are the same where the database holds
 * them to be: whatever their case and accents.
 */
export async function tagIds(tx: Transaction, names: readonly string[]): Promise<Map<string, number>> {
  const wanted = [...new Set(names.map((name) => name.trim()))].filter(Boolean);
  const ids = new Map<string, number>();
  for (const slice of chunks(wanted))
    for (const { name, id } of await tx.sql.rows<{ name: string; id: number }>(
      `SELECT w.name, t.id FROM (${slice.map(() => 'SELECT ? AS name').join(' UNION ALL ')}) w JOIN tag t ON t.name = w.name`,
      slice,
    ))
      ids.set(name, id);
  for (const name of wanted) {
    if (ids.has(name)) continue;
    // One that was made just now may be the same but for an accent.
    const [same] = await tx.sql.rows<{ id: number }>('SELECT id FROM tag WHERE name = ?', [name]);
    ids.set(name, same?.id ?? (await tx.insert(TagTable, { name })));
  }
  return new Map(names.flatMap((name) => (ids.has(name.trim()) ? [[name, ids.get(name.trim()) ?? 0]] : [])));
}

/** Puts tags on many supporters, by name; who has one already keeps it as it is. */
export async function addTags(
  tx: Transaction,
  wanted: readonly { supporterId: number; tag: string }[],
  source: 'intake' | 'hand',
): Promise<void> {
  const ids = await tagIds(
    tx,
    wanted.map(({ tag }) => tag),
  );
  const pairs = new Map(
    wanted.map(({ supporterId, tag }) => [
      `${supporterId}:${ids.get(tag) ?? 0}`,
      { supporter_id: supporterId, tag_id: ids.get(tag) ?? 0 },
    ]),
  );
  for (const slice of chunks([...pairs.values()])) {
    // supporter_tag_pair (supporter_id, tag_id)
    const has = await tx.sql.rows<{ supporter_id: number; tag_id: number }>(
      'SELECT supporter_id, tag_id FROM supporter_tag WHERE supporter_id IN (?)',
      [slice.map((pair) => pair.supporter_id)],
    );
    const known = new Set(has.map((pair) => `${pair.supporter_id}:${pair.tag_id}`));
    await tx.insertAll(
      SupporterTagTable,
      slice.filter((pair) => !known.has(`${pair.supporter_id}:${pair.tag_id}`)).map((pair) => ({ ...pair, source })),
    );
  }
}

/** Takes tags off supporters by their names; what a segment keeps stays. */
export async function takeTags(
  tx: Transaction,
  wanted: readonly { supporterId: number; tag: string }[],
): Promise<void> {
  const tags = await tx.sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag WHERE name IN (?)', [
    ['', ...new Set(wanted.map(({ tag }) => tag))],
  ]);
  const idOf = new Map(tags.map(({ id, name }) => [fold(name), id]));
  const pairs = new Set(wanted.map(({ supporterId, tag }) => `${supporterId}:${idOf.get(fold(tag)) ?? 0}`));
  for (const slice of chunks([...new Set(wanted.map(({ supporterId }) => supporterId))])) {
    // supporter_tag_pair (supporter_id, tag_id)
    const has = await tx.sql.rows<{ id: number; supporter_id: number; tag_id: number; source: string }>(
      'SELECT id, supporter_id, tag_id, source FROM supporter_tag WHERE supporter_id IN (?)',
      [slice],
    );
    const gone = has.filter((row) => pairs.has(`${row.supporter_id}:${row.tag_id}`) && !isKept(row.source));
    await tx.removeAll(
      SupporterTagTable,
      gone.map(({ id }) => id),
    );
  }
}

/** A refusal of one field of a form. */
export const refused = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });

/** Refuses (400, at the field) a supporter who does not exist or is in the trash. Locks the record. */
export async function requireActive(tx: Transaction, supporterId: number, field = 'supporterId'): Promise<void> {
  const supporter = (await tx.lock(SupporterTable, [supporterId])).get(supporterId);
  const fault = (message: string): Problem => new Problem(400, 'invalid', message, { fields: { [field]: message } });
  if (!supporter) throw fault('There is no such supporter.');
  if (supporter.merged_into !== null) throw mergedAway(supporterId, supporter.merged_into);
  if (supporter.state !== 'active')
    throw fault(`${supporterNumber(supporterId)} is in the trash; restore the record first.`);
}
