import type { Row, RowChange, Value } from '../changes/index.ts';
import { formatDate } from '../dates/index.ts';
import { PAYMENT_METHODS, giftNumber } from '../gifts/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { PLEDGE_KINDS, pledgeNumber } from '../pledges/index.ts';
import type { PledgeKind } from '../pledges/index.ts';
import { recurringNumber } from '../recurring/index.ts';
import { displayName } from '../names/index.ts';
import { WISHES } from '../wishes/index.ts';
import type { Wish } from '../wishes/index.ts';
import type { SupporterKind } from '../names/index.ts';

/** Names for the ids that a row holds; null where the row they name is gone. */
export interface Names {
  of(
    table: 'fund' | 'campaign' | 'appeal' | 'tag' | 'letter' | 'group' | 'field' | 'tie' | 'supporter',
    id: number,
  ): string | null;
}

/** What words need besides the row: names for its ids, and how amounts and days are written. */
export interface Telling extends Names {
  formats: Formats;
}
type Show = (value: Value, telling: Telling) => string;

const plain: Show = (value) => (value === null || value === '' ? 'nothing' : String(value));
const day: Show = (value, { formats }) => (typeof value === 'string' ? formatDate(value, formats) : 'nothing');
const yesNo: Show = (value) => (value === 1 ? 'yes' : 'no');
const money: Show = (value, { formats }) => (typeof value === 'number' ? formatMoney(value, formats) : 'nothing');
const named =
  (table: Parameters<Names['of']>[0]): Show =>
  (value, names) =>
    typeof value === 'number' ? (names.of(table, value) ?? `${table} ${value}`) : 'nothing';

