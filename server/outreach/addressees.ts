import { postalLines } from '@tallystick/core/contact';
import type { PostalAddress } from '@tallystick/core/contact';
import type { IsoDate } from '@tallystick/core/dates';
import { fieldsWith } from '@tallystick/core/catalogue';
import { CATALOGUED } from '@tallystick/core/letters';
import type { MergeSubject } from '@tallystick/core/letters';
import { cellTypeOf, cellWords } from '@tallystick/core/segments';
import type { CellType, Shown } from '@tallystick/core/segments';
import { supporterParts } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { wishesOf } from '@tallystick/core/wishes';
import type { SendingSubject, Wish } from '@tallystick/core/wishes';
import { PLAIN_LIST } from '../facts/index.ts';
import type { FactsThread, GivingView } from '../facts/index.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { goodsOf } from '../gifts/index.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { NO_WAYS, waysOf } from '../supporters/index.ts';
import type { Addressing } from '../supporters/index.ts';

/** A supporter as a sending needs them: what is merged, how they are reached, and their wishes. */
export interface Addressee extends MergeSubject, SendingSubject {
  addressLines: string[];
  /** The address that is used, in its parts. */
  address: PostalAddress | null;
}

interface NameRow extends NameParts {
  id: number;
  state: string;
}

/** What of the catalogue letters tell: the names of merge fields, and what each shows. */
const toldOf = (own: Awaited<ReturnType<typeof fieldsIn>>): { name: string; holds: CellType; shown: Shown }[] =>
  [...fieldsWith(own.filter(({ about }) => about === 'supporter'))].flatMap(([field, { type }]) => {
    const name = field.replace(/^own:/, 'field');
    const isTold = name !== field || Object.hasOwn(CATALOGUED, field);
    return isTold ? [{ name, holds: cellTypeOf(type), shown: { kind: 'field', field } }] : [];
  });

/** Loads addressees, as they are reached on a day (today, if none is named), in the order of the ids; ids that do not exist are left out. */
export class Addressees {
  constructor(
    private readonly sql: Sql,
    private readonly facts: FactsThread,
    private readonly settings: Settings,
    private readonly addressing: Addressing,
  ) {}

  async load(ids: readonly number[], on?: IsoDate): Promise<Addressee[]> {
    const found: Addressee[] = [];
    for (const slice of chunks(ids)) found.push(...(await this.slice(slice, on)));
    return found;
  }

  private async slice(ids: readonly number[], on?: IsoDate): Promise<Addressee[]> {
    const calendar = await this.settings.calendar();
    const own = await fieldsIn(this.sql);
    const told = toldOf(own);
    const [names, ways, known, goods, forms, organization] = await Promise.all([
      this.sql.rows<NameRow>('SELECT * FROM supporter WHERE id IN (?)', [ids]),
      waysOf(this.sql, ids, on ?? calendar.today),
      this.facts.ask({
        ...{ ...PLAIN_LIST, only: ids, limit: ids.length, figures: true, columns: told.map(({ shown }) => shown) },
        ...{ setting: { calendar: { ...calendar, today: on ?? calendar.today }, own } },
        ...{ formats: await this.settings.formats() },
      }),
      goodsOf(this.sql, ids),
      this.addressing.of(ids),
      this.settings.organization(),
    ]);
    const given = new Map([...known.ids].map((id, at) => [id, { ...known.given[at], cells: known.cells[at] ?? [] }]));
    const wishes = new Map(ids.map((id) => [id, wishesOf(given.get(id)?.flags ?? 0)]));
    const lastSent = await this.lastSent(ids.filter((id) => wishes.get(id)?.includes('once_a_year')));
    const byId = new Map(names.map((row) => [row.id, row]));
    return ids.flatMap((id) => {
      const [row, form, { giving, cells = [] } = {}] = [byId.get(id), forms.get(id), given.get(id)];
      if (!row || !form || !giving) return [];
      const { email, phone, address, lost } = ways.get(id) ?? NO_WAYS;
      const lines = address ? postalLines(address, organization.country) : [];
      const asked = wishes.get(id) ?? [];
      return {
        ...subject(
          row,
          giving,
          form.deceased && !asked.includes('deceased') ? [...asked, 'deceased'] : asked,
          lastSent.get(id) ?? null,
        ),
        lifetimeCents: giving.lifetime - (goods.get(id) ?? 0),
        reach: {
          email: reached(email?.address, lost.email?.address),
          mail: reached(lines.length > 0 ? lines.join(', ') : undefined, lost.address?.street),
          call: reached(phone?.number, lost.phone?.number),
        },
        addressing: {
          addressee: form.forms.addresseeFormal.text,
          formal: form.forms.salutationFormal.text,
          informal: form.forms.salutationInformal.text,
        },
        fields: Object.fromEntries(
          told.map(({ name, holds }, at) => [name, cellWords(holds, cells[at] ?? null, organization)]),
        ),
        addressLines: lines,
        address,
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
    lastGiftOn: giving.last,
    wishes,
    trashed: row.state !== 'active',
    lastSentOn,
  };
}

/** What a channel would use, or else what it has lost. */
const reached = (used: string | undefined, lost: string | undefined): { address: string; bad: boolean } | null =>
  used !== undefined ? { address: used, bad: false } : lost !== undefined ? { address: lost, bad: true } : null;
