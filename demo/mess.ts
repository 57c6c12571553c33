import { addDays } from '@tallystick/core/dates';
import { CustomFieldTable, SupporterFieldTable } from '@tallystick/server/settings/index';
import {
  AddressTable,
  EmailTable,
  PhoneTable,
  RelationTable,
  SupporterTable,
  SupporterTagTable,
  TagTable,
  TaskTable,
} from '@tallystick/server/supporters/index';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { kept } from '@tallystick/core/fields';
import { Chance } from './random.ts';
import type { DemoSupporter } from './supporters.ts';

/** Every so-manieth home has members who moved, and nobody said so. */
const MOVED_HOMES = 14;

/** What makes records unclean, a few of each kind, as they come to be over the years. */
export async function putMess(
  tx: Transaction,
  supporters: readonly DemoSupporter[],
  ids: readonly number[],
  today: string,
): Promise<void> {
  const chance = new Chance(19);
  await shareAddresses(tx);
  const some = (many: number, is: (supporter: DemoSupporter) => boolean): number[] => {
    const all = ids.filter((_, index) => {
      const supporter = supporters[index];
      return (
        supporter !== undefined && supporter.name.kind === 'person' && supporter.diedDaysAgo === null && is(supporter)
      );
    });
    return Array.from({ length: Math.min(many, all.length) }, () => all[chance.whole(0, all.length - 1)] ?? 0);
  };
  const reached = (one: DemoSupporter): boolean => one.email !== null && !one.emailBounced && !one.noEmail;
  await change(tx, EmailTable, some(5, reached), (row) => ({
    address: String(row['address']).replace(
      /\.(com|org|net)$/,
      (end) => ({ '.com': '.con', '.org': '.ogr', '.net': '.nte' })[end] ?? end,
    ),
  }));
  await change(
    tx,
    PhoneTable,
    some(7, ({ phone }) => phone !== null),
    (row) => ({ number: String(row['number']).replace(/^\(\d{3}\) /, '') }),
  );
  const housed = ({ address }: DemoSupporter): boolean => address !== null;
  await change(
    tx,
    AddressTable,
    some(6, (one) => housed(one) && one.address?.region === 'NV'),
    () => ({ region: 'CA' }),
  );
  await change(tx, AddressTable, some(5, housed), () => ({ region: '' }));
  await change(tx, AddressTable, some(3, housed), () => ({ street: '' }));
  await change(tx, AddressTable, some(8, housed), (row) => ({
    street: String(row['street']).toUpperCase(),
    city: String(row['city']).toUpperCase(),
  }));
  await change(tx, AddressTable, some(6, housed), () => ({ bad_on: addDays(today, -40), bad_reason: 'returned' }));
  for (const id of some(3, () => true))
    await tx.update(SupporterTable, id, { birthday: `20${chance.whole(58, 68)}-04-17` });
  await putHandwritten(
    tx,
    some(4, ({ nickname }) => nickname === ''),
  );
  await putTagsAndValues(
    tx,
    some(3, () => true),
  );
  const dead = ids.filter((_, index) => supporters[index]?.diedDaysAgo !== null).slice(0, 2);
  await tx.insertAll(
    TaskTable,
    dead.map((id) => ({
      ...{ supporter_id: id, title: 'Invite to the van’s first evening', due: addDays(today, 33), owner_id: null },
      ...{ repeats: 'never' as const, repeat_day: 1, done_on: null, done_by: '' },
    })),
  );
  // Nobody ever wrote down what these are to each other.
  const ties = await tx.sql.rows<{ id: number }>(
    `SELECT r.id FROM relation r JOIN relation_kind k ON k.id = r.kind_id AND k.code = 'spouse' ORDER BY r.id DESC LIMIT 4`,
  );
  await tx.removeAll(
    RelationTable,
    ties.map(({ id }) => id),
  );
}

/** Those who share a home have its address, but for some homes. */
async function shareAddresses(tx: Transaction): Promise<void> {
  const homes = await tx.sql.rows<{
    home: number;
    id: number;
    street: string;
    city: string;
    region: string;
    postal: string;
  }>(
    `SELECT m.household_id AS home, a.id, h.street, h.city, h.region, h.postal FROM supporter m
     JOIN address a ON a.supporter_id = m.id AND a.preferred = 1 JOIN address h ON h.supporter_id = m.household_id AND h.preferred = 1
     ORDER BY m.household_id, a.id`,
  );
  const all = [...new Set(homes.map(({ home }) => home))];
  for (const { home, id, ...address } of homes)
    if (all.indexOf(home) % MOVED_HOMES !== 0) await tx.update(AddressTable, id, address);
}

/** Changes the way that some supporters use. */
async function change(
  tx: Transaction,
  table: typeof EmailTable | typeof PhoneTable | typeof AddressTable,
  ids: readonly number[],
  better: (row: Record<string, unknown>) => Record<string, string | null>,
): Promise<void> {
  const rows = await tx.sql.rows<{ id: number } & Record<string, unknown>>(
    `SELECT * FROM ${table.name} WHERE supporter_id IN (?) AND preferred = 1 ORDER BY id`,
    [[0, ...ids]],
  );
  for (const row of rows) await tx.rewrite(table, [row.id], better(row));
}

/** Salutations by hand for names that people had before. */
async function putHandwritten(tx: Transaction, ids: readonly number[]): Promise<void> {
  for (const row of (await tx.lock(SupporterTable, [...new Set(ids)])).values()) {
    const written = { text: `all the ${row.last}s`, instead: `${row.first} and family` };
    const addressing = { salutationInformal: written };
    await tx.update(SupporterTable, row.id, { addressing: JSON.stringify(addressing) });
  }
}

/** A tag that somebody mistyped, and values from before a field had its choices. */
async function putTagsAndValues(tx: Transaction, [one]: readonly number[]): Promise<void> {
  if (one === undefined) return;
  const tag = await tx.insert(TagTable, { name: 'Voluntere' });
  await tx.insert(SupporterTagTable, { supporter_id: one, tag_id: tag, source: 'hand' });
  const [field] = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM ${CustomFieldTable.name} WHERE kind = 'one' ORDER BY id LIMIT 1`,
  );
  if (!field) return;
  const had = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM ${SupporterFieldTable.name} WHERE field_id = ? ORDER BY id LIMIT 3`,
    [field.id],
  );
  for (const [at, { id }] of had.entries())
    await tx.update(SupporterFieldTable, id, { value: kept(['Refracter', 'binoculars', 'Cardboard tube'][at] ?? '') });
}
