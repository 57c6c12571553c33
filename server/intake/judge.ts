import { giftNumber } from '@tallystick/core/gifts';
import { matchRow } from '@tallystick/core/intake';
import type { DraftRow, Here, Known, Pick, RowMatch, RowProblem } from '@tallystick/core/intake';
import { fold } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import type { IntakeRow } from '@tallystick/contract/intake';
import { giftsByReference } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import { comparedOf, namesByEmail, namesBySorting } from '../supporters/index.ts';

/** A row of the file with what would become of it. */
export interface JudgedRow {
  row: number;
  cells: string[];
  draft: DraftRow;
  problems: RowProblem[];
  /** What deserves a look, though the row is brought in. */
  warnings: RowProblem[];
  match: RowMatch | null;
  verdict: IntakeRow['verdict'];
  says: string;
}

/** The supporters that rows may belong to: by the numbers, e-mails and names that they bring. */
export async function knownOf(sql: Sql, drafts: readonly DraftRow[], picked: readonly number[]): Promise<Known> {
  const emails = [...new Set(drafts.flatMap((draft) => draft.email ?? []))];
  const mates = await namesByEmail(sql, emails);
  const known = new Set(mates.map(({ address }) => address));
  const strangers = drafts.filter(({ supporterId, email }) => supporterId === null && !known.has(email ?? ''));
  const lasts = [...new Set(strangers.flatMap(({ name }) => surnameOf(name) || []))];
  const namesakes = await namesBySorting(sql, lasts);
  const numbers = drafts.flatMap((draft) => draft.supporterId ?? []);
  const ids = new Set([...numbers, ...picked, ...mates.map(({ id }) => id), ...namesakes.map(({ id }) => id)]);
  const here = new Map((await comparedOf(sql, [...ids])).map((one) => [one.id, one]));
  const group = <T extends { id: number }>(all: readonly T[], keyOf: (one: T) => string): Map<string, Here[]> => {
    const groups = new Map<string, Here[]>();
    for (const one of all) {
      const compared = here.get(one.id);
      if (compared) groups.set(keyOf(one), [...(groups.get(keyOf(one)) ?? []), compared]);
    }
    return groups;
  };
  const byEmail = group(mates, ({ address }) => address);
  const byName = group(namesakes, surnameOf);
  return {
    byNumber: (number) => here.get(number) ?? null,
    byEmail: (email) => byEmail.get(email) ?? [],
    byName: (name) => byName.get(surnameOf(name)) ?? [],
  };
}

/** What people of a name are looked for by: the last name, or the whole one of those who have none. */
const surnameOf = ({ kind, last, first, organization }: NameParts): string =>
  fold(kind === 'person' ? last || first : organization);

/** The outside references that are recorded already, in lower case, with where. */
export async function referencesOf(sql: Sql, drafts: readonly DraftRow[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const references = [...new Set(drafts.flatMap((draft) => draft.gift?.reference || []))];
  for (const row of await giftsByReference(sql, references))
    found.set(row.reference.toLowerCase(), `recorded as ${giftNumber(row.id)}`);
  return found;
}

/** What becomes of one row, given all that is known and the rows before it. */
export function judged(
  line: { row: number; cells: string[]; draft: DraftRow; problems: RowProblem[]; warnings: RowProblem[] },
  index: number,
  known: Known,
  references: Map<string, string>,
  earlier: Map<string, number>,
  all: readonly { row: number }[],
  pick: Pick | null,
): JudgedRow {
  if (pick === 'skip') return { ...line, match: null, verdict: 'skipped', says: 'Left out by you' };
  if (line.problems.length > 0)
    return { ...line, match: null, verdict: 'bad', says: line.problems.map((problem) => problem.reason).join(' ') };
  const reference = line.draft.gift?.reference.toLowerCase() ?? '';
  const already = reference === '' ? undefined : references.get(reference);
  if (already)
    return {
      ...line,
      match: null,
      verdict: 'already',
      says: `The gift ${line.draft.gift?.reference ?? ''} is ${already}`,
    };
  if (reference !== '') references.set(reference, `in row ${line.row}`);
  const match = matchRow(line.draft, index, known, earlier, pick);
  switch (match.kind) {
    case 'new': {
      const { alike } = match;
      if (!alike) return { ...line, match, verdict: 'new', says: 'New supporter' };
      const reason = `${alike.name} ${supporterNumber(alike.id)} is here already: ${alike.reasons.join(', ')}.`;
      const warnings = [...line.warnings, { field: null, value: '', reason }];
      return { ...line, warnings, match, verdict: 'new', says: `New supporter. ${reason}` };
    }
    case 'earlier':
      return { ...line, match, verdict: 'new', says: `Same new supporter as row ${all[match.row]?.row ?? ''}` };
    case 'known':
      return { ...line, match, verdict: 'known', says: `${match.name} ${supporterNumber(match.id)}, by ${match.by}` };
    case 'undecided':
      return {
        ...line,
        match,
        verdict: 'undecided',
        says: `${match.why}: ${match.candidates.map((one) => `${one.name} ${supporterNumber(one.id)}`).join(', ')}`,
      };
    case 'in-trash':
    case 'unknown-number': {
      const reason =
        match.kind === 'in-trash'
          ? `${supporterNumber(match.id)} is in the trash; bring it back from there first, or clear the number to bring the row in as new.`
          : 'No supporter has this number; clear it to bring the row in as new.';
      return {
        ...line,
        match: null,
        verdict: 'bad',
        says: reason,
        problems: [{ field: 'number', value: supporterNumber(line.draft.supporterId ?? 0), reason }],
      };
    }
  }
}

/** Whether a row is brought in as things stand. */
export const isGood = (row: JudgedRow): boolean => row.verdict === 'new' || row.verdict === 'known';

/** Whether a row is brought in and deserves a look before. */
export const needsLook = (row: JudgedRow): boolean => isGood(row) && row.warnings.length > 0;

export function countsOf(rows: readonly JudgedRow[]) {
  const of = (verdict: IntakeRow['verdict']): number => rows.filter((row) => row.verdict === verdict).length;
  const gifts = rows.flatMap((row) => (isGood(row) && row.draft.gift ? [row.draft.gift.cents] : []));
  return {
    new: of('new'),
    known: of('known'),
    bad: of('bad'),
    undecided: of('undecided'),
    already: of('already'),
    skipped: of('skipped'),
    look: rows.filter(needsLook).length,
    newSupporters: rows.filter((row) => row.match?.kind === 'new').length,
    gifts: gifts.length,
    cents: gifts.reduce((sum, cents) => sum + cents, 0),
  };
}
