import { formatMoney } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import { z } from 'zod';
import type { Actor, Changes } from '../platform/changes.ts';
import { jobKind } from '../platform/job-queue.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import { LANE } from './groups.ts';
import type { Groups } from './groups.ts';
import type { Merges } from './merges.ts';

/** The least likely group, in percent, that is merged without being looked at; and whether it is only rehearsed. */
const manyJob = jobKind('merge-many', LANE, z.object({ least: z.number(), rehearsed: z.boolean() }));
const undoJob = jobKind('undo-merges', LANE, z.object({ of: z.number(), by: z.number().nullable(), name: z.string() }));
type Many = z.infer<(typeof manyJob)['payload']>;

/** So many reasons why groups were left are told one by one. */
const MOST_TOLD = 3;

/** Merges all groups that are sure, each as a change set of its own, and takes them back together. */
export class ManyMerges {
  constructor(
    private readonly changes: Changes,
    private readonly jobs: Jobs,
    private readonly settings: Settings,
    private readonly groups: Groups,
    private readonly merges: Merges,
  ) {
    jobs.handle(manyJob, (job) => this.run(job));
    jobs.handle(undoJob, (job) => this.takeBack(job));
  }

  async begin(actor: Actor, asked: Many): Promise<number> {
    const title = asked.rehearsed ? 'Rehearsing to merge the sure ones' : 'Merging the sure ones';
    return this.jobs.add(actor, manyJob, { title, payload: asked, link: '/duplicates' });
  }

  /** Takes back every merge that a job made and that still stands. */
  async undo(actor: Actor, jobId: number): Promise<number> {
    const job = await this.jobs.get(jobId);
    if (job.kind !== manyJob.kind) throw notFound(`Job ${jobId}`);
    return this.jobs.add(actor, undoJob, {
      ...{ title: 'Taking merges back', link: '/duplicates' },
      payload: { of: jobId, by: job.created_by, name: job.actor },
    });
  }

  private async run(job: RunningJob<Many>): Promise<string> {
    const { least, rehearsed } = job.payload;
    // A server that goes on with the job of another has looked at nothing yet.
    await this.groups.lookThrough(job);
    const sure = (await this.groups.alike()).filter(({ chance }) => chance * 100 >= least);
    const { currency, locale } = await this.settings.organization();
    const left = new Map<string, number>();
    let [merged, records, cents] = [0, 0, 0];
    for (const [at, { ids }] of sure.entries()) {
      await job.progress(at, sure.length);
      try {
        // The same group is merged once, though the job be begun again.
        const key = `${keyOf(job.id)}${ids.join('-')}`;
        const { given } = await this.merges.sure(job.actor, ids, rehearsed ? null : key);
        merged++;
        records += ids.length;
        cents += given;
      } catch (error) {
        if (!(error instanceof Problem) || error.status !== 409) throw error;
        left.set(error.message, (left.get(error.message) ?? 0) + 1);
      }
    }
    await job.progress(sure.length, sure.length);
    const reasons = [...left].sort((a, b) => b[1] - a[1]);
    const more = reasons.length > MOST_TOLD ? ' …' : '';
    const leftOnes = reasons.reduce((sum, [, many]) => sum + many, 0);
    const why = reasons.slice(0, MOST_TOLD).map(([words, many]) => `${words}${many > 1 ? ` (${many} times)` : ''}`);
    return [
      `${rehearsed ? 'Would merge' : 'Merged'} ${counted(records, 'record')} into ${merged.toLocaleString('en-US')}, which gave ${formatMoney(cents, { currency, locale })} together, before and after.`,
      leftOnes > 0
        ? `${counted(leftOnes, 'group is', 'groups are')} left to be looked at: ${why.join(' ')}${more}`
        : '',
    ]
      .join(' ')
      .trim();
  }

  private async takeBack(job: RunningJob<z.infer<(typeof undoJob)['payload']>>): Promise<string> {
    const { of, by, name } = job.payload;
    const revisions = await this.changes.standingByKey({ userId: by, name }, keyOf(of));
    const stay: string[] = [];
    for (const [at, revision] of revisions.entries()) {
      await job.progress(at, revisions.length);
      await this.changes.undo(job.actor, revision).catch((error: unknown) => {
        if (!(error instanceof Problem)) throw error;
        stay.push(error.message);
      });
    }
    await job.progress(revisions.length, revisions.length);
    const back = `Took back ${counted(revisions.length - stay.length, 'merge')}.`;
    return stay.length === 0
      ? back
      : `${back} ${counted(stay.length, 'stays', 'stay')}: ${stay.slice(0, MOST_TOLD).join(' ')}`;
  }
}

const keyOf = (jobId: number): string => `merged-by-${jobId}-`;
