import { displayName, fold } from '../names/index.ts';
import { phoneKey, postalKey, streetKey } from '../contact/index.ts';
import type { RowDetails } from './details.ts';
import type { DraftRow, NamedMember } from './rows.ts';
import { sameText } from './ways.ts';

/* Somebody whom one row names besides its supporter may be the supporter of another row of the same file. */

/** A row as far as this is concerned. */
export interface Naming {
  draft: DraftRow;
  details: Pick<RowDetails, 'spouse' | 'second'>;
}

/** Whether two rows are reached in one way, so that who they are about live together. */
function reachedAlike(a: DraftRow, b: DraftRow): boolean {
  const home = ({ street, postal }: DraftRow): string => `${streetKey(street)}|${postalKey(postal)}`;
  return (
    (a.email !== null && a.email === b.email) ||
    (a.phone !== '' && phoneKey(a.phone) === phoneKey(b.phone)) ||
    (a.street !== '' && home(a) === home(b))
  );
}

const names = ({ details: { spouse, second } }: Naming, name: string): boolean =>
  [spouse, second?.member ?? null].some((member) => member !== null && sameText(displayName(member.name), name));

const keyOf = ({ first, last }: { first: string; last: string }): string => `${fold(first)} ${fold(last)}`;

/**
 * Finds the row that is about whom another names: one alone has the name, and is reached as the other is or names its
 * supporter in turn. Null where none surely is.
 */
export function namedIn<R extends Naming>(rows: readonly R[]): (by: Naming, member: NamedMember) => R | null {
  const byName = new Map<string, R[]>();
  for (const row of rows) {
    if (row.draft.name.kind !== 'person') continue;
    const same = byName.get(keyOf(row.draft.name));
    if (same) same.push(row);
    else byName.set(keyOf(row.draft.name), [row]);
  }
  return (by, member) => {
    const [one, ...others] = (byName.get(keyOf(member.name)) ?? []).filter((row) => row !== by);
    if (!one || others.length > 0) return null;
    return reachedAlike(one.draft, by.draft) || names(one, displayName(by.draft.name)) ? one : null;
  };
}
