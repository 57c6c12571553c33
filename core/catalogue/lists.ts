import { dayNumber } from '../dates/index.ts';
import { MARKS, NO_DAY } from '../facts/index.ts';
import type { ListName, WordColumn } from '../facts/index.ts';
import { CREDIT_KINDS, METHOD_CODES, PAYMENT_METHODS } from '../gifts/index.ts';
import { PLEDGE_KINDS, PLEDGE_STAGES } from '../pledges/index.ts';
import { FREQUENCIES } from '../schedule/index.ts';
import { WISHES } from '../wishes/index.ts';
import type { Area, Known, Read, Reading, Ref, Type } from './types.ts';

/** A list of which a supporter may have many rows: what one is called, what is known of each, and which parts are offered first. */
export interface Listed {
  group: Area;
  label: string;
  also?: string;
  one: string;
  many?: string;
  /** How having some is said, and having none, where it is not `has a …`. */
  has?: string;
  hasNo?: string;
  /** How the sum of its amounts is said; left out where it has none. */
  sum?: string;
  /** Whether its rows have a day. */
  dated: boolean;
  parts: Readonly<Record<string, Known>>;
  /** The parts that a new condition shows. */
  first: readonly string[];
}

const values = (read: Read, name: string): ArrayLike<number> => read.columns[name]?.values ?? [];
const numbers =
  (name: string): Known['read'] =>
  (read): Reading => {
    const column = values(read, name);
    return { number: (row) => column[row] as number, column };
  };
const inWords =
  (name: string): Known['read'] =>
  ({ columns }): Reading => ({ words: columns[name] as WordColumn });

const text = (label: string, column: string, also = ''): Known => ({
  ...{ label, also, type: { is: 'text' }, read: inWords(column) },
});
const oneOf = (label: string, column: string, options: Readonly<Record<string, string>>, says?: string): Known => ({
  ...{ label, type: { is: 'one', options }, read: inWords(column) },
  ...(says === undefined ? {} : { says }),
});
const toRef = (label: string, column: string, to: Ref, says?: string): Known => ({
  ...{ label, type: { is: 'ref', to }, read: numbers(column) },
  ...(says === undefined ? {} : { says }),
});
const amount = (label: string, column: string): Known => ({ label, type: { is: 'money' }, read: numbers(column) });
const date = (label: string, column: string, also = ''): Known => ({
  ...{ label, also, type: { is: 'date' }, read: numbers(column) },
});
const isSo = (label: string, yes: string, no: string, read: Known['read'], also = ''): Known => ({
  ...{ label, also, type: { is: 'yesno', yes, no }, read },
});
const flag = (label: string, column: string, yes: string, no: string): Known => isSo(label, yes, no, numbers(column));

/** What of a gift only its own row has: of recognition it is looked up in the gift of its donor. */
function ofGift(read: Read, name: 'source' | 'batch' | 'marks'): (row: number) => number {
  if (read.columns[name]) {
    const column = values(read, name);
    return (row) => column[row] as number;
  }
  const { facts } = read;
  const [donors, gifts, column] = [values(read, 'donor'), values(read, 'gift'), facts.gifts.columns[name]];
  return (row) => {
    const slot = facts.slotOf(donors[row] as number);
    const from = slot < 0 ? 0 : (facts.gifts.start[slot] as number);
    const end = slot < 0 ? 0 : from + (facts.gifts.count[slot] as number);
    for (let at = from; at < end; at++)
      if (facts.gifts.columns.gift.values[at] === gifts[row]) return column.values[at] as number;
    return 0;
  };
}
const marked = (label: string, bit: number, yes: string, no: string, also = ''): Known =>
  isSo(
    label,
    yes,
    no,
    (read) => {
      const marks = ofGift(read, 'marks');
      return { number: (row) => ((marks(row) & bit) === 0 ? 0 : 1) };
    },
    also,
  );

const places = {
  fund: toRef('Fund', 'fund', 'fund', 'to'),
  campaign: toRef('Campaign', 'campaign', 'campaign', 'in'),
  appeal: toRef('Appeal', 'appeal', 'appeal', 'for'),
};

