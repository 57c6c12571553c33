import { likeness } from '@tallystick/core/duplicates';
import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import type { Sql } from '../platform/db.ts';
import { comparedOf, DECEASED, tiesAmong } from '../supporters/index.ts';
import { saidApart } from './not-same.ts';
import type { SupporterRecord } from '../supporters/index.ts';

/** What speaks against records being one, or should be thought of before they are merged, as sentences. */
export async function doubtsOf(sql: Sql, rows: readonly SupporterRecord[]): Promise<string[]> {
  const ids = rows.map(({ id }) => id);
  const [compared, ties, dead, apart] = await Promise.all([
    comparedOf(sql, ids, true),
    tiesAmong(sql, ids),
    sql.rows<{ supporter_id: number }>(`SELECT supporter_id FROM ${DECEASED} d WHERE supporter_id IN (?)`, [ids]),
    saidApart(sql, ids),
  ]);
  const found: string[] = [];
  const [first] = rows;
  const unlike = compared.find((one) => first && one.id !== first.id && likeness(compared[0] ?? one, one).score === 0);
  if (unlike && first) found.push(`The names ${displayName(first)} and ${unlike.name} have nothing in common.`);
  const birthdays = new Set(rows.map(({ birthday }) => birthday).filter((day) => day !== '' && !day.startsWith('-')));
  if (birthdays.size > 1) found.push('They have different birthdays.');
  const suffixes = new Set(rows.map(({ suffix }) => suffix.toLowerCase().replace(/\W/g, '')).filter(isGeneration));
  if (suffixes.size > 1) found.push('Their suffixes tell them apart, as of a parent and a child of one name.');
  if (dead.length > 0 && dead.length < ids.length)
    found.push(
      `${dead.map((row) => supporterNumber(row.supporter_id)).join(' and ')} is marked deceased, so that the merged record will be.`,
    );
  const homes = new Set(rows.flatMap(({ household_id: home }) => home ?? []));
  if (homes.size > 1) found.push('They are in different households; the merged record is in one of them.');
  for (const tie of ties)
    found.push(
      `${supporterNumber(tie.from)} is the ${tie.name} of ${supporterNumber(tie.to)}; that tie goes when they are one.`,
    );
  for (const { one, other, by } of apart)
    found.push(`${by} said that ${supporterNumber(one)} and ${supporterNumber(other)} are not the same.`);
  return found;
}

const isGeneration = (suffix: string): boolean => /^(jr|sr|junior|senior|ii|iii|iv|v)$/.test(suffix);
