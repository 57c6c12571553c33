import { giftNumber } from '@tallystick/core/gifts';
import { ALIKE, asKnown } from '@tallystick/core/duplicates';
import { called, comparableOf } from '@tallystick/core/intake';
import type { Here, Known, Matching } from '@tallystick/core/intake';
import { fold, supporterParts } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { giftsByReference } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { comparedOf, knownAs, namesByEmail, namesBySorting } from '../supporters/index.ts';
import type { Alike } from '../supporters/index.ts';
import { giftsIn } from './reading.ts';
import type { Line } from './reading.ts';

/* Who and what is here already that rows of a file may be about. */

/** The supporters that rows may belong to: by the numbers, e-mails and names that they bring. */
export async function knownOf(
  sql: Sql,
  lines: readonly Line[],
  picked: readonly number[],
  { source, matching }: { source: string; matching: Matching },
  alike: Alike,
): Promise<Known & { add: (more: readonly Here[]) => void }> {
  const drafts = lines.map(({ draft }) => draft);
  const besides = lines.flatMap(({ details: { spouse, second, employer, household } }) => [
    ...(household === '' ? [] : [firmOf(household)]),
    ...(spouse ? [spouse.name] : []),
    ...(second ? [second.member.name] : []),
    ...(employer ? [firmOf(employer.name)] : []),
  ]);
  const emails = [...new Set(drafts.flatMap((draft) => draft.email ?? []))];
  const mates = await namesByEmail(sql, emails);
  const known = new Set(mates.map(({ address }) => address));
  // Where something else must agree, an e-mail that is known says nothing.
  const byEmail = matching.fields.length === 0;
  const strangers = drafts.filter(
    ({ supporterId, email }) => supporterId === null && !(byEmail && known.has(email ?? '')),
  );
  const names = [...strangers.map(({ name }) => name), ...besides];
  const lasts = [...new Set(names.flatMap((name) => surnameOf(name) || []))];
  const [namesakes, likes] = await Promise.all([
    namesBySorting(sql, lasts),
    alike.all(
      strangers.map((draft) => asKnown(comparableOf(draft))),
      ALIKE,
    ),
  ]);
  const likely = new Map(strangers.map((draft, at) => [draft, (likes[at] ?? []).map(({ id }) => id)]));
  const outside = source === '' ? [] : await knownAs(sql, source, [...new Set(drafts.flatMap(called))]);
  const ids = new Set([...picked, ...[...mates, ...namesakes, ...outside, ...likes.flat()].map(({ id }) => id)]);
  const here = new Map<number, Here>((await comparedOf(sql, [...ids])).map((one) => [one.id, one]));
  // Whoever is named by number is held against the name of the row alone.
  const numbers = new Set<number>();
  for (const { draft, details } of lines)
    for (const id of [draft.supporterId, details.tie?.other]) if (id != null && !here.has(id)) numbers.add(id);
  for (const one of await comparedOf(sql, [...numbers], true)) here.set(one.id, one);
  // The number of who was merged into another means the other.
  const led = [...here.values()].flatMap(({ mergedInto }) => mergedInto ?? []).filter((id) => !here.has(id));
  for (const one of await comparedOf(sql, led, true)) here.set(one.id, one);
  const group = <T extends { id: number }>(all: readonly T[], keyOf: (one: T) => string): Map<string, Here[]> => {
    const groups = new Map<string, Here[]>();
    for (const one of all) {
      const compared = here.get(one.id);
      if (!compared) continue;
      const same = groups.get(keyOf(one));
      if (same) same.push(compared);
      else groups.set(keyOf(one), [compared]);
    }
    return groups;
  };
  const byAddress = group(mates, ({ address }) => address);
  const byName = group(namesakes, surnameOf);
  const byOutside = group(outside, (one) => one.called);
  return {
    add: (more) => more.forEach((one) => here.set(one.id, one)),
    byNumber: (number) => here.get(here.get(number)?.mergedInto ?? number) ?? null,
    byEmail: (email) => byAddress.get(email) ?? [],
    byOutside: (one) => (byOutside.get(one) ?? []).filter(({ state }) => state === 'active'),
    byName: (name) => byName.get(surnameOf(name)) ?? [],
    alike: (draft) =>
      (likely.get(draft) ?? []).flatMap((id) => here.get(id) ?? []).filter(({ state }) => state === 'active'),
  };
}

/** What two lookings-up found: each knows all of what it was asked for, and nothing else. */
export function together(before: Awaited<ReturnType<typeof knownOf>>, more: Known): typeof before {
  const both = (one: readonly Here[], other: readonly Here[]): readonly Here[] =>
    one.length === 0 ? other : [...new Map([...one, ...other].map((each) => [each.id, each])).values()];
  return {
    add: (found) => before.add(found),
    byNumber: (number) => before.byNumber(number) ?? more.byNumber(number),
    byEmail: (email) => both(before.byEmail(email), more.byEmail(email)),
    byOutside: (called) => both(before.byOutside(called), more.byOutside(called)),
    byName: (name) => both(before.byName(name), more.byName(name)),
    alike: (draft) => both(before.alike(draft), more.alike(draft)),
  };
}

/** What people of a name are looked for by: the last name, or the whole one of those who have none. */
const surnameOf = ({ kind, last, first, organization }: NameParts): string =>
  fold(kind === 'person' ? last || first : organization);

/** The outside references that are recorded already, in lower case, with where. */
export async function referencesOf(sql: Sql, lines: readonly Line[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const references = [...new Set(lines.flatMap((line) => giftsIn(line).flatMap(({ reference }) => reference || [])))];
  for (const row of await giftsByReference(sql, references))
    found.set(row.reference.toLowerCase(), `recorded as ${giftNumber(row.id)}`);
  return found;
}

/** An organization of a name. */
export const firmOf = (organization: string): NameParts => supporterParts({ kind: 'organization', organization });
