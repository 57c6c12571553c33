import { giftNumber } from '@tallystick/core/gifts';
import { pledgeNumber } from '@tallystick/core/pledges';
import type { Actor, Changes } from '../platform/changes.ts';
import { one } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { payPledge, unpayPledge } from '../pledges/index.ts';
import type { Settings } from '../settings/index.ts';
import { newBatch } from './books.ts';
import { BatchTable, GiftTable } from './gift.entity.ts';
import type { GiftRecord } from './gift.entity.ts';

/** Where gifts belong that are recorded already: the pledge that they pay, and the batch that they lie in. */
export class Assignments {
  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Has what a gift does not pay on pledges yet pay one; refused with the field as when it is recorded. */
  async putToPledge(actor: Actor, id: number, pays: Parameters<typeof payPledge>[2]) {
    const summary = `Put ${giftNumber(id)} to ${pledgeNumber(pays.pledgeId)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const gift = await locked(tx, id);
      const free = gift.cents - (await paidBy(tx, id));
      if (gift.state !== 'kept' || free <= 0)
        throw new Problem(
          409,
          'nothing-left',
          gift.state === 'kept'
            ? `All of ${giftNumber(id)} pays pledges already; take it off the other first.`
            : `${giftNumber(id)} was taken back; it pays nothing.`,
        );
      await payPledge(tx, { id, supporterId: gift.supporter_id, cents: free, date: gift.date }, pays);
      return { cents: (await paidBy(tx, id)) - (gift.cents - free) };
    });
  }

  async takeOffPledge(actor: Actor, id: number, pledgeId: number) {
    const summary = `Took ${giftNumber(id)} off ${pledgeNumber(pledgeId)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await locked(tx, id);
      const cents = await unpayPledge(tx, id, pledgeId);
      if (cents === 0)
        throw new Problem(409, 'nothing-left', `${giftNumber(id)} pays nothing of ${pledgeNumber(pledgeId)}.`);
      return { cents };
    });
  }

  /** Moves a gift to a batch that waits for its deposit, or to a new one; a balanced batch is to be balanced again. */
  async moveToBatch(actor: Actor, id: number, asked: { version: number; batchId: number | null; name: string }) {
    const { today } = await this.settings.calendar();
    let to = '';
    const summary = () => `Moved ${giftNumber(id)} to ${to}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const gift = await tx.expect(GiftTable, id, asked.version, `Gift ${giftNumber(id)}`);
      if (asked.batchId === null && asked.name === '')
        throw new Problem(400, 'invalid', 'Name the new batch.', { fields: { name: 'Name the new batch.' } });
      const from = gift.batch_id;
      const batches = await tx.lock(
        BatchTable,
        [from, asked.batchId].filter((batch) => batch !== null).sort((a, b) => a - b),
      );
      for (const batch of batches.values())
        if (batch['state'] === 'posted')
          throw new Problem(
            409,
            'posted',
            `B-${Number(batch['id'])} was deposited, and a deposit stays what it was. Undo the deposit first.`,
          );
      const target = asked.batchId === null ? null : batches.get(asked.batchId);
      if (target === undefined) throw notFound(`Batch B-${asked.batchId ?? 0}`);
      const batchId = asked.batchId ?? (await newBatch(tx, 'hand', today, asked.name));
      to = `B-${batchId}`;
      await tx.update(GiftTable, id, { batch_id: batchId });
      return { batchId };
    });
  }
}

async function locked(tx: Transaction, id: number): Promise<GiftRecord> {
  const row = (await tx.lock(GiftTable, [id])).get(id);
  if (!row) throw notFound(`Gift ${giftNumber(id)}`);
  return row as unknown as GiftRecord;
}

/** What a gift pays on pledges, in cents. */
async function paidBy(tx: Transaction, id: number): Promise<number> {
  const paid = await one<{ cents: number | null }>(
    tx.sql, // pledge_payment_gift
    'SELECT SUM(cents) AS cents FROM pledge_payment WHERE gift_id = ?',
    [id],
  );
  return Number(paid?.cents ?? 0);
}
