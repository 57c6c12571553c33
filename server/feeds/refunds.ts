import { giftNumber } from '@tallystick/core/gifts';
import type { Corrections } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { FeedRecord } from './feed.entity.ts';
import type { Feeds } from './feeds.service.ts';
import { add } from './log.ts';
import type { Run } from './log.ts';
import { paged } from './pages.ts';
import type { CameRefund } from './portal.ts';

/** What the source gave back, each noted in the books when its gift is there. */
export class SourceRefunds {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly feeds: Feeds,
    private readonly corrections: Corrections,
  ) {}

  /** Keeps what was given back since the last time, page by page. */
  async take(run: Run): Promise<void> {
    const { feed, portal } = run;
    for (let more = true; more;) {
      const { refunds: after } = await this.feeds.place(feed.id);
      const page = await paged(this.sql, run, 'refunds', after, (from) => portal.refunds(from));
      if (!page) continue;
      await this.changes.write(run.actor, { kind: 'feed', summary: 'Refunds came' }, async (tx) => {
        await keepRefunds(tx.sql, feed.id, page.items);
        await tx.sql.run('UPDATE feed_place SET refunds = ? WHERE feed_id = ? AND refunds = ?', [
          ...[page.next, feed.id, after],
        ]);
      });
      more = page.more;
    }
  }

  /** Notes each refund whose gift is in the books; why another is not is kept with it. */
  async note({ id: runId, feed, actor }: Run): Promise<void> {
    const pending = await this.feeds.pending(feed.id);
    const ours = await this.feeds.recorded(pending.map(({ item }) => item));
    for (const { id, refund, item, cents, reason } of pending) {
      const [giftId, another] = ours.get(item) ?? [];
      const why =
        giftId === undefined
          ? 'Its gift is not in the books.'
          : another === undefined
            ? await this.noteRefund(actor, giftId, { number: `${feed.id} ${refund}`, cents, reason, feed }, (sql) =>
                settleRefund(sql, id, runId, cents),
              )
            : `Several gifts have its reference: ${[giftId, another].map(giftNumber).join(', ')}.`;
      if (why !== null) await this.sql.run('UPDATE feed_refund SET why = ? WHERE id = ?', [why.slice(0, 300), id]);
    }
  }

  /** Notes a refund in the books, once; answers why that cannot be, null where it is done. */
  private async noteRefund(
    actor: Actor,
    giftId: number,
    { number, cents, reason, feed }: { number: string; cents: number; reason: string; feed: FeedRecord },
    noted: (sql: Sql) => Promise<void>,
  ): Promise<string | null> {
    try {
      await this.corrections.note(
        actor,
        giftId,
        {
          kind: 'refund',
          version: null,
          cents,
          reason: `Refunded by ${feed.name}${reason === '' ? '' : `: ${reason}`}`.slice(0, 300),
        },
        { number, noted: (tx) => noted(tx.sql) },
      );
      return null;
    } catch (error) {
      if (error instanceof Problem) return error.message;
      throw error;
    }
  }
}

export async function keepRefunds(sql: Sql, feedId: number, refunds: readonly CameRefund[]): Promise<void> {
  if (refunds.length > 0)
    await sql.run('INSERT IGNORE INTO feed_refund (feed_id, refund, item, cents, reason, state) VALUES ?', [
      refunds.map(({ id, gift, cents, reason }) => [feedId, id, gift, cents, reason.slice(0, 200), 'pending']),
    ]);
}

async function settleRefund(sql: Sql, id: number, runId: number, cents: number): Promise<void> {
  // The reason stands in the correction from now on, whose words are its own.
  const { affectedRows } = await sql.run(
    `UPDATE feed_refund SET state = 'noted', why = '', reason = '' WHERE id = ? AND state = 'pending'`,
    [id],
  );
  if (affectedRows > 0) await add(sql, runId, { refunds: 1, refund_cents: cents });
}
