import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Paging, Sum, Written, pageOf } from './common.ts';
import { Gift } from './gifts.ts';
import { LetterDoc } from './outreach.ts';

export const Letter = z.object({ id: Id, version: z.number(), name: z.string(), subject: z.string(), body: LetterDoc });
export type Letter = z.infer<typeof Letter>;
const Draft = z.object({
  name: z.string().trim().min(1).max(120),
  subject: z.string().trim().min(1).max(200),
  body: LetterDoc,
});
const area = 'thanks';
export const listLetters = endpoint({
  id: 'listLetters',
  area: 'letters',
  method: 'get',
  path: '/letters',
  right: 'letters.see',
  summary: 'Letter templates.',
  response: z.object({ items: z.array(Letter) }),
});
export const createLetter = endpoint({
  id: 'createLetter',
  area: 'letters',
  method: 'post',
  path: '/letters',
  right: 'letters.add',
  summary: 'Add a letter template.',
  body: Draft,
  response: Written.extend({ id: Id }),
});
export const updateLetter = endpoint({
  id: 'updateLetter',
  area: 'letters',
  method: 'put',
  path: '/letters/:id',
  right: 'letters.change',
  summary: 'Change a letter template.',
  params: IdParams,
  body: Draft.extend({ version: z.number().int() }),
  response: Written,
});
export const deleteLetter = endpoint({
  id: 'deleteLetter',
  area: 'letters',
  method: 'delete',
  path: '/letters/:id',
  right: 'letters.delete',
  summary: 'Delete a letter template that no receipt was issued with.',
  params: IdParams,
  response: Written,
});
export const ThanksRow = Gift.extend({
  channel: z.enum(['email', 'print', 'held']),
  because: z.string(),
  /** The e-mail address, or that of the post on one line. */
  address: z.string(),
  /** The post may fail: nobody to open it, no address, an undeliverable one, or no wish for mail. */
  look: z.boolean(),
});
export type ThanksRow = z.infer<typeof ThanksRow>;
export const listUnthanked = endpoint({
  id: 'listUnthanked',
  area,
  method: 'get',
  path: '/thanks',
  right: 'receipts.see',
  summary: 'Gifts not yet acknowledged, oldest first, with how each receipt would travel.',
  query: Paging.extend({ batchId: Id.optional() }),
  response: pageOf(ThanksRow).extend({ sum: Sum }),
});
/** So many receipts are issued at once at most. */
export const MOST_RECEIPTS = 5_000;
const Choice = z.object({ letterId: Id, giftIds: z.array(Id).min(1, 'Choose at least one gift.').max(MOST_RECEIPTS) });
export const proofReceipts = endpoint({
  id: 'proofReceipts',
  area,
  method: 'post',
  asks: true,
  path: '/thanks/proof',
  right: 'receipts.see',
  produces: 'application/pdf',
  summary: 'The letters as one PDF marked PROOF; nothing is numbered or changed.',
  body: Choice,
  response: z.string(),
});
export const issueReceipts = endpoint({
  id: 'issueReceipts',
  area,
  method: 'post',
  path: '/thanks/issue',
  right: 'receipts.send',
  summary: 'Number, acknowledge and send. Refused (409) when a gift was thanked meanwhile. Send an Idempotency-Key.',
  body: Choice,
  response: z.object({
    revision: z.number().nullable(),
    runId: Id,
    jobId: Id.nullable(),
    first: z.string(),
    last: z.string(),
    emailed: z.number(),
    printed: z.number(),
  }),
});
export const IssueRun = z.object({
  id: Id,
  at: z.string(),
  by: z.string(),
  letter: z.string(),
  first: z.string(),
  last: z.string(),
  count: z.number(),
  printed: z.number(),
  reached: z.number(),
  waiting: z.number(),
  notReached: z.number(),
  /** Whether the waiting ones wait until somebody says so: the sending was stopped, or it failed. */
  stopped: z.boolean(),
});
export const listRuns = endpoint({
  id: 'listRuns',
  area,
  method: 'get',
  path: '/thanks/runs',
  right: 'receipts.see',
  summary: 'Issues of receipts, newest first.',
  query: Paging,
  response: pageOf(IssueRun),
});
export const printFile = endpoint({
  id: 'printFile',
  area,
  method: 'get',
  path: '/thanks/runs/:id/print.pdf',
  right: 'receipts.see',
  logs: 'export',
  produces: 'application/pdf',
  summary: 'The receipts of an issue that go by post, as one PDF.',
  params: IdParams,
  response: z.string(),
});
/** A receipt as it was issued: whom and what it names is what it says, whatever became of the gift since. */
export const Receipt = z.object({
  id: Id,
  number: z.string(),
  issuedOn: z.string(),
  supporterId: Id,
  giftId: Id,
  /** From whom it says that it received, and what: an amount, or a description of what was given in kind. */
  from: z.string(),
  given: z.string(),
  voidedOn: z.string().nullable(),
  voidReason: z.string(),
  /** How it travelled and what became of that; '' where no sending is known. */
  channel: z.enum(['email', 'print', '']),
  delivery: z.string(),
});
export type Receipt = z.infer<typeof Receipt>;
export const listReceipts = endpoint({
  id: 'listReceipts',
  area,
  method: 'get',
  path: '/receipts',
  right: 'receipts.see',
  summary: 'Receipts by number, newest first; valid or void ones, those of one issue, or by how their number begins.',
  query: Paging.extend({
    number: z
      .string()
      .trim()
      .regex(/^[\d-]{0,20}$/, 'A number of a receipt has digits and dashes only.')
      .default(''),
    state: z.enum(['valid', 'void']).optional(),
    runId: Id.optional(),
  }),
  response: pageOf(Receipt),
});
export const voidReceipt = endpoint({
  id: 'voidReceipt',
  area,
  method: 'post',
  path: '/receipts/:id/void',
  right: 'receipts.money',
  summary: 'Void a receipt: it keeps its number and is marked as void; its gift waits for a new one.',
  params: IdParams,
  body: z.object({ reason: z.string().trim().min(1, 'Say why it is void.').max(300) }),
  response: Written.extend({ number: z.string() }),
});
export const receiptPdf = endpoint({
  id: 'receiptPdf',
  area,
  method: 'get',
  path: '/receipts/:id/receipt.pdf',
  right: 'receipts.see',
  produces: 'application/pdf',
  summary: 'A receipt as it was issued.',
  params: IdParams,
  response: z.string(),
});
