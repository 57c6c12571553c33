import { giftNumber } from '@tallystick/core/gifts';
import { ALIKE, asKnown, surnameOf } from '@tallystick/core/duplicates';
import { called, comparableOf, eachOf } from '@tallystick/core/intake';
import type { DraftRow, Here, Known, Matching } from '@tallystick/core/intake';
import { supporterParts } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { giftsByReference } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { comparedOf, knownAs, namesByEmail } from '../supporters/index.ts';
import type { Alike } from '../supporters/index.ts';
import { giftsIn } from './reading.ts';
import type { Line } from './reading.ts';

/* Who and what is here already that rows of a file may be about. */

/**
 * The supporters that rows may belong to: by the numbers, e-mails and names that they bring. Rows are looked at bit by
 * bit, and what was looked for once is not again; it knows nothing of what no row brought.
 */
export class WhoIsHere implements Known {
  private readonly here = new Map<number, Here>();
  /** Those of `here` of whom the name alone is known. */
  private readonly named = new Set<number>();
  private readonly emails = new Map<string, Here[]>();
  private readonly names = new Map<string, Here[]>();
  private readonly outside = new Map<string, Here[]>();
  private likely = new WeakMap<DraftRow, readonly number[]>();

  constructor(
    private readonly sql: Sql,
    private readonly rules: { source: string; matching: Matching; alike: Alike },
  ) {}

  /** Looks for whom some rows may be about; one looking has to end before the next begins. */
  async look(lines: readonly Line[]): Promise<void> {
    const { sql } = this;
    const { source, matching, alike } = this.rules;
    const drafts = lines.map(({ draft }) => draft);
    const mates = await namesByEmail(
      sql,
      fresh(
        this.emails,
        eachOf(drafts, ({ email }) => email),
      ),
    );
    const known = new Set(mates.map(({ address }) => address));
    // Where something else must agree, an e-mail that is known says nothing.
    const byEmail = matching.fields.length === 0;
    const isKnown = (email: string): boolean => known.has(email) || (this.emails.get(email) ?? []).length > 0;
    const strangers = drafts.filter(
      ({ supporterId, email }) => supporterId === null && !(byEmail && email !== null && isKnown(email)),
    );
    const besides = lines.flatMap(({ details: { spouse, second, employer, household } }) => [
      ...(household === '' ? [] : [firmOf(household)]),
      ...(spouse ? [spouse.name] : []),
      ...(second ? [second.member.name] : []),
      ...(employer ? [firmOf(employer.name)] : []),
    ]);
    const lasts = [...strangers.map(({ name }) => surnameOf(name)), ...besides.map(surnameOf)].filter(Boolean);
    const surnames = fresh(this.names, lasts);
    const [namesakes, likes, outside] = await Promise.all([
      alike.named(surnames),
      alike.all(
        strangers.map((draft) => asKnown(comparableOf(draft))),
        ALIKE,
      ),
      source === '' ? [] : knownAs(sql, source, fresh(this.outside, drafts.flatMap(called))),
    ]);
    for (const [at, draft] of strangers.entries())
      this.likely.set(
        draft,
        eachOf(likes[at] ?? [], ({ id }) => id),
      );
    await this.add([...mates, ...outside, ...likes.flat()].map(({ id }) => id).concat(namesakes.flat()));
    // Whoever is named by number is held against the name of the row alone.
    const numbers = new Set(lines.flatMap(({ draft, details: { tie } }) => [draft.supporterId, tie?.other ?? null]));
    numbers.delete(null);
    await this.addNamed([...numbers] as number[]);
    // The number of who was merged into another means the other.
    await this.addNamed([...this.here.values()].flatMap(({ mergedInto }) => mergedInto ?? []));
    for (const { address, id } of mates) this.put(this.emails, address, id);
    for (const [at, ids] of namesakes.entries()) for (const id of ids) this.put(this.names, surnames[at] ?? '', id);
    for (const one of outside) this.put(this.outside, one.called, one.id);
  }

  /** Looks for some by their numbers. */
  async add(ids: readonly number[]): Promise<void> {
    const wanted = [...new Set(ids)].filter((id) => !this.here.has(id) || this.named.has(id));
    for (const one of await comparedOf(this.sql, wanted)) {
      this.here.set(one.id, one);
      this.named.delete(one.id);
    }
  }

  private async addNamed(ids: readonly number[]): Promise<void> {
    const wanted = [...new Set(ids)].filter((id) => !this.here.has(id));
    for (const one of await comparedOf(this.sql, wanted, true)) {
      this.here.set(one.id, one);
      this.named.add(one.id);
    }
  }

  private put(into: Map<string, Here[]>, key: string, id: number): void {
    const one = this.here.get(id);
    if (!one) return;
    const same = into.get(key);
    if (!same || same.length === 0) into.set(key, [one]);
    else if (!same.includes(one)) same.push(one);
  }

  byNumber(number: number): Here | null {
    return this.here.get(this.here.get(number)?.mergedInto ?? number) ?? null;
  }
  byEmail(email: string): readonly Here[] {
    return this.emails.get(email) ?? NOBODY;
  }
  byOutside(called: string): readonly Here[] {
    return (this.outside.get(called) ?? NOBODY).filter(({ state }) => state === 'active');
  }
  byName(name: NameParts): readonly Here[] {
    return this.names.get(surnameOf(name)) ?? NOBODY;
  }
  alike(draft: DraftRow): readonly Here[] {
    return eachOf(this.likely.get(draft) ?? [], (id) => {
      const one = this.here.get(id);
      return one?.state === 'active' ? one : null;
    });
  }
}

const NOBODY: readonly Here[] = [];
const NOBODY_YET: Here[] = [];

/** Those that were not looked for before; they are from now on. */
function fresh(before: Map<string, Here[]>, all: readonly string[]): string[] {
  const wanted = [...new Set(all)].filter((one) => !before.has(one));
  for (const one of wanted) before.set(one, NOBODY_YET);
  return wanted;
}

/** Puts the outside references of rows that are recorded already, in lower case, with where. */
export async function findReferences(sql: Sql, lines: readonly Line[], found: Map<string, string>): Promise<void> {
  const references = [...new Set(lines.flatMap((line) => giftsIn(line).flatMap(({ reference }) => reference || [])))];
  for (const row of await giftsByReference(sql, references))
    found.set(row.reference.toLowerCase(), `recorded as ${giftNumber(row.id)}`);
}

/** An organization of a name. */
export const firmOf = (organization: string): NameParts => supporterParts({ kind: 'organization', organization });
