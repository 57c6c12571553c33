import { addressOn, postalLines, wayOn } from '@tallystick/core/contact';
import type { Way } from '@tallystick/core/contact';
import { showField } from '@tallystick/core/fields';
import type { MergeSubject } from '@tallystick/core/letters';
import { supporterParts } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { wishesOf } from '@tallystick/core/wishes';
import type { SendingSubject, Wish } from '@tallystick/core/wishes';
import type { FactsThread, GivingView } from '../facts/index.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { Addressing } from '../supporters/index.ts';
import type { Kept } from '@tallystick/core/fields';

/** A supporter as a sending needs them: what is merged, how they are reached by e-mail, and their wishes. */
export interface Addressee extends MergeSubject, SendingSubject {
  emailId: number | null;
  addressLines: string[];
}

interface NameRow extends NameParts {
  id: number;
  state: string;
}
interface WayRow {
  id: number;
  supporter_id: number;
  label: string;
  preferred: number;
  valid_from: string | null;
  valid_to: string | null;
  bad_on: string | null;
}
type EmailRow = WayRow & { address: string };
type AddressRow = WayRow &
  Record<'street' | 'city' | 'region' | 'postal' | 'country', string> &
  Record<'season_from' | 'season_to', string | null>;

const way = <T extends WayRow>(row: T): Omit<T, 'preferred'> & Way =>
  Object.assign({}, row, {
    preferred: row.preferred === 1,
    validFrom: row.valid_from,
    validTo: row.valid_to,
    badOn: row.bad_on,
  });

/** Loads addressees in the order of the ids; ids that do not exist are left out. */
export class Addressees {
  constructor(
    private readonly sql: Sql,
    private readonly facts: FactsThread,
    private readonly settings: Settings,
    private readonly addressing: Addressing,
  ) {}

  async load(ids: readonly number[]): Promise<Addressee[]> {
    const found: Addressee[] = [];
    for (const slice of chunks(ids)) found.push(...(await this.slice(slice)));
    return found;
  }

  private async slice(ids: readonly number[]): Promise<Addressee[]> {
    const calendar = await this.settings.calendar();
    const { today } = calendar;
    const of = <T>(table: string): Promise<T[]> =>
      this.sql.rows<T>(`SELECT * FROM ${table} WHERE supporter_id IN (?) ORDER BY id`, [ids]);
    const [names, emails, addresses, values, fields, given, forms, organization] = await Promise.all([
      this.sql.rows<NameRow>('SELECT * FROM supporter WHERE id IN (?)', [ids]),
      of<EmailRow>('email'),
      of<AddressRow>('address'),
      of<{ supporter_id: number; field_id: number; value: Kept }>('supporter_field'),
      fieldsIn(this.sql, 'supporter'),
      this.facts.ask({ ask: 'giving', ids, calendar }),
      this.addressing.of(ids),
      this.settings.organization(),
    ]);
    const wishes = new Map(ids.map((id, index) => [id, wishesOf(given[index]?.flags ?? 0)]));
    const lastSent = await this.lastSent(ids.filter((id) => wishes.get(id)?.includes('once_a_year')));
    const byId = new Map(names.map((row) => [row.id, row]));
    const [emailsOf, addressesOf, valuesOf] = [bySupporter(emails), bySupporter(addresses), bySupporter(values)];
    return ids.flatMap((id, index) => {
      const [row, form, giving] = [byId.get(id), forms.get(id), given[index]?.giving];
      if (!row || !form || !giving) return [];
      const address = addressOn(
        (addressesOf.get(id) ?? []).map((one) => ({
          ...way(one),
          seasonFrom: one.season_from,
          seasonTo: one.season_to,
        })),
        today,
      );
      return {
        ...subject(row, giving, wishes.get(id) ?? [], lastSent.get(id) ?? null),
        ...emailOn(emailsOf.get(id) ?? [], today),
        addressing: {
          addressee: form.addresseeFormal.text,
          formal: form.salutationFormal.text,
          informal: form.salutationInformal.text,
        },
        fields: Object.fromEntries(
          (valuesOf.get(id) ?? []).flatMap(({ field_id, value }) => {
            const field = fields.find((one) => one.id === field_id);
            return field ? [[`field${field_id}`, showField(field, value, organization)]] : [];
          }),
        ),
        addressLines: address ? postalLines(address, organization.country) : [],
      };
    });
  }

  /** When an appeal or news last went to each; only asked of those who want it once a year. */
  private async lastSent(ids: readonly number[]): Promise<Map<number, string>> {
    if (ids.length === 0) return new Map();
    // delivery_supporter (supporter_id, at)
    const rows = await this.sql.rows<{ id: number; at: string }>(
      `SELECT supporter_id AS id, MAX(at) AS at FROM delivery WHERE supporter_id IN (?) AND source_kind = 'mailing'
       AND state IN ('sent', 'unsure') GROUP BY supporter_id`,
      [ids],
    );
    return new Map(rows.map((row) => [row.id, row.at.slice(0, 10)]));
  }
}

function subject(row: NameRow, giving: GivingView, wishes: Wish[], lastSentOn: string | null) {
  return {
    id: row.id,
    name: supporterParts(row),
    lifetimeCents: giving.lifetime,
    lastGiftOn: giving.last,
    wishes,
    trashed: row.state !== 'active',
    lastSentOn,
  };
}

/** The e-mail to use; where every one is marked bad the first of those, marked so. */
function emailOn(
  emails: readonly EmailRow[],
  today: string,
): { reach: string | null; emailId: number | null; bad: boolean } {
  const usable = wayOn(emails.map(way), today);
  const best =
    usable ??
    wayOn(
      emails.map((one) => ({ ...way(one), badOn: null })),
      today,
    );
  return { reach: best?.address ?? null, emailId: best?.id ?? null, bad: best !== null && usable === null };
}

function bySupporter<T extends { supporter_id: number }>(rows: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const row of rows) {
    const group = groups.get(row.supporter_id);
    if (group) group.push(row);
    else groups.set(row.supporter_id, [row]);
  }
  return groups;
}
