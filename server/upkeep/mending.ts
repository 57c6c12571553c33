import type { IsoDate } from '@tallystick/core/dates';
import { FINDINGS } from '@tallystick/core/upkeep';
import type { Fault, Finding } from '@tallystick/core/upkeep';
import { counted } from '@tallystick/core/words';
import { z } from 'zod';
import { FindingName, mendFaults } from '@tallystick/contract/upkeep';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { jobKind } from '../platform/job-queue.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import { tableNamed } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { deleteTagsOnce, moveTo, openTasksOf, SupporterTable, TaskTable, tieSpouses } from '../supporters/index.ts';
import type { Settings } from '../settings/index.ts';
import { settleDead } from './died.ts';
import { withAnything } from './elsewhere.ts';
import type { Findings } from './findings.ts';
import { Telling } from './telling.ts';

type Asked = z.output<typeof mendFaults.body>;
/** One at a time mends many, or counts. */
export const LANE = { name: 'upkeep', atOnce: 1 } as const;
const mendJob = jobKind('mend', LANE, z.object({ finding: FindingName, asked: mendFaults.body }));
/** Above so many a job does it, and the browser does not wait. */
const AT_ONCE = 500;

/** Does what is proposed for the faults of a finding, as one change set. */
export class Mending {
  constructor(
    private readonly changes: Changes,
    private readonly jobs: Jobs,
    private readonly settings: Settings,
    private readonly findings: Findings,
  ) {
    jobs.handle(mendJob, (job) => this.work(job));
  }

  async begin(actor: Actor, finding: Finding, asked: Asked) {
    if (FINDINGS[finding].remedy === 'task' && asked.task === null)
      throw new Problem(400, 'invalid', 'Say what is to be done.', { fields: { task: 'Say what is to be done.' } });
    const many = (await this.chosen(finding, asked)).length;
    if (many <= AT_ONCE) return { ...(await this.mend(actor, finding, asked, null)), jobId: null };
    const title = `${FINDINGS[finding].label}: ${counted(many, 'row')}`;
    const jobId = await this.jobs.add(actor, mendJob, {
      title,
      payload: { finding, asked },
      link: `/upkeep/${finding}`,
    });
    return { revision: null, mended: null, left: 0, jobId };
  }

  private async work({
    actor,
    id,
    payload,
    progress,
  }: RunningJob<z.infer<(typeof mendJob)['payload']>>): Promise<string> {
    await progress(0, 1);
    // The key makes a second run after a crash find that the first was through.
    const { mended, left } = await this.mend(actor, payload.finding, payload.asked, { key: `mend ${id}`, body: id });
    await progress(1, 1);
    return `${counted(mended, 'row')} mended${left > 0 ? `; ${left} left, since they were changed meanwhile or nothing is proposed` : ''}.`;
  }

  /** The faults that were chosen; what is muted is never among them. */
  private async chosen(finding: Finding, { rows, except, value }: Asked): Promise<Fault[]> {
    const all = await this.findings.told(finding, value, 'no');
    const [wanted, left] = [rows === null ? null : new Set(rows), new Set(except)];
    return all.filter(({ row }) => (wanted?.has(row) ?? true) && !left.has(row));
  }

  private async mend(actor: Actor, finding: Finding, asked: Asked, key: Reason['key']) {
    const { label } = FINDINGS[finding];
    const { today, home } = await this.findings.when();
    const said = { mended: 0 };
    const summary = (): string => `Upkeep: ${label}, ${counted(said.mended, 'row')}`;
    // What was changed since it was read is left, so that it may be read before anything is held up.
    const faults = await this.chosen(finding, asked);
    const { revision, result } = await this.changes.write(actor, { kind: 'bulk', summary, key }, async (tx) => {
      const mended = await this.write(tx, actor, finding, faults, asked, { today, home });
      said.mended = mended;
      return { mended, left: (asked.rows?.length ?? faults.length) - mended };
    });
    return { revision, ...result };
  }

