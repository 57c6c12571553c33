import type { DataSource } from 'typeorm';
import { giftNumber } from '@tallystick/core/gifts';
import { escapeHtml, lettersHtml, lettersText } from '@tallystick/core/letters';
import { showField, kept } from '@tallystick/core/fields';
import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { receiptNumber } from '@tallystick/core/thanks';
import type { Reach } from '@tallystick/core/wishes';
import type { Gift } from '@tallystick/contract/gifts';
import type { GiftLists } from '../gifts/index.ts';
import { lettersPdf, undrawableIn } from '../letters/index.ts';
import type { Letters } from '../letters/index.ts';
import type { Addressees, Composed, DeliveryRecord, Sendings } from '../outreach/index.ts';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { fieldsIn } from '../settings/index.ts';
import type { OrganizationRow, Settings } from '../settings/index.ts';
import { freeze, thawed } from './freeze.ts';
import type { Frozen, Receipted } from './freeze.ts';
import { takePlaces, IssueRunTable, ReceiptTable } from './receipts.ts';
import { DeliveryTable, sendJob } from '../outreach/index.ts';
import { fundPartsOf, GiftTable, saysOf } from '../gifts/index.ts';
import { mayReach } from '@tallystick/core/wishes';
import { counted } from '@tallystick/core/words';

interface Subject extends Receipted {
  reach: Reach;
}

