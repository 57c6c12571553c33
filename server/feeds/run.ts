import type { DataSource } from 'typeorm';
import { dateInZone, hourInZone } from '@tallystick/core/dates';
import { isDue } from '@tallystick/core/feeds';
import { z } from 'zod';
import type { Corrections } from '../gifts/index.ts';
import type { Gathered, Intakes } from '../intake/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import type { Clock } from '../platform/clock.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { jobKind } from '../platform/job-queue.ts';
import { Cancelled, TryLater } from '../platform/jobs.ts';
import type { Jobs, RunningJob, ScheduledJob } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import type { FeedRecord } from './feed.entity.ts';
import type { Feeds } from './feeds.service.ts';
import { add, RunLog } from './log.ts';
import type { Run, Tally } from './log.ts';
import { allPages, MOST_REHEARSED } from './pages.ts';
import { PortalSilent } from './portal.ts';
import type { Portal } from './portal.ts';
import { keepRefunds, SourceRefunds } from './refunds.ts';
import { centsOf, Taking } from './taking.ts';
import { Telling } from './telling.ts';

const runJob = jobKind(
  'run-feed',
  { name: 'feeds', atOnce: 1 },
  z.object({ feedId: z.number(), rehearsed: z.boolean() }),
);
type Payload = z.infer<(typeof runJob)['payload']>;

/** A run whose source does not answer is tried so often before it is given up; the next one goes on where it stopped. */
const MOST_TRIES = 8;
const SECONDS_AT_MOST = 300;

/**
 * Takes what came from an outside source. Each page is kept together with the place where to read on, in one
 * transaction, and each gift by its number there: a run that is cut off goes on where it stopped, and no gift comes
 * twice. Rows that are sure are brought in as an intake; the others wait in one of their own for a person.
 */
export class FeedRuns {
  private readonly sql: Sql;
  private readonly log: RunLog;
  private readonly taking: Taking;
  private readonly refunds: SourceRefunds;
  private readonly telling: Telling;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly clock: Clock,
    private readonly settings: Settings,
    private readonly jobs: Jobs,
    private readonly feeds: Feeds,
    private readonly intakes: Intakes,
    private readonly gathered: Gathered,
    corrections: Corrections,
    private readonly portal: Portal | null,
  ) {
    this.sql = sqlOn(source);
    this.log = new RunLog(this.sql, clock);
    this.taking = new Taking(this.sql, changes, settings, feeds, intakes, gathered);
    this.refunds = new SourceRefunds(this.sql, changes, feeds, corrections);
    this.telling = new Telling(this.sql, feeds);
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
    const portal = this.reached();
    const run = {
      ...{ id: await this.log.begun(job, feed, rehearsed), feed, actor: job.actor, portal },
      alive: (message: string) => job.progress(0, 0, message),
    };
    try {
      if (feed.recipe_id !== null && !(await this.gathered.hasRecipe(feed.recipe_id)))
        throw new Error('The recipe that it is read by was deleted; choose another in its settings.');
      const says = rehearsed ? await this.rehearse(run) : await this.run(run);
      await this.log.note(run.id, rehearsed ? 'rehearsed' : 'done', says);
      return says;
    } catch (error) {
      if (error instanceof PortalSilent && !rehearsed && job.attempt < MOST_TRIES) {
        const seconds = Math.min(SECONDS_AT_MOST, error.seconds ?? 2 ** job.attempt);
        const message = `${feed.name} did not answer (${error.message}); asking again. No gift is taken twice.`;
        await this.log.note(run.id, 'waiting', message);
        throw new TryLater(message, seconds);
      }
      if (error instanceof Cancelled) await this.log.note(run.id, 'stopped', 'Stopped; what was taken stays.');
      else if (!(error instanceof TryLater)) await this.log.note(run.id, 'failed', failed(feed, error));
      throw error instanceof PortalSilent ? new Error(failed(feed, error)) : error;
    }
  }

  private async run(run: Run): Promise<string> {
    await run.alive('Asking for gifts');
    for (let more = true; more;) {
      more = await this.taking.take(run);
      await this.taking.bringIn(run);
    }
    await run.alive('Asking for refunds');
    await this.refunds.take(run);
    await this.refunds.note(run);
    await run.alive('Telling of other gifts');
    await this.telling.all(run);
    return this.log.says(run.id, await this.settings.formats());
  }

  /** Does a run and takes all of it back; the source is asked and told nothing. */
  private async rehearse(run: Run): Promise<string> {
    const { feed, portal, actor } = run;
    const { time_zone: timeZone, currency } = await this.settings.organization();
    const place = await this.feeds.place(feed.id);
    const gifts = await allPages(run, 'gifts', place.gifts, (after) => portal.gifts(after, timeZone));
    const refunds = await allPages(run, 'refunds', place.refunds, (after) => portal.refunds(after));
    await run.alive('Rehearsing');
    const tally = await this.changes.rehearse(actor, { kind: 'feed', summary: 'Rehearsed a feed' }, async (tx) => {
      const fresh = await this.taking.freshOf(tx.sql, feed.id, gifts.items);
      const found: Tally = {
        ...{ came: fresh.length, came_cents: fresh.reduce((sum, one) => sum + centsOf(one), 0) },
        again: gifts.items.length - fresh.length,
      };
      if (fresh.length > 0) {
        const id = await this.taking.gather(tx, feed, { gathering_id: null }, fresh, currency);
        const { places } = await this.gathered.unsure(id, tx.sql);
        found.aside = places.length;
        if (places.length > 0) await this.feeds.setAside(tx, feed, id, null, places);
        const { good } = await this.gathered.unsure(id, tx.sql);
        const done = good > 0 ? await this.intakes.bringInWithin(tx, actor, id) : null;
        Object.assign(found, { brought: done?.counts.gifts ?? 0, brought_cents: done?.counts.cents ?? 0 });
      }
      await keepRefunds(tx.sql, feed.id, refunds.items);
      const pending = await this.feeds.pending(feed.id, tx.sql);
      const ours = await this.feeds.recorded(
        pending.map(({ item }) => item),
        tx.sql,
      );
      const noted = pending.filter(({ item }) => ours.get(item)?.length === 1);
      return { ...{ ...found, refunds: noted.length }, refund_cents: noted.reduce((sum, { cents }) => sum + cents, 0) };
    });
    const told = (await this.telling.toTell(feed)).reduce((sum, one) => sum + one.gifts.length, 0);
    await add(this.sql, run.id, { ...tally, told });
    const beyond = gifts.more || refunds.more ? ` There is more than these ${MOST_REHEARSED} pages.` : '';
    return `Rehearsed, nothing was kept: ${await this.log.says(run.id, await this.settings.formats())}${beyond}`;
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
