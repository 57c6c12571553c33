import type { PostalAddress } from '../contact/index.ts';
import type { IsoDate } from '../dates/index.ts';
import type { Kept } from '../fields/index.ts';
import { displayName } from '../names/index.ts';
import type { Wish } from '../wishes/index.ts';
import { noneOf } from './cells.ts';
import { NAME_COLUMNS } from './details.ts';
import type { FiledAddress, NameColumn, RowDetails } from './details.ts';
import { WISH_COLUMNS } from './fields.ts';
import type { IntakeField } from './fields.ts';
import { editedIn } from './back.ts';
import { pledgeInWords, recurringInWords } from './promises.ts';
import type { DraftPledge, DraftRecurring, Keeps } from './promises.ts';
import type { NamedMember } from './names.ts';
import type { DraftRow } from './rows.ts';
import { sameAddress, sameNumber, sameText } from './ways.ts';
import type { KeptRecord } from './ways.ts';

/**
 * What becomes of the record of somebody who is here: it stays as it is, is filled where it is empty, or is made what
 * the file says. Gifts, tags, groups and notes are added in any case.
 */
export const POLICIES = ['ours', 'fill', 'file'] as const;
export type Policy = (typeof POLICIES)[number];

/** The parts of a record that a policy of their own may be set for. */
export const POLICY_PARTS = ['names', 'birthday', 'email', 'phone', 'address', 'wishes', 'own'] as const;
export type PolicyPart = (typeof POLICY_PARTS)[number];
export type Policies = { [P in PolicyPart]?: Policy | undefined } & { all: Policy };

/** What is written for a change. */
export type ChangeAct =
  | { do: 'name'; column: NameColumn; value: string }
  | { do: 'birthday'; value: string }
  | { do: 'email'; address: string; label: string; preferred: boolean }
  | { do: 'phone'; number: string; label: string; preferred: boolean }
  | {
      do: 'address';
      address: FiledAddress;
      preferred: boolean;
      ends: number | null;
      from: IsoDate | null;
      /** Of somebody else, who moves along. */
      whose?: number;
    }
  /** An address that is here, written otherwise. */
  | { do: 'mend'; address: number; parts: PostalAddress }
  | { do: 'returned'; address: number; reason: string }
  | { do: 'wish'; kind: Wish; happenedOn: IsoDate | null }
  | { do: 'no-wish'; kind: Wish }
  | { do: 'own'; field: number; value: Kept }
  /** Of a list that comes back: which were put on in it and which taken off. */
  | { do: 'tags'; on: readonly string[]; off: readonly string[] }
  /** What they are called where the file comes from. */
  | { do: 'outside'; called: string }
  /** A tie to somebody who is here, by their id, or to a new record. */
  | { do: 'spouse'; member: NamedMember; to: number | null }
  | { do: 'second'; member: NamedMember; kind: number; first: boolean; to: number | null }
  | { do: 'employer'; name: string; title: string; to: number | null }
  /** Into a home that is here, by its id, or a new one, which is where the row says. */
  | { do: 'household'; name: string; to: number | null; address: FiledAddress | null }
  | { do: 'pledge'; pledge: DraftPledge }
  | { do: 'recurring'; recurring: DraftRecurring }
  /** What a gift of the row keeps of what is promised. */
  | { do: 'keeps'; keeps: Keeps }
  | { do: 'tie'; kind: number; first: boolean; other: number };

/** Who of those that a row names besides its supporter are here, by their id. */
export interface NamedBesides {
  spouse: number | null;
  second: number | null;
  employer: number | null;
  /** `several` where more than one home here has the name. */
  household: number | 'several' | null;
  /** What the other one of a tie is called; null where there is none such. */
  other: string | null;
}
export const NOBODY_BESIDES: NamedBesides = {
  spouse: null,
  second: null,
  employer: null,
  household: null,
  other: null,
};

export const tieKey = (tie: { kind: number; first: boolean; other: number }): string =>
  `${tie.kind}:${tie.first ? 1 : 0}:${tie.other}`;

/** What a row says otherwise than the record: `act` is what comes of it, null where ours is kept. */
export interface RecordChange {
  /** What of the record it is: a place for columns, or `field:12`. */
  field: IntakeField | `field:${number}`;
  /** What it would be instead of; empty for what is only added. */
  before: string;
  after: string;
  act: ChangeAct | null;
  /** Of a list that comes back: it was changed in it and here too, otherwise. */
  conflict?: boolean;
}

/** Of any other row all tags are put on, which is no change of what the record says. */
const NO_TAGS: { on: string[]; off: string[] } = { on: [], off: [] };

