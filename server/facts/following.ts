import { dateOfDay, spanOf } from '@tallystick/core/dates';
import type { Calendar } from '@tallystick/core/dates';
import { Facts, FLAG } from '@tallystick/core/facts';
import type { SupporterKind } from '@tallystick/core/names';
import type { GiftFacts } from '@tallystick/core/facts';
import { givingTotals } from '@tallystick/core/gifts';
import { evaluate, explain } from '@tallystick/core/segments';
import type { Condition, Explanation, Group } from '@tallystick/core/segments';
import type { FollowerDb, Following } from '../platform/follower.ts';

/** A supporter's giving in cents and dates, as the contract has it. */
export interface GivingView {
  lifetime: number;
  thisYear: number;
  lastYear: number;
  count: number;
  largest: number;
  first: string | null;
  last: string | null;
}

export type FactsQuestion =
  | { ask: 'count'; group: Group; calendar: Calendar }
  | { ask: 'members'; group: Group; calendar: Calendar }
  | { ask: 'explain'; group: Group; supporterId: number; calendar: Calendar }
  | { ask: 'giving'; ids: readonly number[]; calendar: Calendar }
  | { ask: 'present'; kind: SupporterKind | null }
  | { ask: 'size' };

export interface FactsAnswers {
  /** `of` is how many supporters there are at all; `parts` counts each part of the group by itself. */
  count: { count: number; of: number; parts: number[]; milliseconds: number };
  /** Ids, ascending. */
  members: Uint32Array;
  explain: Explanation | null;
  giving: GivingView[];
  /** How many supporters there are, of a kind or at all, without those in the trash. */
  present: number;
  size: { supporters: number; gifts: number };
}

const DAY = 'TO_DAYS(date) - 719528';
const KINDS: Record<SupporterKind, number> = { person: 0, household: 1, organization: 2 };
const kindOf = (cell: string | number | null | undefined): number => KINDS[cell as SupporterKind] ?? 0;

export const SUPPORTERS_SQL = `SELECT s.id, s.kind, COALESCE(a.region, ''), s.no_email + 2 * s.deceased + 4 * s.trashed
  FROM supporter s LEFT JOIN address a FORCE INDEX (address_facts) ON a.supporter_id = s.id AND a.preferred = 1`;
// gift_facts (supporter_id, date, cents, fund_id, campaign_id, appeal_id) holds every column in order.
export const GIFTS_SQL = `SELECT supporter_id, ${DAY}, cents, fund_id, COALESCE(campaign_id, 0), COALESCE(appeal_id, 0)
  FROM gift FORCE INDEX (gift_facts)`;
export const TAGS_SQL = 'SELECT supporter_id, tag_id FROM supporter_tag';

type Cells = readonly (string | number | null)[];
const giftOf = (row: Cells): GiftFacts => ({
  day: Number(row[1]),
  cents: Number(row[2]),
  fund: Number(row[3]),
  campaign: Number(row[4]),
  appeal: Number(row[5]),
});

/** Keeps the facts of every supporter, and answers what lists, segments and records ask of them. */
export class FactsFollowing implements Following {
  readonly facts = new Facts();

