import { formatDate } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import type { Formats } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import { postalLines } from '@tallystick/core/contact';
import type { PostalAddress } from '@tallystick/core/contact';
import { supporterNumber } from '@tallystick/core/supporters';
import { inAList } from '@tallystick/core/words';
import type { Said } from '@tallystick/contract/upkeep';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { Addressing, lockSupporter, refused, SupporterTable } from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';

/** An act while it is written: what it does is told as it does it, and how people are addressed before and after. */
export class Telling {
  readonly says: string[] = [];
  readonly doubts: string[] = [];
  private readonly addressing: Addressing;
  private before = new Map<number, string>();

  private constructor(
    readonly tx: Transaction,
    readonly today: IsoDate,
    /** The country (ISO code) that addresses without one are in. */
    readonly home: string,
    private readonly formats: Formats,
    settings: Settings,
  ) {
    this.addressing = new Addressing(tx.sql, settings);
  }

  static async begin(tx: Transaction, settings: Settings): Promise<Telling> {
    const [{ today }, organization] = await Promise.all([settings.calendar(), settings.organization()]);
    return new Telling(tx, today, organization.country, organization, settings);
  }

  money(cents: number, currency = this.formats.currency): string {
    return formatMoney(cents, { ...this.formats, currency });
  }

  day(on: IsoDate): string {
    return formatDate(on, this.formats);
  }

  place(address: PostalAddress): string {
    return postalLines(address, this.home).join(', ');
  }

  /** Locks records of people, in the order of their numbers, so that two acts do not wait for each other. */
  async people(ids: readonly number[], field: string): Promise<SupporterRecord[]> {
    const found: SupporterRecord[] = [];
    for (const id of [...new Set(ids)].sort((a, b) => a - b)) {
      const row = await lockSupporter(this.tx, id, supporterNumber(id));
      if (row.kind !== 'person') throw refused(field, `${displayName(row)} is not a person.`);
      found.push(row);
    }
    return found;
  }

  /** Remembers how some are addressed before anything is written. */
  async addressedBefore(ids: readonly number[]): Promise<void> {
    this.before = await this.forms(ids);
  }

  /** How those are addressed now, beside how they were. */
  async letters(ids: readonly number[]): Promise<Said['letters']> {
    const some = [...new Set(ids)];
    const [now, rows] = await Promise.all([this.forms(some), this.tx.lock(SupporterTable, some)]);
    return some.flatMap((id) => {
      const row = rows.get(id);
      if (!row) return [];
      return [{ id, name: displayName(row), before: this.before.get(id) ?? '', after: now.get(id) ?? '' }];
    });
  }

  /** Lets forms of address that were written by hand follow the rules; tells of whom. */
  async followRules(ids: readonly number[]): Promise<void> {
    const rows = [...(await this.tx.lock(SupporterTable, [...new Set(ids)])).values()];
    const byHand = rows.filter(({ addressing }) => addressing !== null);
    await this.tx.updateAll(
      SupporterTable,
      byHand.map(({ id }) => id),
      { addressing: null },
    );
    if (byHand.length > 0)
      this.says.push(
        `How ${inAList(byHand.map(displayName))} ${byHand.length > 1 ? 'are' : 'is'} addressed follows the rules again, in place of what was written by hand.`,
      );
  }

  private async forms(ids: readonly number[]): Promise<Map<number, string>> {
    const all = await this.addressing.of(ids);
    return new Map(
      [...all].map(([id, { forms }]) => [id, `${forms.addresseeFormal.text}; Dear ${forms.salutationInformal.text}`]),
    );
  }
}

/** Refuses a day that is still to come. */
export function refuseFuture(field: string, on: IsoDate | null, today: IsoDate): void {
  if (on !== null && on > today) throw refused(field, 'That day is still to come.');
}
