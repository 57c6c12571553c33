import type { DataSource } from 'typeorm';
import { formatDate } from '@tallystick/core/dates';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { ledgerLines, notBooked } from '@tallystick/core/ledger';
import type { AccountRule, AccountsFor } from '@tallystick/core/ledger';
import type { Actor, Changes } from '../platform/changes.ts';
import { bookedIn, sumsThrough } from './bookings.ts';
import { entriesIn } from './journal.ts';
import { isFinal, lockRevision } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { maybe, ref, table, text, setUp } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { OrganizationTable } from '../settings/index.ts';
import type { RowOf } from '../platform/tables.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    closing: true;
  }
}
isFinal('closing', 'what the books came to is worked out anew each time; close or open them again instead');

export const AccountTable = table('account', setUp('deposits', 'Account'), {
  what: text<AccountsFor>(10),
  fund_id: maybe(ref),
  method: maybe(text<PaymentMethod>(12)),
  debit: text(40),
  credit: text(40),
});
type AccountRecord = RowOf<typeof AccountTable>;

/** What goes to the books: gifts on the day they are booked, corrections on theirs. */
export class Ledger {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async accounts() {
    const rows = await this.sql.rows<AccountRecord>(
      `SELECT * FROM account ORDER BY FIELD(what, 'gift', 'pledge', 'write_off', 'sale', 'fee'), fund_id, method`,
    );
    return rows.map(({ what, fund_id: fundId, method, debit, credit }): AccountRule => ({
      what,
      fundId,
      method,
      debit,
      credit,
    }));
  }

  setAccounts(actor: Actor, rules: readonly AccountRule[]) {
    return this.changes.write(
      actor,
      { kind: 'edit', summary: 'Set the accounts of funds and payment methods' },
      async (tx) => {
        const nameOf = (what: string, fundId: number | null, method: string | null): string =>
          `${what}|${fundId ?? ''}|${method ?? ''}`;
        const names = rules.map((rule) => nameOf(rule.what, rule.fundId, rule.method));
        if (new Set(names).size < names.length)
          throw new Problem(400, 'invalid', 'Two rows are for the same fund and payment method; keep one.');
        const had = await tx.sql.rows<AccountRecord>('SELECT * FROM account FOR UPDATE');
        const known = new Map(had.map((row) => [nameOf(row.what, row.fund_id, row.method), row]));
        await tx.removeAll(
          AccountTable,
          [...known].filter(([name]) => !names.includes(name)).map(([, row]) => row.id),
        );
        for (const rule of rules) {
          const row = known.get(nameOf(rule.what, rule.fundId, rule.method));
          const { what, debit, credit } = rule;
          if (row) await tx.update(AccountTable, row.id, { debit, credit });
          else await tx.insert(AccountTable, { what, fund_id: rule.fundId, method: rule.method, debit, credit });
        }
      },
    );
  }

  /** The lines booked from one day to another, both included. */
  async lines(from: string, to: string) {
    const [bookings, entries, rules, { funds }, { closed_through: closedThrough }] = await Promise.all([
      bookedIn(this.sql, from, to),
      entriesIn(this.sql, from, to),
      this.accounts(),
      this.settings.choices(),
      this.settings.organization(),
    ]);
    const lines = ledgerLines(bookings, rules, entries).map((line) => ({
      ...line,
      fund: funds.find((fund) => fund.id === line.fundId)?.name ?? '',
    }));
    const sum = (side: 'debit' | 'credit'): number => lines.reduce((total, line) => total + line[side], 0);
    return { lines, debit: sum('debit'), credit: sum('credit'), closedThrough, notBooked: notBooked(entries, rules) };
  }

  /** Closes the books through a day. What is booked later stands after it. */
  async close(actor: Actor, through: string | null) {
    const { today } = await this.settings.calendar();
    if (through !== null && through >= today)
      throw new Problem(400, 'invalid', 'Only days that are over can be closed.', {
        fields: { through: 'Choose a day before today.' },
      });
    const summary =
      through === null
        ? 'Opened the books again'
        : `Closed the books through ${formatDate(through, await this.settings.formats())}`;
    const committed = await this.changes.write(actor, { kind: 'closing', summary }, async (tx) => {
      // Nothing more is booked until these sums are kept.
      await lockRevision(tx.sql);
      const sums = through === null ? null : await sumsThrough(tx.sql, through);
      await tx.update(OrganizationTable, 1, { closed_through: through, closed_sums: sums });
    });
    this.settings.forget();
    return committed;
  }
}
