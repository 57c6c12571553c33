import { giftNumber } from '@tallystick/core/gifts';
import { matchRow } from '@tallystick/core/intake';
import type { DraftRow, Known, RowMatch, RowProblem } from '@tallystick/core/intake';
import { displayName } from '@tallystick/core/names';
import type { IntakeRow } from '@tallystick/contract/intake';
import { giftsByReference } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import { namesByEmail, namesOf } from '../supporters/index.ts';
import type { Named } from '../supporters/index.ts';

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

/** The supporters that rows may belong to, by the numbers and e-mails that they name. */
export async function knownOf(sql: Sql, drafts: readonly DraftRow[]): Promise<Known> {
  const numbers = [...new Set(drafts.flatMap((draft) => draft.supporterId ?? []))];
  const emails = [...new Set(drafts.flatMap((draft) => draft.email ?? []))];
  const byNumber = new Map<number, { id: number; name: string }>();
  const byEmail = new Map<string, { id: number; name: string }[]>();
  const plain = (row: Named) => ({
    id: row.id,
    name: row.kind === 'person' ? [row.first, row.last].filter(Boolean).join(' ') : displayName(row),
  });
  for (const row of await namesOf(sql, numbers)) if (row.state === 'active') byNumber.set(row.id, plain(row));
  for (const row of await namesByEmail(sql, emails))
    byEmail.set(row.address, [...(byEmail.get(row.address) ?? []), plain(row)]);
  return { byNumber: (number) => byNumber.get(number) ?? null, byEmail: (email) => byEmail.get(email) ?? [] };
}

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
): JudgedRow {
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
  const match = matchRow(line.draft, index, known, earlier);
  switch (match.kind) {
    case 'new':
      return { ...line, match, verdict: 'new', says: 'New supporter' };
    case 'earlier':
      return { ...line, match, verdict: 'new', says: `Same new supporter as row ${all[match.row]?.row ?? ''}` };
    case 'known':
      return { ...line, match, verdict: 'known', says: `${match.name} ${supporterNumber(match.id)}, by ${match.by}` };
    case 'undecided':
      return {
        ...line,
        match,
        verdict: 'undecided',
        says: `Shares an e-mail with ${match.candidates.map((one) => `${one.name} ${supporterNumber(one.id)}`).join(', ')}`,
      };
    case 'unknown-number': {
      const reason = 'No supporter has this number; clear it to bring the row in as new.';
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
    look: rows.filter(needsLook).length,
    newSupporters: rows.filter((row) => row.match?.kind === 'new').length,
    gifts: gifts.length,
    cents: gifts.reduce((sum, cents) => sum + cents, 0),
  };
}
