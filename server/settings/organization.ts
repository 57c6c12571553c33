import { randomUUID } from 'node:crypto';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import * as contract from '@tallystick/contract/organization';
import type { AppConfig } from '../config.ts';
import { isFinal } from '../platform/changes.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Transaction } from '../platform/transaction.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { SmtpMailer } from '../platform/mail.ts';
import type { Mailer, Sent } from '../platform/mail.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { OrganizationTable } from './organization.entity.ts';
import type { OrganizationRow } from './organization.entity.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    currency: true;
  }
}
isFinal('currency', 'amounts may have been recorded in it since; change it again in the settings');

/** Who knows the organization as it was read last. */
interface Known {
  organization(): Promise<OrganizationRow>;
  forget(): void;
}
type Start = z.infer<typeof contract.OrganizationStart>;

const rowOf = (start: Start) => ({
  name: start.name,
  currency: start.currency,
  locale: start.locale,
  time_zone: start.timeZone,
  fiscal_year_start: start.fiscalYearStart,
  country: start.country,
});

/** Whether anything was recorded in the currency. */
const hasMoney = async (sql: Sql): Promise<boolean> => (await one(sql, 'SELECT id FROM gift LIMIT 1')) !== null;

/** What became of a message, in words. */
const SAYS: Record<Sent['kind'], string> = {
  sent: 'The mail server took it',
  bounced: 'The mail server does not know this address',
  busy: 'The mailbox takes nothing just now',
  refused: 'The mail server refused the message',
  later: 'The mail server cannot be used',
  unsure: 'The connection was lost; it may have arrived',
};

/** What the organization is: said when it begins, and changed by administrators. */
export class OwnOrganization {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Known,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  async view() {
    const row = await one<OrganizationRow & { version: number }>(this.sql, 'SELECT * FROM organization WHERE id = 1');
    if (!row) throw notFound('The organization');
    return {
      ...{ name: row.name, letterhead: row.address, taxId: row.tax_id, currency: row.currency, locale: row.locale },
      ...{ timeZone: row.time_zone, fiscalYearStart: row.fiscal_year_start, country: row.country },
      ...{ signature: row.signature, mailFrom: row.mail_from, version: row.version },
      currencyStays: await hasMoney(this.sql),
    };
  }

  /** Puts down what a new organization says of itself, inside the change that makes its first administrator, from whom its mail comes. */
  async begin(tx: Transaction, start: Start, mailFrom: string): Promise<void> {
    await tx.update(OrganizationTable, 1, { ...rowOf(start), mail_from: mailFrom });
    this.settings.forget();
  }

  async change(actor: Actor, draft: contract.OrganizationDraft & { version: number }) {
    const { currency } = await this.settings.organization();
    const moved = currency !== draft.currency;
    const summary = moved
      ? `Changed the currency from ${currency} to ${draft.currency}`
      : 'Changed what the organization says of itself';
    const committed = await this.changes.write(actor, { kind: moved ? 'currency' : 'edit', summary }, async (tx) => {
      await tx.expectRow(OrganizationTable, 1, draft.version, 'The organization');
      if (moved && (await hasMoney(tx.sql))) {
        const message = `There are gifts in ${currency} already, so the currency stays.`;
        throw new Problem(409, 'has-gifts', message, { fields: { currency: message } });
      }
      await tx.update(OrganizationTable, 1, {
        ...rowOf(draft),
        ...{ address: draft.letterhead, tax_id: draft.taxId, signature: draft.signature, mail_from: draft.mailFrom },
      });
    });
    this.settings.forget();
    return committed;
  }

  /** Sends one message to see whether mail goes; what became of it in words. */
  async testMail(mailer: Mailer, to: string, server: string) {
    const { name, mail_from: from } = await this.settings.organization();
    const text = `This is a test of the mail of ${name}. It was sent from Tallystick by way of ${server}.`;
    const sent = await mailer.send({
      ...{ messageId: `<test-${randomUUID()}@${from.split('@')[1] ?? 'localhost'}>`, from, fromName: name, to },
      ...{ subject: `Test of the mail of ${name}`, text, html: `<p>${text.replace(/[&<>]/g, '')}</p>` },
    });
    const reason = sent.kind === 'sent' ? '' : `: ${sent.reason}`;
    return { arrived: sent.kind === 'sent', says: `${SAYS[sent.kind]}${reason}.` };
  }
}

export function serveOrganization(http: Http, own: OwnOrganization, config: AppConfig): void {
  const server = new URL(config.smtpUrl);
  const mailServer = `${server.protocol}//${server.host}`;
  const mailer = config.mailer ?? new SmtpMailer(config.smtpUrl);
  http.on(contract.getOrganization, async () => ({ ...(await own.view()), mailServer, publicUrl: config.publicUrl }));
  http.on(contract.setOrganization, async ({ actor, body }) => {
    const { revision } = await own.change(actor, body);
    return { revision };
  });
  http.on(contract.testMail, ({ body }) => own.testMail(mailer, body.to, mailServer));
}
