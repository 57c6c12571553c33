import type { IsoDate } from '@tallystick/core/dates';
import { likeness } from '@tallystick/core/duplicates';
import {
  fieldIn,
  keptBy,
  matchRow,
  noneOf,
  NOBODY_BESIDES,
  ownField,
  togetherBy,
  unlikeNames,
  WISH_COLUMNS,
} from '@tallystick/core/intake';
import type {
  DraftRow,
  Here,
  IntakeColumn,
  IntakeField,
  KeptRecord,
  NamedMember,
  Known,
  Matching,
  NamedBesides,
  OpenPledge,
  Pick as Picked,
  RecordChange,
  RowDetails,
  RowMatch,
  RowProblem,
} from '@tallystick/core/intake';
import { displayName, fold } from '@tallystick/core/names';
import { relationFault } from '@tallystick/core/relations';
import type { RelationKind } from '@tallystick/core/relations';
import type { IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { pledgeNumber } from '@tallystick/core/pledges';
import { supporterNumber } from '@tallystick/core/supporters';
import { KEPT_PARTS } from '../supporters/index.ts';
import type { Alike, KeptPart } from '../supporters/index.ts';
import { firmOf } from './known.ts';
import { giftsIn } from './reading.ts';
import type { Line } from './reading.ts';

/* What becomes of one row of a file, given all that is known: whose it is, and what keeps it from being brought in. */

/** A row of the file with what would become of it. */
export interface JudgedRow {
  line: Line;
  /** What is wrong with it, and what wants a look: what is read of it, and what is found by who is here. */
  problems: RowProblem[];
  warnings: RowProblem[];
  match: RowMatch | null;
  verdict: IntakeRow['verdict'];
  says: string;
  /** What it says otherwise than the record of its supporter; of a new one, what it says beyond the draft. */
  changes: RecordChange[];
}

/** What is decided for all rows of a file. */
export type Rules = Pick<
  IntakeSetting,
  'columns' | 'same' | 'picks' | 'policies' | 'matching' | 'known' | 'strangers' | 'source'
> & {
  today: IsoDate;
  ties: readonly RelationKind[];
  /** Who is like somebody, by the measure of all records. */
  alike: Alike;
};

type Columns = Pick<IntakeSetting, 'columns' | 'same'>;

/** The places that columns of a file go to, or that are the same for all of its rows. */
const placesIn = ({ columns, same }: Columns): IntakeColumn[] => [
  ...columns.filter((column) => column !== null),
  ...(Object.keys(same) as IntakeColumn[]),
];
const fieldsIn = (columns: Columns): IntakeField[] =>
  placesIn(columns).flatMap((column) => fieldIn(column)?.field ?? []);

/** What of a record each field has to do with. */
const FIELDS_OF: Readonly<Record<Exclude<KeptPart, 'tags' | 'own'>, readonly IntakeField[]>> = {
  sharers: ['moveKind'],
  email: ['email'],
  phone: ['phone'],
  address: ['street', 'unit', 'city', 'region', 'postal', 'country', 'returned'],
  wishes: [...(Object.keys(WISH_COLUMNS) as IntakeField[]), 'deceasedOn'],
  // A firm beside a person is their employer.
  ties: ['spouse', 'second', 'employer', 'organization', 'tie', 'tieOther'],
  household: ['household'],
  outside: ['outside'],
};

/** The parts of records that rows of a file may say something about, which are those they are held against. */
export function partsIn(columns: Columns): readonly KeptPart[] {
  const fields = fieldsIn(columns);
  const parts = (Object.keys(FIELDS_OF) as (keyof typeof FIELDS_OF)[]).filter((part) =>
    FIELDS_OF[part].some((field) => fields.includes(field)),
  );
  // A list that comes back says something about everything.
  const all = fields.includes('asOf') ? KEPT_PARTS : [];
  const own = placesIn(columns).some((column) => ownField(column) !== null);
  return [...new Set<KeptPart>([...parts, ...all, ...(own ? (['own'] as const) : [])])];
}

/**
 * Whether rows of a file may be held against what was promised, or against what a list was: all of that is looked up
 * before one of them changes a record.
 */
export const needsAll = (columns: Columns): boolean => fieldsIn(columns).some((field) => AT_ONCE.includes(field));
const AT_ONCE: readonly IntakeField[] = ['asOf', 'pledge', 'recurs', 'giftKind'];

/** Whether a row says nothing of its new supporter that its draft does not hold. */
export function saysNoMore(line: Line): boolean {
  const { details } = line;
  return (
    !promises(line) &&
    [details.emails, details.phones, details.addresses].every(({ length }) => length < 2) &&
    details.wishes.length === 0 &&
    details.outside === '' &&
    details.birthday === '' &&
    details.spouse === null &&
    details.second === null &&
    details.employer === null &&
    details.household === '' &&
    details.tie === null &&
    details.movedOn === null
  );
}

/** Whether a row of a list names somebody else than had its number then, as where one column of it was sorted alone. */
export const mistaken = (name: DraftRow['name'], { person, names }: KeptRecord): boolean =>
  person && name.kind === 'person' && unlikeNames(name, { ...name, ...names });
export const asked = ({
  id,
  name,
}: Extract<RowMatch, { kind: 'known' }>): Pick<JudgedRow, 'match' | 'verdict' | 'says'> => {
  const why = 'Its number was of somebody with quite another name when the list was made';
  const candidates = [{ id, name, reasons: ['same number'] }];
  return {
    match: { kind: 'undecided', why, candidates },
    verdict: 'undecided',
    says: `${why}: ${name} ${supporterNumber(id)}`,
  };
};

/** Whether a row promises something, or a gift of it keeps a promise. */
export const promises = (line: Line): boolean =>
  line.details.pledge !== null || line.details.recurring !== null || giftsIn(line).some(({ kind }) => kind != null);

/** A row with which promises its gifts keep among its changes; a payment on a pledge that there is not stops it. */
export function withKept(row: JudgedRow, record: KeptRecord): JudgedRow {
  if (!promises(row.line)) return row;
  const { keeps, fault, remark } = keptBy(giftsIn(row.line), record);
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

/**
 * What a row may be told together with others by, each as a number, which takes less room than a text. Two texts may
 * have one: then a few rows more are judged again, which does no harm.
 */
export function keysIn(line: Line | undefined): number[] {
  if (!line) return [];
  const keys = togetherBy(line.draft);
  for (const { reference } of giftsIn(line)) if (reference !== '') keys.push(`=${reference.toLowerCase()}`);
  return keys.map(numberOf);
}
function numberOf(text: string): number {
  let number = 0;
  for (let at = 0; at < text.length; at++) number = (Math.imul(number, 31) + text.charCodeAt(at)) | 0;
  return number;
}

export const pickedIn = (picks: Rules['picks']): number[] =>
  Object.values(picks).filter((pick) => typeof pick === 'number');

/** A row whose supporter is here, or is not, may be left out by what is decided for all of them. */
export function byRule(row: JudgedRow, { known, strangers }: Omit<Rules, 'picks'>): JudgedRow {
  if (row.match?.kind === 'known' && known === 'skip')
    return { ...row, verdict: 'skipped', says: `Left out, since they are here: ${row.says}` };
  if ((row.match?.kind === 'new' || row.match?.kind === 'earlier') && strangers === 'skip')
    return { ...row, verdict: 'skipped', says: 'Left out, since they are not here' };
  return row;
}

/** As alike as a same name with a same address, telephone or e-mail. */
const SURELY = 80;

/** The spouse and the employer that a row names, where they are here. */
export function besidesOf(
  { draft, details: { spouse, second, household, employer, tie } }: Line,
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
export const ofList = (id: number, draft: Pick<DraftRow, 'supporterId'>): number => draft.supporterId ?? id;

/** A row that can be brought in, unless something is wrong with the other one of its tie. */
export function withTie(kinds: readonly RelationKind[], known: Known, fate: JudgedRow): JudgedRow {
  const { draft, details } = fate.line;
  const { tie } = details;
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
  const own = { id, kind: draft.name.kind, name: displayName(draft.name) };
  const one = (id > 0 && known.byNumber(id)) || own;
  const kind = kinds.find((each) => each.id === tie.kind);
  const [from, to] = tie.first ? [one, other] : [other, one];
  const fault = kind ? relationFault(kind, from, to, []) : null;
  return fault === null ? fate : bad(fault);
}

/** What a row says, its tie being to whom the number that it names leads. */
export function ledIn({ details }: Line, known: Known): RowDetails {
  const { tie } = details;
  const other = tie && known.byNumber(tie.other);
  return tie && other ? { ...details, tie: { ...tie, other: other.id } } : details;
}

/** A row of which something becomes, before it is held against a record. */
const fateOf = (line: Line, match: RowMatch | null, verdict: JudgedRow['verdict'], says: string): JudgedRow => ({
  line,
  problems: line.problems,
  warnings: line.warnings,
  match,
  verdict,
  says,
  changes: noneOf(),
});

/** What becomes of one row, given all that is known and the rows before it. */
export function judged(
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
      const { alike, namesake } = match;
      const other = !namesake ? '' : `Row ${all[namesake.row]?.row ?? ''}`;
      const reasons = [
        ...(alike ? [`${alike.name} ${supporterNumber(alike.id)} is here already: ${alike.reasons.join(', ')}.`] : []),
        ...(namesake?.same === 'name' ? [`${other} has the same name and nothing else of this one.`] : []),
        ...(namesake?.same === 'email' ? [`${other} has the same e-mail and another name.`] : []),
      ];
      const fate = fateOf(line, match, 'new', ['New supporter', ...reasons].join('. '));
      if (reasons.length === 0) return fate;
      return {
        ...fate,
        warnings: [...line.warnings, ...reasons.map((reason) => ({ field: null, value: '', reason }))],
      };
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

/** How many rows become what, and what they bring in. */
export class Counts {
  readonly all = {
    ...{ new: 0, known: 0, bad: 0, undecided: 0, already: 0, skipped: 0 },
    ...{ look: 0, changes: 0, differs: 0, newSupporters: 0, gifts: 0, cents: 0 },
  };

  static of(rows: readonly JudgedRow[]): Counts {
    const counts = new Counts();
    for (const row of rows) counts.add(row);
    return counts;
  }

  /** Counts a row in, or out again as it was counted in. */
  add(row: JudgedRow, by: 1 | -1 = 1): void {
    const { all } = this;
    all[row.verdict] += by;
    if (!isGood(row)) return;
    if (row.warnings.length > 0) all.look += by;
    if (changesRecord(row)) all.changes += by;
    if (keepsOurs(row)) all.differs += by;
    if (row.match?.kind === 'new') all.newSupporters += by;
    for (const { cents } of giftsIn(row.line)) {
      all.gifts += by;
      all.cents += by * cents;
    }
  }
}

export const countsOf = (rows: readonly JudgedRow[]): Counts['all'] => Counts.of(rows).all;
