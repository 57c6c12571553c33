import { ACCOUNTS_FOR } from '@tallystick/core/ledger';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Cents, Id, IdParams, IsoDateText, keysOf, Method, pageOf, Paging, Written } from './common.ts';

const area = 'deposits';
const ByMethod = z.array(
  z.object({
    method: Method,
    count: z.number(),
    cents: z.number(),
    /** What processors kept of it. */
    feeCents: z.number(),
  }),
);
export const Batch = z.object({
  id: Id,
  number: z.string(),
  version: z.number(),
  name: z.string(),
  source: z.enum(['hand', 'sheet', 'intake', 'portal', 'till']),
  openedOn: z.string(),
  state: z.enum(['open', 'balanced', 'posted']),
  expectedCount: z.number().nullable(),
  expectedCents: z.number().nullable(),
  reason: z.string(),
  depositId: Id.nullable(),
  /** Whether what it holds is another number or sum than when it was balanced. */
  changed: z.boolean(),
  count: z.number(),
  cents: z.number(),
  byMethod: ByMethod,
});
export type Batch = z.infer<typeof Batch>;
export const listBatches = endpoint({
  id: 'listBatches',
  area,
  method: 'get',
  path: '/batches',
  right: 'batches.see',
  summary: 'Batches, newest first, with number and sum by payment method; waiting are those not yet deposited.',
  query: Paging.extend({ state: z.enum(['waiting', 'open', 'balanced', 'posted']).default('waiting') }),
  response: pageOf(Batch),
});
export const balanceBatch = endpoint({
  id: 'balanceBatch',
  area,
  method: 'post',
  path: '/batches/:id/balance',
  right: 'batches.money',
  summary:
    'Compare a batch with its control totals and mark it balanced; a difference needs a reason. Or open it again.',
  params: IdParams,
  body: z.object({
    version: z.number(),
    open: z.boolean().default(false),
    expectedCount: z.number().int().min(0).max(1_000_000).nullable().default(null),
    expectedCents: Cents.nullable().default(null),
    reason: z.string().trim().max(300).default(''),
  }),
  response: Written,
});
export const Deposit = z.object({
  id: Id,
  number: z.string(),
  version: z.number(),
  name: z.string(),
  date: z.string(),
  by: z.string(),
  /** What processors kept of it. */
  feeCents: z.number(),
  /** Of its sum, what is money, less those fees; stock and goods are not taken to a bank. */
  bankCents: z.number(),
  batches: z.array(z.object({ id: Id, number: z.string(), name: z.string() })),
  count: z.number(),
  cents: z.number(),
  byMethod: ByMethod,
});
export type Deposit = z.infer<typeof Deposit>;
export const listDeposits = endpoint({
  id: 'listDeposits',
  area,
  method: 'get',
  path: '/deposits',
  right: 'deposits.see',
  summary: 'Deposits with their batches, newest first.',
  query: Paging,
  response: pageOf(Deposit),
});
export const makeDeposit = endpoint({
  id: 'makeDeposit',
  area,
  method: 'post',
  path: '/deposits',
  right: 'deposits.money',
  summary: 'Gather balanced batches into a deposit; the batches are posted by it.',
  body: z.object({
    name: z.string().trim().min(1, 'Name the deposit.').max(120),
    date: IsoDateText,
    batchIds: z.array(Id).min(1).max(200),
  }),
  response: Written.extend({ id: Id }),
});
export const depositSlip = endpoint({
  id: 'depositSlip',
  area,
  method: 'get',
  path: '/deposits/:id/slip.pdf',
  right: 'deposits.see',
  produces: 'application/pdf',
  summary: 'The slip of a deposit: its gifts one by one, the sum of each payment method, and what goes to the bank.',
  params: IdParams,
  response: z.string(),
});
export const exportLedger = endpoint({
  id: 'exportLedger',
  area,
  method: 'get',
  path: '/ledger.csv',
  right: 'ledger.send',
  logs: 'export',
  produces: 'text/csv',
  summary:
    'General-ledger lines (date, account, debit, credit, fund) of what was booked in a span of days: gifts and corrections, and as far as accounts are set for them pledges, payments, write-offs, sales of stock and processor fees; debits equal credits.',
  query: z.object({ from: IsoDateText, to: IsoDateText }),
  response: z.string(),
});
export const getLedger = endpoint({
  id: 'getLedger',
  area,
  method: 'get',
  path: '/ledger',
  right: 'ledger.see',
  summary: 'The same lines to look at, with their sums.',
  query: z.object({ from: IsoDateText, to: IsoDateText }),
  response: z.object({
    lines: z.array(
      z.object({
        date: z.string(),
        account: z.string(),
        fundId: Id,
        fund: z.string(),
        debit: z.number(),
        credit: z.number(),
      }),
    ),
    debit: z.number(),
    credit: z.number(),
    closedThrough: z.string().nullable(),
    /** What was booked and has no accounts, so that it is left out of the lines. */
    notBooked: z.array(keysOf(ACCOUNTS_FOR)),
  }),
});
const Account = z.object({
  what: keysOf(ACCOUNTS_FOR).default('gift'),
  fundId: Id.nullable(),
  /** Only of gifts. */
  method: Method.nullable(),
  debit: z.string().trim().max(40).default(''),
  credit: z.string().trim().max(40).default(''),
});
export const listAccounts = endpoint({
  id: 'listAccounts',
  area,
  method: 'get',
  path: '/accounts',
  right: 'accounts.see',
  summary:
    'The accounts that gifts are booked to, by fund and payment method; and those of pledges, write-offs, sales of stock and processor fees, by fund.',
  response: z.object({ items: z.array(Account) }),
});
export const setAccounts = endpoint({
  id: 'setAccounts',
  area,
  method: 'put',
  path: '/accounts',
  right: 'accounts.change',
  summary: 'Set them, all at once.',
  body: z.object({ items: z.array(Account).max(500) }),
  response: Written,
});
export const closePeriod = endpoint({
  id: 'closePeriod',
  area,
  method: 'put',
  path: '/ledger/closed',
  right: 'ledger.money',
  summary: 'Close the books through a day, or open them again (null); later corrections are booked after it.',
  body: z.object({ through: IsoDateText.nullable() }),
  response: Written,
});
