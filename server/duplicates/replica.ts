import { AlikeIndex, groupsOf } from '@tallystick/core/duplicates';
import type { AlikeGroup, Known, ReasonField, RulePart } from '@tallystick/core/duplicates';
import type { SupporterKind } from '@tallystick/core/supporters';
import { gather } from '../platform/follower.ts';
import type { Cells, FollowerDb, Replica } from '../platform/follower.ts';

export type AlikeQuestion =
  | { ask: 'advance' }
  | {
      ask: 'groups';
      apart: readonly (readonly [number, number])[];
      rule: readonly RulePart[] | null;
      reason: ReasonField | null;
    }
  | { ask: 'likes'; known: readonly Known[]; least: number }
  | { ask: 'named'; surnames: readonly string[] };
export interface AlikeAnswers {
  advance: SearchProgress;
  /** `tooLarge`: how many groups by rule were left out, since so many agree. */
  groups: { groups: AlikeGroup[]; tooLarge: number; progress: SearchProgress | null };
  likes: { id: number; chance: number }[][];
  named: (readonly number[])[];
}
/** How many records were compared of how many. */
export interface SearchProgress {
  done: number;
  of: number;
}

/** So many records are compared at a time, which is some tenths of a second, so that other questions come between. */
const AT_ONCE = 2_000;

/** So many who are like one are told of. */
const MOST_ALIKE = 6;

const PEOPLE_SQL = `SELECT id, kind, first, middle, last, suffix, nickname, former_last, organization, birthday
  FROM supporter WHERE state = 'active'`;
const DETAILS = {
  emails: 'SELECT supporter_id, address FROM email',
  phones: 'SELECT supporter_id, number FROM phone',
  addresses: 'SELECT supporter_id, street, postal, city FROM address',
  outside: `SELECT supporter_id, CONCAT(source, '|', called) FROM known_as WHERE called NOT LIKE '=%'`,
} as const;
type Detail = keyof typeof DETAILS;
const KINDS = Object.keys(DETAILS) as Detail[];
type Details = Record<Detail, Map<number, Cells[]>>;
const noDetails = (): Details => ({ emails: new Map(), phones: new Map(), addresses: new Map(), outside: new Map() });

/** Keeps every supporter who is not in the trash as they are compared, and the pairs that look alike once they were looked for. */
export class AlikeReplica implements Replica {
  private readonly index = new AlikeIndex();

  async load(db: FollowerDb): Promise<void> {
    const details = noDetails();
    for (const kind of KINDS) await db.stream(DETAILS[kind], (row) => gather(details[kind], row));
    await db.stream(PEOPLE_SQL, (row) => this.index.put(knownIn(row, details)));
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    const details = noDetails();
    const [people, ...found] = await Promise.all([
      db.rows(`${PEOPLE_SQL} AND id IN (?)`, [ids]),
      ...KINDS.map((kind) =>
        db.rows(`${DETAILS[kind]} ${kind === 'outside' ? 'AND' : 'WHERE'} supporter_id IN (?)`, [ids]),
      ),
    ]);
    found.forEach((rows, at) => {
      const kind = KINDS[at];
      if (kind) for (const row of rows) gather(details[kind], row);
    });
    for (const id of ids) this.index.remove(id);
    for (const row of people) this.index.put(knownIn(row, details));
  }

  answer(given: unknown): AlikeAnswers[keyof AlikeAnswers] {
    const question = given as AlikeQuestion;
    switch (question.ask) {
      case 'advance':
        this.index.advance(AT_ONCE);
        return this.index.progress ?? { done: 0, of: this.index.size };
      case 'groups': {
        const { progress } = this.index;
        // Those that were changed since the search are compared at once.
        if (progress && progress.of - progress.done <= AT_ONCE) this.index.advance(AT_ONCE);
        const pairs = new Set(question.apart.flatMap(([one, other]) => [`${one} ${other}`, `${other} ${one}`]));
        const apart = (one: number, other: number): boolean => pairs.has(`${one} ${other}`);
        const found = question.rule
          ? this.index.byRule(question.rule, apart)
          : {
              groups: groupsOf(
                [...this.index.pairs()].filter(({ one, other }) => !apart(one, other)),
                apart,
                (one, other) => this.index.chance(one, other),
              ),
              tooLarge: 0,
            };
        const { reason } = question;
        const groups =
          reason === null ? found.groups : found.groups.filter(({ ids }) => this.index.someAgree(ids, reason));
        return { ...found, groups, progress: this.index.progress };
      }
      case 'likes':
        return question.known.map((one) => this.index.like(one, MOST_ALIKE, question.least));
      case 'named':
        return question.surnames.map((surname) => this.index.named(surname));
    }
  }
}

function knownIn(row: Cells, details: Details): Known {
  const id = Number(row[0]);
  const text = (at: number): string => String(row[at] ?? '');
  const of = (kind: Detail): string[] => (details[kind].get(id) ?? []).map((cells) => String(cells[1] ?? ''));
  return {
    ...{ id, kind: text(1) as SupporterKind, first: text(2), middle: text(3), last: text(4), suffix: text(5) },
    ...{ nickname: text(6), formerLast: text(7), organization: text(8), birthday: text(9) },
    ...{ emails: of('emails'), phones: of('phones'), outside: of('outside') },
    addresses: (details.addresses.get(id) ?? []).map((cells) => ({
      ...{ street: String(cells[1] ?? ''), postal: String(cells[2] ?? ''), city: String(cells[3] ?? '') },
    })),
  };
}
