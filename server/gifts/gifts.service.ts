import type { DataSource } from 'typeorm';
import { correctionNeeds, giftDateFault, giftNumber, isBanked, partsFault, stockCents } from '@tallystick/core/gifts';
import type { GiftPart } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { supporterNumber } from '@tallystick/core/supporters';
import type { GiftDraft } from '@tallystick/contract/gifts';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { makePledge, payPledge, shrinkPayments } from '../pledges/index.ts';
import { fieldsIn, readFields, refuseClosed, syncFields, lockClosedThrough } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { bookingDay, openBatch } from './books.ts';
import { settledBecause } from './correct.ts';
import { stateOf } from './state.ts';
import type { GiftRecord } from './gift.entity.ts';
import { giftHints } from './hints.ts';
import { yearsGiven } from './years.ts';
import { wholeGift } from './whole.ts';
import { insertGifts, moveOwned, syncParts } from './write.ts';
import { requireActive } from '../supporters/index.ts';
import { GiftTable, TributeTable } from './gift.entity.ts';

/** Gifts: recording them, finding them, changing them while nothing hangs on them. */
export class Gifts {
  private readonly sql: Sql;
  private beingRefunded: (giftId: number) => Promise<number> = async () => 0;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async hints(supporterId: number) {
    return giftHints(this.sql, supporterId, (await this.settings.calendar()).today);
  }

  /** What supporters gave in each of their last fiscal years. */
  async years(supporterIds: readonly number[]) {
    return yearsGiven(this.sql, supporterIds, await this.settings.calendar());
  }

  async get(id: number) {
    const [gift, refundingCents] = await Promise.all([wholeGift(this.sql, id), this.beingRefunded(id)]);
    return { ...gift, refundingCents };
  }

  /** Learns of refunds that were asked for and are not noted yet. */
  refundsAskedBy(cents: (giftId: number) => Promise<number>): void {
    this.beingRefunded = cents;
  }

  /**
   * Records a gift. A closed fund, campaign, appeal or source code, or a supporter in the trash, is refused with the
   * field; a second gift of the same donor by the same check number asks first (409 `same-cheque`).
   */
  async record(actor: Actor, draft: GiftDraft, key: Reason['key']) {
    const organization = await this.settings.organization();
    const { today } = await this.settings.calendar();
    const parts = partsOf(draft, today);
    const summary = `Recorded ${formatMoney(draft.cents, organization)} from ${supporterNumber(draft.supporterId)}`;
    return this.changes.write(actor, { kind: 'gift', summary, key: key ?? null }, async (tx) => {
      await this.mayTake(tx, draft, parts);
      if (draft.recurringId !== null) await ofSameDonor(tx, draft.recurringId, draft.supporterId);
      const own = readFields(await fieldsIn(tx.sql, 'gift'), draft.fields);
      const [id = 0] = await insertGifts(tx, [
        {
          ...draft,
          parts,
          currency: organization.currency,
          bookedOn: bookingDay(draft.date, today, await lockClosedThrough(tx.sql)),
          batchId: await openBatch(tx, 'hand', today, `Recorded by ${actor.name}`),
          own: [...own].filter(([, value]) => value !== ''),
        },
      ]);
      await this.writeTribute(tx, id, draft);
      if (draft.pays)
        await payPledge(tx, { id, supporterId: draft.supporterId, cents: draft.cents, date: draft.date }, draft.pays);
      if (draft.match) {
        await requireActive(tx, draft.match.supporterId, 'match');
        const { fundId, campaignId, appealId } = parts[0] ?? draft;
        await makePledge(
          tx,
          {
            ...{ supporterId: draft.match.supporterId, cents: draft.match.cents, fundId, campaignId, appealId },
            ...{ kind: 'match', stage: 'promised', pledgedOn: draft.date, forGiftId: id },
            plan: { kind: 'rows', rows: [{ due: draft.date, cents: draft.match.cents }] },
            ...{ note: `Matches ${giftNumber(id)}`, appliedOn: null, askedCents: null },
          },
          organization.currency,
        );
      }
      return { id, number: giftNumber(id) };
    });
  }

