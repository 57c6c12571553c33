import type { Row } from '@tallystick/core/changes';
import { normalEmail, sortName } from '@tallystick/core/names';
import type { SupporterDraft } from '@tallystick/contract/supporters';
import type { Transaction } from '../platform/transaction.ts';

/** The row of a supporter as a draft has it. */
export function supporterRow(draft: SupporterDraft): Row {
  const { kind, prefix, first, middle, last, suffix, organization } = draft;
  return {
    kind,
    prefix,
    first,
    middle,
    last,
    suffix,
    organization,
    sort_name: sortName(draft),
    no_email: draft.noEmail ? 1 : 0,
    deceased: draft.deceased ? 1 : 0,
  };
}

interface Way {
  id?: number | undefined;
  preferred: boolean;
}

/** Of several ways of one kind exactly one is preferred: the first marked, or else the first. */
function onePreferred<T extends Way>(ways: readonly T[]): T[] {
  const chosen = Math.max(
    0,
    ways.findIndex((way) => way.preferred),
  );
  return ways.map((way, index) => ({ ...way, preferred: index === chosen }));
}

/** The rows of each contact table that a draft asks for, `id` 0 for new ones. */
export function contactRows(draft: SupporterDraft): Record<'email' | 'phone' | 'address', (Row & { id: number })[]> {
  const preferred = (way: Way): number => (way.preferred ? 1 : 0);
  return {
    email: onePreferred(draft.emails).map((way) => ({
      id: way.id ?? 0,
      address: normalEmail(way.address) ?? way.address,
      label: way.label,
      preferred: preferred(way),
    })),
    phone: onePreferred(draft.phones).map((way) => ({
      id: way.id ?? 0,
      number: way.number,
      label: way.label,
      preferred: preferred(way),
    })),
    address: onePreferred(draft.addresses).map((way) => ({
      id: way.id ?? 0,
      street: way.street,
      city: way.city,
      region: way.region,
      postal: way.postal,
      country: way.country,
      label: way.label,
      preferred: preferred(way),
    })),
  };
}

/** Makes the rows of one contact table what `wanted` says: inserts, updates and removes as little as needed. */
export async function syncContact(
  tx: Transaction,
  table: 'email' | 'phone' | 'address',
  supporterId: number,
  existing: readonly { id: number }[],
  wanted: readonly (Row & { id: number })[],
): Promise<void> {
  const known = new Set(existing.map((row) => row.id));
  const keep = new Set(wanted.map((row) => row.id));
  const gone = [...known].filter((id) => !keep.has(id));
  if (gone.length > 0) await tx.removeAll(table, gone);
  for (const { id, ...row } of wanted) {
    if (known.has(id)) await tx.update(table, id, row);
    else await tx.insert(table, { supporter_id: supporterId, ...row });
  }
}

/**
 * The ids of tags by the names given, making those that do not exist yet. Names are compared without regard to
 * case, as the table's collation does.
 */
export async function tagIds(tx: Transaction, names: readonly string[]): Promise<Map<string, number>> {
  const plain = (name: string): string => name.trim().toLowerCase();
  const wanted = new Map<string, string>();
  for (const name of names) if (plain(name) !== '' && !wanted.has(plain(name))) wanted.set(plain(name), name.trim());
  if (wanted.size === 0) return new Map();
  const found = await tx.sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag WHERE name IN (?)', [
    [...wanted.values()],
  ]);
  const ids = new Map(found.map((tag) => [plain(tag.name), tag.id]));
  for (const [key, name] of wanted) if (!ids.has(key)) ids.set(key, await tx.insert('tag', { name }));
  return new Map(names.flatMap((name) => (ids.has(plain(name)) ? [[name, ids.get(plain(name)) ?? 0]] : [])));
}
