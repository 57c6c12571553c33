import type { IsoDate } from '@tallystick/core/dates';
import { addressed, addressing, supporterParts } from '@tallystick/core/names';
import type { AddressedParty, AddressingRules, Form, FullName, NameParts, Overrides } from '@tallystick/core/names';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';

/** The four forms, and whether nobody is left to read them. */
export interface Addressed {
  forms: ReturnType<typeof addressed>;
  deceased: boolean;
}
type NameRow = NameParts & { nickname: string };
type PersonRow = NameRow & { of: number; role: string };

const NAME_COLUMNS = ['kind', 'prefix', 'first', 'middle', 'last', 'suffix', 'organization', 'nickname'];
const named = (alias: string): string => NAME_COLUMNS.map((column) => `${alias}.${column}`).join(', ');
export const fullName = (row: NameRow): FullName => ({ ...supporterParts(row), nickname: row.nickname });

/** How supporters are addressed, with the people of households and the contacts of organizations. */
export class Addressing {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
  ) {}

  /** The four forms for one whose row is read already; whether a person died is known beside it. */
  async ofRow(row: NameRow & { id: number; addressing: string | null }, died: boolean): Promise<Addressed> {
    const { today } = await this.settings.calendar();
    const alone: AddressedParty = { name: fullName(row), people: [], deceased: died };
    const party = row.kind === 'person' ? alone : ((await loadParties(this.sql, [row.id], today)).get(row.id) ?? alone);
    return addressedAs(party, await this.settings.addressingRules(), row.addressing);
  }

  /** The four forms for each of the ids that exist. */
  async of(ids: readonly number[]): Promise<Map<number, Addressed>> {
    if (ids.length === 0) return new Map();
    const { today } = await this.settings.calendar();
    const [rows, parties, rules] = await Promise.all([
      this.sql.rows<{ id: number; addressing: string | null }>('SELECT id, addressing FROM supporter WHERE id IN (?)', [
        ids,
      ]),
      loadParties(this.sql, ids, today),
      this.settings.addressingRules(),
    ]);
    return new Map(
      rows.flatMap((row) => {
        const party = parties.get(row.id);
        return party ? [[row.id, addressedAs(party, rules, row.addressing)]] : [];
      }),
    );
  }
}

/** A record with forms of address that were written by hand before its name changed. */
export interface Outlived {
  id: number;
  /** What is written, and what the rules say, form by form. */
  was: string;
  becomes: string;
  /** The column as it is, and without them. */
  from: string;
  to: string | null;
}

/** Those of the records whose forms by hand no longer fit; of who died nobody is written to by them. */
export async function outlived(addressing: Addressing, sql: Sql, ids: readonly number[]): Promise<Outlived[]> {
  const found: Outlived[] = [];
  for (const slice of chunks(ids, 2000)) {
    const [all, rows] = await Promise.all([
      addressing.of(slice),
      sql.rows<{ id: number; addressing: string | null }>('SELECT id, addressing FROM supporter WHERE id IN (?)', [
        slice,
      ]),
    ]);
    for (const { id, addressing: from } of rows) {
      const { forms, deceased } = all.get(id) ?? { forms: null, deceased: true };
      if (!forms || deceased || from === null) continue;
      const stale = (Object.keys(forms) as Form[]).filter((form) => forms[form].stale);
      if (stale.length === 0) continue;
      const left = Object.fromEntries(
        Object.entries(overridesIn(from)).filter(([form]) => !stale.includes(form as Form)),
      );
      found.push({
        ...{ id, from, to: Object.keys(left).length === 0 ? null : JSON.stringify(left) },
        was: [...new Set(stale.map((form) => forms[form].text))].join(' · '),
        becomes: [...new Set(stale.map((form) => forms[form].rule))].join(' · '),
      });
    }
  }
  return found;
}

const addressedAs = (party: AddressedParty, rules: AddressingRules, written: string | null): Addressed => ({
  forms: addressed(addressing(party, rules), overridesIn(written), party.deceased),
  deceased: party.deceased ?? false,
});

export function overridesIn(json: string | null): Overrides {
  if (json === null) return {};
  const parsed: Partial<Record<Form, { text: string; instead: string }>> = JSON.parse(json);
  return parsed;
}

/**
 * Whom a letter to each supporter is for. Of a household or an organization, who died and who is in the trash is not
 * written to; a household in which nobody lives any more is deceased.
 */
export async function loadParties(
  sql: Sql,
  ids: readonly number[],
  today: IsoDate,
): Promise<Map<number, AddressedParty>> {
  const died = (alias: string): string =>
    `EXISTS (SELECT 1 FROM wish w WHERE w.supporter_id = ${alias}.id AND w.kind = 'deceased')`;
  const alive = `p.state = 'active' AND NOT ${died('p')}`;
  const [rows, members, contacts] = await Promise.all([
    // wish_pair (supporter_id, kind), supporter_household (household_id)
    sql.rows<NameRow & { id: number; died: number; lost: number }>(
      `SELECT s.id, ${named('s')}, ${died('s')} AS died,
       s.kind = 'household' AND EXISTS (SELECT 1 FROM supporter p WHERE p.household_id = s.id AND p.state = 'active') AS lost
       FROM supporter s WHERE s.id IN (?)`,
      [ids],
    ),
    // supporter_household (household_id)
    sql.rows<PersonRow>(
      `SELECT h.id AS of, '' AS role, ${named('p')} FROM supporter h JOIN supporter p ON p.household_id = h.id
       WHERE h.id IN (?) AND h.kind = 'household' AND ${alive} ORDER BY p.id = h.primary_id DESC, p.id`,
      [ids],
    ),
    // relation_to (other_id)
    sql.rows<PersonRow>(
      `SELECT r.other_id AS of, r.role, ${named('p')} FROM relation r JOIN relation_kind k ON k.id = r.kind_id AND k.code = 'contact'
       JOIN supporter p ON p.id = r.supporter_id WHERE r.other_id IN (?) AND (r.until IS NULL OR r.until >= ?) AND ${alive} ORDER BY r.id`,
      [ids, today],
    ),
  ]);
  const people = new Map<number, PersonRow[]>();
  for (const person of [...members, ...contacts]) people.set(person.of, [...(people.get(person.of) ?? []), person]);
  return new Map(
    rows.map((row) => [
      row.id,
      {
        name: fullName(row),
        people: (people.get(row.id) ?? []).map((one) => ({ ...fullName(one), role: one.role })),
        deceased: row.died === 1 || (row.lost === 1 && !people.has(row.id)),
      },
    ]),
  );
}