/** Whether a way is used today, was once, or turned out not to reach anybody. */
const today = ({ calendar }: Read): number => dayNumber(calendar.today);
const ways = {
  usable: isSo(
    'Usable today',
    'that is usable',
    'that is not usable',
    (read) => {
      const [from, to, bad, on] = [values(read, 'from'), values(read, 'to'), values(read, 'bad'), today(read)];
      return {
        number: (row) =>
          bad[row] === NO_DAY && (from[row] as number) <= on && (to[row] === NO_DAY || (to[row] as number) >= on)
            ? 1
            : 0,
      };
    },
    'deliverable works',
  ),
  undeliverable: isSo(
    'Undeliverable',
    'that is undeliverable',
    'that is not undeliverable',
    (read) => {
      const bad = values(read, 'bad');
      return { number: (row) => (bad[row] === NO_DAY ? 0 : 1) };
    },
    'bounced bad returned wrong',
  ),
  former: isSo(
    'Former',
    'that is a former one',
    'that is not a former one',
    (read) => {
      const [to, on] = [values(read, 'to'), today(read)];
      return { number: (row) => (to[row] !== NO_DAY && (to[row] as number) < on ? 1 : 0) };
    },
    'old moved past',
  ),
  preferred: flag('Preferred', 'preferred', 'that is preferred', 'that is not preferred'),
  label: text('Label', 'label', 'home work mobile'),
};

const since = (label: string, unit: string, daysOf: (read: Read) => (row: number) => number): Known => ({
  ...{ label, type: { is: 'number', unit } as Type, read: (read) => ({ number: daysOf(read) }) },
});

