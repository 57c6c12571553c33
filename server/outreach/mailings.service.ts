import type { DataSource } from 'typeorm';
import { escapeHtml, lettersHtml, lettersText, mergeLetter, mergeLine, mergeValues } from '@tallystick/core/letters';
import type { LetterNode, MergeSetting } from '@tallystick/core/letters';
import { displayName } from '@tallystick/core/names';
import { mayReach } from '@tallystick/core/wishes';
import type { Purpose } from '@tallystick/core/wishes';
import type { Actor, Changes } from '../platform/changes.ts';
import { chunks, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs } from '../platform/jobs.ts';
import { letterIn, refuseUnknownFields } from '../letters/index.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { long, maybe, ref, table, text, setUp } from '../platform/tables.ts';
import type { Segments } from '../segments/index.ts';
import type { OrganizationRow, Settings } from '../settings/index.ts';
import type { Addressee, Addressees } from './addressees.ts';
import type { Deliveries } from './deliveries.ts';
import type { Composed, DeliveryRecord } from './delivery.entity.ts';
import { sealed } from './sealed.ts';
import type { SealedFor } from './sealed.ts';
import { DeliveryTable } from './delivery.entity.ts';
import type { RowOf } from '../platform/tables.ts';
import { sendJob } from './sendings.ts';
import type { Sendings, Source } from './sendings.ts';

export const MailingTable = table('mailing', setUp('outreach', 'Mailing'), {
  name: text(120).says('Name'),
  subject: text(200).says('Subject'),
  body: long,
  segment_id: maybe(ref),
  appeal_id: maybe(ref),
  state: text<'draft' | 'sending' | 'sent'>(12).says('State'),
});
export type MailingRecord = RowOf<typeof MailingTable>;

export interface MailingDraft {
  name: string;
  subject: string;
  body: LetterNode;
  segmentId: number | null;
  appealId: number | null;
}

const rowOf = (draft: MailingDraft) => ({
  name: draft.name,
  subject: draft.subject,
  body: JSON.stringify(draft.body),
  segment_id: draft.segmentId,
  appeal_id: draft.appealId,
});

export class Mailings {
  private readonly sql: Sql;

  constructor(
    private readonly source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly segments: Segments,
    private readonly addressees: Addressees,
    private readonly deliveries: Deliveries,
    private readonly sendings: Sendings,
    private readonly jobs: Jobs,
    private readonly publicUrl: () => string,
  ) {
    this.sql = sqlOn(source);
    sendings.register({
      kind: 'mailing',
      link: linkOf,
      composer: (id) => this.composer(id),
      finished: (id, actor) => this.finished(id, actor),
    });
  }

  /** Every mailing by its name, the newest first. */
  names() {
    return this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM mailing ORDER BY id DESC');
  }

  private async row(id: number): Promise<MailingRecord> {
    const row = await this.source.getRepository(MailingTable).findOneBy({ id });
    if (!row) throw notFound('This e-mail');
    return row;
  }

  private async view(row: MailingRecord) {
    const [tally, segment, job] = await Promise.all([
      this.deliveries.counts(sourceOf(row.id)),
      row.segment_id === null ? null : this.segments.nameOf(row.segment_id),
      this.jobs.lastOf(sendJob, linkOf(row.id)),
    ]);
    return {
      id: row.id,
      version: row.version,
      name: row.name,
      subject: row.subject,
      body: letterIn(row.body),
      segmentId: row.segment_id,
      segmentName: segment ?? '',
      appealId: row.appeal_id,
      state: row.state,
      jobId: job,
      stopped: tally.queued > 0 && (await this.deliveries.isStopped(sourceOf(row.id))),
      counts: {
        reached: tally.sent,
        opened: tally.opened,
        waiting: tally.queued,
        notReached: tally.notReached,
        held: tally.held,
      },
    };
  }

  async list() {
    const rows = await this.source.getRepository(MailingTable).find({ order: { id: 'DESC' }, take: 200 });
    return Promise.all(rows.map((row) => this.view(row)));
  }

  async get(id: number) {
    return this.view(await this.row(id));
  }

  add(actor: Actor, draft: MailingDraft) {
    return this.changes.write(actor, { kind: 'edit', summary: `Began the e-mail ${draft.name}` }, async (tx) => {
      await refuseUnknownFields(tx.sql, draft, 'supporter');
      return { id: await tx.insert(MailingTable, { ...rowOf(draft), state: 'draft' }) };
    });
  }