/** The words of a note or letter, at most 80 letters of them. */
const richText: Show = (value) => {
  if (typeof value !== 'string') return 'nothing';
  const words = [...value.matchAll(/"text":("(?:[^"\\]|\\.)*")/g)]
    .map(([, json]) => String(JSON.parse(json ?? '""')))
    .join(' ');
  return words.length > 80 ? `${words.slice(0, 79)}…` : words || 'nothing';
};
const overrides: Show = (value) => {
  if (typeof value !== 'string') return 'by the rules';
  const texts: Record<string, { text: string }> = JSON.parse(value);
  return Object.values(texts)
    .map(({ text }) => `“${text}”`)
    .join(', ');
};

/** What every way to reach someone has. */
const WAY: Record<string, [string, Show]> = {
  valid_from: ['Valid from', day],
  valid_to: ['Valid to', day],
  bad_on: ['Undeliverable since', day],
  bad_reason: ['Reason', plain],
};

/** The columns that history speaks of, with the word for each and how its values read; others go unmentioned. */
const COLUMNS: Record<string, Record<string, [string, Show]>> = {
  supporter: {
    kind: ['Kind', plain],
    prefix: ['Prefix', plain],
    first: ['First name', plain],
    middle: ['Middle name', plain],
    last: ['Last name', plain],
    suffix: ['Suffix', plain],
    nickname: ['Nickname', plain],
    former_last: ['Former last name', plain],
    organization: ['Name', plain],
    org_kind: ['Kind of organization', plain],
    birthday: ['Birthday', plain],
    addressing: ['Addressee or salutation', overrides],
    household_id: ['Household', named('supporter')],
    primary_id: ['Primary', named('supporter')],
    trashed: ['In the trash', yesNo],
  },
  email: { address: ['E-mail', plain], label: ['E-mail label', plain], preferred: ['Preferred e-mail', yesNo], ...WAY },
  phone: {
    number: ['Telephone', plain],
    label: ['Telephone label', plain],
    preferred: ['Preferred telephone', yesNo],
    ...WAY,
  },
  wish: { since: ['Wished since', day], source: ['Source of the wish', plain], happened_on: ['Day of death', day] },
  supporter_tag: { tag_id: ['Tag', named('tag')] },
  supporter_field: { value: ['Value', plain] },
  relation: {
    role: ['Title', plain],
    note: ['Note on the tie', plain],
    since: ['Tied since', day],
    until: ['Tied until', day],
  },
  note: {
    kind: ['Kind of note', plain],
    date: ['Date of the note', day],
    body: ['Note', richText],
    pinned: ['Pinned', yesNo],
  },
  task: { title: ['Task', plain], due: ['Due', day], done_on: ['Done', day] },
  document: { name: ['Document', plain] },
  address: {
    street: ['Street', plain],
    city: ['City', plain],
    region: ['State', plain],
    postal: ['ZIP', plain],
    country: ['Country', plain],
    label: ['Address label', plain],
    preferred: ['Preferred address', yesNo],
    season_from: ['First day of the season', plain],
    season_to: ['Last day of the season', plain],
    ...WAY,
  },
  gift: {
    cents: ['Amount', money],
    date: ['Date', day],
    fund_id: ['Fund', named('fund')],
    campaign_id: ['Campaign', named('campaign')],
    appeal_id: ['Appeal', named('appeal')],
    method: [
      'Payment method',
      (value, telling) => PAYMENT_METHODS[value as keyof typeof PAYMENT_METHODS] ?? plain(value, telling),
    ],
    cheque: ['Check number', plain],
    note: ['Note', plain],
    state: ['State', plain],
    benefit_cents: ['Goods and services', money],
    receipt_needs: ['The receipt needs', plain],
    acknowledged_on: ['Acknowledged', day],
  },
  soft_credit: { cents: ['Soft credit', money] },
  tribute: {
    name: ['Tribute to', plain],
    notify: ['To notify', plain],
    with_amount: ['Notified with the amount', yesNo],
  },
  pledge: {
    cents: ['Pledged', money],
    stage: ['Stage', plain],
    pledged_on: ['Pledged on', day],
    fund_id: ['Fund', named('fund')],
    campaign_id: ['Campaign', named('campaign')],
    appeal_id: ['Appeal', named('appeal')],
    note: ['Note on the pledge', plain],
    claimed_on: ['Claimed', day],
  },
  installment: { due: ['Due', day], cents: ['Installment', money] },
  pledge_payment: { cents: ['Payment', money] },
  recurring: { until_on: ['Until', day], card_label: ['Card', plain], note: ['Note', plain] },
  recurring_amount: { cents: ['Recurring amount', money] },
  recurring_pause: { until_on: ['Paused until', day] },
  charge: { state: ['Charge', plain], reason: ['Reason', plain] },
  receipt: { voided_on: ['Voided', day], void_reason: ['Voided because', plain] },
  mailing: { name: ['Name', plain], subject: ['Subject', plain], state: ['State', plain] },
  delivery: { state: ['State', plain], detail: ['Detail', plain] },
};

/** What one row's change says in words; an update says one sentence for each column that reads differently. */
export function describeChange(change: RowChange, names: Telling): string[] {
  if (change.before === null && change.after !== null) return [`${describeRow(change, change.after, names)} added`];
  if (change.after === null && change.before !== null) return [`${describeRow(change, change.before, names)} removed`];
  const columns = COLUMNS[change.table] ?? {};
  const prefix = change.table === 'gift' ? `Gift ${giftNumber(change.id)}: ` : '';
  return Object.entries(columns).flatMap(([column, [word, show]]) => {
    if (change.after === null || change.before === null || !(column in change.after)) return [];
    const from = show(change.before[column] ?? null, names);
    const to = show(change.after[column] ?? null, names);
    return from === to ? [] : [`${prefix}${word} changed from ${from} to ${to}`];
  });
}

function describeRow(change: RowChange, row: Row, names: Telling): string {
  const text = (column: string): string => String(row[column] ?? '');
  switch (change.table) {
    case 'supporter':
      return `Record of ${displayName({
        kind: text('kind') as SupporterKind,
        prefix: text('prefix'),
        first: text('first'),
        middle: text('middle'),
        last: text('last'),
        suffix: text('suffix'),
        organization: text('organization'),
      })}`;
    case 'email':
      return `E-mail ${text('address')}`;
    case 'phone':
      return `Telephone ${text('number')}`;
    case 'address':
      return `Address ${[text('street'), text('city'), text('region'), text('postal')].filter(Boolean).join(', ')}`;
    case 'supporter_tag':
      return `Tag ${named('tag')(row['tag_id'] ?? null, names)}`;
    case 'wish':
      return `Wish “${WISHES[text('kind') as Wish]?.word ?? text('kind')}”, ${text('source')},`;
    case 'supporter_field':
      return `${named('field')(row['field_id'] ?? null, names)} (${text('value')})`;
    case 'group_member':
      return `Group ${named('group')(row['group_id'] ?? null, names)}`;
    case 'relation': {
      const someone = named('supporter');
      return `Tie (${named('tie')(row['kind_id'] ?? null, names)}) of ${someone(row['supporter_id'] ?? null, names)} and ${someone(row['other_id'] ?? null, names)}`;
    }
    case 'note':
      return `${text('kind').replace(/^./, (letter) => letter.toUpperCase())} “${richText(row['body'] ?? null, names)}”`;
    case 'note_person':
      return 'Mention in a note';
    case 'task':
      return `Task “${text('title')}”, due ${day(row['due'] ?? null, names)},`;
    case 'document':
      return `Document ${text('name')}`;
    case 'gift':
      return `Gift ${giftNumber(change.id)} of ${money(row['cents'] ?? null, names)} to ${named('fund')(row['fund_id'] ?? null, names)} on ${day(row['date'] ?? null, names)}`;
    case 'gift_split':
      return `Part of ${giftNumber(Number(row['gift_id']))}: ${money(row['cents'] ?? null, names)} to ${named('fund')(row['fund_id'] ?? null, names)}`;
    case 'soft_credit':
      return `Soft credit of ${money(row['cents'] ?? null, names)} for ${giftNumber(Number(row['gift_id']))}`;
    case 'correction':
      return `Correction of ${giftNumber(Number(row['gift_id']))} (${text('reason')})`;
    case 'tribute':
      return `Tribute in ${row['kind'] === 'memory' ? 'memory' : 'honor'} of ${text('name') || named('supporter')(row['of_id'] ?? null, names)}`;
    case 'pledge':
      return `${PLEDGE_KINDS[text('kind') as PledgeKind] ?? 'Pledge'} ${pledgeNumber(change.id)} of ${money(row['cents'] ?? null, names)}`;
    case 'installment':
      return `Installment of ${money(row['cents'] ?? null, names)} due ${day(row['due'] ?? null, names)}`;
    case 'pledge_payment':
      return `Payment of ${money(row['cents'] ?? null, names)} on ${pledgeNumber(Number(row['pledge_id']))} by ${giftNumber(Number(row['gift_id']))}`;
    case 'write_off':
      return `Write-off of ${money(row['cents'] ?? null, names)} on ${pledgeNumber(Number(row['pledge_id']))} (${text('reason')})`;
    case 'recurring':
      return `Recurring gift ${recurringNumber(change.id)}`;
    case 'recurring_amount':
      return `${recurringNumber(Number(row['recurring_id']))} at ${money(row['cents'] ?? null, names)} from ${day(row['from_on'] ?? null, names)}`;
    case 'recurring_pause':
      return `Pause of ${recurringNumber(Number(row['recurring_id']))} from ${day(row['from_on'] ?? null, names)}`;
    case 'charge':
      return `Charge of ${money(row['cents'] ?? null, names)} due ${day(row['due'] ?? null, names)} for ${recurringNumber(Number(row['recurring_id']))}`;
    case 'receipt':
      return `Receipt ${text('number')}`;
    case 'delivery':
      return `${row['channel'] === 'print' ? 'Letter' : 'E-mail'} “${text('subject')}”`;
    default:
      return change.table.replace(/_/g, ' ').replace(/^./, (letter) => letter.toUpperCase());
  }
}
