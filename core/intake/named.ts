import { displayName, fold } from '../names/index.ts';
import { phoneKey, postalKey, streetKey } from '../contact/index.ts';
import type { RowDetails } from './details.ts';
import type { NamedMember } from './names.ts';
import type { DraftRow } from './rows.ts';
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
 * supporter in turn. Null where none surely is. Rows that do not `count` as things stand are passed over.
 */
export function namedIn<R extends Naming>(
  rows: readonly R[],
  count: (at: number) => boolean = () => true,
): (by: Naming, member: NamedMember) => R | null {
  const byName = new Map<string, number[]>();
  for (const [at, row] of rows.entries()) {
    if (row.draft.name.kind !== 'person') continue;
    const same = byName.get(keyOf(row.draft.name));
    if (same) same.push(at);
    else byName.set(keyOf(row.draft.name), [at]);
  }
  return (by, member) => {
    const [one, ...others] = (byName.get(keyOf(member.name)) ?? []).flatMap((at) => {
      const row = rows[at];
      return row && row.draft !== by.draft && count(at) ? [row] : [];
    });
    if (!one || others.length > 0) return null;
    return reachedAlike(one.draft, by.draft) || names(one, displayName(by.draft.name)) ? one : null;
  };
}
