import type { IsoDate } from '../dates/index.ts';
import type { IntakeColumn } from '../intake/index.ts';
import { typedMoney } from '../money/index.ts';

/** A gift as an outside source tells of it; what it does not say is empty. */
export interface Came {
  /** Its number there. */
  id: string;
  /** The day that it was given, as the organization's calendar has it; null where the source says none. */
  day: IsoDate | null;
  /** What was given and what the source kept of it, in minor units; as it was written where that is no number. */
  cents: number | string;
  feeCents: number | string;
  currency: string;
  paidBy: string;
  campaign: string;
  comment: string;
  donor: Readonly<Record<(typeof DONOR)[number], string>>;
}

const DONOR = [
  ...(['number', 'first', 'last', 'organization', 'email', 'phone'] as const),
  ...(['street', 'city', 'state', 'zip'] as const),
] as const;

/** What stands over the columns of what came, and where each goes unless a recipe says otherwise. */
export const CAME_COLUMNS: readonly (readonly [heading: string, to: IntakeColumn])[] = [
  ['Gift', 'reference'],
  ['Day', 'date'],
  ['Amount', 'amount'],
  ['Fee', 'fee'],
  ['Paid by', 'method'],
  ['Campaign there', 'fund'],
  ['Comment', 'note'],
  ['Donor there', 'outside'],
  ['First name', 'first'],
  ['Last name', 'last'],
  ['Organization', 'organization'],
  ['E-mail', 'email'],
  ['Telephone', 'phone'],
  ['Street', 'street'],
  ['City', 'city'],
  ['State', 'region'],
  ['ZIP', 'postal'],
];

/**
 * An amount as a cell; one of another currency names it, so that it is not taken for ours, and what is no whole number
 * of minor units is written so that it is not read as an amount at all.
 */
const amountCell = (cents: number | string, currency: string, ours: string): string => {
  if (typeof cents !== 'number' || !Number.isSafeInteger(cents)) return `(no whole number of cents: ${cents})`;
  return currency === '' || currency === ours ? typedMoney(cents) : `${typedMoney(cents)} ${currency}`;
};

/** A gift that came, as a row of cells under `CAME_COLUMNS`. `ours` is the organization's currency. */
export function cellsOfCame({ donor, ...came }: Came, ours: string): string[] {
  const fee = came.feeCents === 0 || came.feeCents === '' ? '' : amountCell(came.feeCents, came.currency, ours);
  return [
    // Where there is no day, nothing is written that a day would be read from, nor is the cell left empty, which is today.
    ...[came.id, came.day ?? '(no day)', amountCell(came.cents, came.currency, ours), fee],
    ...[came.paidBy, came.campaign, came.comment],
    ...DONOR.map((part) => donor[part]),
  ];
}