  /**
   * Changes a gift. Once it is receipted, deposited or in closed books its money and what a receipt says of it stay:
   * 409 `settled`, with what to do instead; credits, tribute, note, sale of stock and own fields can still change.
   */
  async edit(actor: Actor, id: number, draft: Omit<GiftDraft, 'pays' | 'match' | 'recurringId'> & { version: number }) {
    const { today } = await this.settings.calendar();
    const parts = partsOf(draft, today);
    return this.changes.write(actor, { kind: 'gift', summary: `Changed ${giftNumber(id)}` }, async (tx) => {
      const before = await tx.expect(GiftTable, id, draft.version, `Gift ${giftNumber(id)}`);
      const settled = await settledBecause(tx.sql, before);
      if (settled !== '' && (before.state !== 'kept' || !(await sameMoney(tx.sql, before, { ...draft, parts }))))
        throw new Problem(409, 'settled', `${settled} Correct it instead, so that what it was is kept.`);
      // The places of a settled gift stay, also those that were closed since.
      await this.mayTake(tx, draft, settled === '' ? parts : [], before);
      await shrinkPayments(tx, id, draft.cents);
      const own = readFields(await fieldsIn(tx.sql, 'gift'), draft.fields);
      await tx.update(GiftTable, id, {
        supporter_id: draft.supporterId,
        cents: draft.cents,
        date: draft.date,
        // Only another date moves it in the books.
        booked_on:
          settled === '' && draft.date !== before.date
            ? bookingDay(draft.date, today, await lockClosedThrough(tx.sql))
            : before.booked_on,
        source_code_id: draft.sourceId,
        method: draft.method,
        cheque: draft.cheque,
        note: draft.note,
        benefit_cents: draft.benefitCents,
        benefit: draft.benefit,
        fee_cents: draft.feeCents,
        details: draft.details ? JSON.stringify(draft.details) : null,
      });
      await syncParts(tx, id, { ...draft, parts }, draft.credits);
      await this.writeTribute(tx, id, draft);
      await syncFields(tx, 'gift', { supporter_id: draft.supporterId, gift_id: id }, own);
      await moveOwned(tx, id, draft.supporterId);
    });
  }

  /** Changes the note, whatever became of the gift. */
  note(actor: Actor, id: number, { version, note }: { version: number; note: string }) {
    return this.changes.write(actor, { kind: 'gift', summary: `Noted on ${giftNumber(id)}` }, async (tx) => {
      await tx.expect(GiftTable, id, version, `Gift ${giftNumber(id)}`);
      await tx.update(GiftTable, id, { note });
    });
  }

  private async writeTribute(tx: Transaction, giftId: number, draft: Pick<GiftDraft, 'supporterId' | 'tribute'>) {
    const { tribute } = draft;
    const [had] = await tx.sql.rows<{ id: number }>('SELECT id FROM tribute WHERE gift_id = ?', [giftId]);
    if (!tribute) {
      if (had) await tx.removeAll(TributeTable, [had.id]);
      return;
    }
    if (tribute.name === '' && tribute.ofId === null)
      throw fieldProblem('tribute', 'Say whom the gift honours or remembers.');
    if (tribute.ofId !== null) await requireActive(tx, tribute.ofId, 'tribute');
    if (tribute.notifyId !== null) await requireActive(tx, tribute.notifyId, 'tribute');
    const row = {
      supporter_id: draft.supporterId,
      kind: tribute.kind,
      name: tribute.name,
      of_id: tribute.ofId,
      notify_id: tribute.notifyId,
      notify: tribute.notify,
      with_amount: tribute.withAmount ? 1 : 0,
    };
    if (had) await tx.update(TributeTable, had.id, row);
    else await tx.insert(TributeTable, { ...row, gift_id: giftId });
  }