  change(actor: Actor, id: number, version: number, draft: MailingDraft) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the e-mail ${draft.name}` }, async (tx) => {
      const row = await tx.expect(MailingTable, id, version, 'This e-mail');
      if (row['state'] !== 'draft')
        throw new Problem(409, 'already-sent', 'This e-mail was sent; what was sent cannot be changed.');
      await refuseUnknownFields(tx.sql, draft, 'supporter');
      await tx.update(MailingTable, id, rowOf(draft));
    });
  }

  remove(actor: Actor, id: number) {
    let name = '';
    return this.changes.write(actor, { kind: 'edit', summary: () => `Deleted the e-mail ${name}` }, async (tx) => {
      const row = (await tx.lock(MailingTable, [id])).get(id);
      if (!row) throw notFound('This e-mail');
      name = row.name;
      if (row.state !== 'draft') throw new Problem(409, 'already-sent', 'This e-mail was sent, so it stays.');
      await tx.removeAll(MailingTable, [id]);
    });
  }

  /** Who would get it now, and who is held back with the reason. */
  async check(id: number) {
    const row = await this.row(id);
    if (row.segment_id === null) throw new Problem(400, 'no-segment', 'Choose a segment first.');
    const people = await this.addressees.load([...(await this.segments.membersOf(row.segment_id))]);
    const { today } = await this.settings.calendar();
    const marked = people.map((person) => {
      const reach = mayReach(person, purposeOf(row), today);
      return { person, reason: 'held' in reach ? reach.held : null };
    });
    const line = ({ person, reason }: (typeof marked)[number]) => ({
      supporterId: person.id,
      name: displayName(person.name),
      address: person.reach.email?.address ?? '',
      reason,
    });
    return {
      recipients: marked.filter((one) => one.reason === null).map(line),
      held: marked.filter((one) => one.reason !== null).map(line),
    };
  }

  /** An e-mail as one supporter would get it. */
  async preview(subject: string, body: LetterNode, supporterId: number) {
    const [person] = await this.addressees.load([supporterId]);
    if (!person) throw notFound('This supporter');
    const message = this.merged(
      { subject, body },
      person,
      await this.setting(),
      `${this.publicUrl()}/unsubscribe/preview`,
    );
    return { to: person.reach.email?.address ?? '', ...message };
  }

  /** Puts a message for everyone not held back in the queue and begins to send; `expected` is the number that was shown. */
  async send(actor: Actor, id: number, expected: number) {
    const { recipients, held } = await this.check(id);
    if (recipients.length !== expected)
      throw new Problem(
        409,
        'recipients-changed',
        `This would now go to ${recipients.length}, not ${expected}. Nothing was sent; check the list and send again.`,
      );
    const { name, subject } = await this.row(id);
    const summary = `Sent ${name} to ${recipients.length}, held back ${held.length}`;
    const { revision, result } = await this.changes.write(actor, { kind: 'send', summary }, async (tx) => {
      const locked = (await tx.lock(MailingTable, [id])).get(id);
      if (locked?.state !== 'draft') throw new Problem(409, 'already-sent', 'This e-mail was already sent.');
      await tx.update(MailingTable, id, { state: 'sending' });
      const common = {
        ...{ source_kind: 'mailing', source_id: id, receipt_id: null, subject, at: tx.at },
        channel: 'email' as const,
      };
      await tx.insertAll(DeliveryTable, [
        ...recipients.map((one) => ({
          ...common,
          supporter_id: one.supporterId,
          address: one.address,
          state: 'queued' as const,
          detail: '',
        })),
        ...held.map((one) => ({
          ...common,
          supporter_id: one.supporterId,
          address: one.address,
          state: 'held' as const,
          detail: one.reason ?? '',
        })),
      ]);
      return tx.enqueue(sendJob, this.sendings.jobFor(sourceOf(id), `Sending ${name}`, recipients.length));
    });
    this.jobs.nudge();
    return { revision, jobId: result };
  }

  private async composer(id: number) {
    const row = await this.row(id);
    const letter = { subject: row.subject, body: letterIn(row.body) };
    const setting = { ...(await this.setting()), purpose: purposeOf(row) };
    return async (rows: readonly DeliveryRecord[]): Promise<Composed[]> => {
      const people = new Map(
        (await this.addressees.load(rows.map((one) => one.supporter_id))).map((person) => [person.id, person]),
      );
      return rows.map((delivery) => this.compose(delivery, people.get(delivery.supporter_id), letter, setting));
    };
  }

  private async finished(id: number, actor: Actor): Promise<void> {
    const { name } = await this.row(id);
    await this.changes.write(actor, { kind: 'send', summary: `Finished sending ${name}` }, async (tx) => {
      const row = (await tx.lock(MailingTable, [id])).get(id);
      if (row?.state === 'sending') await tx.update(MailingTable, id, { state: 'sent' });
    });
  }

  private compose(
    delivery: DeliveryRecord,
    person: Addressee | undefined,
    letter: { subject: string; body: LetterNode },
    setting: Setting & { purpose: Purpose },
  ): Composed {
    if (!person) return { hold: 'the record is gone' };
    const reach = mayReach(person, setting.purpose, setting.today);
    if ('held' in reach) return { hold: reach.held };
    const address = (aim: SealedFor): string =>
      `${this.publicUrl()}/${aim}/${sealed(setting.sender.secret, aim, person.id, delivery.id)}`;
    const link = address('unsubscribe');
    const { subject, html, text: plain } = this.merged(letter, person, setting, link, address('opened'));
    const host = setting.sender.mail_from.split('@')[1] ?? 'localhost';
    return {
      send: {
        messageId: `<delivery-${delivery.id}@${host}>`,
        from: setting.sender.mail_from,
        fromName: setting.sender.name,
        // Where they are reached now: the address may have changed since it was queued.
        to: reach.address,
        subject,
        html,
        text: plain,
        // RFC 8058: mail programs may offer their own button for it
        headers: { 'List-Unsubscribe': `<${link}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' },
      },
    };
  }

  /** `seen` is the address of a picture that tells that the message was opened; a preview has none. */
  private merged(
    letter: { subject: string; body: LetterNode },
    person: Addressee,
    setting: Setting,
    link: string,
    seen: string | null = null,
  ) {
    const values = mergeValues(person, setting);
    const { blocks, missing } = mergeLetter(letter.body, values);
    const subject = mergeLine(letter.subject, values);
    const sender = [setting.sender.name, ...setting.sender.address.split('\n')].filter(Boolean).join(', ');
    const picture = seen === null ? '' : `<img src="${escapeHtml(seen)}" width="1" height="1" alt="">`;
    return {
      subject: subject.text,
      html: page(
        `${lettersHtml(blocks)}<hr><p class="foot">${escapeHtml(sender)}<br><a href="${escapeHtml(link)}">No more e-mail like this</a></p>${picture}`,
      ),
      text: `${lettersText(blocks)}\n\n-- \n${sender}\nNo more e-mail like this: ${link}\n`,
      missing: [...new Set([...missing, ...subject.missing])],
    };
  }

  private async setting(): Promise<Setting> {
    const sender = await this.settings.organization();
    const { today } = await this.settings.calendar();
    return {
      sender,
      organization: sender.name,
      signature: sender.signature,
      currency: sender.currency,
      locale: sender.locale,
      today,
    };
  }

  /** What became of each message. */
  async outcomes(id: number) {
    const rows = await this.sql.rows<DeliveryRecord>(
      `SELECT * FROM delivery WHERE source_kind = 'mailing' AND source_id = ? ORDER BY state, id`,
      [id],
    );
    const names = new Map<number, string>();
    for (const slice of chunks(rows.map((row) => row.supporter_id)))
      for (const person of await this.addressees.load(slice)) names.set(person.id, displayName(person.name));
    return rows.map((row) => ({ ...row, name: names.get(row.supporter_id) ?? '' }));
  }
}

interface Setting extends MergeSetting {
  sender: OrganizationRow;
}

/** An e-mail of an appeal asks for gifts; one of none is news. */
const purposeOf = (row: { appeal_id: number | null }): Purpose => (row.appeal_id === null ? 'news' : 'appeal');

const linkOf = (id: number): string => `/outreach/${id}`;
const sourceOf = (id: number): Source => ({ kind: 'mailing', id });

const page = (body: string): string =>
  `<!doctype html><html><head><meta charset="utf-8"><style>body{font:16px/1.55 Georgia,serif;color:#23272f;max-width:38rem;margin:1.5rem auto;padding:0 1rem}a{color:#2f5277}hr{border:0;border-top:1px solid #e4dccf;margin:2rem 0 1rem}.foot{font:13px/1.5 sans-serif;color:#646a73}</style></head><body>${body}</body></html>`;
