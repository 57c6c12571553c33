import { postalLines } from '@tallystick/core/contact';
import type { Side, Sort } from '@tallystick/core/duplicates';
import { parseBirthday } from '@tallystick/core/dates';
import { showField } from '@tallystick/core/fields';
import type { Kept } from '@tallystick/core/fields';
import type { Formats } from '@tallystick/core/money';
import { displayName, fold, otherNames } from '@tallystick/core/names';
import type { SupporterKind } from '@tallystick/core/supporters';
import { z } from 'zod';
import type { Sql } from '../platform/db.ts';
import { lastWritten } from '../platform/since.ts';
import { fieldsIn, fieldValuesOf } from '../settings/index.ts';
import {
  AddressTable,
  EmailTable,
  namesOf,
  NO_WAYS,
  overridesIn,
  PhoneTable,
  SupporterTable,
  waysOf,
} from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';

/** A field with what each of several records has in it. */
export interface Compared {
  key: string;
  label: string;
  sort: Sort;
  /** True where the values of all are kept together, so that nothing has to be chosen. */
  together: boolean;
  sides: (Side & { shown: string })[];
}

const BY_KIND = {
  person: ['prefix', 'first', 'middle', 'last', 'suffix', 'nickname', 'former_last', 'birthday', 'household_id'],
  household: ['organization'],
  organization: ['organization', 'org_kind'],
} as const satisfies Record<SupporterKind, readonly (keyof SupporterRecord)[]>;
/** The columns of a record of which one value is kept. */
export const COLUMNS: readonly (keyof SupporterRecord)[] = [...new Set(Object.values(BY_KIND).flat()), 'addressing'];
const line = (most: number) => z.string().max(most, `At most ${most} characters.`);
/** The columns that may be written anew in a comparison, with what each takes. */
export const TYPED: Readonly<Record<string, z.ZodType<string>>> = {
  ...{ prefix: line(30), first: line(120), middle: line(120), last: line(120), suffix: line(30) },
  ...{ nickname: line(120), former_last: line(120) },
  organization: line(120).min(1, 'The name is missing.'),
  birthday: z.string().transform((text, context) => {
    const read = text === '' ? '' : parseBirthday(text);
    if (read === null) context.addIssue({ code: 'custom', message: 'Write 3/14/1961, or 3/14 without the year.' });
    return read ?? z.NEVER;
  }),
};
const WAYS = { email: EmailTable, phone: PhoneTable, address: AddressTable } as const;
export type WayKey = keyof typeof WAYS;
export const WAY_KEYS = Object.keys(WAYS) as WayKey[];

/** What a person typed, and no file or feed brought. */
const isByHand = (kind: string | undefined): boolean => kind === 'edit' || kind === 'sheet';

/** Every field in which one of the records has something, the record's own columns before ways and own fields. */
export async function fieldsOf(
  sql: Sql,
  rows: readonly SupporterRecord[],
  { today, formats, country }: { today: string; formats: Formats; country: string },
): Promise<Compared[]> {
  const fields = [
    ...(await columnFields(sql, rows)),
    ...(await wayFields(sql, rows, today, country)),
    ...(await ownFields(sql, rows, formats)),
  ];
  return fields.filter(({ sides }) => sides.some(({ value }) => value !== ''));
}

async function columnFields(sql: Sql, rows: readonly SupporterRecord[]): Promise<Compared[]> {
  const written = await lastWritten(
    sql,
    SupporterTable,
    rows.map(({ id }) => id),
  );
  const homes = new Map(
    (
      await namesOf(
        sql,
        rows.flatMap((row) => row.household_id ?? []),
      )
    ).map((home) => [home.id, displayName(home)]),
  );
  const kind = rows[0]?.kind ?? 'person';
  return [...BY_KIND[kind], 'addressing' as const].map((key) => ({
    ...{ key, label: SupporterTable.words.columns.get(key)?.word ?? key, together: false },
    sort: key === 'birthday' ? 'birthday' : key === 'household_id' || key === 'addressing' ? 'other' : 'name',
    sides: rows.map((row) => {
      const value = key === 'nickname' ? nicknameOf(row, rows) : String(row[key] ?? '');
      const last = written.get(row.id)?.get(key);
      const shown =
        key === 'household_id' ? (homes.get(Number(value)) ?? '') : key === 'addressing' ? textsOf(row) : value;
      return { id: row.id, value, shown, since: last?.at ?? null, byHand: isByHand(last?.kind) };
    }),
  }));
}

const textsOf = (row: SupporterRecord): string =>
  Object.values(overridesIn(row.addressing))
    .map(({ text }) => text)
    .join(', ');

/** What somebody is called: the nickname, or a short first name where another record has the whole one. */
function nicknameOf(row: SupporterRecord, rows: readonly SupporterRecord[]): string {
  if (row.nickname !== '' || rows.some(({ nickname }) => nickname !== '')) return row.nickname;
  const short = fold(row.first);
  const isShort = rows.some(({ first }) => otherNames(first).includes(short) && first.length > row.first.length);
  return isShort ? row.first : '';
}

async function wayFields(
  sql: Sql,
  rows: readonly SupporterRecord[],
  today: string,
  country: string,
): Promise<Compared[]> {
  const ids = rows.map(({ id }) => id);
  const all = await waysOf(sql, ids, today);
  const of = (id: number) => all.get(id) ?? NO_WAYS;
  const found: Compared[] = [];
  for (const key of WAY_KEYS) {
    const used = rows.map(({ id }) => of(id)[key] ?? of(id).lost[key]);
    const written = await lastWritten(sql, WAYS[key], [0, ...used.flatMap((way) => way?.id ?? [])]);
    found.push({
      ...{ key, label: `${WAY_WORDS[key]} that is used`, sort: 'way', together: false },
      sides: rows.map(({ id }, at) => {
        const way = used[at] ?? null;
        const shown =
          way === null
            ? ''
            : 'street' in way
              ? postalLines(way, country).join(', ')
              : 'number' in way
                ? way.number
                : way.address;
        const last = way === null ? undefined : written.get(way.id)?.get('id');
        return {
          ...{ id, value: shown, shown, since: way?.validFrom ?? last?.at ?? null, byHand: isByHand(last?.kind) },
          sound: of(id)[key] !== null,
        };
      }),
    });
  }
  return found;
}
const WAY_WORDS: Record<WayKey, string> = { email: 'E-mail', phone: 'Telephone', address: 'Address' };

/** The ids of the rows of the ways that are used of each record. */
export async function usedWays(
  sql: Sql,
  ids: readonly number[],
  today: string,
): Promise<(id: number, key: WayKey) => number | null> {
  const all = await waysOf(sql, ids, today);
  return (id, key) => {
    const ways = all.get(id) ?? NO_WAYS;
    return (ways[key] ?? ways.lost[key])?.id ?? null;
  };
}

async function ownFields(sql: Sql, rows: readonly SupporterRecord[], formats: Formats): Promise<Compared[]> {
  const ids = rows.map(({ id }) => id);
  const [fields, values] = await Promise.all([fieldsIn(sql, 'supporter'), fieldValuesOf(sql, ids)]);
  return fields.map((field) => ({
    ...{ key: ownKey(field.id), label: field.name, sort: 'other', together: field.kind === 'many' },
    sides: ids.map((id) => {
      const value = values.get(id)?.find((one) => one.field === field.id)?.value ?? ('' as Kept);
      return { id, value, shown: value === '' ? '' : showField(field, value, formats), since: null, byHand: false };
    }),
  }));
}

export const ownKey = (field: number): string => `own:${field}`;