export class Thanks {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly gifts: GiftLists,
    private readonly letters: Letters,
    private readonly addressees: Addressees,
    private readonly sendings: Sendings,
    private readonly jobs: Jobs,
  ) {
    this.sql = sqlOn(source);
    sendings.register({ kind: 'receipt', link: (id) => `/thanks/issued?run=${id}`, composer: () => this.composer() });
  }

  /** Gifts not yet acknowledged, oldest first, with how each receipt would travel. */
  async unthanked(query: { limit: number; cursor?: string | undefined; batchId?: number | undefined }) {
    const page = await this.gifts.list({ ...query, thanked: 'no', sort: 'date' });
    const subjects = await this.subjects(page.items);
    return { ...page, items: subjects.map(({ gift, reach }) => ({ ...gift, ...travel(reach) })) };
  }

  private async subjects(gifts: readonly Gift[]): Promise<Subject[]> {
    const people = await this.addressees.load([...new Set(gifts.map((gift) => gift.supporterId))]);
    const byId = new Map(people.map((person) => [person.id, person]));
    const [own, formats, { today }] = await Promise.all([
      fieldsIn(this.sql, 'gift'),
      this.settings.formats(),
      this.settings.calendar(),
    ]);
    const parts = await fundPartsOf(
      this.sql,
      gifts.filter((gift) => gift.split).map((gift) => gift.id),
    );
    return gifts.flatMap((gift) => {
      const known = byId.get(gift.supporterId);
      if (!known) return [];
      const fields = own.map((field) => [
        `field${field.id}`,
        showField(field, gift.fields[field.id] ?? kept(''), formats),
      ]);
      const person = { ...known, fields: { ...known.fields, ...Object.fromEntries(fields) } };
      return { gift, parts: parts.get(gift.id) ?? [], person, reach: mayReach(person, 'receipt', today) };
    });
  }

  private async chosen(giftIds: readonly number[]): Promise<Subject[]> {
    const unique = [...new Set(giftIds)];
    const gifts: Gift[] = [];
    for (const slice of chunks(unique))
      gifts.push(...(await this.gifts.list({ ids: slice, limit: slice.length, sort: 'date' })).items);
    if (gifts.length !== unique.length) throw notFound('One of these gifts');
    const subjects = await this.subjects(
      gifts.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.id - b.id)),
    );
    const held = subjects.flatMap(({ gift, reach }) => ('held' in reach ? [`${gift.number} (${reach.held})`] : []));
    if (held.length > 0)
      throw new Problem(
        409,
        'held-back',
        `Held back: ${held.slice(0, 5).join(', ')}${held.length > 5 ? ` and ${held.length - 5} more` : ''}. Leave them out, or restore the records first. Nothing was numbered.`,
      );
    return subjects;
  }

  /** The letters as one PDF marked as proof; nothing is numbered, nothing is written. */
  async proof(letterId: number, giftIds: readonly number[]): Promise<Buffer> {
    const [letter, subjects, sender] = await Promise.all([
      this.letters.get(letterId),
      this.chosen(giftIds),
      this.settings.organization(),
    ]);
    const { today } = await this.settings.calendar();
    const receipts = subjects.map((subject) => freeze(letter, subject, sender, today, 'number at issue'));
    await refuseUndrawable(receipts, subjects);
    return lettersPdf(receipts, 'PROOF');
  }

  /**
   * Issues receipts: in one change set takes the numbers, freezes each letter, marks the gifts, and queues the
   * e-mails; then a job sends them. Those without e-mail wait in the print file. A gift thanked meanwhile stops
   * the whole issue (409) and nothing is numbered.
   */
  async issue(actor: Actor, letterId: number, giftIds: readonly number[], key: Reason['key']) {
    for (let tries = 1; ; tries++) {
      const says = await saysOf(this.sql, giftIds);
      const subjects = await this.chosen(giftIds);
      try {
        return await this.issueAs(actor, letterId, { subjects, says }, key);
      } catch (error) {
        if (!(error instanceof ChangedMeanwhile) || tries === MOST_READS) throw error;
      }
    }
  }

  /** Issues receipts for gifts as they were read; refuses where one of them says something else by now. */
  private async issueAs(
    actor: Actor,
    letterId: number,
    read: { subjects: readonly Subject[]; says: ReadonlyMap<number, string> },
    key: Reason['key'],
  ) {
    const { subjects, says } = read;
    const [letter, sender, { today }] = await Promise.all([
      this.letters.get(letterId),
      this.settings.organization(),
      this.settings.calendar(),
    ]);
    const proofs = subjects.map((subject) => freeze(letter, subject, sender, today, 'number at issue'));
    await refuseUndrawable(proofs, subjects);
    await refuseBroken(proofs);
    const year = Number(today.slice(0, 4));
    const summary = `Issued ${counted(subjects.length, 'receipt')}`;
    const { revision, result } = await this.changes.write(
      actor,
      { kind: 'issue', summary, key: key ?? null },
      async (tx) => {
        const ids = subjects.map(({ gift }) => gift.id);
        const locked = [...(await tx.lock(GiftTable, ids)).values()];
        refuseAny(
          locked.filter((row) => row.acknowledged_on !== null),
          'already-thanked',
          'Already acknowledged meanwhile',
        );
        refuseAny(
          locked.filter((row) => row.state !== 'kept'),
          'taken-back',
          'Taken back, so that there is nothing to receipt',
        );
        const now = await saysOf(tx.sql, ids);
        if (ids.some((id) => now.get(id) !== says.get(id))) throw new ChangedMeanwhile();
        const first = await takePlaces(tx, year, subjects.length);
        const runId = await tx.insert(IssueRunTable, { letter_id: letterId, at: tx.at, actor: actor.name });
        const frozen = subjects.map((subject, index) =>
          freeze(letter, subject, sender, today, receiptNumber(year, first + index)),
        );
        const receipts = await tx.insertAll(
          ReceiptTable,
          subjects.map(({ gift }, index) => ({
            year,
            sequence: first + index,
            number: receiptNumber(year, first + index),
            gift_id: gift.id,
            supporter_id: gift.supporterId,
            issue_run_id: runId,
            issued_on: today,
            content: JSON.stringify(frozen[index]),
            says: says.get(gift.id) ?? '',
            voided_on: null,
            void_reason: '',
          })),
        );
        await tx.updateAll(GiftTable, ids, { acknowledged_on: today });
        await tx.insertAll(
          DeliveryTable,
          subjects.map(({ gift, reach }, index) => ({
            supporter_id: gift.supporterId,
            source_kind: 'receipt',
            source_id: runId,
            receipt_id: receipts[index] ?? null,
            ...deliveryOf(travel(reach)),
            subject: frozen[index]?.subject ?? '',
            at: tx.at,
          })),
        );
        const emailed = subjects.filter(({ reach }) => 'by' in reach && reach.by === 'email').length;
        const jobId =
          emailed === 0
            ? null
            : await tx.enqueue(
                sendJob,
                this.sendings.jobFor({ kind: 'receipt', id: runId }, `Sending ${counted(emailed, 'receipt')}`, emailed),
              );
        return {
          runId,
          jobId,
          emailed,
          printed: subjects.length - emailed,
          first: receiptNumber(year, first),
          last: receiptNumber(year, first + subjects.length - 1),
        };
      },
    );
    this.jobs.nudge();
    return { revision, ...result };
  }

  /**
   * Voids a receipt: it keeps its number and its words, marked as void, and its gift waits to be acknowledged again
   * if anything is left of it.
   */
  voidReceipt(actor: Actor, id: number, reason: string) {
    let summary = '';
    return this.changes.write(actor, { kind: 'gift', summary: () => summary }, async (tx) => {
      const receipt = (await tx.lock(ReceiptTable, [id])).get(id);
      if (!receipt) throw notFound('This receipt');
      const number = String(receipt['number']);
      if (receipt['voided_on'] !== null) throw new Problem(409, 'void-already', `Receipt ${number} is void already.`);
      const { today } = await this.settings.calendar();
      summary = `Voided receipt ${number}: ${reason}`;
      await tx.update(ReceiptTable, id, { voided_on: today, void_reason: reason });
      await tx.update(GiftTable, Number(receipt['gift_id']), { acknowledged_on: null, receipt_needs: '' });
      return { number };
    });
  }

  private async composer() {
    const sender = await this.settings.organization();
    return async (rows: readonly DeliveryRecord[]): Promise<Composed[]> => {
      const contents = await this.contents(rows);
      const { today } = await this.settings.calendar();
      const people = await this.addressees.load([...new Set(rows.map((row) => row.supporter_id))]);
      return Promise.all(
        rows.map(async (row) => {
          const receipt = contents.get(row.receipt_id ?? 0);
          if (!receipt) return { hold: 'the receipt is gone' };
          if (receipt.isVoid) return { hold: 'the receipt was voided before it went' };
          // The record may have come into the trash since the receipt was issued.
          const person = people.find((one) => one.id === row.supporter_id);
          const reach = person && mayReach(person, 'receipt', today);
          if (!reach || 'held' in reach) return { hold: reach?.held ?? 'the record is gone' };
          if (reach.by !== 'email') return { hold: `${reach.instead ?? 'no e-mail'}; print the receipt instead` };
          const pdf = await lettersPdf([receipt.frozen]);
          return { send: message({ ...row, address: reach.address }, receipt.number, receipt.frozen, sender, pdf) };
        }),
      );
    };
  }

  private async contents(
    rows: readonly DeliveryRecord[],
  ): Promise<Map<number, { number: string; isVoid: boolean; frozen: Frozen }>> {
    const found = await this.sql.rows<{ id: number; number: string; voided_on: string | null; content: string }>(
      'SELECT id, number, voided_on, content FROM receipt WHERE id IN (?)',
      [[0, ...rows.flatMap((row) => (row.receipt_id === null ? [] : [row.receipt_id]))]],
    );
    return new Map(
      found.map((row) => [row.id, { number: row.number, isVoid: row.voided_on !== null, frozen: thawed(row.content) }]),
    );
  }

  /** A receipt as it was issued. */
  async receiptPdf(id: number): Promise<{ number: string; pdf: Buffer }> {
    const row = await one<{ number: string; content: string; voided_on: string | null }>(
      this.sql,
      'SELECT number, content, voided_on FROM receipt WHERE id = ?',
      [id],
    );
    if (!row) throw notFound('This receipt');
    return { number: row.number, pdf: await lettersPdf([thawed(row.content)], row.voided_on === null ? '' : 'VOID') };
  }

  /** The valid receipts of an issue that go by post, in the order of their numbers, as one PDF. */
  async printFile(runId: number): Promise<Buffer> {
    const rows = await this.sql.rows<{ content: string }>(
      `SELECT r.content FROM delivery d JOIN receipt r ON r.id = d.receipt_id WHERE d.source_kind = 'receipt' AND d.source_id = ? AND d.channel = 'print' AND r.voided_on IS NULL ORDER BY r.sequence`,
      [runId],
    );
    if (rows.length === 0) throw notFound('A print file for this issue');
    return lettersPdf(rows.map((row) => thawed(row.content)));
  }
}