/** What is said where a row does not tell which home it means: nobody but a person chooses one. */
const SEVERAL_HOMES = 'several homes here have that name';

/** What is said of a way that is here already and does not reach them: nobody but a person takes it up again. */
const NOT_IN_USE = 'former or undeliverable here';

export const oneLineOf = ({ street, city, region, postal }: PostalAddress): string =>
  [street.replace('\n', ', '), city, [region, postal].filter(Boolean).join(' ')].filter(Boolean).join(', ');

/** All that a row says, where it is no row of a list that comes back. */
const wholeOf = (
  { names, birthday, emails, phones, addresses }: RowDetails,
  own: readonly (readonly [field: number, value: Kept])[],
) => ({ names, birthday: birthday || null, emails, phones, addresses, own, mended: noneOf<never>(), tags: NO_TAGS });

/**
 * What a row says otherwise than a record, with what comes of it; the record is changed by it, so that the next row that
 * brings something of the same supporter is held against what it will be. Wishes are only ever added but where the file
 * goes before: the stricter holds. Of a list that comes back, `base` is what the record was when it was made: only what
 * was changed in the list is looked at, and goes before ours unless that was changed since, too.
 */
export function changesOf(
  row: RowDetails,
  ownOfRow: readonly (readonly [field: number, value: Kept])[],
  record: KeptRecord,
  policies: Policies,
  besides: NamedBesides = NOBODY_BESIDES,
  base: KeptRecord | null = null,
): RecordChange[] {
  const { movedOn, returned, wishes, spouse, second, household, employer, tie, outside } = row;
  const { names, birthday, emails, phones, addresses, own, mended, tags } = base
    ? editedIn(row, ownOfRow, base, record)
    : wholeOf(row, ownOfRow);
  const changes: RecordChange[] = [];
  const policyOf = (part: PolicyPart): Policy => policies[part] ?? policies.all;
  /** Whether what is one takes the place of ours; `was` is what it was in a list that comes back. */
  const scalar = (part: PolicyPart, before: string, was: string | undefined): boolean =>
    policyOf(part) === 'file' || (policyOf(part) === 'fill' && (before === '' || was === before));
  const note = (
    field: RecordChange['field'],
    before: string,
    after: string,
    act: ChangeAct | null,
    was: string = before,
  ): void =>
    void changes.push(
      base && was !== before ? { field, before, after, act, conflict: true } : { field, before, after, act },
    );

  if (outside !== '' && !record.outside.has(outside)) {
    note('outside', [...record.outside].join(', '), outside, { do: 'outside', called: outside });
    record.outside.add(outside);
  }
  for (const column of record.person ? NAME_COLUMNS : []) {
    const [value, before, was] = [names[column], record.names[column], base?.names[column]];
    if (value === undefined || value === before) continue;
    if (!base && (value === '' || (before !== '' && sameText(value, before)))) continue;
    // Somebody keeps one of the names that they are found by.
    const nameless = value === '' && (column === 'last' || (column === 'first' && record.names.last === ''));
    const takes = !nameless && scalar('names', before, was);
    note(column, before, value, takes ? { do: 'name', column, value } : null, was);
    if (takes) record.names[column] = value;
  }
  if (birthday === '' && record.person && record.birthday !== '') {
    const takes = scalar('birthday', record.birthday, base?.birthday);
    note('birthday', record.birthday, '', takes ? { do: 'birthday', value: '' } : null, base?.birthday);
    if (takes) record.birthday = '';
  } else if (birthday !== null && birthday !== '' && record.person && birthday !== record.birthday) {
    // A day without its year says nothing against one with it.
    const same = birthday.startsWith('--') && record.birthday.endsWith(birthday.slice(2));
    const completes = record.birthday.startsWith('--') && birthday.endsWith(record.birthday.slice(2));
    const takes = completes ? policyOf('birthday') !== 'ours' : scalar('birthday', record.birthday, base?.birthday);
    if (!same || base) {
      note('birthday', record.birthday, birthday, takes ? { do: 'birthday', value: birthday } : null, base?.birthday);
      if (takes) record.birthday = birthday;
    }
  }

  /** Whether a further way is added, and whether it is the one to use from now on. */
  const further = (part: 'email' | 'phone' | 'address', before: string, was: string | undefined): boolean | null => {
    const policy = policyOf(part);
    return policy === 'ours' ? null : policy === 'file' || before === '' || was === before;
  };
  for (const { address, label } of emails) {
    const same = record.emails.find((one) => sameText(one.address, address));
    if (same && !same.usable) note('email', NOT_IN_USE, address, null);
    if (same) continue;
    const before = record.emails.find(({ usable }) => usable)?.address ?? '';
    const was = base ? (base.emails.find(({ usable }) => usable)?.address ?? '') : undefined;
    const preferred = further('email', before, was);
    note(
      'email',
      preferred === false && !base ? '' : before,
      address,
      preferred === null ? null : { do: 'email', address, label, preferred },
      was,
    );
    if (preferred !== null) put(record.emails, { id: null, address, label, usable: true }, preferred);
  }
  for (const { number, label } of phones) {
    const same = record.phones.find((one) => sameNumber(one.number, number));
    if (same && !same.usable) note('phone', NOT_IN_USE, number, null);
    if (same) continue;
    const before = record.phones.find(({ usable }) => usable)?.number ?? '';
    const was = base ? (base.phones.find(({ usable }) => usable)?.number ?? '') : undefined;
    const preferred = further('phone', before, was);
    note(
      'phone',
      preferred === false && !base ? '' : before,
      number,
      preferred === null ? null : { do: 'phone', number, label, preferred },
      was,
    );
    if (preferred !== null) put(record.phones, { id: null, number, label, usable: true }, preferred);
  }
  if (returned !== null) {
    const [asked] = addresses;
    const back = record.addresses.find((one) => one.usable && (!asked || sameAddress(one, asked)));
    if (back && back.id !== null) {
      note('returned', oneLineOf(back), returned, { do: 'returned', address: back.id, reason: returned });
      back.usable = false;
    }
  }
  const baseUsed = base?.addresses.find(({ usable }) => usable);
  const addressWas = base ? (baseUsed ? oneLineOf(baseUsed) : '') : undefined;
  for (const { at, parts } of mended) {
    const takes = policyOf('address') === 'file' || (policyOf('address') === 'fill' && addressWas === oneLineOf(at));
    const act = takes && at.id !== null ? ({ do: 'mend', address: at.id, parts } as const) : null;
    note('street', oneLineOf(at), oneLineOf(parts), act, addressWas);
    if (act) Object.assign(at, parts);
  }
  for (const [at, address] of addresses.entries()) {
    const same = record.addresses.find((one) => sameAddress(one, address));
    // The one that mail came back from is told of above.
    if (same && !same.usable && (returned === null || at > 0)) note('street', NOT_IN_USE, oneLineOf(address), null);
    if (same) continue;
    const used = record.addresses.find(({ usable, seasonal }) => usable && seasonal !== true);
    const before = used ? oneLineOf(used) : '';
    const from = at === 0 ? movedOn : null;
    // Who moved is at the new address, whatever else is kept.
    const preferred = from === null ? further('address', before, addressWas) : true;
    // The one that was used becomes a former one.
    const ends = preferred === true ? (used?.id ?? null) : null;
    const act: ChangeAct | null = preferred === null ? null : { do: 'address', address, preferred, ends, from };
    note('street', preferred === false && !base ? '' : before, oneLineOf(address), act, addressWas);
    if (at === 0 && row.movedAll && preferred === true && used)
      for (const { id: whose, called, at: theirs } of record.sharers)
        if (sameAddress(theirs, used))
          note('moveKind', '', `${called} moves, too`, {
            ...{ do: 'address', address, preferred: true, ends: theirs.id, from, whose },
          });
    if (preferred !== null) {
      if (used && ends !== null) used.usable = false;
      put(record.addresses, { id: null, ...address, usable: true }, preferred);
    }
  }

  const wishPolicy = policyOf('wishes');
  for (const { kind, on, happenedOn } of wishes) {
    const had = record.wishes.has(kind);
    const field = happenedOn === null ? COLUMN_OF[kind] : 'deceasedOn';
    if (on && (!had || (happenedOn !== null && record.wishes.get(kind) === null))) {
      note(field, had ? 'yes' : '', happenedOn ?? 'yes', { do: 'wish', kind, happenedOn });
      record.wishes.set(kind, happenedOn);
    } else if (!on && had) {
      const lifts = wishPolicy === 'file';
      note(field, 'yes', 'no', lifts ? { do: 'no-wish', kind } : null);
      if (lifts) record.wishes.delete(kind);
    }
  }
  for (const [field, value] of own) {
    const before = record.own.get(field) ?? '';
    if (before === value) continue;
    const was = base ? (base.own.get(field) ?? '') : undefined;
    const takes = scalar('own', before, was);
    note(`field:${field}`, before, value, takes ? { do: 'own', field, value } : null, was);
    if (takes) record.own.set(field, value);
  }
  if (tags.on.length + tags.off.length > 0) {
    const stays = ({ name, standing }: KeptRecord['tags'][number]): boolean =>
      standing || policies.all === 'ours' || !tags.off.includes(name);
    const kept = record.tags.filter(stays);
    const off = tags.off.filter((tag) => !kept.some(({ name }) => name === tag));
    const act = tags.on.length + off.length > 0 ? ({ do: 'tags', on: tags.on, off } as const) : null;
    const after = [...kept, ...tags.on.map((name) => ({ name, standing: false }))];
    const inWords = (all: readonly { name: string }[]): string =>
      all
        .map(({ name }) => name)
        .sort()
        .join('; ');
    note('tag', inWords(record.tags), act ? inWords(after) : row.tags.join('; '), act);
    record.tags = after;
  }
  if (spouse && record.person) {
    const [name, before] = [displayName(spouse.name), record.spouses.join(', ')];
    if (!record.spouses.some((one) => sameText(one, name))) {
      const takes = record.spouses.length === 0;
      note('spouse', before, name, takes ? { do: 'spouse', member: spouse, to: besides.spouse } : null);
      if (takes) record.spouses.push(name);
    }
  }
  if (second && record.person) {
    const { member, kind, first, role } = second;
    const name = displayName(member.name);
    const tied = record.tied.some((one) => one.kind === kind && one.first === first && sameText(one.name, name));
    if (!tied) {
      note('second', '', `${name}, their ${role}`, { do: 'second', member, kind, first, to: besides.second });
      record.tied.push({ kind, first, name });
    }
  }
  if (household !== '' && record.person && !sameText(household, record.household)) {
    const takes = record.household === '' && besides.household !== 'several';
    const address = row.addresses[0] ?? null;
    const act = takes
      ? ({ do: 'household', name: household, to: besides.household as number | null, address } as const)
      : null;
    note('household', besides.household === 'several' ? SEVERAL_HOMES : record.household, household, act);
    if (takes) record.household = household;
  }
  const { pledge, recurring } = row;
  const known = (one: DraftPledge): boolean =>
    record.pledges.some(({ cents, pledgedOn }) => cents === one.cents && pledgedOn === one.pledgedOn);
  if (pledge && !known(pledge)) {
    note('pledge', '', pledgeInWords(pledge), { do: 'pledge', pledge });
    record.pledges.push({ ...pledge, id: null, made: pledge, open: pledge.cents });
    record.pledges.sort((a, b) => (a.pledgedOn < b.pledgedOn ? -1 : a.pledgedOn > b.pledgedOn ? 1 : 0));
  }
  if (recurring) {
    const has = record.recurring.length > 0;
    const act = has ? null : ({ do: 'recurring', recurring } as const);
    note('recurs', has ? 'they have one' : '', recurringInWords(recurring), act);
    if (!has) record.recurring.push(recurring);
  }
  if (employer && record.person && !record.employers.some((one) => sameText(one, employer.name))) {
    note('employer', record.employers.join(', '), employer.name, { do: 'employer', ...employer, to: besides.employer });
    record.employers.push(employer.name);
  }
  if (tie && besides.other !== null && !record.ties.has(tieKey(tie))) {
    const { kind, first, role, other } = tie;
    note('tie', '', `${role} of ${besides.other}`, { do: 'tie', kind, first, other });
    record.ties.add(tieKey(tie));
  }
  return changes;
}

