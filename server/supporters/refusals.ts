import { createHash } from 'node:crypto';
import type { IsoDate } from '@tallystick/core/dates';
import * as contract from '@tallystick/contract/supporters';
import { isFinal } from '../platform/changes.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { day, maybe, ref, table, text } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    public: true;
    lift: true;
  }
}
isFinal('public', 'they asked for it themselves; lift the refusal on the record if they take it back');
isFinal('lift', 'it was lifted for a reason; they can refuse again by any e-mail');

/**
 * Mailboxes that want no e-mail but receipts, as their owner asked by link. A refusal holds for every record with the
 * address, also those that are added later, until it is lifted. Its mailbox is kept as a hash, so that it holds on when
 * the address itself is erased.
 */
export const RefusalTable = table(
  'refusal',
  {
    area: 'supporters',
    owner: 'supporter_id',
    undo: 'rows',
    merging: 'move',
    topics: ['record'],
    called: ({ address }) => `Refusal of e-mail to ${String(address || 'a mailbox')}`,
    erasing: { blank: { address: '' } },
  },
  {
    /** The record whose message the refusal came from. */
    supporter_id: ref,
    address: text(254),
    mailbox: text(64),
    since: day.says('Refused since'),
    source: text(120).says('Source of the refusal'),
    lifted_on: maybe(day).says('Lifted on'),
    lifted_by: text(120),
    lifted_why: text(300).says('Why it was lifted'),
  },
);
type RefusalRecord = RowOf<typeof RefusalTable>;

const mailboxOf = (address: string): string => createHash('sha256').update(address.trim().toLowerCase()).digest('hex');

/** Whose mailbox refuses e-mail: each refusal in force beside each record that had the address when it came, or has it now. */
export const REFUSERS = `(SELECT e.supporter_id, r.id, e.address, r.since, r.source FROM email e
  JOIN refusal r ON r.mailbox = SHA2(LOWER(e.address), 256) AND r.lifted_on IS NULL
  WHERE e.valid_to IS NULL OR e.valid_to >= r.since)`;

/** Notes that a mailbox wants no more e-mail, as its owner asked; asking twice is asking once. */
export async function refuseMailbox(
  tx: Transaction,
  { supporterId, address, since, source }: { supporterId: number; address: string; since: IsoDate; source: string },
): Promise<void> {
  const mailbox = mailboxOf(address);
  const known = await tx.sql.rows('SELECT id FROM refusal WHERE mailbox = ? AND lifted_on IS NULL FOR UPDATE', [
    mailbox,
  ]);
  if (known.length > 0) return;
  await tx.insert(RefusalTable, {
    supporter_id: supporterId,
    address: address.trim().toLowerCase(),
    ...{ mailbox, since, source, lifted_on: null, lifted_by: '', lifted_why: '' },
  });
  tx.touch(await holdersOf(tx.sql, { address, mailbox }));
}

async function holdersOf(
  sql: Sql,
  { address, mailbox }: Pick<RefusalRecord, 'address' | 'mailbox'>,
): Promise<number[]> {
  // email_address (address); where that was erased, every address is looked at
  const rows = await sql.rows<{ id: number }>(
    `SELECT DISTINCT supporter_id AS id FROM email WHERE ${address === '' ? 'SHA2(LOWER(address), 256)' : 'address'} = ?`,
    [address === '' ? mailbox : address],
  );
  return rows.map((row) => row.id);
}

export class Refusals {
  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Ends a refusal for all records with its mailbox; the reason is kept with it. */
  async lift(actor: Actor, id: number, reason: string) {
    const { today } = await this.settings.calendar();
    let summary = '';
    return this.changes.write(actor, { kind: 'lift', summary: () => summary }, async (tx) => {
      const refusal = (await tx.lock(RefusalTable, [id])).get(id) as RefusalRecord | undefined;
      if (!refusal) throw notFound('This refusal');
      if (refusal.lifted_on !== null) throw new Problem(409, 'lifted-already', 'This refusal is lifted already.');
      summary = `Lifted the refusal of e-mail: ${reason}`;
      await tx.update(RefusalTable, id, { lifted_on: today, lifted_by: actor.name, lifted_why: reason });
      tx.touch(await holdersOf(tx.sql, refusal));
    });
  }

  serve(http: Http): void {
    http.on(contract.liftRefusal, async ({ actor, params, body }) => {
      const { revision } = await this.lift(actor, params.id, body.reason);
      return { revision };
    });
  }
}

/** The refusals in force of the mailboxes of a supporter. */
export const refusalsOf = (
  sql: Sql,
  supporterId: number,
): Promise<Pick<RefusalRecord, 'id' | 'address' | 'since' | 'source'>[]> =>
  sql.rows(`SELECT DISTINCT id, address, since, source FROM ${REFUSERS} x WHERE supporter_id = ? ORDER BY since, id`, [
    supporterId,
  ]);