const MOST_READS = 5;

/** A gift was changed between being read for its receipt and being locked. */
class ChangedMeanwhile extends Problem {
  constructor() {
    super(
      409,
      'changed-meanwhile',
      'A gift was changed while its receipt was being drawn. Nothing was numbered; try again.',
    );
  }
}

/** Refuses (409) receipts with characters that no font of ours has, naming whose and where: nobody's name loses a letter unseen. */
async function refuseUndrawable(receipts: readonly Frozen[], of: readonly Receipted[]): Promise<void> {
  const wrong = (await undrawableIn(receipts)).flatMap((found, index) => {
    const about = of[index];
    if (found.length === 0 || !about) return [];
    const { gift, person } = about;
    const what = found.map(({ character, where }) => `${character} (${codeOf(character)}) in ${where}`);
    return [
      `${displayName(person.name)}, ${supporterNumber(person.id)}, gift ${gift.number}: ${what.slice(0, 3).join(', ')}`,
    ];
  });
  if (wrong.length === 0) return;
  const more = wrong.length > 5 ? `; and ${wrong.length - 5} more` : '';
  throw new Problem(
    409,
    'cannot-be-drawn',
    `No font here has every character of ${counted(wrong.length, 'receipt')}. ${wrong.slice(0, 5).join('; ')}${more}. Write it in another way, in the record or in the letter. Nothing was numbered.`,
  );
}
const codeOf = (character: string): string =>
  `U+${(character.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`;

