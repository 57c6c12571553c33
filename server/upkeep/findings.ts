import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { FINDING_NAMES, FINDINGS } from '@tallystick/core/upkeep';
import type { Fault, Finding, When } from '@tallystick/core/upkeep';
import { counted } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import type { Actor, Changes } from '../platform/changes.ts';
import { lastRevision } from '../platform/changes.ts';
import { decodeId, encodeCursor } from '../platform/cursor.ts';
import type { Sql } from '../platform/db.ts';
import { Follower } from '../platform/follower.ts';
import type { Settings } from '../settings/index.ts';
import { namesOf, requireActive, SupporterTable } from '../supporters/index.ts';
import { ELSEWHERE, isElsewhere } from './elsewhere.ts';
import type { AskedElsewhere, Elsewhere } from './elsewhere.ts';
import { everyMuted, MutedTable, mutedRows } from './muted.ts';
import type { UpkeepAnswers, UpkeepQuestion } from './replica.ts';
import { keepCounts, trendOf } from './trend.ts';

type Thread = Follower<UpkeepQuestion, UpkeepAnswers>;

/** What makes records unclean, as it is now. */
export class Findings {
  private thread: { of: Thread; when: When } | null = null;
  /** What is asked elsewhere, for as long as nothing is written. */
  private asked: { revision: number; faults: Map<AskedElsewhere, Fault[]> } | null = null;
  /** The counts that were kept last, so that looking again writes nothing. */
  private kept = '';

  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly elsewhere: Elsewhere,
    private readonly url: string,
  ) {}

  async close(): Promise<void> {
    await this.thread?.of.close();
  }

  /** The thread that keeps what is seen from records, as of today; another day begins another. */
  private async following(): Promise<Thread> {
    const when = await this.when();
    if (this.thread && this.thread.when.today === when.today && this.thread.when.home === when.home)
      return this.thread.of;
    const before = this.thread?.of;
    const of: Thread = new Follower(new URL('./worker.ts', import.meta.url), this.url, { when });
    this.thread = { of, when };
    await before?.close();
    return of;
  }

  async when(): Promise<When> {
    const [{ today }, { country: home }] = await Promise.all([this.settings.calendar(), this.settings.organization()]);
    return { today, home };
  }

  /** Every fault of a finding, muted ones too; `value` is what was typed for its remedy. */
  async faults(finding: Finding, value = ''): Promise<Fault[]> {
    const thread = await this.following();
    if (!isElsewhere(finding)) return thread.ask({ ask: 'faults', finding, value });
    const revision = await lastRevision(this.sql);
    if (this.asked?.revision !== revision) this.asked = { revision, faults: new Map() };
    const { faults } = this.asked;
    // Messages come and go without a change set.
    const known = finding === 'deceased' ? undefined : faults.get(finding);
    if (known) return known;
    const found = await this.elsewhere.faults(finding, await thread.ask({ ask: 'counts' }));
    faults.set(finding, found);
    return found;
  }

  async counts() {
    const { today } = await this.settings.calendar();
    const [muted, { many, records }] = await Promise.all([
      everyMuted(this.sql),
      this.following().then((thread) => thread.ask({ ask: 'counts' })),
    ]);
    const found = new Map<Finding, (readonly [supporterId: number, faults: number])[]>(many);
    for (const finding of ELSEWHERE)
      found.set(
        finding,
        (await this.faults(finding)).map(({ supporterId }) => [supporterId, 1]),
      );
    const sum = (of: readonly (readonly [number, number])[]): number => of.reduce((all, [, one]) => all + one, 0);
    const items = FINDING_NAMES.map((finding) => {
      const of = found.get(finding) ?? [];
      const quiet = sum(of.filter(([id]) => muted.get(finding)?.has(id)));
      return { finding, count: sum(of) - quiet, muted: quiet };
    });
    await this.keep(today, new Map(items.map(({ finding, count }) => [finding, count])));
    const trend = await trendOf(this.sql, today);
    const total = items.reduce((all, { count }) => all + count, 0);
    return { records, total, items: items.map((item) => ({ ...item, trend: trend.get(item.finding) ?? [] })) };
  }

  private async keep(today: string, counts: ReadonlyMap<Finding, number>): Promise<void> {
    const now = `${today} ${[...counts.values()].join(' ')}`;
    if (now === this.kept) return;
    await keepCounts(this.sql, today, counts);
    this.kept = now;
  }

  async list(finding: Finding, asked: z.output<typeof contract.listFaults.query>) {
    const faults = (await this.told(finding, asked.value, asked.muted)).sort((a, b) => a.row - b.row);
    const after = decodeId(asked.cursor);
    const begin = after === null ? 0 : faults.findIndex(({ row }) => row > after);
    const page = begin < 0 ? [] : faults.slice(begin, begin + asked.limit);
    const last = page.at(-1);
    const rows = await namesOf(
      this.sql,
      page.map(({ supporterId }) => supporterId),
    );
    const nameOf = new Map(rows.map((row) => [row.id, displayName(row)]));
    return {
      items: page.map(({ supporterId, row: id, was, becomes }) => ({
        ...{ id, supporterId, number: supporterNumber(supporterId), name: nameOf.get(supporterId) ?? '' },
        ...{ was, becomes },
      })),
      next: last && begin + page.length < faults.length ? encodeCursor([last.row]) : null,
      total: faults.length,
      proposed: faults.filter(({ to }) => to !== null).length,
      usual: await this.usual(finding),
    };
  }

  /** The faults of a finding that are told of, or those that are not any more. */
  async told(finding: Finding, value: string, muted: 'no' | 'yes'): Promise<Fault[]> {
    const [all, quiet] = await Promise.all([
      this.faults(finding, value || (await this.usual(finding))),
      everyMuted(this.sql),
    ]);
    return all.filter(({ supporterId }) => (quiet.get(finding)?.has(supporterId) ?? false) === (muted === 'yes'));
  }

  /** What is typed most for a remedy that asks for something. */
  private async usual(finding: Finding): Promise<string> {
    if (FINDINGS[finding].asks === undefined) return '';
    return (await (await this.following()).ask({ ask: 'counts' })).area;
  }

  /** Says that a finding is right as it is for some records, or tells of it again. */
  async mute(actor: Actor, finding: Finding, { ids, muted }: z.output<typeof contract.muteFinding.body>) {
    const { today } = await this.settings.calendar();
    const { label } = FINDINGS[finding];
    const some = [...new Set(ids)].sort((a, b) => a - b);
    const summary = muted
      ? `“${label}” is right as it is for ${counted(some.length, 'record')}`
      : `“${label}” is told of again for ${counted(some.length, 'record')}`;
    return this.changes.write(actor, { kind: 'bulk', summary }, async (tx) => {
      const there = await tx.lock(SupporterTable, some);
      const gone = some.find((id) => there.get(id)?.state !== 'active');
      if (gone !== undefined) await requireActive(tx, gone, 'ids');
      const had = await mutedRows(tx.sql, finding, some);
      if (!muted)
        return tx.removeAll(
          MutedTable,
          had.map(({ id }) => id),
        );
      const known = new Set(had.map(({ supporter_id: id }) => id));
      const fresh = some.filter((id) => !known.has(id));
      await tx.insertAll(
        MutedTable,
        fresh.map((id) => ({ supporter_id: id, finding, said_by: actor.name, said_on: today })),
      );
    });
  }
}
