import { CAME_COLUMNS, cellsOfCame } from '@tallystick/core/feeds';
import type { Came } from '@tallystick/core/feeds';
import { counted } from '@tallystick/core/words';
import type { Gathered, Intakes } from '../intake/index.ts';
import type { Changes } from '../platform/changes.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import type { FeedRecord, PlaceRecord } from './feed.entity.ts';
import type { Feeds } from './feeds.service.ts';
import { add } from './log.ts';
import type { Run } from './log.ts';
import { paged } from './pages.ts';

/** So many rows are gathered before they are brought in. */
const MOST_GATHERED = 5_000;
/** Others may write while rows are judged, so that they must be judged again; so often at most. */
const MOST_TURNS = 5;

/** Somebody wrote meanwhile what makes a row doubtful that was not. */
class Meanwhile extends Error {}

/** Takes gifts: page by page as rows, and those that are sure into the books. */
export class Taking {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly feeds: Feeds,
    private readonly intakes: Intakes,
    private readonly gathered: Gathered,
  ) {}

  /** Takes pages of gifts until there are no more, which is answered as false, or enough are gathered. */
  async take(run: Run): Promise<boolean> {
    const { feed, portal, actor } = run;
    const { time_zone: timeZone, currency } = await this.settings.organization();
    for (let taken = 0; taken < MOST_GATHERED;) {
      const { gifts: after } = await this.feeds.place(feed.id);
      const page = await paged(this.sql, run, 'gifts', after, (from) => portal.gifts(from, timeZone));
      if (!page) continue;
      let fresh: Came[] = [];
      const summary = () => `${counted(fresh.length, 'gift')} came from ${feed.name}`;
      await this.changes.write(actor, { kind: 'feed', summary }, async (tx) => {
        const place = await this.feeds.place(feed.id, tx.sql, true);
        fresh = [];
        // Another process was faster: it took this page.
        if (place.gifts !== after) return;
        fresh = await this.freshOf(tx.sql, feed.id, page.items);
        const gathering = fresh.length === 0 ? place.gathering_id : await this.gather(tx, feed, place, fresh, currency);
        await tx.sql.run('UPDATE feed_place SET gifts = ?, gathering_id = ? WHERE feed_id = ?', [
          ...[page.next, gathering, feed.id],
        ]);
        await this.keepOtherwise(tx.sql, feed.id, page.items);
        const cents = fresh.reduce((sum, one) => sum + centsOf(one), 0);
        await add(tx.sql, run.id, {
          ...{ came: fresh.length, came_cents: cents, again: page.items.length - fresh.length },
        });
      });
      taken += fresh.length;
      await run.alive(`${counted(taken, 'gift')} came`);
      if (!page.more) return false;
    }
    return true;
  }

  /** Those gifts of a page that never came before, each once and as it came first. */
  async freshOf(sql: Sql, feedId: number, items: readonly Came[]): Promise<Came[]> {
    const known = new Set((await this.cameAs(sql, feedId, items)).keys());
    return items.filter(({ id }) => !known.has(id) && known.add(id));
  }

  /** Keeps what a gift that came before comes to now, where that is something else: ours stays, and a person is told. */
  private async keepOtherwise(sql: Sql, feedId: number, items: readonly Came[]): Promise<void> {
    const before = await this.cameAs(sql, feedId, items);
    const now = new Map(items.map((one) => [one.id, centsOf(one)]));
    for (const [item, cents] of now)
      if (before.get(item) !== cents)
        await sql.run('UPDATE feed_item SET now_cents = ? WHERE feed_id = ? AND item = ?', [cents, feedId, item]);
  }

  /** What those of some gifts that came before came to last, in cents, by their numbers there. */
  private async cameAs(sql: Sql, feedId: number, items: readonly Came[]): Promise<Map<string, number>> {
    const found = new Map<string, number>();
    for (const slice of chunks(items.map(({ id }) => id)))
      for (const { item, cents } of await sql.rows<{ item: string; cents: number }>(
        'SELECT item, COALESCE(now_cents, cents) AS cents FROM feed_item WHERE feed_id = ? AND item IN (?)',
        [feedId, slice],
      ))
        found.set(item, Number(cents));
    return found;
  }

  /** Keeps gifts as rows of the intake that gathers, or of a new one, and that they came; answers the intake. */
  async gather(
    tx: Transaction,
    feed: FeedRecord,
    { gathering_id: gathering }: Pick<PlaceRecord, 'gathering_id'>,
    fresh: readonly Came[],
    currency: string,
  ): Promise<number> {
    const into = (await this.gathered.isOpen(tx, gathering)) ? gathering : null;
    const { id, places } = await this.gathered.add(
      tx,
      into,
      {
        name: `${feed.name}, ${tx.at.slice(0, 10)}`,
        columns: CAME_COLUMNS,
        recipeId: feed.recipe_id,
        source: feed.name,
      },
      fresh.map((one) => cellsOfCame(one, currency)),
    );
    await tx.sql.run('INSERT INTO feed_item (feed_id, item, cents, intake_id, row_no) VALUES ?', [
      fresh.map((one, at) => [feed.id, one.id, centsOf(one), id, places[at] ?? 0]),
    ]);
    return id;
  }

  /** Brings the gathered rows in that are sure, and puts the others aside for a person. */
  async bringIn(run: Run): Promise<void> {
    for (let turn = 1; ; turn++) {
      await this.putAside(run);
      try {
        await this.bringSureIn(run);
        return;
      } catch (error) {
        if (!(error instanceof Meanwhile) || turn === MOST_TURNS) throw error;
      }
    }
  }

  private async putAside({ id: runId, feed, actor }: Run): Promise<void> {
    let aside = 0;
    const summary = () => `${counted(aside, 'row')} of ${feed.name} put aside to be looked at`;
    await this.changes.write(actor, { kind: 'feed', summary }, async (tx) => {
      const place = await this.feeds.place(feed.id, tx.sql, true);
      const id = place.gathering_id;
      if (id === null || !(await this.gathered.isOpen(tx, id))) return;
      const { places, sure } = await this.gathered.unsure(id, tx.sql);
      aside = places.length;
      if (aside === 0) return;
      const waiting = await this.feeds.setAside(tx, feed, id, place.waiting_id, places);
      if (sure === 0) await this.gathered.drop(tx, id);
      await tx.sql.run('UPDATE feed_place SET waiting_id = ?, gathering_id = ? WHERE feed_id = ?', [
        ...[waiting, sure === 0 ? null : id, feed.id],
      ]);
      await add(tx.sql, runId, { aside });
    });
  }

  private async bringSureIn({ id: runId, feed, actor }: Run): Promise<void> {
    let brought = 0;
    const summary = () => `Brought in ${counted(brought, 'gift')} of ${feed.name}`;
    await this.changes.write(actor, { kind: 'intake', summary }, async (tx) => {
      brought = 0;
      const { gathering_id: id } = await this.feeds.place(feed.id, tx.sql, true);
      if (id === null) return;
      await tx.sql.run('UPDATE feed_place SET gathering_id = NULL WHERE feed_id = ?', [feed.id]);
      // Somebody brought it in by hand meanwhile.
      if (!(await this.gathered.isOpen(tx, id))) return;
      const { places, good } = await this.gathered.unsure(id, tx.sql);
      if (places.length > 0) throw new Meanwhile();
      if (good === 0) return this.gathered.close(tx, id);
      const done = await this.intakes.bringInWithin(tx, actor, id);
      if (!done || done.counts.bad + done.counts.undecided > 0) throw new Meanwhile();
      brought = done.counts.gifts;
      await add(tx.sql, runId, { brought, brought_cents: done.counts.cents });
    });
  }
}

/** What a gift came to, in cents; nothing where that cannot be read. */
export const centsOf = ({ cents }: Came): number =>
  typeof cents === 'number' && Number.isSafeInteger(cents) && cents > 0 ? cents : 0;
