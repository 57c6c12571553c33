import type { IsoDate } from '@tallystick/core/dates';
import { likeness } from '@tallystick/core/duplicates';
import {
  changesOf,
  eachOf,
  keptBy,
  keysOf,
  matchRow,
  namedIn,
  noneOf,
  NOBODY_BESIDES,
  recordOfDraft,
  unlikeNames,
} from '@tallystick/core/intake';
import type {
  DraftRow,
  Here,
  KeptRecord,
  NamedMember,
  Known,
  Matching,
  NamedBesides,
  OpenPledge,
  Pick as Picked,
  Policies,
  RecordChange,
  RowMatch,
  RowProblem,
} from '@tallystick/core/intake';
import { displayName, fold } from '@tallystick/core/names';
import { relationFault } from '@tallystick/core/relations';
import type { RelationKind } from '@tallystick/core/relations';
import type { IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { pledgeNumber } from '@tallystick/core/pledges';
import { eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import { pledgesOf } from '../pledges/index.ts';
import { recurringOf } from '../recurring/index.ts';
import { KEPT_PARTS, keptRecords, writtenSince } from '../supporters/index.ts';
import type { Alike, KeptPart } from '../supporters/index.ts';
import { findReferences, firmOf, WhoIsHere } from './known.ts';
import { AT_ONCE, giftsIn, othersTurn } from './reading.ts';
import type { Line } from './reading.ts';

/** A row of the file with what would become of it. */
export interface JudgedRow extends Line {
  match: RowMatch | null;
  verdict: IntakeRow['verdict'];
  says: string;
  /** What it says otherwise than the record of its supporter; of a new one, what it says beyond the draft. */
  changes: RecordChange[];
}

/** What is decided for all rows of a file. */
export type Rules = Pick<IntakeSetting, 'picks' | 'policies' | 'matching' | 'known' | 'strangers' | 'source'> & {
  today: IsoDate;
  ties: readonly RelationKind[];
  /** Who is like somebody, by the measure of all records. */
  alike: Alike;
};

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
  private readonly together = new Map<string, number | number[]>();
  private picks: Rules['picks'] = {};
  private counted: ReturnType<typeof countsOf> | null = null;
  private named: ReturnType<typeof namedIn<JudgedRow>> | null = null;

  private constructor(
    sql: Sql,
    private readonly rules: Omit<Rules, 'picks'>,
  ) {
    this.known = new WhoIsHere(sql, rules);
  }

  /** Puts a row with those that have a key of it. */
  private join(index: number): void {
    for (const key of keysIn(this.lines[index])) {
      const group = this.together.get(key);
      if (group === undefined) this.together.set(key, index);
      else if (typeof group === 'number') this.together.set(key, [group, index]);
      else group.push(index);
    }
  }

  /** Takes a row from those that have a key of it. */
  private part(index: number): void {
    for (const key of keysIn(this.lines[index])) {
      const others = this.withKey(key).filter((one) => one !== index);
      if (others.length === 0) this.together.delete(key);
      else this.together.set(key, others);
    }
  }

  private withKey(key: string): readonly number[] {
    const group = this.together.get(key) ?? [];
    return typeof group === 'number' ? [group] : group;
  }

  /** Judges rows that come bit by bit: who and what of those before is here is looked for while the next are read. */
  static async of(sql: Sql, read: AsyncIterable<readonly Line[]>, { picks, ...rules }: Rules): Promise<Judgement> {
    const judgement = new Judgement(sql, rules);
    const { lines, known, references } = judgement;
    let looking: Promise<unknown> = known.add(pickedIn(picks));
    // Whatever becomes of it is told below.
    looking.catch(() => undefined);
    const look = (some: readonly Line[]): void => {
      looking = looking.then(() => Promise.all([known.look(some), findReferences(sql, some, references)]));
      looking.catch(() => undefined);
    };
    let next: Line[] = [];
    for await (const some of read) {
      for (const line of some) {
        lines.push(line);
        next.push(line);
      }
      if (next.length < LOOKED_FOR) continue;
      look(next);
      next = [];
    }
    look(next);
    for (const index of lines.keys()) judgement.join(index);
    await looking;
    await judgement.judge(sql, [...lines.keys()], picks);
    return judgement;
  }

  /** The counts over all rows, as they are judged now. */
  get counts(): ReturnType<typeof countsOf> {
    return (this.counted ??= countsOf(this.rows));
  }

  /** Whom a row names besides its supporter and another row is about, in words: their tie is made when both are brought in. */
  namedElsewhere(row: JudgedRow): string[] {
    const named = (this.named ??= namedIn(this.rows.filter(({ match }) => match?.kind === 'new')));
    return row.changes.flatMap(({ act }) => {
      if ((act?.do !== 'spouse' && act?.do !== 'second') || act.to !== null) return [];
      const other = named(row, act.member);
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
      for (const key of keysIn(this.lines[index])) open.push(...this.withKey(key));
    }
    return [...found].sort((a, b) => a - b);
  }

  private async judge(sql: Sql, indexes: readonly number[], picks: Rules['picks']): Promise<void> {
    this.picks = picks;
    this.counted = this.named = null;
    const owners = new Set<number>();
    const note = (row: JudgedRow | undefined): void => {
      if (row?.match?.kind === 'known') owners.add(row.match.id);
    };
    const earlier = new Map<string, number>();
    const references = new Map<string, string>();
    const taken = (reference: string): string | undefined =>
      references.get(reference) ?? this.references.get(reference);
    for (const [at, index] of indexes.entries()) {
      const line = this.lines[index];
      if (!line) continue;
      note(this.fates[index]);
      const pick = picks[String(line.row)] ?? null;
      const fate = withTie(
        this.rules.ties,
        this.known,
        judged(line, index, this.known, { taken, references }, earlier, this.lines, pick, this.rules.matching),
      );
      const row = byRule(fate, this.rules);
      note(row);
      this.rows[index] = row;
      this.fates[index] = row;
      if (at % AT_ONCE === AT_ONCE - 1) await othersTurn();
    }
    const all = indexes.length === this.lines.length;
    const also: number[] = [];
    if (!all && owners.size > 0)
      for (const [index, { match }] of this.fates.entries())
        if (match?.kind === 'known' && owners.has(match.id)) also.push(index);
    await this.compare(sql, all ? indexes : [...new Set([...indexes, ...also])].sort((a, b) => a - b));
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
      if (fate?.match?.kind === 'known' && promises(fate)) ids.add(fate.match.id);
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
      const { match, details, draft } = this.fates[index] ?? {};
      if (match?.kind === 'known' && details?.back && draft)
        lists.set(details.back.asOf, (lists.get(details.back.asOf) ?? new Set<number>()).add(ofList(match.id, draft)));
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

  /** Finds what each of the rows changes, in the order of the file; all rows of a supporter are among them. */
  private async compare(sql: Sql, indexes: readonly number[]): Promise<void> {
    const { today, source } = this.rules;
    const parts = partsIn(indexes.flatMap((index) => this.fates[index] ?? []));
    const records = new Map<number, KeptRecord>();
    const wanted = new Set<number>();
    const fresh = new Map<number, KeptRecord>();
    // What a list was, and what was promised, is looked up of all rows before one of them changes a record.
    const atOnce = indexes.some((index) => needsAll(this.fates[index])) ? indexes.length : COMPARED;
    await eachChunk(
      indexes,
      atOnce,
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
        await this.compareSome(some, records, await this.listed(sql, some, records), fresh);
      },
    );
  }

  /** Finds what some rows change of their records. */
  private async compareSome(
    indexes: readonly number[],
    records: ReadonlyMap<number, KeptRecord>,
    bases: ReadonlyMap<string, KeptRecord>,
    fresh: Map<number, KeptRecord>,
  ): Promise<void> {
    const { policies } = this.rules;
    for (const [at, index] of indexes.entries()) {
      const fate = this.fates[index];
      if (!fate?.match || !isGood(fate)) continue;
      fate.changes = noneOf();
      this.rows[index] = fate;
      const { match, draft, details } = fate;
      const besides = besidesOf(fate, this.known);
      if (match.kind === 'known') {
        const record = records.get(match.id);
        const base = bases.get(`${ofList(match.id, draft)} ${details.back?.asOf ?? ''}`) ?? null;
        if (base && match.by === 'number' && mistaken(draft.name, base)) {
          this.rows[index] = { ...fate, ...asked(match) };
          continue;
        }
        if (!record) continue;
        fate.changes = changesOf(details, draft.own, record, policies, besides, base);
        this.rows[index] = withKept(fate, record);
      } else {
        const first = match.kind === 'earlier' ? match.row : index;
        if (first === index && saysNoMore(fate)) continue;
        const record = fresh.get(first) ?? this.recordOfNew(first);
        fresh.set(first, record);
        fate.changes = changesOf(details, draft.own, record, OF_NEW, besides);
        this.rows[index] = withKept(fate, record);
      }
      if (at % AT_ONCE === AT_ONCE - 1) await othersTurn();
    }
  }
}

/** The parts of records that rows say something about, which are those they are held against. */
function partsIn(rows: readonly JudgedRow[]): readonly KeptPart[] {
  const found = new Set<KeptPart>();
  for (const { match, draft, details } of rows) {
    if (match?.kind !== 'known') continue;
    // A list that comes back says something about everything.
    if (details.back !== null) return KEPT_PARTS;
    if (details.emails.length > 0) found.add('email');
    if (details.phones.length > 0) found.add('phone');
    if (details.addresses.length > 0 || details.returned !== null) found.add('address');
    if (details.wishes.length > 0) found.add('wishes');
    if (draft.own.length > 0) found.add('own');
    if (details.spouse !== null || details.second !== null || details.employer !== null || details.tie !== null)
      found.add('ties');
    if (details.household !== '') found.add('household');
    if (details.outside !== '') found.add('outside');
  }
  return [...found];
}

/** So many rows are held against their records while those of the next are read. */
const COMPARED = 5_000;

/** Whether a row is held against what was promised, or against what a list was. */
const needsAll = (row: JudgedRow | undefined): boolean =>
  row !== undefined && (row.details.back !== null || promises(row));

/** Whether a row says nothing of its new supporter that its draft does not hold. */
const saysNoMore = ({ draft, details }: Line): boolean =>
  !promises({ draft, details }) &&
  [details.emails, details.phones, details.addresses].every(({ length }) => length < 2) &&
  details.wishes.length === 0 &&
  details.outside === '' &&
  details.birthday === '' &&
  details.spouse === null &&
  details.second === null &&
  details.employer === null &&
  details.household === '' &&
  details.tie === null &&
  details.movedOn === null;

/** Whether a row of a list names somebody else than had its number then, as where one column of it was sorted alone. */
const mistaken = (name: DraftRow['name'], { person, names }: KeptRecord): boolean =>
  person && name.kind === 'person' && unlikeNames(name, { ...name, ...names });
const asked = ({ id, name }: Extract<RowMatch, { kind: 'known' }>): Pick<JudgedRow, 'match' | 'verdict' | 'says'> => {
  const why = 'Its number was of somebody with quite another name when the list was made';
  const candidates = [{ id, name, reasons: ['same number'] }];
  return {
    match: { kind: 'undecided', why, candidates },
    verdict: 'undecided',
    says: `${why}: ${name} ${supporterNumber(id)}`,
  };
};

/** Whether a row promises something, or a gift of it keeps a promise. */
const promises = (line: Pick<Line, 'draft' | 'details'>): boolean =>
  line.details.pledge !== null || line.details.recurring !== null || giftsIn(line).some(({ kind }) => kind != null);

/** A row with which promises its gifts keep among its changes; a payment on a pledge that there is not stops it. */
function withKept(row: JudgedRow, record: KeptRecord): JudgedRow {
  if (!promises(row)) return row;
  const { keeps, fault, remark } = keptBy(giftsIn(row), record);
  if (fault !== null) {
    const problems = [{ field: 'giftKind' as const, value: '', reason: fault }];
    return { ...row, match: null, verdict: 'bad', says: fault, problems, changes: [] };
  }
  const warnings: RowProblem[] = remark === null ? [] : [{ field: 'giftKind', value: '', reason: remark }];
  const kept = keeps.map((one): RecordChange => {
    const after = 'pledge' in one ? paysInWords(one.pledge) : 'of their recurring gift';
    return { field: 'giftKind', before: '', after, act: { do: 'keeps', keeps: one } };
  });
  return { ...row, warnings: [...row.warnings, ...warnings], changes: [...row.changes, ...kept] };
}
const paysInWords = ({ id }: OpenPledge): string =>
  id === null ? 'pays the pledge of the file' : `pays ${pledgeNumber(id)}`;

/** A file holds rows of so many lists that come back at most. */
const MOST_LISTS = 20;

/** Whom so many rows are about is looked for at once. */
const LOOKED_FOR = 25_000;

/** What a row may be told together with others by. */
function keysIn(line: Line | undefined): string[] {
  if (!line) return [];
  const keys = keysOf(line.draft);
  for (const { reference } of giftsIn(line)) if (reference !== '') keys.push(`=${reference.toLowerCase()}`);
  return keys;
}

const pickedIn = (picks: Rules['picks']): number[] => Object.values(picks).filter((pick) => typeof pick === 'number');

/** A row changes what an earlier one of the same new supporter brought only where that is missing. */
const OF_NEW: Policies = { all: 'fill' };

/** A row whose supporter is here, or is not, may be left out by what is decided for all of them. */
function byRule(row: JudgedRow, { known, strangers }: Omit<Rules, 'picks'>): JudgedRow {
  if (row.match?.kind === 'known' && known === 'skip')
    return { ...row, verdict: 'skipped', says: `Left out, since they are here: ${row.says}` };
  if ((row.match?.kind === 'new' || row.match?.kind === 'earlier') && strangers === 'skip')
    return { ...row, verdict: 'skipped', says: 'Left out, since they are not here' };
  return row;
}

/** As alike as a same name with a same address, telephone or e-mail. */
const SURELY = 80;

/** The spouse and the employer that a row names, where they are here. */
function besidesOf(
  { draft, details: { spouse, second, household, employer, tie } }: JudgedRow,
  known: Known,
): NamedBesides {
  if (!spouse && !second && !employer && !tie && household === '') return NOBODY_BESIDES;
  const { email, phone, street, postal, city } = draft;
  /** Those of a name who are surely meant, since they are reached as the supporter of the row is. */
  const mates = (member: NamedMember | null): Here[] =>
    member === null
      ? []
      : known
          .byName(member.name)
          .filter(
            (one) =>
              likeness(one, {
                ...{ ...member.name, kind: 'person', nickname: '', formerLast: '', organization: '' },
                ...{ emails: email === null ? [] : [email], phones: phone === '' ? [] : [phone] },
                addresses: street === '' ? [] : [{ street, postal, city }],
              }).score >= SURELY,
          );
  const firms = employer
    ? known.byName(firmOf(employer.name)).filter(({ organization }) => fold(organization) === fold(employer.name))
    : [];
  const homes =
    household === ''
      ? []
      : known
          .byName(firmOf(household))
          .filter((one) => one.kind === 'household' && fold(one.organization) === fold(household));
  const other = tie ? known.byNumber(tie.other) : null;
  return {
    ...{ spouse: only(mates(spouse)), second: only(mates(second?.member ?? null)), employer: only(firms) },
    household: homes.length > 1 ? 'several' : only(homes),
    other: other?.state === 'active' ? `${other.name} ${supporterNumber(other.id)}` : null,
  };
}

const only = (found: readonly Here[]): number | null => (found.length === 1 ? (found[0]?.id ?? null) : null);

/** Whom a row of a list was about when that was made: its number then, though it leads to another by now. */
const ofList = (id: number, draft: Pick<JudgedRow['draft'], 'supporterId'>): number => draft.supporterId ?? id;

/** A row that can be brought in, unless something is wrong with the other one of its tie. */
function withTie(kinds: readonly RelationKind[], known: Known, fate: JudgedRow): JudgedRow {
  const { tie } = fate.details;
  if (!tie || (fate.verdict !== 'known' && fate.verdict !== 'new')) return fate;
  const number = supporterNumber(tie.other);
  const bad = (reason: string): JudgedRow => ({
    ...{ ...fate, match: null, verdict: 'bad', says: reason },
    problems: [{ field: 'tieOther', value: number, reason }],
  });
  const other = known.byNumber(tie.other);
  if (!other || other.state === 'erased') return bad(`No supporter has the number ${number}.`);
  if (other.state !== 'active') return bad(`${number} is in the trash; bring it back from there first.`);
  const id = fate.match?.kind === 'known' ? fate.match.id : 0;
  const own = { id, kind: fate.draft.name.kind, name: displayName(fate.draft.name) };
  const one = (id > 0 && known.byNumber(id)) || own;
  const kind = kinds.find((each) => each.id === tie.kind);
  const [from, to] = tie.first ? [one, other] : [other, one];
  const fault = kind ? relationFault(kind, from, to, []) : null;
  const led = { ...fate.details, tie: { ...tie, other: other.id } };
  return fault === null ? { ...fate, details: led } : bad(fault);
}

/** A row of which something becomes, before it is held against a record. */
const fateOf = (
  { row, cells, read, draft, details, problems, warnings }: Line,
  match: RowMatch | null,
  verdict: JudgedRow['verdict'],
  says: string,
): JudgedRow => ({ row, cells, read, draft, details, problems, warnings, match, verdict, says, changes: noneOf() });

/** What becomes of one row, given all that is known and the rows before it. */
function judged(
  line: Line,
  index: number,
  known: Known,
  { taken, references }: { taken: (reference: string) => string | undefined; references: Map<string, string> },
  earlier: Map<string, number>,
  all: readonly { row: number }[],
  pick: Picked | null,
  matching: Matching,
): JudgedRow {
  if (pick === 'skip') return fateOf(line, null, 'skipped', 'Left out by you');
  if (line.problems.length > 0)
    return fateOf(line, null, 'bad', line.problems.map((problem) => problem.reason).join(' '));
  const gifts = giftsIn(line).filter(({ reference }) => reference !== '');
  const here = gifts.filter(({ reference }) => taken(reference.toLowerCase()) !== undefined);
  const [already] = here;
  if (already) {
    const says = `The gift ${already.reference} is ${taken(already.reference.toLowerCase()) ?? ''}`;
    if (here.length === giftsIn(line).length) return fateOf(line, null, 'already', says);
    const reason = `${says}; the other gifts of the row are not.`;
    const problems = [{ field: 'reference' as const, value: already.reference, reason }];
    return { ...fateOf(line, null, 'bad', reason), problems };
  }
  for (const { reference } of gifts) references.set(reference.toLowerCase(), `in row ${line.row}`);
  const match = matchRow(line.draft, index, known, earlier, pick, matching);
  switch (match.kind) {
    case 'new': {
      const { alike } = match;
      if (!alike) return fateOf(line, match, 'new', 'New supporter');
      const reason = `${alike.name} ${supporterNumber(alike.id)} is here already: ${alike.reasons.join(', ')}.`;
      const warnings = [...line.warnings, { field: null, value: '', reason }];
      return { ...fateOf(line, match, 'new', `New supporter. ${reason}`), warnings };
    }
    case 'earlier':
      return fateOf(line, match, 'new', `Same new supporter as row ${all[match.row]?.row ?? ''}`);
    case 'known':
      return fateOf(line, match, 'known', `${match.name} ${supporterNumber(match.id)}, by ${match.by}`);
    case 'undecided':
      return fateOf(
        line,
        match,
        'undecided',
        `${match.why}: ${match.candidates.map((one) => `${one.name} ${supporterNumber(one.id)}`).join(', ')}`,
      );
    case 'in-trash':
    case 'unknown-number': {
      const { outside, supporterId } = line.draft;
      if (supporterId === null) {
        const reason = `Nobody here has the number ${outside ?? ''}, and the row has no name.`;
        const problems = [{ field: 'outside' as const, value: outside ?? '', reason }];
        return { ...fateOf(line, null, 'bad', reason), problems };
      }
      const reason =
        match.kind === 'in-trash'
          ? `${supporterNumber(match.id)} is in the trash; bring it back from there first, or clear the number to bring the row in as new.`
          : 'No supporter has this number; clear it to bring the row in as new.';
      return {
        ...fateOf(line, null, 'bad', reason),
        problems: [{ field: 'number', value: supporterNumber(supporterId), reason }],
      };
    }
  }
}

/** Whether a row is brought in as things stand. */
export const isGood = (row: Pick<JudgedRow, 'verdict'>): boolean => row.verdict === 'new' || row.verdict === 'known';

/** Whether a row is brought in and deserves a look before. */
export const needsLook = (row: JudgedRow): boolean => isGood(row) && row.warnings.length > 0;

/** Whether a row changes the record of somebody who is here, and whether something of it is not taken. */
export const changesRecord = (row: JudgedRow): boolean =>
  row.match?.kind === 'known' && row.changes.some(({ act }) => act !== null);
export const keepsOurs = (row: JudgedRow): boolean => isGood(row) && row.changes.some(({ act }) => act === null);

export function countsOf(rows: readonly JudgedRow[]) {
  const counts = {
    ...{ new: 0, known: 0, bad: 0, undecided: 0, already: 0, skipped: 0 },
    ...{ look: 0, changes: 0, differs: 0, newSupporters: 0, gifts: 0, cents: 0 },
  };
  for (const row of rows) {
    counts[row.verdict]++;
    if (!isGood(row)) continue;
    if (row.warnings.length > 0) counts.look++;
    if (changesRecord(row)) counts.changes++;
    if (keepsOurs(row)) counts.differs++;
    if (row.match?.kind === 'new') counts.newSupporters++;
    for (const { cents } of giftsIn(row)) {
      counts.gifts++;
      counts.cents += cents;
    }
  }
  return counts;
}
