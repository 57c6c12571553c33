import type { LetterNode } from '@tallystick/core/letters';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Written } from './common.ts';

const Node: z.ZodType<LetterNode> = z
  .object({
    type: z.string().max(40),
    text: z.string().max(50_000).optional(),
    attrs: z.record(z.string(), z.unknown()).optional(),
    marks: z
      .array(z.object({ type: z.string().max(40), attrs: z.record(z.string(), z.unknown()).optional() }))
      .optional(),
    get content(): z.ZodOptional<z.ZodArray<z.ZodType<LetterNode>>> {
      return z.array(Node).optional();
    },
  })
  .meta({ id: 'LetterNode' });
/** How much a letter or note may hold, counted with its form. */
export const LONGEST_LETTER = 200_000;
/** A letter as its editor stores it; unknown kinds of nodes keep their text only. */
export const LetterDoc: z.ZodType<LetterNode> = Node.refine(
  (doc) => JSON.stringify(doc).length <= LONGEST_LETTER,
  `The text is longer than is kept here (${LONGEST_LETTER} signs with its form).`,
);

/** The states of a message that did not surely arrive, and that a person may send again. */
export const NOT_REACHED = ['bounced', 'failed', 'unsure'] as const;

export const Mailing = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  subject: z.string(),
  body: LetterDoc,
  segmentId: Id.nullable(),
  segmentName: z.string(),
  appealId: Id.nullable(),
  state: z.enum(['draft', 'sending', 'sent']),
  jobId: z.number().nullable(),
  /** Whether messages wait though nothing is sending them: the sending was stopped, or it failed. */
  stopped: z.boolean(),
  counts: z.object({
    reached: z.number(),
    opened: z.number(),
    waiting: z.number(),
    notReached: z.number(),
    held: z.number(),
  }),
});
export type Mailing = z.infer<typeof Mailing>;
const Draft = z.object({
  name: z.string().trim().min(1, 'The name is missing.').max(120),
  subject: z.string().trim().min(1, 'The subject is missing.').max(200),
  body: LetterDoc,
  segmentId: Id.nullable(),
  appealId: Id.nullable().default(null),
});
const area = 'outreach';
export const listMailings = endpoint({
  id: 'listMailings',
  area,
  method: 'get',
  path: '/mailings',
  right: 'mailings.see',
  summary: 'E-mails to segments, newest first.',
  response: z.object({ items: z.array(Mailing) }),
});
export const getMailing = endpoint({
  id: 'getMailing',
  area,
  method: 'get',
  path: '/mailings/:id',
  right: 'mailings.see',
  summary: 'One e-mail to a segment.',
  params: IdParams,
  response: Mailing,
});
export const createMailing = endpoint({
  id: 'createMailing',
  area,
  method: 'post',
  path: '/mailings',
  right: 'mailings.add',
  summary: 'Begin an e-mail.',
  body: Draft,
  response: Written.extend({ id: Id }),
});
export const updateMailing = endpoint({
  id: 'updateMailing',
  area,
  method: 'put',
  path: '/mailings/:id',
  right: 'mailings.change',
  summary: 'Change an e-mail that was not sent yet.',
  params: IdParams,
  body: Draft.extend({ version: z.number().int() }),
  response: Written,
});
export const MailingRecipient = z.object({
  supporterId: Id,
  name: z.string(),
  address: z.string(),
  reason: z.string().nullable(),
});
export const checkMailing = endpoint({
  id: 'checkMailing',
  area,
  method: 'get',
  path: '/mailings/:id/recipients',
  right: 'mailings.see',
  summary: 'Who would get it and who is held back, with the reason.',
  params: IdParams,
  response: z.object({ recipients: z.array(MailingRecipient), held: z.array(MailingRecipient) }),
});
export const Preview = z.object({
  to: z.string(),
  subject: z.string(),
  html: z.string(),
  text: z.string(),
  missing: z.array(z.string()),
});
export const previewMailing = endpoint({
  id: 'previewMailing',
  area,
  method: 'post',
  asks: true,
  path: '/mailings/preview',
  right: 'mailings.see',
  summary: 'An e-mail as one supporter would get it.',
  body: z.object({ subject: z.string().max(200), body: LetterDoc, supporterId: Id }),
  response: Preview,
});
export const deleteMailing = endpoint({
  id: 'deleteMailing',
  area,
  method: 'delete',
  path: '/mailings/:id',
  right: 'mailings.delete',
  summary: 'Delete an e-mail that was not sent.',
  params: IdParams,
  response: Written,
});
export const sendMailing = endpoint({
  id: 'sendMailing',
  area,
  method: 'post',
  path: '/mailings/:id/send',
  right: 'mailings.send',
  summary:
    'Send to everyone not held back, as a job. `expected` is the number that was shown; another number now is refused (409).',
  params: IdParams,
  body: z.object({ expected: z.number().int().min(1) }),
  response: z.object({ jobId: Id, revision: z.number().nullable() }),
});
export const DeliveryRow = z.object({
  id: Id,
  supporterId: Id,
  name: z.string(),
  address: z.string(),
  state: z.string(),
  detail: z.string(),
  at: z.string(),
  /** When it was first seen to be opened. */
  openedAt: z.string().nullable(),
});
export const listDeliveries = endpoint({
  id: 'listDeliveries',
  area,
  method: 'get',
  path: '/mailings/:id/deliveries',
  right: 'mailings.see',
  summary: 'What became of each message: reached, not reached, held back.',
  params: IdParams,
  response: z.object({ items: z.array(DeliveryRow) }),
});
export const retryDelivery = endpoint({
  id: 'retryDelivery',
  area,
  method: 'post',
  path: '/deliveries/:id/retry',
  right: 'mailings.send',
  summary: 'Send a message again that did not surely arrive.',
  params: IdParams,
  response: z.object({ jobId: Id }),
});
export const retryDeliveries = endpoint({
  id: 'retryDeliveries',
  area,
  method: 'post',
  path: '/deliveries/retry',
  right: 'mailings.send',
  summary:
    'Send many messages again that did not surely arrive; those that did, wait, or were held back are passed over.',
  body: z.object({ ids: z.array(Id).min(1, 'No message is selected.').max(5000) }),
  response: z.object({ again: z.number() }),
});
export const resumeSending = endpoint({
  id: 'resumeSending',
  area,
  method: 'post',
  path: '/sendings/:kind/:id/resume',
  right: 'mailings.send',
  summary: 'Go on sending what still waits of an e-mail or an issue of receipts, after it was stopped or failed.',
  params: z.object({ kind: z.enum(['mailing', 'receipt']), id: Id }),
  response: z.object({ jobId: Id }),
});
