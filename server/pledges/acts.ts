import { formatMoney } from '@tallystick/core/money';
import { isOwed, PLEDGE_KINDS, pledgeAt, pledgeNumber, remaining, resized } from '@tallystick/core/pledges';
import type { PledgePlan, PledgeStage, PledgeStanding } from '@tallystick/core/pledges';
import type { Schedule } from '@tallystick/core/schedule';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { PledgeDraft } from '@tallystick/contract/pledges';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { formatsIn, refuseClosed } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { requireActive, TaskTable } from '../supporters/index.ts';
import { ALWAYS, booksOf, lockPledge, planned } from './books.ts';
import { InstallmentTable, PledgeTable, WriteOffTable } from './pledge.entity.ts';
import type { PledgeRecord } from './pledge.entity.ts';

/** What is done with pledges, grants and matches. */
export class PledgeActs {
  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  async make(actor: Actor, draft: PledgeDraft, key: Reason['key'] = null) {
    const formats = await this.settings.formats();
    const summary = `Recorded a ${PLEDGE_KINDS[draft.kind].toLowerCase()} of ${formatMoney(draft.cents, formats)} by ${supporterNumber(draft.supporterId)}`;
    return this.changes.write(actor, { kind: 'gift', summary, key: key ?? null }, async (tx) => {
      await requireActive(tx, draft.supporterId);
      await refuseClosed(tx, { fund: draft.fundId, campaign: draft.campaignId, appeal: draft.appealId });
      const id = await makePledge(tx, draft, formats.currency);
      return { id, number: pledgeNumber(id) };
    });
  }

