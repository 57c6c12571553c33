import type { DataSource } from 'typeorm';
import { postalLines } from '@tallystick/core/contact';
import { reasonsOf } from '@tallystick/core/duplicates';
import type { AlikeGroup } from '@tallystick/core/duplicates';
import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import { z } from 'zod';
import { NO_GIFTS } from '@tallystick/contract/duplicates';
import type * as contract from '@tallystick/contract/duplicates';
import { givenBy } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Follower } from '../platform/follower.ts';
import { jobKind } from '../platform/job-queue.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import { knownOfMany, namesOf, NO_WAYS, requireActive, waysOf } from '../supporters/index.ts';
import { everyApart, NotSameTable, saidApart } from './not-same.ts';
import type { AlikeAnswers, AlikeQuestion } from './replica.ts';

export type AlikeThread = Follower<AlikeQuestion, AlikeAnswers>;

/** One at a time searches or merges many. */
export const LANE = { name: 'doubles', atOnce: 1 } as const;
const searchJob = jobKind('look-for-doubles', LANE, z.object({}));

type Asked = z.output<typeof contract.GroupsAsked>;

/** Groups of records that may be one: looked for, shown, and said not to be. */
export class Groups {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly jobs: Jobs,
    private readonly settings: Settings,
    private readonly thread: AlikeThread,
  ) {
    this.sql = sqlOn(source);
    jobs.handle(searchJob, async (job) => {
      const of = await this.lookThrough(job);
      const { groups } = await this.ask(null);
      return `Looked at ${counted(of, 'record')}: ${counted(groups.length, 'group looks', 'groups look')} alike.`;
    });
  }

  async begin(actor: Actor): Promise<number> {
    return this.jobs.add(actor, searchJob, {
      ...{ title: 'Looking for records that are one', payload: {}, link: '/duplicates' },
    });
  }

  private async ask(rule: Asked['rule'], reason: Asked['reason'] = null) {
    return this.thread.ask({ ask: 'groups', apart: await everyApart(this.sql), rule, reason });
  }

  /** Compares all records that were not compared yet; answers how many there are. */
  async lookThrough(job: Pick<RunningJob, 'progress'>): Promise<number> {
    for (;;) {
      const { done, of } = await this.thread.ask({ ask: 'advance' });
      await job.progress(done, of);
      if (done >= of) return of;
    }
  }

  /** Every group that looks alike by now, the surest first. */
  async alike(): Promise<AlikeGroup[]> {
    return (await this.ask(null)).groups;
  }

  async list({ rule, reason, size, least, order, from, limit }: Asked) {
    const { groups, tooLarge, progress } = await this.ask(rule, reason);
    const sized = groups.filter(({ ids }) => size === 'any' || (size === 'two') === (ids.length === 2));
    const asksMoney = order === 'money' || least > 0;
    const given = asksMoney ? await this.given(sized.flatMap(({ ids }) => ids)) : null;
    const cents = (group: AlikeGroup): number => group.ids.reduce((sum, id) => sum + (given?.get(id)?.cents ?? 0), 0);
    const wanted = least > 0 ? sized.filter((group) => cents(group) >= least) : sized;
    const sorted =
      order === 'surest'
        ? wanted
        : [...wanted].sort((a, b) => (order === 'money' ? cents(b) - cents(a) : b.ids.length - a.ids.length));
    return {
      ...{ progress, tooLarge },
      total: wanted.length,
      records: wanted.reduce((sum, { ids }) => sum + ids.length, 0),
      items: await this.shown(sorted.slice(from, from + limit)),
    };
  }

  private async given(ids: readonly number[]): Promise<Awaited<ReturnType<typeof givenBy>>> {
    const found: Awaited<ReturnType<typeof givenBy>> = new Map();
    for (let at = 0; at < ids.length; at += 2000)
      for (const [id, figures] of await givenBy(this.sql, ids.slice(at, at + 2000))) found.set(id, figures);
    return found;
  }

  private async shown(groups: readonly AlikeGroup[]): Promise<contract.AlikeGroup[]> {
    const ids = groups.flatMap((group) => group.ids);
    if (ids.length === 0) return [];
    const { today } = await this.settings.calendar();
    const { country } = await this.settings.organization();
    const [names, ways, given, known] = await Promise.all([
      namesOf(this.sql, ids),
      waysOf(this.sql, ids, today),
      this.given(ids),
      knownOfMany(this.sql, ids),
    ]);
    const nameOf = new Map(names.map((row) => [row.id, displayName(row)]));
    return groups.map((group) => {
      const members = group.ids.map((id) => {
        const { email, phone, address } = ways.get(id) ?? NO_WAYS;
        return {
          ...{ id, number: supporterNumber(id), name: nameOf.get(id) ?? '' },
          ...{ email: email?.address ?? '', phone: phone?.number ?? '' },
          address: address ? postalLines(address, country).join(', ') : '',
          given: given.get(id) ?? NO_GIFTS,
        };
      });
      const [one, other] = group.ids.flatMap((id) => known.get(id) ?? []);
      return {
        ...{ members, chance: Math.round(group.chance * 100) },
        reasons: one && other ? reasonsOf(one, other) : [],
        cents: members.reduce((sum, member) => sum + member.given.cents, 0),
      };
    });
  }

  /** Remembers that none of the records is another of them. */
  async notSame(actor: Actor, ids: readonly number[]) {
    const some = [...new Set(ids)].sort((a, b) => a - b);
    if (some.length < 2) throw new Problem(400, 'invalid', 'A record is not the same as another one.');
    const { today } = await this.settings.calendar();
    const summary = `Said that ${some.map(supporterNumber).join(', ')} are not the same`;
    return this.changes.write(actor, { kind: 'edit', summary }, async (tx) => {
      for (const id of some) await requireActive(tx, id, 'ids');
      const known = new Set(
        (await saidApart(tx.sql, some)).flatMap(({ one, other }) => [`${one} ${other}`, `${other} ${one}`]),
      );
      const pairs = some.flatMap((one, at) => some.slice(at + 1).map((other) => ({ one, other })));
      await tx.insertAll(
        NotSameTable,
        pairs
          .filter(({ one, other }) => !known.has(`${one} ${other}`))
          .map(({ one, other }) => ({ supporter_id: one, other_id: other, said_by: actor.name, said_on: today })),
      );
    });
  }
}