/** Adds a way, before the others where it is the one to use. */
function put<W>(ways: W[], way: W, first: boolean): void {
  if (first) ways.unshift(way);
  else ways.push(way);
}

const COLUMN_OF = Object.fromEntries(Object.entries(WISH_COLUMNS).map(([column, kind]) => [kind, column])) as Record<
  Wish,
  keyof typeof WISH_COLUMNS
>;

/** The record that a new row makes by what its draft holds; what its details say besides is a change of that. */
export function recordOfDraft({ name, nickname, formerLast, email, phone, own, ...draft }: DraftRow): KeptRecord {
  const { street, city, region, postal, country } = draft;
  const way = { id: null, label: 'home', usable: true };
  const { prefix, first, middle, last, suffix } = name;
  return {
    names: { prefix, first, middle, last, suffix, nickname, formerLast },
    person: name.kind === 'person',
    birthday: '',
    emails: email === null ? [] : [{ ...way, address: email }],
    phones: phone === '' ? [] : [{ ...way, number: phone }],
    addresses: street + city + region + postal === '' ? [] : [{ ...way, street, city, region, postal, country }],
    wishes: new Map(),
    own: new Map(own),
    ...{
      tags: [],
      spouses: [],
      employers: [],
      tied: [],
      household: '',
      sharers: [],
      pledges: [],
      recurring: [],
      ties: new Set(),
      outside: new Set(),
    },
  };
}
