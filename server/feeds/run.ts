import type { DataSource } from 'typeorm';
import { isDue, toTell } from '@tallystick/core/feeds';
import type { Came } from '@tallystick/core/feeds';
import { CAME_COLUMNS, cellsOfCame } from '@tallystick/core/feeds';
import { giftNumber } from '@tallystick/core/gifts';
import { dateInZone, hourInZone } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import { z } from 'zod';
import type { Corrections } from '../gifts/index.ts';
import type { Gathered, Intakes } from '../intake/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import type { Clock } from '../platform/clock.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { jobKind } from '../platform/job-queue.ts';
import { Cancelled, TryLater } from '../platform/jobs.ts';
import type { Jobs, RunningJob, ScheduledJob } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import type { FeedRecord, PlaceRecord, RefundRecord, RunRecord } from './feed.entity.ts';
import { tellsOf } from './feeds.service.ts';
import type { Feeds } from './feeds.service.ts';
import { MOST_TOLD, PortalForgot, PortalRefused, PortalSilent } from './portal.ts';
import type { CamePage, CameRefund, Portal } from './portal.ts';

const runJob = jobKind(
  'run-feed',
  { name: 'feeds', atOnce: 1 },
  z.object({ feedId: z.number(), rehearsed: z.boolean() }),
);
type Payload = z.infer<(typeof runJob)['payload']>;

/** So many rows are gathered before they are brought in. */
const MOST_GATHERED = 5_000;
/** How many pages a rehearsal looks at. */
const MOST_REHEARSED = 50;
/** A run whose source does not answer is tried so often before it is given up; the next one goes on where it stopped. */
const MOST_TRIES = 8;
const SECONDS_AT_MOST = 300;
/** Others may write while rows are judged, so that they must be judged again; so often at most. */
const MOST_TURNS = 5;

/** What a run adds to its line in the log. */
type Tally = Partial<
  Record<
    'came' | 'came_cents' | 'again' | 'brought' | 'brought_cents' | 'aside' | 'refunds' | 'refund_cents' | 'told',
    number
  >
>;

/** Somebody wrote meanwhile what makes a row doubtful that was not. */
class Meanwhile extends Error {}

/** A run under way. */
interface Run {
  id: number;
  feed: FeedRecord;
  actor: Actor;
  portal: Portal;
  /** Tells that it is alive; throws where somebody stopped it. */
  alive: (message: string) => Promise<void>;
}

/**
 * Takes what came from an outside source. Each page is kept together with the place where to read on, in one
 * transaction, and each gift by its number there: a run that is cut off goes on where it stopped, and no gift comes
 * twice. Rows that are sure are brought in as an intake; the others wait in one of their own for a person.
 */