  /** Refuses what cannot be. Places that the gift already went to may have been closed since. */
  private async mayTake(
    tx: Transaction,
    draft: Omit<GiftDraft, 'pays' | 'match' | 'recurringId'>,
    parts: readonly GiftPart[],
    before?: GiftRecord,
  ): Promise<void> {
    await requireActive(tx, draft.supporterId);
    for (const credit of draft.credits) {
      await requireActive(tx, credit.supporterId, 'credits');
      if (credit.supporterId === draft.supporterId)
        throw fieldProblem('credits', 'The legal donor has the whole gift already; credit someone else.');
      if (credit.cents > draft.cents) throw fieldProblem('credits', 'A soft credit is at most the gift.');
    }
    const credited = draft.credits.map((credit) => `${credit.supporterId}|${credit.kind}`);
    if (new Set(credited).size < credited.length)
      throw fieldProblem('credits', 'The same credit stands there twice; put it in once, with the sum.');
    const same = (column: 'fund_id' | 'campaign_id' | 'appeal_id' | 'source_code_id', id: number | null) =>
      before?.[column] === id ? null : id;
    for (const part of parts)
      await refuseClosed(tx, {
        fund: same('fund_id', part.fundId),
        campaign: same('campaign_id', part.campaignId),
        appeal: same('appeal_id', part.appealId),
      });
    await refuseClosed(tx, { source_code: same('source_code_id', draft.sourceId) });
    if (draft.method !== 'cheque' || draft.cheque === '' || draft.sameChequeSeen) return;
    const twice = await one<{ id: number; date: string }>(
      tx.sql, // gift_cheque (cheque)
      `SELECT id, date FROM gift WHERE cheque = ? AND supporter_id = ? AND method = 'cheque' AND cents > 0 AND id <> ? LIMIT 1`,
      [draft.cheque, draft.supporterId, before?.id ?? 0],
    );
    if (twice)
      throw new Problem(
        409,
        'same-cheque',
        `${giftNumber(twice.id)} of ${twice.date} came by check ${draft.cheque} from the same donor. Record it anyway?`,
        { fields: { cheque: `The same number as ${giftNumber(twice.id)}.` }, details: { giftId: twice.id } },
      );
  }
}

/** Whether a draft leaves a gift's money as it is, and what its receipt says of it. */
async function sameMoney(
  sql: Sql,
  before: GiftRecord,
  draft: Pick<
    GiftDraft,
    'supporterId' | 'cents' | 'date' | 'method' | 'parts' | 'benefitCents' | 'benefit' | 'details'
  >,
): Promise<boolean> {
  const said = (details: GiftDraft['details']): string =>
    JSON.stringify(details?.kind === 'stock' ? [details.symbol, details.shares, details.meanPrice] : details);
  return (
    correctionNeeds(await stateOf(sql, before), {
      ...draft,
      benefit: { cents: draft.benefitCents, what: draft.benefit },
    }) === null &&
    said(before.details === null ? null : (JSON.parse(before.details) as GiftDraft['details'])) === said(draft.details)
  );
}

async function ofSameDonor(tx: Transaction, recurringId: number, supporterId: number): Promise<void> {
  const row = await one<{ supporter_id: number }>(
    tx.sql,
    'SELECT supporter_id FROM recurring WHERE id = ? FOR UPDATE',
    [recurringId],
  );
  if (row?.supporter_id !== supporterId) throw fieldProblem('recurringId', 'That recurring gift is someone else’s.');
}

const fieldProblem = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });

/** The parts of a draft; refuses (400) parts that do not add up, a future date, or stock whose value is another. */
function partsOf(draft: Omit<GiftDraft, 'pays' | 'match' | 'recurringId'>, today: string): GiftPart[] {
  const odd = giftDateFault(draft.date, today);
  if (odd !== null) throw fieldProblem('date', odd);
  const { cents, fundId, campaignId, appealId, details } = draft;
  if (details?.kind === 'stock' && stockCents(details.shares, details.meanPrice) !== cents)
    throw fieldProblem('cents', 'A gift of stock is worth its shares times the mean price; the amount differs.');
  if (details && details.kind !== draft.method)
    throw fieldProblem(
      'method',
      `These details belong to a gift ${details.kind === 'stock' ? 'of stock' : 'in kind'}.`,
    );
  if (draft.feeCents > 0 && !isBanked(draft.method))
    throw fieldProblem('feeCents', 'No processor keeps a part of stock or goods.');
  if (draft.feeCents > cents) throw fieldProblem('feeCents', 'The fee is more than the gift.');
  if (draft.method === 'in_kind' && !details) throw fieldProblem('details', 'Say what was given.');
  const parts = draft.parts.length > 0 ? draft.parts : [{ cents, fundId, campaignId, appealId }];
  const fault = partsFault(cents, parts);
  if (fault !== null) throw fieldProblem('parts', fault);
  return parts;
}