  async load(db: FollowerDb): Promise<void> {
    const { facts } = this;
    await db.stream(SUPPORTERS_SQL, (row) =>
      facts.addSupporter(Number(row[0]), kindOf(row[1]), String(row[2]), Number(row[3])),
    );
    await db.stream(`${GIFTS_SQL} ORDER BY supporter_id`, (row) => {
      const slot = facts.slotOf(Number(row[0]));
      if (slot >= 0) facts.gifts.push(slot, giftOf(row));
    });
    await db.stream(`${TAGS_SQL} ORDER BY supporter_id`, (row) => {
      const slot = facts.slotOf(Number(row[0]));
      if (slot >= 0) facts.tags.push(slot, { tag: Number(row[1]) });
    });
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    const [supporters, gifts, tags] = await Promise.all([
      db.rows(`${SUPPORTERS_SQL} WHERE s.id IN (?)`, [ids]),
      db.rows(`${GIFTS_SQL} WHERE supporter_id IN (?)`, [ids]),
      db.rows(`${TAGS_SQL} WHERE supporter_id IN (?)`, [ids]),
    ]);
    const giftsOf = grouped(gifts);
    const tagsOf = grouped(tags);
    const found = new Set<number>();
    for (const row of supporters) {
      const id = Number(row[0]);
      found.add(id);
      this.facts.replace({
        id,
        kind: kindOf(row[1]),
        region: String(row[2]),
        flags: Number(row[3]),
        tags: (tagsOf.get(id) ?? []).map((tag) => Number(tag[1])),
        gifts: (giftsOf.get(id) ?? []).map(giftOf),
      });
    }
    for (const id of ids) if (!found.has(id)) this.facts.remove(id);
  }

  answer(given: unknown): FactsAnswers[keyof FactsAnswers] {
    const question = given as FactsQuestion;
    switch (question.ask) {
      case 'count':
        return this.count(question.group, question.calendar);
      case 'members':
        return this.members(question.group, question.calendar);
      case 'explain': {
        const slot = this.facts.slotOf(question.supporterId);
        return slot < 0 ? null : explain(question.group, this.facts, slot, question.calendar);
      }
      case 'giving':
        return question.ids.map((id) => this.giving(id, question.calendar));
      case 'present':
        return this.present(question.kind === null ? -1 : KINDS[question.kind]);
      case 'size':
        return { supporters: this.facts.size, gifts: this.facts.gifts.length };
    }
  }

  private count(group: Group, calendar: Calendar): FactsAnswers['count'] {
    const begun = performance.now();
    const everyone: Group = { kind: 'group', join: 'all', parts: [] };
    const alone = (part: Condition | Group): number =>
      evaluate({ kind: 'group', join: 'all', parts: [part] }, this.facts, calendar).count();
    const count = evaluate(group, this.facts, calendar).count();
    const milliseconds = performance.now() - begun;
    return { count, of: evaluate(everyone, this.facts, calendar).count(), parts: group.parts.map(alone), milliseconds };
  }

  private present(kind: number): number {
    const { flags, kind: kinds, size } = this.facts;
    let many = 0;
    for (let slot = 0; slot < size; slot++)
      if (((flags[slot] as number) & FLAG.trashed) === 0 && (kind < 0 || kinds[slot] === kind)) many++;
    return many;
  }

  private members(group: Group, calendar: Calendar): Uint32Array {
    const ids: number[] = [];
    for (const slot of evaluate(group, this.facts, calendar)) ids.push(this.facts.ids[slot] ?? 0);
    return Uint32Array.from(ids).sort();
  }

  private giving(id: number, calendar: Calendar): GivingView {
    const slot = this.facts.slotOf(id);
    const { day, cents } = this.facts.gifts.columns;
    const from = slot < 0 ? 0 : (this.facts.gifts.start[slot] ?? 0);
    const many = slot < 0 ? 0 : (this.facts.gifts.count[slot] ?? 0);
    const gifts = Array.from({ length: many }, (_, k) => ({
      day: day.values[from + k] ?? 0,
      cents: cents.values[from + k] ?? 0,
    }));
    const year = (ago: number) => spanOf({ kind: 'fiscal-year', ago }, calendar);
    const totals = givingTotals(gifts, year(0), year(1));
    const { firstDay, lastDay, ...figures } = totals;
    return {
      ...figures,
      first: firstDay === null ? null : dateOfDay(firstDay),
      last: lastDay === null ? null : dateOfDay(lastDay),
    };
  }
}

function grouped(rows: readonly Cells[]): Map<number, Cells[]> {
  const groups = new Map<number, Cells[]>();
  for (const row of rows) {
    const owner = Number(row[0]);
    const group = groups.get(owner);
    if (group) group.push(row);
    else groups.set(owner, [row]);
  }
  return groups;
}