export class FeedRuns {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly clock: Clock,
    private readonly settings: Settings,
    private readonly jobs: Jobs,
    private readonly feeds: Feeds,
    private readonly intakes: Intakes,
    private readonly gathered: Gathered,
    private readonly corrections: Corrections,
    private readonly portal: Portal | null,
  ) {
    this.sql = sqlOn(source);
    jobs.handle(runJob, (job) => this.handle(job));
  }

  async begin(actor: Actor, id: number, rehearsed: boolean): Promise<number> {
    const feed = await this.feeds.row(id);
    this.reached();
    return this.jobs.add(actor, runJob, jobOf(feed, rehearsed));
  }

  private reached(): Portal {
    if (!this.portal)
      throw new Problem(409, 'no-portal', 'No giving portal is set up, so nothing can be taken from it.');
    return this.portal;
  }

  /** What the schedule of each quarter of an hour begins: a run of the feed that is due. */
  async due(): Promise<ScheduledJob | null> {
    const { time_zone: timeZone } = await this.settings.organization();
    const now = this.clock.now();
    for (const feed of await this.sql.rows<FeedRecord>(`SELECT * FROM feed WHERE often <> 'never' ORDER BY id`)) {
      const began = new Date(instant((await this.feeds.place(feed.id)).began_at));
      const at = (when: Date) => ({ day: dateInZone(when, timeZone), hour: hourInZone(when, timeZone) });
      const last = { ...at(began), minutesAgo: (now.getTime() - began.getTime()) / 60_000 };
      if (isDue({ often: feed.often, at: feed.at_hour }, last, at(now)))
        return { actor: { userId: null, name: feed.name }, kind: runJob, job: jobOf(feed, false) };
    }
    return null;
  }

  private async handle(job: RunningJob<Payload>): Promise<string> {
    const { rehearsed } = job.payload;
    const feed = await this.feeds.row(job.payload.feedId);
    const run = {
      ...{ id: await this.begun(job, feed, rehearsed), feed, actor: job.actor, portal: this.reached() },
      alive: (message: string) => job.progress(0, 0, message),
    };
    try {
      if (feed.recipe_id !== null && !(await this.gathered.hasRecipe(feed.recipe_id)))
        throw new Error('The recipe that it is read by was deleted; choose another in its settings.');
      const says = rehearsed ? await this.rehearse(run) : await this.run(run);
      await this.note(run.id, rehearsed ? 'rehearsed' : 'done', says);
      return says;
    } catch (error) {
      if (error instanceof PortalSilent && !rehearsed && job.attempt < MOST_TRIES) {
        const seconds = Math.min(SECONDS_AT_MOST, error.seconds ?? 2 ** job.attempt);
        const message = `${feed.name} did not answer (${error.message}); asking again. No gift is taken twice.`;
        await this.note(run.id, 'waiting', message);
        throw new TryLater(message, seconds);
      }
      if (error instanceof Cancelled) await this.note(run.id, 'stopped', 'Stopped; what was taken stays.');
      else if (!(error instanceof TryLater)) await this.note(run.id, 'failed', failed(feed, error));
      throw error instanceof PortalSilent ? new Error(failed(feed, error)) : error;
    }
  }

  /** The line of a run in the log; one that goes on keeps its own. */
  private async begun(job: RunningJob, feed: FeedRecord, rehearsed: boolean): Promise<number> {
    const at = this.clock.stamp();
    if (!rehearsed) await this.sql.run('UPDATE feed_place SET began_at = ? WHERE feed_id = ?', [at, feed.id]);
    await this.sql.run(
      `INSERT INTO feed_run (feed_id, job_id, actor, began_at, state) VALUES (?, ?, ?, ?, 'running')
       ON DUPLICATE KEY UPDATE state = 'running', message = ''`,
      [feed.id, job.id, job.actor.name, at],
    );
    const run = await one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE job_id = ?', [job.id]);
    return run?.id ?? 0;
  }

  private async note(id: number, state: RunRecord['state'], message: string): Promise<void> {
    const ended = state === 'waiting' ? null : this.clock.stamp();
    await this.sql.run('UPDATE feed_run SET state = ?, message = ?, ended_at = ? WHERE id = ?', [
      ...[state, message.slice(0, 500), ended, id],
    ]);
  }

  private async run(run: Run): Promise<string> {
    await run.alive('Asking for gifts');
    for (let more = true; more;) {
      more = await this.take(run);
      await this.bringIn(run);
    }
    await run.alive('Asking for refunds');
    await this.takeRefunds(run);
    await this.noteRefunds(run);
    await run.alive('Telling of other gifts');
    await this.tellAll(run);
    const done = await one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE id = ?', [run.id]);
    return saysOf(done, await this.settings.formats());
  }

  /** Takes pages of gifts until there are no more, which is answered as false, or enough are gathered. */
  private async take(run: Run): Promise<boolean> {
    const { feed, portal, actor } = run;
    const { time_zone: timeZone, currency } = await this.settings.organization();
    for (let taken = 0; taken < MOST_GATHERED;) {
      const { gifts: after } = await this.feeds.place(feed.id);
      const page = await this.paged(run, 'gifts', after, (from) => portal.gifts(from, timeZone));
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

  /**
   * A page after a place; null where the source forgot it: then it is read from the beginning, and what came before is
   * known. A page that leads nowhere is an error.
   */
  private async paged<T>(
    { feed }: Pick<Run, 'feed'>,
    what: 'gifts' | 'refunds',
    after: string,
    ask: (after: string) => Promise<CamePage<T>>,
  ): Promise<CamePage<T> | null> {
    try {
      const page = await ask(after);
      if (page.more && page.next === after)
        throw new Error(`${feed.name} sends the same page of ${what} again and again.`);
      return page;
    } catch (error) {
      if (!(error instanceof PortalForgot)) throw error;
      if (after === '')
        throw new Error(`${feed.name} does not let ${what} be read from the beginning.`, { cause: error });
      await this.sql.run(`UPDATE feed_place SET ${what} = '' WHERE feed_id = ? AND ${what} = ?`, [feed.id, after]);
      return null;
    }
  }

  /** Those gifts of a page that never came before, each once and as it came first. */
  private async freshOf(sql: Sql, feedId: number, items: readonly Came[]): Promise<Came[]> {
    const known = new Set<string>();
    for (const slice of chunks(items.map(({ id }) => id)))
      for (const { item } of await sql.rows<{ item: string }>(
        'SELECT item FROM feed_item WHERE feed_id = ? AND item IN (?)',
        [feedId, slice],
      ))
        known.add(item);
    return items.filter(({ id }) => !known.has(id) && known.add(id));
  }

  /** Keeps what a gift that came before comes to now, where that is something else: ours stays, and a person is told. */
  private async keepOtherwise(sql: Sql, feedId: number, items: readonly Came[]): Promise<void> {
    for (const one of items)
      await sql.run(
        'UPDATE feed_item SET now_cents = ? WHERE feed_id = ? AND item = ? AND COALESCE(now_cents, cents) <> ?',
        [centsOf(one), feedId, one.id, centsOf(one)],
      );
  }

  /** Keeps gifts as rows of the intake that gathers, or of a new one, and that they came; answers the intake. */
  private async gather(
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
  private async bringIn(run: Run): Promise<void> {
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

  private async takeRefunds(run: Run): Promise<void> {
    const { feed, portal } = run;
    for (let more = true; more;) {
      const { refunds: after } = await this.feeds.place(feed.id);
      const page = await this.paged(run, 'refunds', after, (from) => portal.refunds(from));
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

  /** The refunds that are not noted yet. */
  private pending(feedId: number, sql: Sql = this.sql): Promise<RefundRecord[]> {
    return sql.rows<RefundRecord>(`SELECT * FROM feed_refund WHERE feed_id = ? AND state = 'pending' ORDER BY id`, [
      feedId,
    ]);
  }

  /** Notes each refund whose gift is in the books; why another is not is kept with it. */
  private async noteRefunds({ id: runId, feed, actor }: Run): Promise<void> {
    const pending = await this.pending(feed.id);
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

  /** What each campaign of the source must be told, so that it knows of the gifts that did not come through it. */
  private async toTell(feed: FeedRecord) {
    const tells = tellsOf(feed);
    const before = await this.sql.rows<{ campaign: string; id: number; cents: number; day: string }>(
      'SELECT campaign, gift_id AS id, cents, day FROM feed_told WHERE feed_id = ?',
      [feed.id],
    );
    const since = feed.tells_since;
    const campaigns = new Set([...tells.map(({ campaign }) => campaign), ...before.map(({ campaign }) => campaign)]);
    return Promise.all(
      [...campaigns].map(async (campaign) => {
        const told = tells.find((one) => one.campaign === campaign);
        const holds = told && since !== null ? await this.feeds.elsewhere(feed.id, told.fundId, since) : [];
        const entry = ({ id, cents, day }: { id: number; cents: number; day: string }) => ({
          key: giftNumber(id),
          cents,
          day,
        });
        const ids = new Map([...before, ...holds].map(({ id }) => [giftNumber(id), id]));
        const gifts = toTell(
          before.filter((one) => one.campaign === campaign).map(entry),
          holds.map(({ date: day, ...gift }) => entry({ ...gift, day })),
        );
        return { campaign, gifts: gifts.map((gift) => ({ ...gift, id: ids.get(gift.key) ?? 0 })) };
      }),
    );
  }

  /** Tells every campaign; one that will not hear is said in the end, and keeps no other from being told. */
  private async tellAll(run: Run): Promise<void> {
    const deaf: string[] = [];
    for (const { campaign, gifts } of await this.toTell(run.feed))
      await this.tell(run, campaign, gifts).catch((error: unknown) => {
        if (!(error instanceof PortalRefused)) throw error;
        deaf.push(`The campaign ${campaign} could not be told of ${counted(gifts.length, 'gift')}. ${error.message}`);
      });
    if (deaf.length > 0) throw new PortalRefused(deaf.join(' '));
  }

  /** Tells a campaign of gifts; what it was told is kept after each lot, so that no more than one is told again. */
  private async tell(
    { id: runId, feed, portal, alive }: Run,
    campaign: string,
    gifts: readonly { id: number; key: string; cents: number; day: string }[],
  ): Promise<void> {
    for (const lot of chunks(gifts, MOST_TOLD)) {
      await portal.tell(
        campaign,
        lot.map(({ key, cents, day }) => ({ key, cents, day })),
      );
      await this.sql.run(
        `INSERT INTO feed_told (feed_id, campaign, gift_id, cents, day) VALUES ?
         ON DUPLICATE KEY UPDATE cents = VALUES(cents), day = VALUES(day)`,
        [lot.map(({ id, cents, day }) => [feed.id, campaign, id, cents, day])],
      );
      await add(this.sql, runId, { told: lot.length });
      await alive(`Told ${campaign} of ${counted(lot.length, 'gift')}`);
    }
  }

  /** Does a run and takes all of it back; the source is asked and told nothing. */
  private async rehearse(run: Run): Promise<string> {
    const { feed, portal, actor } = run;
    const { time_zone: timeZone, currency } = await this.settings.organization();
    const place = await this.feeds.place(feed.id);
    const gifts = await this.all(run, 'gifts', place.gifts, (after) => portal.gifts(after, timeZone));
    const refunds = await this.all(run, 'refunds', place.refunds, (after) => portal.refunds(after));
    await run.alive('Rehearsing');
    const tally = await this.changes.rehearse(actor, { kind: 'feed', summary: 'Rehearsed a feed' }, async (tx) => {
      const fresh = await this.freshOf(tx.sql, feed.id, gifts.items);
      const found: Tally = {
        ...{ came: fresh.length, came_cents: fresh.reduce((sum, one) => sum + centsOf(one), 0) },
        again: gifts.items.length - fresh.length,
      };
      if (fresh.length > 0) {
        const id = await this.gather(tx, feed, { gathering_id: null }, fresh, currency);
        const { places } = await this.gathered.unsure(id, tx.sql);
        found.aside = places.length;
        if (places.length > 0) await this.feeds.setAside(tx, feed, id, null, places);
        const { good } = await this.gathered.unsure(id, tx.sql);
        const done = good > 0 ? await this.intakes.bringInWithin(tx, actor, id) : null;
        Object.assign(found, { brought: done?.counts.gifts ?? 0, brought_cents: done?.counts.cents ?? 0 });
      }
      await keepRefunds(tx.sql, feed.id, refunds.items);
      const pending = await this.pending(feed.id, tx.sql);
      const ours = await this.feeds.recorded(
        pending.map(({ item }) => item),
        tx.sql,
      );
      const noted = pending.filter(({ item }) => ours.get(item)?.length === 1);
      return { ...{ ...found, refunds: noted.length }, refund_cents: noted.reduce((sum, { cents }) => sum + cents, 0) };
    });
    const told = (await this.toTell(feed)).reduce((sum, one) => sum + one.gifts.length, 0);
    await add(this.sql, run.id, { ...tally, told });
    const done = await one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE id = ?', [run.id]);
    const beyond = gifts.more || refunds.more ? ` There is more than these ${MOST_REHEARSED} pages.` : '';
    return `Rehearsed, nothing was kept: ${saysOf(done, await this.settings.formats())}${beyond}`;
  }

  /** All pages after a place, and whether there are more than are looked at. */
  private async all<T>(
    run: Run,
    what: 'gifts' | 'refunds',
    from: string,
    ask: (after: string) => Promise<CamePage<T>>,
  ): Promise<{ items: T[]; more: boolean }> {
    const items: T[] = [];
    let after = from;
    for (let pages = 0; pages < MOST_REHEARSED; pages++) {
      await run.alive(`Asking for ${what}`);
      const page = await ask(after).catch((error: unknown) => {
        if (error instanceof PortalForgot && after !== '') return null;
        throw error;
      });
      if (page) items.push(...page.items);
      if (page && !page.more) return { items, more: false };
      after = page?.next ?? '';
    }
    return { items, more: true };
  }
}

const jobOf = (feed: FeedRecord, rehearsed: boolean) => ({
  title: `${rehearsed ? 'Rehearsing' : 'Taking what came from'} ${feed.name}`,
  payload: { feedId: feed.id, rehearsed },
  link: '/intake/feeds',
});

const failed = ({ name }: FeedRecord, error: unknown): string => {
  const message = error instanceof Error ? error.message : String(error);
  return `The run of ${name} did not come to its end: ${message} The next one goes on where it stopped.`;
};

/** What a gift came to, in cents; nothing where that cannot be read. */
const centsOf = ({ cents }: Came): number =>
  typeof cents === 'number' && Number.isSafeInteger(cents) && cents > 0 ? cents : 0;

async function add(sql: Sql, runId: number, tally: Tally): Promise<void> {
  const columns = Object.keys(tally);
  if (columns.length === 0) return;
  const values: Param[] = Object.values(tally);
  await sql.run(`UPDATE feed_run SET ${columns.map((column) => `${column} = ${column} + ?`).join(', ')} WHERE id = ?`, [
    ...values,
    runId,
  ]);
}

async function keepRefunds(sql: Sql, feedId: number, refunds: readonly CameRefund[]): Promise<void> {
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

/** A line of the log in words. */
function saysOf(run: RunRecord | null, formats: Parameters<typeof formatMoney>[1]): string {
  if (!run) return '';
  const money = (cents: number): string => formatMoney(cents, formats);
  const parts = [
    run.came === 0 ? 'No new gift came' : `${counted(run.came, 'gift')} came, ${money(run.came_cents)}`,
    run.brought > 0 ? `${counted(run.brought, 'gift')} in the books, ${money(run.brought_cents)}` : '',
    run.aside > 0 ? `${counted(run.aside, 'row')} to be looked at` : '',
    run.refunds > 0 ? `${counted(run.refunds, 'refund')} of ${money(run.refund_cents)}` : '',
    run.told > 0 ? `${counted(run.told, 'gift')} told of` : '',
  ];
  return `${parts.filter(Boolean).join('; ')}.`;
}
