import { eraseFrom } from '../platform/erase-text.ts';
import type { Row } from '@tallystick/core/changes';
import { giftNumber } from '@tallystick/core/gifts';
import { day as asDay, money, named } from '@tallystick/core/history';
import type { Telling } from '@tallystick/core/history';
import { PLEDGE_KINDS, pledgeNumber } from '@tallystick/core/pledges';
import type { PledgeKind, PledgeStage } from '@tallystick/core/pledges';
import type { Frequency } from '@tallystick/core/schedule';
import { cents, day, flag, maybe, moneyOf, ref, table, text } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

const ofDonor = moneyOf('pledges');
/** The rule of what is part of a pledge. */
const ofPledge = { ...ofDonor, merging: { with: 'pledge', by: 'pledge_id' } } as const;
const owner = { supporter_id: ref, pledge_id: ref };
const amountOf = (row: Row, telling: Telling): string => money(row['cents'] ?? null, telling);
const pledgeOf = (row: Row): string => pledgeNumber(Number(row['pledge_id']));

export const PledgeTable = table(
  'pledge',
  {
    ...ofDonor,
    eraseOthers: eraseFrom('pledge', 'note', true),
    called: (row, telling) =>
      `${PLEDGE_KINDS[row['kind'] as PledgeKind] ?? 'Pledge'} ${pledgeNumber(Number(row['id']))} of ${amountOf(row, telling)}`,
  },
  {
    supporter_id: ref,
    kind: text<PledgeKind>(8),
    stage: text<PledgeStage>(10).says('Stage'),
    cents: cents.says('Pledged'),
    currency: text(3),
    pledged_on: day.says('Pledged on'),
    fund_id: ref.says('Fund', named('fund')),
    campaign_id: maybe(ref).says('Campaign', named('campaign')),
    appeal_id: maybe(ref).says('Appeal', named('appeal')),
    /** How the installments were laid out, null and empty where they were given one by one. */
    start_on: maybe(day),
    every: text<Frequency | ''>(10),
    last_day: flag,
    note: text(1000).says('Note on the pledge'),
    applied_on: maybe(day),
    asked_cents: maybe(cents),
    claimed_on: maybe(day).says('Claimed'),
    for_gift_id: maybe(ref),
  },
);
export type PledgeRecord = RowOf<typeof PledgeTable>;

export const InstallmentTable = table(
  'installment',
  {
    ...ofPledge,
    called: (row, telling) => `Installment of ${amountOf(row, telling)} due ${asDay(row['due'] ?? null, telling)}`,
  },
  { ...owner, due: day.says('Due'), cents: cents.says('Installment') },
);

export const PledgePaymentTable = table(
  'pledge_payment',
  {
    ...ofPledge,
    called: (row, telling) =>
      `Payment of ${amountOf(row, telling)} on ${pledgeOf(row)} by ${giftNumber(Number(row['gift_id']))}`,
  },
  { ...owner, installment_id: ref, gift_id: ref, cents: cents.says('Payment') },
);

export const WriteOffTable = table(
  'write_off',
  {
    ...ofPledge,
    eraseOthers: eraseFrom('write_off', 'reason', true),
    called: (row, telling) => `Write-off of ${amountOf(row, telling)} on ${pledgeOf(row)} (${String(row['reason'])})`,
  },
  { ...owner, installment_id: ref, date: day, cents, reason: text(300) },
);