/** Words for the sources that a tag may have come from. */
const TAG_SOURCES = { hand: 'by hand', intake: 'by an intake', segment: 'by a segment' };
/** What may have changed a record. */
const CHANGES = {
  ...{ edit: 'an edit', bulk: 'a change of many', intake: 'an intake', sheet: 'an entry sheet', gift: 'a gift' },
  ...{ charge: 'a charge', refund: 'a refund', issue: 'an issue of receipts', send: 'a mailing', bounce: 'a bounce' },
  ...{ public: 'the supporter', lift: 'the lifting of a refusal', trash: 'the trash', load: 'the first load' },
};
const lowered = (words: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(Object.entries(words).map(([key, word]) => [key, word.toLowerCase()]));

/** Everything of which a supporter may have many, by the names that facts have for it. */
export const LISTED = {
  gifts: {
    ...{ group: 'Giving', label: 'Gifts', also: 'gave giving donation', one: 'gift', dated: true },
    ...{ has: 'gave', hasNo: 'did not give', sum: 'given', first: ['fund', 'day'] },
    parts: {
      ...places,
      method: {
        ...{ label: 'Paid by', also: 'method card check cash', says: 'by' },
        type: { is: 'one', options: lowered(PAYMENT_METHODS) },
        read: (read) => {
          const column = values(read, 'method');
          return { number: (row) => column[row] as number, column, codes: METHOD_CODES };
        },
      },
      source: {
        ...{ label: 'Source code', also: 'code', says: 'from', type: { is: 'ref', to: 'source' } },
        read: (read) => ({ number: ofGift(read, 'source') }),
      },
      batch: {
        ...{ label: 'Batch', type: { is: 'ref', to: 'batch' }, read: (read) => ({ number: ofGift(read, 'batch') }) },
      },
      payment: marked(
        'Paid on a pledge',
        MARKS.pledge,
        'paid on pledges',
        'not paid on pledges',
        'kind pledge payment',
      ),
      recurring: marked(
        'Recurring',
        MARKS.recurring,
        'that recur',
        'that do not recur',
        'kind monthly sustainer one-time',
      ),
      receipted: marked('Receipted', MARKS.receipted, 'with a receipt', 'without a receipt'),
      thanked: marked('Thanked', MARKS.thanked, 'that were thanked for', 'that were not thanked for', 'acknowledged'),
      tribute: marked('In tribute', MARKS.tribute, 'in tribute', 'not in tribute', 'memory honor'),
      cents: { ...amount('Amount of each', 'cents'), also: 'size' },
      day: date('When', 'day', 'window date'),
    },
  },
  credits: {
    ...{ group: 'Giving', label: 'Recognition', also: 'soft credit adviser spouse solicitor sponsor', one: 'credit' },
    ...{ has: 'is recognised for a gift', hasNo: 'is recognised for no gift', dated: true },
    ...{ sum: 'recognised', first: ['kind'] },
    parts: {
      kind: oneOf('As', 'kind', lowered(CREDIT_KINDS), 'as'),
      ...places,
      cents: amount('Amount of each', 'cents'),
      day: date('When', 'day', 'window'),
    },
  },
  pledges: {
    ...{ group: 'Pledges and recurring gifts', label: 'Pledges', also: 'promise grant match', one: 'pledge' },
    ...{ dated: true, sum: 'pledged', first: ['open'] },
    parts: {
      ...places,
      kind: oneOf('Kind of pledge', 'kind', lowered(PLEDGE_KINDS)),
      stage: oneOf('Stage', 'stage', lowered(PLEDGE_STAGES)),
      open: amount('Still open', 'open'),
      cents: amount('Amount of each', 'cents'),
      day: date('When', 'day', 'pledged'),
    },
  },
  installments: {
    ...{ group: 'Pledges and recurring gifts', label: 'Pledge installments', also: 'overdue due reminder late' },
    ...{ one: 'installment', dated: true, sum: 'due', first: ['overdue'] },
    parts: {
      overdue: since('Days overdue', 'day', (read) => {
        const [due, open, on] = [values(read, 'day'), values(read, 'open'), today(read)];
        return (row) => ((open[row] as number) > 0 && (due[row] as number) < on ? on - (due[row] as number) : 0);
      }),
      open: amount('Still open', 'open'),
      cents: amount('Amount of each', 'cents'),
      day: date('Due', 'day'),
    },
  },
  recurring: {
    ...{ group: 'Pledges and recurring gifts', label: 'Recurring gifts', also: 'monthly sustainer regular' },
    ...{ one: 'recurring gift', dated: true, first: ['running'] },
    parts: {
      running: isSo('Goes on', 'that goes on', 'that has ended', (read) => {
        const [until, on] = [values(read, 'until'), today(read)];
        return { number: (row) => (until[row] !== NO_DAY && (until[row] as number) < on ? 0 : 1) };
      }),
      failing: flag('Failing', 'failing', 'whose last charge failed', 'whose last charge did not fail'),
      every: oneOf(
        'How often',
        'every',
        Object.fromEntries(Object.entries(FREQUENCIES).map(([every, { word }]) => [every, word])),
      ),
      cents: amount('Amount', 'cents'),
      day: date('Begun', 'day'),
    },
  },
  receipts: {
    ...{ group: 'Giving', label: 'Receipts', one: 'receipt', dated: true, first: ['day'] },
    parts: {
      voided: flag('Voided', 'voided', 'that was voided', 'that is valid'),
      cents: amount('Amount', 'cents'),
      day: date('Issued', 'day'),
    },
  },
  tags: {
    ...{ group: 'Tags and groups', label: 'Tag', also: 'tagged label', one: 'tag', dated: false },
    ...{ has: 'is tagged', hasNo: 'is not tagged', first: ['tag'] },
    parts: { tag: toRef('Tag', 'tag', 'tag', ''), source: oneOf('Put on', 'source', TAG_SOURCES, '') },
  },
  groups: {
    ...{ group: 'Tags and groups', label: 'Group', also: 'member board committee', one: 'group' },
    ...{ has: 'is in a group:', hasNo: 'is in no group:', dated: false, first: ['group'] },
    parts: { group: toRef('Group', 'group', 'group', '') },
  },
  wishes: {
    ...{ group: 'Wishes', label: 'Wish', also: 'no mail no e-mail deceased anonymous refusal consent', one: 'wish' },
    ...{ many: 'wishes', has: 'is noted as', hasNo: 'is not noted as', dated: true, first: ['kind'] },
    parts: {
      kind: oneOf(
        'Wish',
        'kind',
        Object.fromEntries(Object.entries(WISHES).map(([kind, { word }]) => [kind, word.toLowerCase()])),
        '',
      ),
      source: text('How it was learned', 'source', 'source'),
      day: date('Since', 'day'),
    },
  },
  emails: {
    ...{ group: 'How they are reached', label: 'E-mail', also: 'address mailbox', one: 'e-mail' },
    ...{ dated: false, first: ['usable'] },
    parts: { address: text('E-mail', 'address', 'domain'), ...ways },
  },
  phones: {
    ...{ group: 'How they are reached', label: 'Telephone', also: 'phone number mobile call', one: 'telephone' },
    ...{ dated: false, first: ['usable'] },
    parts: { number: text('Number', 'number', 'area code'), ...ways },
  },
  addresses: {
    ...{ group: 'How they are reached', label: 'Address', also: 'street mail post', one: 'address', many: 'addresses' },
    ...{ dated: false, first: ['usable'] },
    parts: {
      ...{
        street: text('Street', 'street'),
        city: text('Town', 'city'),
        region: { ...text('State', 'region', 'province'), type: { is: 'text', among: 'regions' } },
      },
      ...{ postal: text('ZIP', 'postal', 'postcode'), country: text('Country', 'country'), ...ways },
    },
  },
  ties: {
    ...{ group: 'Ties', label: 'Tie', also: 'relation spouse employer parent friend', one: 'tie' },
    ...{ dated: false, first: ['role'] },
    parts: {
      role: toRef('The other is their', 'role', 'role', 'to their'),
      who: {
        ...{ label: 'The other’s name', also: 'spouse name employer', type: { is: 'text' } },
        read: (read) => {
          const others = values(read, 'other');
          return { text: (row) => read.facts.nameOf(read.facts.slotOf(others[row] as number)) };
        },
      },
      says: text('Words on the tie', 'says', 'title position'),
      open: isSo('Goes on', 'that goes on', 'that has ended', (read) => {
        const [from, to, on] = [values(read, 'from'), values(read, 'to'), today(read)];
        return {
          number: (row) => ((from[row] as number) <= on && (to[row] === NO_DAY || (to[row] as number) > on) ? 1 : 0),
        };
      }),
      from: date('Since', 'from'),
      to: date('Until', 'to'),
    },
  },
  sendings: {
    ...{ group: 'What happened', label: 'Sent to them', also: 'mailing e-mail letter sent bounced correspondence' },
    ...{ one: 'sending', has: 'was sent something', hasNo: 'was sent nothing', dated: true },
    first: ['subject', 'outcome'],
    parts: {
      subject: {
        ...{ label: 'Mailing', says: 'of', type: { is: 'ref', to: 'mailing' } },
        read: (read) => {
          const [subjects, kinds] = [values(read, 'subject'), read.columns['kind'] as WordColumn];
          const mailing = kinds.words.find('mailing');
          return { number: (row) => (kinds.values[row] === mailing ? (subjects[row] as number) : 0) };
        },
      },
      outcome: oneOf('Outcome', 'outcome', {
        ...{
          sent: 'sent',
          bounced: 'bounced',
          failed: 'failed',
          unsure: 'unsure',
          held: 'held back',
          print: 'printed',
        },
        queued: 'waiting',
      }),
      channel: oneOf('By', 'channel', { email: 'e-mail', print: 'letter' }, 'by'),
      seen: isSo(
        'Was opened',
        'that was opened',
        'that was not opened',
        (read) => {
          const opened = values(read, 'opened');
          return { number: (row) => (opened[row] === NO_DAY ? 0 : 1) };
        },
        'opened read open rate',
      ),
      opened: date('Opened on', 'opened', 'opened read'),
      back: {
        ...{
          label: 'Place among the latest e-mails',
          also: 'last three e-mails newest recent',
          type: { is: 'number' },
        },
        read: (read) => {
          const back = values(read, 'back');
          // What is none of the e-mails that reached them has no place.
          return { number: (row) => (back[row] === 0 ? NaN : (back[row] as number)) };
        },
      },
      day: date('When', 'day'),
    },
  },
  notes: {
    ...{ group: 'What happened', label: 'Notes and calls', also: 'note call visit meeting letter correspondence' },
    ...{ one: 'note', dated: true, first: ['kind', 'day'] },
    parts: {
      kind: oneOf('Kind of note', 'kind', {
        ...{ note: 'a note', call: 'a call', visit: 'a visit', letter: 'a letter', meeting: 'a meeting' },
      }),
      text: text('Text', 'text', 'what it says words mentions'),
      author: toRef('Written by', 'author', 'user', 'by'),
      day: date('When', 'day'),
    },
  },
  tasks: {
    ...{ group: 'What happened', label: 'Tasks', also: 'to do reminder', one: 'task', dated: true },
    first: ['open'],
    parts: {
      open: isSo('Open', 'that is open', 'that is done', (read) => {
        const done = values(read, 'done');
        return { number: (row) => (done[row] === NO_DAY ? 1 : 0) };
      }),
      title: text('What is to be done', 'title', 'title task'),
      owner: toRef('Whose task', 'owner', 'user', 'of'),
      done: date('Done', 'done', 'ticked'),
      day: date('Due', 'day'),
    },
  },
  changes: {
    ...{ group: 'What happened', label: 'Changes of the record', also: 'added changed intake import touched history' },
    ...{ one: 'change', has: 'was changed', hasNo: 'was not changed', dated: true },
    first: ['kind', 'day'],
    parts: {
      kind: oneOf('By what', 'kind', CHANGES, 'by'),
      intake: toRef('Intake', 'intake', 'intake', 'from'),
      by: toRef('By whom', 'by', 'user', 'by'),
      day: date('When', 'day'),
    },
  },
} as const satisfies { [L in ListName]?: Listed };
export type ListedName = keyof typeof LISTED;
export const LISTED_NAMES = Object.keys(LISTED) as [ListedName, ...ListedName[]];

/** What is known of a part of rows; undefined for one that there is not, whatever it is called. */
export const partIn = (parts: Listed['parts'], part: string): Known | undefined =>
  Object.hasOwn(parts, part) ? parts[part] : undefined;

/** A list by a name that may be none; null then. */
export const listedIn = (name: string): Listed | null =>
  Object.hasOwn(LISTED, name) ? listedAs(name as ListedName) : null;

/** A list by its name, as any of them. */
export const listedAs = (name: ListedName): Listed => LISTED[name];
