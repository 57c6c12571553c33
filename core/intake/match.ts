import { fold } from '../names/index.ts';
import type { DraftRow } from './rows.ts';

/** What matching needs to know of the supporters already here. */
export interface Known {
  byNumber(id: number): { id: number; name: string } | null;
  byEmail(email: string): readonly { id: number; name: string }[];
}

/**
 * Where a row belongs. `earlier` is the index of an earlier row of the same file that brings the same new
 * supporter. `undecided` lists the supporters that share the row's e-mail: a person decides.
 */
export type RowMatch =
  | { kind: 'new' }
  | { kind: 'known'; id: number; name: string; by: 'number' | 'e-mail' }
  | { kind: 'earlier'; row: number }
  | { kind: 'undecided'; candidates: readonly { id: number; name: string }[] }
  | { kind: 'unknown-number' };

/**
 * Matches one row by number, then by e-mail. `earlier` maps what earlier new rows of the file are known by to
 * their index; a row found to be new adds itself.
 */
export function matchRow(draft: DraftRow, index: number, known: Known, earlier: Map<string, number>): RowMatch {
  if (draft.supporterId !== null) {
    const found = known.byNumber(draft.supporterId);
    return found ? { kind: 'known', ...found, by: 'number' } : { kind: 'unknown-number' };
  }
  if (draft.email !== null) {
    const found = known.byEmail(draft.email);
    const [only, ...more] = found;
    if (only && more.length === 0) return { kind: 'known', id: only.id, name: only.name, by: 'e-mail' };
    if (more.length > 0) {
      const named = found.filter((one) => fold(one.name) === fold([draft.name.first, draft.name.last].join(' ')));
      const [exact, ...others] = named;
      if (exact && others.length === 0) return { kind: 'known', id: exact.id, name: exact.name, by: 'e-mail' };
      return { kind: 'undecided', candidates: found };
    }
  }
  const { name } = draft;
  const key =
    draft.email ?? fold(['~', name.organization, name.first, name.last, draft.street, draft.postal].join('|'));
  const before = earlier.get(key);
  if (before !== undefined) return { kind: 'earlier', row: before };
  earlier.set(key, index);
  return { kind: 'new' };
}