  private async write(
    tx: Transaction,
    actor: Actor,
    finding: Finding,
    faults: readonly Fault[],
    { task }: Asked,
    when: { today: IsoDate; home: string },
  ): Promise<number> {
    switch (FINDINGS[finding].remedy) {
      case 'write':
        return writeAll(tx, finding === 'empty' ? await stillEmpty(tx, faults) : faults);
      case 'task':
        return task === null ? 0 : setTasks(tx, actor, faults, task);
      case 'tie': {
        let tied = 0;
        for (const { from } of await unchanged(tx, faults)) {
          const [one, other] = [Number(from['one']), Number(from['other'])];
          if (await tieSpouses(tx, one, other, null)) tied++;
        }
        return tied;
      }
      case 'address': {
        let moved = 0;
        for (const { supporterId, to } of await unchanged(tx, faults)) {
          const place = placeIn(to);
          const { same } = await moveTo(tx, supporterId, place, {
            ...{ from: when.today, today: when.today, home: when.home, label: 'home' },
          });
          if (!same) moved++;
        }
        return moved;
      }
      case 'untag':
        return deleteTagsOnce(
          tx,
          (await unchanged(tx, faults)).map(({ row, from }) => ({ row, tagId: Number(from['tag_id']) })),
        );
      case 'settle': {
        const telling = await Telling.begin(tx, this.settings);
        const there = await unchanged(tx, faults);
        const people = await tx.lock(
          SupporterTable,
          there.map(({ supporterId }) => supporterId),
        );
        for (const person of people.values()) await settleDead(telling, person);
        return there.length;
      }
    }
  }
}

const placeIn = (to: Fault['to']) => {
  const at = (column: string): string => String(to?.[column] ?? '');
  return { street: at('street'), city: at('city'), region: at('region'), postal: at('postal'), country: at('country') };
};

/** Those of the faults whose row is still as it was read, of records that are still there; the rows are locked. */
async function unchanged(tx: Transaction, faults: readonly Fault[]): Promise<Fault[]> {
  const owners = await tx.lock(
    SupporterTable,
    [...new Set(faults.map(({ supporterId }) => supporterId))].sort((a, b) => a - b),
  );
  const [first] = faults;
  if (!first) return [];
  const rows = await tx.lockRows(
    tableNamed(first.table),
    faults.map(({ row }) => row),
  );
  return faults.filter(({ supporterId, row, from, to }) => {
    const kept = rows.get(row);
    const same = ([column, value]: [string, unknown]): boolean => !(column in (kept ?? {})) || kept?.[column] === value;
    return to !== null && kept && owners.get(supporterId)?.state === 'active' && Object.entries(from).every(same);
  });
}

/** Writes what is proposed; rows to which the same is proposed together. */
async function writeAll(tx: Transaction, faults: readonly Fault[]): Promise<number> {
  const alike = new Map<string, Fault[]>();
  for (const fault of await unchanged(tx, faults)) {
    const key = JSON.stringify(fault.to);
    alike.set(key, [...(alike.get(key) ?? []), fault]);
  }
  let written = 0;
  for (const some of alike.values()) {
    const [{ table, to } = { table: '', to: null }] = some;
    if (to !== null)
      written += await tx.rewrite(
        tableNamed(table),
        some.map(({ row }) => row),
        to,
      );
  }
  return written;
}

/** Those on which nothing hangs even now that nobody else can write to them. */
async function stillEmpty(tx: Transaction, faults: readonly Fault[]): Promise<Fault[]> {
  const ids = faults.map(({ supporterId }) => supporterId).sort((a, b) => a - b);
  await tx.lock(SupporterTable, ids);
  const hung = await withAnything(tx.sql, ids);
  return faults.filter(({ supporterId }) => !hung.has(supporterId));
}

/** Sets a task about each record that has no open one of that title. */
export async function setTasks(
  tx: Transaction,
  actor: Actor,
  faults: readonly Pick<Fault, 'supporterId'>[],
  { title, due, ownerId }: NonNullable<Asked['task']>,
): Promise<number> {
  const ids = [...new Set(faults.map(({ supporterId }) => supporterId))].sort((a, b) => a - b);
  const there = [...(await tx.lock(SupporterTable, ids)).values()].filter(({ state }) => state === 'active');
  const had = new Set(
    (await openTasksOf(tx.sql, ids)).filter((task) => task.title === title).map((task) => task.supporter_id),
  );
  const without = there.map(({ id }) => id).filter((id) => !had.has(id));
  await tx.insertAll(
    TaskTable,
    without.map((id) => ({
      ...{ supporter_id: id, title, due, owner_id: ownerId, repeats: 'never' as const, done_on: null, done_by: '' },
      ...{ repeat_day: Number(due.slice(8)), maker_id: actor.userId },
    })),
  );
  return without.length;
}