  /** Changes what was promised, to what, and how much; what was paid or written off of it stays. */
  async change(
    actor: Actor,
    id: number,
    asked: Pick<PledgeDraft, 'cents' | 'pledgedOn' | 'fundId' | 'campaignId' | 'appealId' | 'note'> & {
      version: number;
      plan: PledgePlan | null;
    },
  ) {
    const { today } = await this.settings.calendar();
    const formats = await this.settings.formats();
    let did = 'Changed';
    const summary = () => `${did} ${pledgeNumber(id)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const other = (column: 'fund_id' | 'campaign_id' | 'appeal_id', to: number | null) =>
        to === pledge[column] ? null : to;
      await refuseClosed(tx, {
        fund: other('fund_id', asked.fundId),
        campaign: other('campaign_id', asked.campaignId),
        appeal: other('appeal_id', asked.appealId),
      });
      const standing = await now(tx, pledge);
      const made = resized(standing, asked.cents, today);
      const settled = standing.paid + standing.writtenOff;
      if (!made) {
        const message = `${formatMoney(settled, { ...formats, currency: pledge.currency })} of it was paid or written off; a pledge is that much at least.`;
        throw new Problem(400, 'invalid', message, { fields: { cents: message } });
      }
      const money = (cents: number): string => formatMoney(cents, { ...formats, currency: pledge.currency });
      if (asked.cents !== pledge.cents)
        did = `${asked.cents > pledge.cents ? 'Raised' : 'Lowered'} from ${money(pledge.cents)} to ${money(asked.cents)}:`;
      if (asked.plan && asked.cents > settled)
        await this.layOut(tx, pledge, standing, asked.cents - settled, asked.plan);
      else {
        for (const { id: part, cents } of made.change) await tx.update(InstallmentTable, part, { cents });
        await tx.removeAll(InstallmentTable, made.drop);
        await insertInstallments(tx, pledge, made.add);
      }
      await tx.update(PledgeTable, id, {
        cents: asked.cents,
        pledged_on: asked.pledgedOn,
        fund_id: asked.fundId,
        campaign_id: asked.campaignId,
        appeal_id: asked.appealId,
        note: asked.note,
      });
    });
  }

  /** Lays what is open of a pledge out anew, or another amount in its place. */
  private async layOut(
    tx: Transaction,
    pledge: PledgeRecord,
    standing: PledgeStanding,
    cents: number,
    plan: PledgePlan,
  ) {
    const { keep, drop } = remaining(standing);
    const rows = planned(cents, plan);
    for (const part of keep) await tx.update(InstallmentTable, part.id, { cents: part.cents });
    await tx.removeAll(InstallmentTable, drop);
    await insertInstallments(tx, pledge, rows);
    await tx.update(PledgeTable, pledge.id, scheduleRow(plan));
  }

  /** Lays what is left out anew. */
  reschedule(actor: Actor, id: number, version: number, plan: PledgePlan) {
    const summary = `Rescheduled what is left of ${pledgeNumber(id)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const standing = await now(tx, pledge);
      if (standing.balance === 0) throw new Problem(409, 'nothing-left', 'Nothing of this pledge is open any more.');
      await this.layOut(tx, pledge, standing, standing.balance, plan);
    });
  }

  /** Writes off a part or the whole balance, from the last installment back, or of the one chosen. */
  async writeOff(
    actor: Actor,
    id: number,
    asked: { version: number; cents: number | null; installmentId: number | null; date: string; reason: string },
  ) {
    const { today } = await this.settings.calendar();
    let written = '';
    const summary = () => `Wrote ${written} of ${pledgeNumber(id)} off: ${asked.reason}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      written = await writeOffIn(tx, pledge, asked, today);
    });
  }

  /** Writes off all that is open of many; those of which nothing is, or that are gone, are passed over. */
  async writeOffMany(actor: Actor, ids: readonly number[], asked: { date: string; reason: string }) {
    const { today } = await this.settings.calendar();
    const words = { changed: 0 };
    const summary = (): string => `Wrote ${counted(words.changed, 'pledge')} off: ${asked.reason}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const pledges = [...(await tx.lock(PledgeTable, [...new Set(ids)])).values()];
      for (const pledge of pledges) {
        if (!isOwed(pledge.stage) || (await now(tx, pledge)).balance === 0) continue;
        await writeOffIn(tx, pledge, { ...asked, cents: null, installmentId: null }, today);
        words.changed++;
      }
      return { changed: words.changed };
    });
  }

  /** Moves a grant or a match on. An award may differ from what was asked, and be laid out anew. */
  async stage(
    actor: Actor,
    id: number,
    asked: {
      version: number;
      stage: PledgeStage;
      on: string;
      cents?: number | undefined;
      plan?: PledgePlan | undefined;
    },
  ) {
    const { today } = await this.settings.calendar();
    if (asked.on > today)
      throw new Problem(400, 'invalid', 'The date is in the future.', {
        fields: { on: 'Note it on the day that it happens.' },
      });
    const summary = `${pledgeNumber(id)}: ${asked.stage}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const standing = await now(tx, pledge);
      if (asked.stage === 'declined' && standing.paid > 0)
        throw new Problem(409, 'paid', 'Part of it was paid; write the balance off instead.');
      const cents = asked.cents ?? pledge.cents;
      if (asked.plan || cents !== pledge.cents) {
        if (standing.paid + standing.writtenOff > 0)
          throw new Problem(409, 'paid', 'Part of it was paid or written off; reschedule what is left instead.');
        const due = standing.installments[0]?.due ?? asked.on;
        const plan: PledgePlan = asked.plan ?? { kind: 'rows', rows: [{ due, cents }] };
        const rows = planned(cents, plan);
        await tx.removeAll(
          InstallmentTable,
          standing.installments.map((part) => part.id),
        );
        await insertInstallments(tx, pledge, rows);
        await tx.update(PledgeTable, id, { cents, ...scheduleRow(plan) });
      }
      const first = pledge.stage === 'asked' && asked.stage === 'promised';
      await tx.update(PledgeTable, id, {
        stage: asked.stage,
        ...(first ? { pledged_on: asked.on } : {}),
        ...(asked.stage === 'claimed' ? { claimed_on: asked.on } : {}),
      });
    });
  }
}

const now = async (tx: Transaction, pledge: PledgeRecord): Promise<PledgeStanding> => {
  const books = (await booksOf(tx.sql, [pledge])).get(pledge.id);
  return pledgeAt(books ?? { pledgedOn: pledge.pledged_on, installments: [], payments: [], writeOffs: [] }, ALWAYS);
};

function scheduleRow(plan: PledgePlan): Pick<PledgeRecord, 'start_on' | 'every' | 'last_day'> {
  const schedule: Schedule | null = plan.kind === 'rows' ? null : plan.schedule;
  return { start_on: schedule?.start ?? null, every: schedule?.every ?? '', last_day: schedule?.lastDay ? 1 : 0 };
}

const insertInstallments = (
  tx: Transaction,
  pledge: { id: number; supporter_id: number },
  rows: readonly { due: string; cents: number }[],
): Promise<number[]> =>
  tx.insertAll(
    InstallmentTable,
    rows.map((row) => ({ supporter_id: pledge.supporter_id, pledge_id: pledge.id, due: row.due, cents: row.cents })),
  );

/** Stores a pledge with its installments, and the reports of a grant as tasks. */
export async function makePledge(
  tx: Transaction,
  draft: Omit<PledgeDraft, 'reports'> & { reports?: PledgeDraft['reports'] },
  currency: string,
): Promise<number> {
  const rows = planned(draft.cents, draft.plan);
  const id = await tx.insert(PledgeTable, {
    supporter_id: draft.supporterId,
    kind: draft.kind,
    stage: draft.stage,
    cents: draft.cents,
    currency,
    pledged_on: draft.pledgedOn,
    fund_id: draft.fundId,
    campaign_id: draft.campaignId,
    appeal_id: draft.appealId,
    ...scheduleRow(draft.plan),
    note: draft.note,
    applied_on: draft.appliedOn,
    asked_cents: draft.askedCents,
    claimed_on: null,
    for_gift_id: draft.forGiftId,
  });
  await insertInstallments(tx, { id, supporter_id: draft.supporterId }, rows);
  await tx.insertAll(
    TaskTable,
    (draft.reports ?? []).map((report) => ({
      supporter_id: draft.supporterId,
      title: report.title,
      due: report.due,
      owner_id: null,
      repeats: 'never',
      repeat_day: Number(report.due.slice(8, 10)),
      done_on: null,
      done_by: '',
      pledge_id: id,
    })),
  );
  return id;
}

/** Writes off a part or all that is open of a pledge that is locked, from the last installment back; answers how much, in words. */
async function writeOffIn(
  tx: Transaction,
  pledge: PledgeRecord,
  asked: { cents: number | null; installmentId: number | null; date: string; reason: string },
  today: string,
): Promise<string> {
  const { installments, balance } = await now(tx, pledge);
  const open = installments.filter(
    (part) => part.open > 0 && (asked.installmentId === null || part.id === asked.installmentId),
  );
  const most = open.reduce((sum, part) => sum + part.open, 0);
  const cents = asked.cents ?? most;
  const formats = { ...(await formatsIn(tx.sql)), currency: pledge.currency };
  const fault = (field: string, message: string): Problem =>
    new Problem(400, 'invalid', message, { fields: { [field]: message } });
  if (balance === 0 || most === 0) throw fault('cents', 'Nothing is open there to write off.');
  if (cents > most) throw fault('cents', `Only ${formatMoney(most, formats)} is open; write off that much at most.`);
  if (asked.date < pledge.pledged_on) throw fault('date', `The date is before ${pledgeNumber(pledge.id)} was pledged.`);
  if (asked.date > today) throw fault('date', 'The date is in the future; write it off when it is given up.');
  let left = cents;
  for (const part of open.toReversed()) {
    const some = Math.min(left, part.open);
    if (some === 0) break;
    left -= some;
    await tx.insert(WriteOffTable, {
      ...{ supporter_id: pledge.supporter_id, pledge_id: pledge.id, installment_id: part.id },
      ...{ date: asked.date, cents: some, reason: asked.reason },
    });
  }
  return formatMoney(cents, formats);
}

/** Writes off all that is open of a pledge; answers how much, in words. */
export const writeOffAll = async (
  tx: Transaction,
  id: number,
  asked: { date: string; reason: string },
  today: string,
): Promise<string> => writeOffIn(tx, await lockPledge(tx, id), { ...asked, cents: null, installmentId: null }, today);