/** Draws receipts before they have numbers: a number is never given to what cannot be drawn. */
async function refuseBroken(receipts: readonly Frozen[]): Promise<void> {
  try {
    await lettersPdf(receipts);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(
      409,
      'cannot-be-drawn',
      `One of these receipts cannot be drawn (${error instanceof Error ? error.message : String(error)}). Nothing was numbered; look at the letter.`,
    );
  }
}

function refuseAny(gifts: readonly { id: number }[], code: string, why: string): void {
  if (gifts.length > 0)
    throw new Problem(409, code, `${why}: ${gifts.map(({ id }) => giftNumber(id)).join(', ')}. Nothing was numbered.`);
}

/** How a receipt travels: by e-mail, on paper with the reasons, or not at all for now; `look` where the post may fail. */
function travel(reach: Reach): {
  channel: 'email' | 'print' | 'held';
  because: string;
  address: string;
  look: boolean;
} {
  if ('held' in reach) return { channel: 'held', because: reach.held, address: '', look: false };
  const { by, instead, but, address } = reach;
  if (by === 'email') return { channel: 'email', because: '', address, look: false };
  const why = [...new Set([instead, but])].filter((reason) => reason !== null);
  return { channel: 'print', because: why.join('; '), address, look: but !== null };
}

const deliveryOf = ({ channel, because, address }: ReturnType<typeof travel>) =>
  channel === 'email'
    ? { channel: 'email' as const, address, state: 'queued' as const, detail: '' }
    : { channel: 'print' as const, address: '', state: 'print' as const, detail: because };

function message(row: DeliveryRecord, number: string, frozen: Frozen, sender: OrganizationRow, pdf: Buffer) {
  const host = sender.mail_from.split('@')[1] ?? 'localhost';
  const note = `Your receipt ${number} is attached.`;
  return {
    messageId: `<delivery-${row.id}@${host}>`,
    from: sender.mail_from,
    fromName: sender.name,
    to: row.address,
    subject: frozen.subject,
    html: `<!doctype html><html><body style="font-family:Georgia,serif">${lettersHtml(frozen.blocks)}<p>${escapeHtml(note)}</p></body></html>`,
    text: `${lettersText(frozen.blocks)}\n\n${note}\n`,
    attachments: [{ filename: `receipt-${number}.pdf`, content: pdf, contentType: 'application/pdf' }],
  };
}
