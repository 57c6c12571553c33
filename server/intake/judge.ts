import { changesOf, eachOf, namedIn, noneOf, recordOfDraft } from '@tallystick/core/intake';
import type { KeptRecord, Policies } from '@tallystick/core/intake';
import { Under } from '@tallystick/core/lists';
import { displayName } from '@tallystick/core/names';
import { eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { othersTurn } from '../platform/turns.ts';
import { pledgesOf } from '../pledges/index.ts';
import { recurringOf } from '../recurring/index.ts';
import { keptRecords, writtenSince } from '../supporters/index.ts';
import {
  asked,
  besidesOf,
  byRule,
  Counts,
  isGood,
  judged,
  keysIn,
  ledIn,
  mistaken,
  needsAll,
  ofList,
  partsIn,
  pickedIn,
  promises,
  saysNoMore,
  withKept,
  withTie,
} from './fates.ts';
import type { JudgedRow, Rules } from './fates.ts';
import { findReferences, WhoIsHere } from './known.ts';
import { AT_ONCE } from './reading.ts';
import type { Line } from './reading.ts';

/** So many rows are held against their records while those of the next are read. */
const COMPARED = 5_000;

/** A file holds rows of so many lists that come back at most. */
const MOST_LISTS = 20;

/** Whom so many rows are about is looked for at once. */
const LOOKED_FOR = 5_000;

/** A row changes what an earlier one of the same new supporter brought only where that is missing. */
const OF_NEW: Policies = { all: 'fill' };

/** What becomes of every row of a file; after another choice for a row only what that touches is judged again. */
export class Judgement {
  readonly rows: JudgedRow[] = [];
  /** What becomes of each row before it is held against its record, which may say otherwise; the row itself where it does not. */
  private readonly fates: JudgedRow[] = [];
  private readonly lines: Line[] = [];
  private readonly known: WhoIsHere;
  /** Which outside references are recorded, and where. */
  private readonly references = new Map<string, string>();
  /** The rows that one choice may touch together: who bring the same reference, or may be the same new supporter. */
  private readonly together = new Under<number>();
  private picks: Rules['picks'] = {};
  private counted: Counts | null = null;
  private named: ReturnType<typeof namedIn<Line>> | null = null;

  private constructor(
    sql: Sql,
    private readonly rules: Omit<Rules, 'picks'>,
  ) {
    this.known = new WhoIsHere(sql, rules);
  }

  /** Puts a row with those that have a key of it. */
  private join(index: number): void {
    for (const key of keysIn(this.lines[index])) this.together.put(key, index);
  }

  /** Takes a row from those that have a key of it. */
  private part(index: number): void {
    for (const key of keysIn(this.lines[index])) this.together.take(key, index);
  }

  /**
   * Judges rows that come bit by bit: who and what of some is here is looked for while those before are judged and those
   * after are read, so `many` at a time. What rows say besides their drafts is put away once they are judged, so that
   * little of it is kept.
   */
  static async of(
    sql: Sql,
    read: AsyncIterable<readonly Line[]>,
    { picks, ...rules }: Rules,
    many = LOOKED_FOR,
  ): Promise<Judgement> {
    const judgement = new Judgement(sql, rules);
    const { lines, known, references } = judgement;
    judgement.picks = picks;
    const pass = new Pass();
    const atOnce = needsAll(rules);
    /** Whatever becomes of it is told where it is waited for. */
    const later = (before: readonly Promise<unknown>[], work: () => Promise<unknown>): Promise<unknown> => {
      const done = Promise.all(before).then(work);
      done.catch(() => undefined);
      return done;
    };
    let looking = later([], () => known.add(pickedIn(picks)));
    let settling = looking;
    const take = async (some: readonly Line[]): Promise<void> => {
      const indexes = some.map((line) => lines.push(line) - 1);
      const before = settling;
      looking = later([looking], () => Promise.all([known.look(some), findReferences(sql, some, references)]));
      settling = later([settling, looking], async () => {
        await judgement.settle(indexes, pass, (index) => judgement.join(index));
        if (!atOnce) await judgement.compare(sql, indexes, pass);
      });
      // Not more is read than can be judged.
      await before;
    };
    let next: Line[] = [];
    for await (const some of read) {
      next.push(...some);
      if (next.length < many) continue;
      await take(next);
      next = [];
    }
    await take(next);
    await settling;
    if (atOnce) await judgement.compare(sql, [...lines.keys()], pass);
    return judgement;
  }

  /** The counts over all rows, as they are judged now. */
  get counts(): Counts['all'] {
    this.counted ??= Counts.of(this.rows);
    return { ...this.counted.all };
  }

  /** Whom a row names besides its supporter and another row is about, in words: their tie is made when both are brought in. */
  namedElsewhere(row: JudgedRow): string[] {
    return row.changes.flatMap(({ act }) => {
      if ((act?.do !== 'spouse' && act?.do !== 'second') || act.to !== null) return [];
      this.named ??= namedIn(this.lines, (at) => this.rows[at]?.match?.kind === 'new');
      const other = this.named(row.line, act.member);
      return other ? [`${displayName(act.member.name)} is the supporter of row ${other.row}.`] : [];
    });
  }

  /** Judges again what other choices touch. */
  async choose(sql: Sql, picks: Rules['picks']): Promise<void> {
    const changed = new Set(
      [...new Set([...Object.keys(picks), ...Object.keys(this.picks)])].filter((row) => picks[row] !== this.picks[row]),
    );
    if (changed.size === 0) return;
    await this.known.add(pickedIn(picks).filter((id) => this.known.byNumber(id) === null));
    await this.judge(
      sql,
      this.touched(this.lines.flatMap(({ row }, at) => (changed.has(String(row)) ? [at] : []))),
      picks,
    );
  }

  /** Judges again what rows touch of which cells were changed, by their places. */
  async reread(sql: Sql, changed: ReadonlyMap<number, Line>): Promise<void> {
    if (changed.size === 0) return;
    const fresh = [...changed.values()];
    await Promise.all([this.known.look(fresh), findReferences(sql, fresh, this.references)]);
    const before = this.touched([...changed.keys()]);
    this.named = null;
    for (const [index, line] of changed) {
      this.part(index);
      this.lines[index] = line;
      this.join(index);
    }
    const touched = new Set([...before, ...this.touched([...changed.keys()])]);
    await this.judge(
      sql,
      [...touched].sort((a, b) => a - b),
      this.picks,
    );
  }

  /** The rows that are judged together with some, in their order. */
  private touched(some: readonly number[]): number[] {
    const found = new Set<number>();
    const open = [...some];
    for (let index = open.pop(); index !== undefined; index = open.pop()) {
      if (found.has(index)) continue;
      found.add(index);
      for (const key of keysIn(this.lines[index])) for (const one of this.together.of(key)) open.push(one);
    }
    return [...found].sort((a, b) => a - b);
  }

  /** Judges some rows anew, whatever became of them before. */
  private async judge(sql: Sql, indexes: readonly number[], picks: Rules['picks']): Promise<void> {
    this.picks = picks;
    // What these rows counted is taken off, and put on again when it is known what becomes of them.
    const { counted } = this;
    this.counted = null;
    const countOut = (some: Iterable<number>): void => {
      for (const index of some) if (this.rows[index]) counted?.add(this.rows[index], -1);
    };
    countOut(indexes);
    const owners = new Set<number>();
    const note = (): void => {
      for (const index of indexes) {
        const { match } = this.fates[index] ?? {};
        if (match?.kind === 'known') owners.add(match.id);
      }
    };
    note();
    const pass = new Pass();
    await this.settle(indexes, pass);
    note();
    // Whoever else brings something to a record of theirs is held against it anew.
    const touched = new Set(indexes);
    const also: number[] = [];
    for (const [index, { match }] of this.fates.entries())
      if (match?.kind === 'known' && owners.has(match.id) && !touched.has(index)) also.push(index);
    countOut(also);
    const compared = [...indexes, ...also].sort((a, b) => a - b);
    await this.compare(sql, compared, pass);
    for (const index of compared) if (this.rows[index]) counted?.add(this.rows[index]);
    this.counted = counted;
  }

  /** Decides whose each of some rows is, by those before it. */
  private async settle(
    indexes: readonly number[],
    pass: Pass,
    beside: (index: number) => void = () => undefined,
  ): Promise<void> {
    const taken = (reference: string): string | undefined =>
      pass.references.get(reference) ?? this.references.get(reference);
    for (const [at, index] of indexes.entries()) {
      const line = this.lines[index];
      if (!line) continue;
      const pick = this.picks[String(line.row)] ?? null;
      const { references, earlier } = pass;
      beside(index);
      const fate = withTie(
        this.rules.ties,
        this.known,
        judged(line, index, this.known, { taken, references }, earlier, this.lines, pick, this.rules.matching),
      );
      const row = byRule(fate, this.rules);
      this.rows[index] = row;
      this.fates[index] = row;
      if (at % AT_ONCE === AT_ONCE - 1) await othersTurn();
    }
  }

  /** The record that the first row of a new supporter makes. */
  private recordOfNew(first: number): KeptRecord {
    const line = this.lines[first];
    if (!line) throw new Error(`There is no row ${first}.`);
    return recordOfDraft(line.draft);
  }

  /** Adds to records what was promised, where a row of theirs has to do with that. */
  private async promised(
    sql: Sql,
    indexes: readonly number[],
    records: ReadonlyMap<number, KeptRecord>,
  ): Promise<void> {
    const ids = new Set<number>();
    for (const index of indexes) {
      const fate = this.fates[index];
      if (fate?.match?.kind === 'known' && promises(fate.line)) ids.add(fate.match.id);
    }
    for (const { supporter_id: of, fund_id: fundId, pledged_on: pledgedOn, ...one } of await pledgesOf(sql, [...ids]))
      records.get(of)?.pledges.push({ ...one, made: null, fundId, pledgedOn });
    for (const { id, supporter_id: of } of await recurringOf(sql, [...ids], this.rules.today))
      records.get(of)?.recurring.push(id);
  }

  /** What the records were, of which rows of a list come back, when that was made; by supporter and revision. */
  private async listed(
    sql: Sql,
    indexes: readonly number[],
    now: ReadonlyMap<number, KeptRecord>,
  ): Promise<Map<string, KeptRecord>> {
    const lists = new Map<number, Set<number>>();
    for (const index of indexes) {
      const { match, line } = this.fates[index] ?? {};
      const back = line?.brings.back;
      if (match?.kind === 'known' && back)
        lists.set(back.asOf, (lists.get(back.asOf) ?? new Set<number>()).add(ofList(match.id, line.draft)));
    }
    if (lists.size > MOST_LISTS)
      throw new Problem(
        409,
        'too-many-lists',
        `Its rows are of ${lists.size} lists; bring at most ${MOST_LISTS} at once.`,
      );
    const found = new Map<string, KeptRecord>();
    for (const [revision, of] of lists) {
      const since = await writtenSince(sql, [...of], revision);
      const then = await keptRecords(sql, [...since], this.rules.today, '', revision);
      for (const id of of) {
        // Rows change what they are held against; what it was then stays.
        const base = then.get(id) ?? (since.has(id) ? undefined : structuredClone(now.get(id)));
        if (base) found.set(`${id} ${revision}`, base);
      }
    }
    return found;
  }

  /** Finds what each of some rows changes, in the order of the file; then puts away what they say. */
  private async compare(sql: Sql, indexes: readonly number[], pass: Pass): Promise<void> {
    const { today, source } = this.rules;
    const { records, wanted } = pass;
    const parts = partsIn(this.rules);
    await eachChunk(
      indexes,
      needsAll(this.rules) ? indexes.length : COMPARED,
      async (some) => {
        const ids = eachOf(some, (index) => {
          const { match, verdict } = this.fates[index] ?? {};
          return match?.kind === 'known' && verdict === 'known' && !wanted.has(match.id) ? match.id : null;
        });
        for (const id of ids) wanted.add(id);
        return { some, found: await keptRecords(sql, [...new Set(ids)], today, source, null, parts) };
      },
      async ({ some, found }) => {
        for (const [id, record] of found) records.set(id, record);
        await this.promised(sql, some, records);
        await this.compareSome(some, pass, await this.listed(sql, some, records));
        for (const index of some) this.lines[index]?.putAway();
      },
    );
  }

  /** Finds what some rows change of their records. */
  private async compareSome(
    indexes: readonly number[],
    { records, fresh }: Pass,
    bases: ReadonlyMap<string, KeptRecord>,
  ): Promise<void> {
    const { policies } = this.rules;
    for (const [at, index] of indexes.entries()) {
      const fate = this.fates[index];
      if (!fate?.match || !isGood(fate)) continue;
      fate.changes = noneOf();
      this.rows[index] = fate;
      const { match, line } = fate;
      const { draft } = line;
      const besides = besidesOf(line, this.known);
      if (match.kind === 'known') {
        const record = records.get(match.id);
        const base = bases.get(`${ofList(match.id, draft)} ${line.brings.back?.asOf ?? ''}`) ?? null;
        if (base && match.by === 'number' && mistaken(draft.name, base)) {
          this.rows[index] = { ...fate, ...asked(match) };
          continue;
        }
        if (!record) continue;
        fate.changes = changesOf(ledIn(line, this.known), draft.own, record, policies, besides, base);
        this.rows[index] = withKept(fate, record);
      } else {
        const first = match.kind === 'earlier' ? match.row : index;
        if (first === index && saysNoMore(line)) continue;
        const record = fresh.get(first) ?? this.recordOfNew(first);
        fresh.set(first, record);
        fate.changes = changesOf(ledIn(line, this.known), draft.own, record, OF_NEW, besides);
        this.rows[index] = withKept(fate, record);
      }
      if (at % AT_ONCE === AT_ONCE - 1) await othersTurn();
    }
  }
}

/** What rows are judged by that were judged before them, in the order of the file. */
class Pass {
  /** What new supporters are known by, and in which row they first came; and the references of gifts. */
  readonly earlier = new Map<string, number>();
  readonly references = new Map<string, string>();
  /** Records as the rows until now make them: those looked up, by number, and new ones by the first row. */
  readonly records = new Map<number, KeptRecord>();
  readonly wanted = new Set<number>();
  readonly fresh = new Map<number, KeptRecord>();
}
