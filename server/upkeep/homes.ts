import { addressKey, postalLines } from '@tallystick/core/contact';
import { displayName, sortName, supporterParts } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import type { When } from '@tallystick/core/upkeep';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import { givenBy } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import {
  deceasedAmong,
  homesOf,
  ledTo,
  lockSupporter,
  namesOf,
  NO_WAYS,
  primaryOf,
  SupporterTable,
  waysOf,
  refused,
} from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';

/** Who shares a home with somebody, and where each of them lives. */
export async function lookAt(
  sql: Sql,
  asked: number,
  { today, home: country }: When,
): Promise<z.infer<typeof contract.lookAtHome.response>> {
  // The number of who was merged leads to whom they are now.
  const id = (await ledTo(sql, [asked])).get(asked) ?? asked;
  const found = (await homesOf(sql, [id])).get(id);
  const ids = found ? [found.id, ...found.people] : [id];
  const [names, ways, given, died, primary] = await Promise.all([
    namesOf(sql, ids),
    waysOf(sql, ids, today),
    givenBy(sql, ids),
    deceasedAmong(sql, ids),
    found ? primaryOf(sql, found.id) : null,
  ]);
  const nameOf = new Map(names.map((row) => [row.id, row]));
  if (!nameOf.has(id)) throw notFound(`Supporter ${supporterNumber(id)}`);
  const addressOf = (one: number) => (ways.get(one) ?? NO_WAYS).address;
  const own = addressOf(id);
  const home = found && nameOf.get(found.id);
  return {
    home: home
      ? {
          ...{ id: home.id, name: displayName(home) },
          ...{ gifts: given.get(home.id)?.gifts ?? 0, cents: given.get(home.id)?.cents ?? 0 },
        }
      : null,
    people: ids.flatMap((one) => {
      const name = nameOf.get(one);
      const address = addressOf(one);
      if (!name) return [];
      return [
        {
          ...{ id: one, number: supporterNumber(one), name: displayName(name), kind: name.kind },
          ...{ deceased: died.has(one), primary: primary === one },
          address: address ? postalLines(address, country).join(', ') : '',
          same: one === id || (own !== null && address !== null && addressKey(own) === addressKey(address)),
        },
      ];
    }),
  };
}

/** Locks a household. */
export async function lockHome(tx: Transaction, id: number): Promise<SupporterRecord> {
  const row = await lockSupporter(tx, id, supporterNumber(id));
  if (row.kind !== 'household') throw refused('homeId', `${displayName(row)} is not a household.`);
  return row;
}

/** Adds a household of a name, with nobody in it yet. */
export async function newHome(tx: Transaction, organization: string): Promise<SupporterRecord> {
  const parts = supporterParts({ kind: 'household', organization });
  const id = await tx.insert(SupporterTable, { ...parts, sort_name: sortName(parts) });
  return lockSupporter(tx, id, supporterNumber(id));
}
