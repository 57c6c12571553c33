import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { standingOf } from '@tallystick/core/feeds';
import type { CameState } from '@tallystick/core/feeds';
import { counted } from '@tallystick/core/words';
import { Telling } from '@tallystick/contract/feeds';
import type { FeedSetting } from '@tallystick/contract/feeds';
import { giftsByReference, givenTo } from '../gifts/index.ts';
import type { Gathered } from '../intake/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import type { Transaction } from '../platform/transaction.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import { refuseClosed } from '../settings/index.ts';
import { FeedTable } from './feed.entity.ts';
import type { FeedRecord, PlaceRecord, RefundRecord, RunRecord } from './feed.entity.ts';
import type { Portal } from './portal.ts';
import { PortalRefused, PortalSilent } from './portal.ts';

/** The name of the feed of the giving portal, by which numbers of supporters there are kept. */
export const PORTAL_NAME = 'Giving portal';

export const tellsOf = ({ tells }: Pick<FeedRecord, 'tells'>) => stored(z.array(Telling), tells, []);

/** A gift that came: its number at the source, and where its row is. */
interface Item {
  item: string;
  cents: number;
  /** What it came to when it came again, where that was something else. */
  now_cents: number | null;
  intake_id: number;
  row_no: number;
}

/** The outside sources that gifts come from by themselves: how, what came, and where that stands. */
export class Feeds {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly gathered: Gathered,
    private readonly portal: Portal | null,
  ) {
    this.sql = sqlOn(source);
  }

  async row(id: number): Promise<FeedRecord> {
    const row = await one<FeedRecord>(this.sql, 'SELECT * FROM feed WHERE id = ?', [id]);
    if (!row) throw notFound('This feed');
    return row;
  }

  async place(id: number, sql: Sql = this.sql, locked = false): Promise<PlaceRecord> {
    const row = await one<PlaceRecord>(
      sql,
      `SELECT * FROM feed_place WHERE feed_id = ?${locked ? ' FOR UPDATE' : ''}`,
      [id],
    );
    if (!row) throw notFound('This feed');
    return row;
  }

  /** Has a feed for the portal, which does nothing by itself before somebody says so. */
  async ensure(): Promise<void> {
    const actor = { userId: null, name: 'Tallystick' };
    await this.changes.write(actor, { kind: 'load', summary: `Set up the feed ${PORTAL_NAME}` }, async (tx) => {
      // Of two servers that start at once the second finds it when it tries again.
      if (await one(tx.sql, 'SELECT id FROM feed WHERE name = ?', [PORTAL_NAME])) return;
      const setting = { recipe_id: null, often: 'never', at_hour: 5, tells: '[]', tells_since: null } as const;
      const id = await tx.insert(FeedTable, { name: PORTAL_NAME, ...setting });
      await tx.sql.run('INSERT INTO feed_place (feed_id, began_at) VALUES (?, ?)', [id, tx.at]);
    });
  }

  async list() {
    const rows = await this.sql.rows<FeedRecord>('SELECT * FROM feed ORDER BY name');
    return Promise.all(rows.map((row) => this.view(row)));
  }

  private async view(row: FeedRecord) {
    const { waiting_id: waitingId } = await this.place(row.id);
    const [last, refunds] = await Promise.all([
      one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE feed_id = ? ORDER BY id DESC LIMIT 1', [row.id]),
      one<{ many: number }>(
        this.sql,
        `SELECT COUNT(*) AS many FROM feed_refund WHERE feed_id = ? AND state = 'pending' AND why <> ''`,
        [row.id],
      ),
    ]);
    return {
      ...{ id: row.id, version: row.version, name: row.name, address: this.portal?.address ?? null },
      ...{ recipeId: row.recipe_id, often: row.often, atHour: row.at_hour },
      ...{ tells: tellsOf(row), tellsSince: row.tells_since },
      waitingId: waitingId !== null && (await this.gathered.areOpen([waitingId])).has(waitingId) ? waitingId : null,
      last: last && { state: last.state, beganAt: instant(last.began_at) },
      openRefunds: refunds?.many ?? 0,
    };
  }

  change(actor: Actor, id: number, { version, ...setting }: FeedSetting & { version: number }) {
    const { recipeId, often, atHour, tells, tellsSince } = setting;
    if (tells.length > 0 && tellsSince === null)
      throw new Problem(400, 'invalid', 'Say since when gifts are told.', {
        fields: { tellsSince: 'Say since when gifts are told.' },
      });
    return this.changes.write(actor, { kind: 'edit', summary: 'Changed how a feed runs' }, async (tx) => {
      const row = await tx.expect(FeedTable, id, version, 'This feed');
      const had = new Set(tellsOf(row).map(({ fundId }) => fundId));
      for (const { fundId } of tells)
        if (!had.has(fundId)) await refuseClosed(tx, { fund: fundId, campaign: null, appeal: null });
      if (recipeId !== null && !(await this.gathered.hasRecipe(recipeId))) throw notFound('This recipe');
      await tx.update(FeedTable, id, {
        ...{ recipe_id: recipeId, often, at_hour: atHour },
        ...{ tells: JSON.stringify(tells), tells_since: tellsSince },
      });
      // What runs at other hours from now on begins to count from now.
      if (row.often !== often || row.at_hour !== atHour)
        await tx.sql.run('UPDATE feed_place SET began_at = ? WHERE feed_id = ?', [tx.at, id]);
    });
  }

  async runs(id: number, asked: Asked) {
    const page = await pageOf<RunRecord>(
      this.sql, // feed_run_of (feed_id, id)
      {
        select: 'SELECT * FROM feed_run WHERE feed_id = ?',
        params: [id],
        order: [{ sql: 'id', as: 'id', down: true }],
      },
      asked,
    );
    return { ...page, items: page.items.map(runView) };
  }

  /** Those of the source's gifts, by their numbers there, that are in our books: each with ours. */
  async recorded(items: readonly string[], sql: Sql = this.sql): Promise<Map<string, number[]>> {
    const found = new Map<string, number[]>();
    const asked = new Map(items.map((item) => [item.toLowerCase(), item]));
    for (const { id, reference } of await giftsByReference(sql, items)) {
      const item = asked.get(reference.toLowerCase());
      if (item !== undefined) found.set(item, [...(found.get(item) ?? []), id]);
    }
    return found;
  }

  private async states(id: number, sql: Sql = this.sql): Promise<(Item & { state: CameState })[]> {
    const items = await sql.rows<Item>(
      'SELECT item, cents, now_cents, intake_id, row_no FROM feed_item WHERE feed_id = ?',
      [id],
    );
    const recorded = await this.recorded(
      items.map(({ item }) => item),
      sql,
    );
    const open = await this.gathered.areOpen([...new Set(items.map((one) => one.intake_id))], sql);
    return items.map((one) => ({
      ...one,
      state: recorded.has(one.item) ? 'recorded' : open.has(one.intake_id) ? 'waiting' : 'leftOut',
    }));
  }

  /** The refunds that came and are not noted yet. */
  pending(id: number, sql: Sql = this.sql): Promise<RefundRecord[]> {
    return sql.rows<RefundRecord>(`SELECT * FROM feed_refund WHERE feed_id = ? AND state = 'pending' ORDER BY id`, [
      id,
    ]);
  }

  async standing(id: number) {
    const refunds = await this.pending(id);
    const states = await this.states(id);
    const otherwise = states.filter((one) => one.now_cents !== null && one.now_cents !== one.cents);
    const ours = await this.recorded([...refunds, ...otherwise].map(({ item }) => item));
    return {
      ...standingOf(states),
      otherwise: otherwise.map(({ item, cents, now_cents: nowCents }) => ({
        ...{ item, cents, nowCents: nowCents ?? 0, giftId: ours.get(item)?.[0] ?? null },
      })),
      refunds: refunds.map(({ refund, item, cents, why }) => ({
        ...{ refund, item, cents, why },
        giftId: ours.get(item)?.[0] ?? null,
      })),
    };
  }

  /** Puts the gifts that were left out among the rows that wait for a person. */
  async lookAgain(actor: Actor, id: number) {
    const feed = await this.row(id);
    let rows = 0;
    const summary = () => `Put ${counted(rows, 'gift')} of ${feed.name} back to be looked at`;
    const { revision, result } = await this.changes.write(actor, { kind: 'feed', summary }, async (tx) => {
      // Whoever asks at the same moment waits here, and finds nothing left out.
      let { waiting_id: waiting } = await this.place(id, tx.sql, true);
      const left = (await this.states(id, tx.sql)).filter(({ state }) => state === 'leftOut');
      rows = left.length;
      if (rows === 0) return null;
      for (const from of new Set(left.map((one) => one.intake_id))) {
        const places = left.filter((one) => one.intake_id === from).map((one) => one.row_no);
        waiting = await this.setAside(tx, feed, from, waiting, places);
      }
      await tx.sql.run('UPDATE feed_place SET waiting_id = ? WHERE feed_id = ?', [waiting, id]);
      return waiting;
    });
    return { revision, rows, intakeId: result };
  }

  /** Moves rows of gifts to those that wait for a person; answers the intake of those. */
  async setAside(
    tx: Transaction,
    { id, name }: Pick<FeedRecord, 'id' | 'name'>,
    from: number,
    waiting: number | null,
    rows: readonly number[],
  ): Promise<number> {
    const into = (await this.gathered.isOpen(tx, waiting)) ? waiting : null;
    const moved = await this.gathered.move(tx, from, into, rows, `${name} (not sure yet)`);
    const items = await tx.sql.rows<Item>(
      'SELECT item, cents, row_no FROM feed_item WHERE feed_id = ? AND intake_id = ?', // feed_item_intake
      [id, from],
    );
    const now = items.flatMap(({ item, cents, row_no: before }): [number, string, number, number, number][] => {
      const place = moved.places.get(before);
      return place === undefined ? [] : [[id, item, cents, moved.id, place]];
    });
    for (const slice of chunks(now, 1000))
      await tx.sql.run(
        `INSERT INTO feed_item (feed_id, item, cents, intake_id, row_no) VALUES ?
         ON DUPLICATE KEY UPDATE intake_id = VALUES(intake_id), row_no = VALUES(row_no)`,
        [slice],
      );
    return moved.id;
  }

  /** Why an intake cannot be thrown away: gifts came in it that would not come again. Null where that is not so. */
  async keeps(sql: Sql, intakeId: number): Promise<string | null> {
    const came = await one<{ many: number; name: string }>(
      sql,
      'SELECT COUNT(*) AS many, MAX(f.name) AS name FROM feed_item i JOIN feed f ON f.id = i.feed_id WHERE i.intake_id = ?',
      [intakeId],
    );
    if (!came || came.many === 0) return null;
    return `${counted(came.many, 'gift')} of it came from ${came.name} and would not come again. Leave rows out instead, and bring the others in.`;
  }

  async settle(actor: Actor, id: number, refund: string) {
    const summary = `Dealt with the refund ${refund} by hand`;
    const { revision } = await this.changes.write(
      actor,
      { kind: 'feed', summary, evenWithoutRows: true },
      async (tx) => {
        const { affectedRows } = await tx.sql.run(
          `UPDATE feed_refund SET state = 'settled' WHERE feed_id = ? AND refund = ? AND state = 'pending'`,
          [id, refund],
        );
        if (affectedRows === 0) throw notFound('This refund');
      },
    );
    return { revision };
  }

  /** What a campaign of the source should know: the gifts to a fund since a day that did not come through the source. */
  async elsewhere(id: number, fundId: number, since: string) {
    const gifts = await givenTo(this.sql, fundId, since);
    const came = new Set<string>();
    for (const slice of chunks(gifts.flatMap(({ reference }) => reference || [])))
      for (const { item } of await this.sql.rows<{ item: string }>(
        'SELECT item FROM feed_item WHERE feed_id = ? AND item IN (?)',
        [id, slice],
      ))
        came.add(item.toLowerCase());
    return gifts.filter(({ reference }) => !came.has(reference.toLowerCase()));
  }

  async campaigns(id: number) {
    const feed = await this.row(id);
    if (!this.portal) return [];
    const tells = tellsOf(feed);
    const there = await this.portal.campaigns().catch((error: unknown) => {
      if (error instanceof PortalSilent || error instanceof PortalRefused)
        throw new Problem(502, 'portal-silent', `${feed.name} does not say: ${error.message}`);
      throw error;
    });
    return Promise.all(
      there.map(async (one) => {
        const told = tells.find(({ campaign }) => campaign === one.id);
        const ours = told && feed.tells_since !== null ? await this.elsewhere(id, told.fundId, feed.tells_since) : null;
        return { ...one, oursCents: ours && ours.reduce((sum, { cents }) => sum + cents, 0) };
      }),
    );
  }
}

const runView = (row: RunRecord) => ({
  ...{ id: row.id, by: row.actor, beganAt: instant(row.began_at), endedAt: row.ended_at && instant(row.ended_at) },
  ...{ state: row.state, message: row.message, came: row.came, cameCents: row.came_cents, again: row.again },
  ...{ brought: row.brought, broughtCents: row.brought_cents, aside: row.aside },
  ...{ refunds: row.refunds, refundCents: row.refund_cents, told: row.told },
});
