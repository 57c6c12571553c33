import { WISH_NAMES } from '@tallystick/core/wishes';
import { FILE_USES } from '@tallystick/core/wishes';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IsoDateText, TypedValue } from './common.ts';
import { Asked } from './conditions.ts';
import { NOTE_KINDS } from './notes.ts';
import { LetterDoc } from './outreach.ts';
import { ListFilter, SupporterDraft } from './supporters.ts';
import { KIND_NAMES } from '@tallystick/core/supporters';

const area = 'supporters';
const Except = z.array(Id).max(100_000).default([]);
/** Rows picked one by one, or everyone in a list, or whom a question finds, but those named. */
export const Selection = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('ids'), ids: z.array(Id).min(1, 'Nobody is selected.').max(100_000) }),
  z.object({ kind: z.literal('list'), filter: ListFilter, except: Except }),
  z.object({ kind: z.literal('asked'), asked: Asked, except: Except }),
]);
export type Selection = z.infer<typeof Selection>;

const put = z.boolean();
/** What can be done to many supporters at once; `put` false takes away. */
export const Act = z.discriminatedUnion('do', [
  z.object({ do: z.literal('tag'), name: z.string().trim().min(1, 'The tag is missing.').max(60), put }),
  z.object({ do: z.literal('group'), groupId: Id, put }),
  z.object({
    do: z.literal('wish'),
    wish: z.enum(WISH_NAMES),
    put,
    source: z.string().trim().max(120).default('by hand'),
  }),
  /** `own:3` for a field that the organization made, else the name of one that `core/catalogue` says can be given. */
  z.object({ do: z.literal('field'), field: z.string().max(40), value: TypedValue }),
  z.object({ do: z.literal('note'), kind: z.enum(NOTE_KINDS), date: IsoDateText, body: LetterDoc }),
  z.object({
    do: z.literal('task'),
    title: z.string().trim().min(1).max(200),
    due: IsoDateText,
    ownerId: Id.nullable(),
  }),
  /** Ties each to another, who is their `role` (as the choices number roles), from a day; or ends such ties on it. */
  z.object({ do: z.literal('tie'), role: Id, otherId: Id, put, on: IsoDateText.nullable().default(null) }),
  z.object({ do: z.literal('trash') }),
  z.object({ do: z.literal('restore') }),
]);
export type Act = z.infer<typeof Act>;

export const actOnSupporters = endpoint({
  id: 'actOnSupporters',
  area,
  method: 'post',
  path: '/supporters/acts',
  right: 'supporters.change',
  summary: 'Do one thing to many supporters, as one change set that can be undone; thousands are done by a job.',
  body: z.object({ selection: Selection, act: Act }),
  response: z.object({
    revision: z.number().nullable(),
    /** How many it was asked for, and for how many something differed; null while a job does it. */
    asked: z.number(),
    changed: z.number().nullable(),
    jobId: Id.nullable(),
  }),
});
/** What a file is for; `office` is for looking at, and holds back only what is in the trash. */
const ExportUse = { for: z.enum(FILE_USES).default('office'), purpose: z.enum(['appeal', 'news']).default('appeal') };
/** Whether a CSV or a workbook is to be changed elsewhere and brought back: it says then at which change it was made. */
export const ToComeBack = z.boolean().default(false);
/** The kinds of file; labels are of those who are written to by post, call sheets (PDF, workbook) of those who are called. */
export const EXPORT_FILES = ['csv', 'xlsx', 'vcf', 'labels30', 'labels10', 'calls', 'callbook'] as const;
export const exportSupporters = endpoint({
  id: 'exportSupporters',
  area,
  method: 'post',
  asks: true,
  path: '/supporters/export',
  right: 'supporters.see',
  logs: 'export',
  produces: 'application/octet-stream',
  summary:
    'Many supporters as CSV, XLSX or vCard 4.0; a file for a mailing leaves out whom the mailing would hold back.',
  body: z.object({ selection: Selection, as: z.enum(EXPORT_FILES), ...ExportUse, back: ToComeBack }),
  response: z.string(),
});
/** Whom a file would leave out, and why. */
export const HeldBack = z.object({
  asked: z.number(),
  held: z.number(),
  /** The first of those held back. */
  some: z.array(z.object({ supporterId: Id, number: z.string(), name: z.string(), reason: z.string() })),
});
export type HeldBack = z.infer<typeof HeldBack>;
export const checkExport = endpoint({
  id: 'checkExport',
  area,
  method: 'post',
  asks: true,
  path: '/supporters/export/check',
  right: 'supporters.see',
  summary: 'Whom a file for the use would leave out, and why; nothing is written.',
  body: z.object({ selection: Selection, ...ExportUse }),
  response: HeldBack,
});
export const getCard = endpoint({
  id: 'getCard',
  area,
  method: 'get',
  path: '/supporters/:id/card.vcf',
  right: 'supporters.see',
  produces: 'text/vcard',
  summary: 'One supporter as a vCard, version 4.0 or 3.0.',
  params: z.object({ id: Id }),
  query: z.object({ version: z.enum(['3.0', '4.0']).default('4.0') }),
  response: z.string(),
});
export const readCard = endpoint({
  id: 'readCard',
  area,
  method: 'post',
  asks: true,
  path: '/supporters/read-card',
  right: 'supporters.add',
  summary:
    'Reads the supporters of a vCard file (3.0 or 4.0) as drafts, with what was taken otherwise than written or left out; nothing is written.',
  body: z.object({ text: z.string().max(2_000_000) }),
  response: z.object({ items: z.array(z.object({ draft: SupporterDraft, remarks: z.array(z.string()) })) }),
});

const Text = z.string();
export const readName = endpoint({
  id: 'readName',
  area,
  method: 'post',
  asks: true,
  path: '/supporters/read-name',
  right: 'supporters.see',
  summary:
    'Reads a whole name: whether it is a person’s, a household’s or an organization’s, and who is named in which parts.',
  body: z.object({ text: z.string().trim().min(1).max(300) }),
  response: z.object({
    kind: z.enum(KIND_NAMES),
    /** The name of a household or an organization. */
    name: z.string(),
    people: z.array(
      z.object({
        ...{ prefix: Text, first: Text, middle: Text, last: Text, suffix: Text, nickname: Text, formerLast: Text },
        /** What stands beside the name and is no part of it. */
        aside: z.string(),
      }),
    ),
    /** Why it may be something else; null where nothing speaks against it. */
    unsure: z.string().nullable(),
  }),
});

/** What a draft looks like, and what could be written better; asked while someone types. */
export const noticeDraft = endpoint({
  id: 'noticeDraft',
  area,
  method: 'post',
  asks: true,
  path: '/supporters/notice',
  right: 'supporters.see',
  summary: 'Who is likely the same as a draft, with why, and how its addresses and telephones would be better written.',
  body: z.object({
    /** The record being edited, which is not like itself. */
    id: Id.nullable().default(null),
    kind: z.enum(KIND_NAMES).default('person'),
    first: z.string().max(120).default(''),
    last: z.string().max(120).default(''),
    nickname: z.string().max(120).default(''),
    organization: z.string().max(120).default(''),
    emails: z.array(z.string().max(254)).max(20).default([]),
    phones: z.array(z.string().max(40)).max(20).default([]),
    addresses: z
      .array(
        z.object({
          street: z.string().max(200),
          city: z.string().max(100),
          region: z.string().max(60),
          postal: z.string().max(20),
          country: z.string().max(60),
        }),
      )
      .max(20)
      .default([]),
  }),
  response: z.object({
    alike: z.array(
      z.object({
        id: Id,
        number: z.string(),
        name: z.string(),
        about: z.string(),
        score: z.number(),
        reasons: z.array(z.string()),
      }),
    ),
    phones: z.array(z.object({ index: z.number(), text: z.string(), remark: z.string() })),
    addresses: z.array(
      z.object({
        index: z.number(),
        address: z.object({
          street: z.string(),
          city: z.string(),
          region: z.string(),
          postal: z.string(),
          country: z.string(),
        }),
        why: z.array(z.string()),
      }),
    ),
  }),
});

const Trash = z.object({ records: z.number(), withGifts: z.number(), gifts: z.number(), cents: z.number() });
export const getTrash = endpoint({
  id: 'getTrash',
  area,
  method: 'get',
  path: '/trash',
  right: 'trash.see',
  summary: 'How much is in the trash: records, and the gifts of those that gave.',
  response: Trash,
});
export const emptyTrash = endpoint({
  id: 'emptyTrash',
  area,
  method: 'post',
  path: '/trash/empty',
  right: 'trash.delete',
  summary:
    'Empty the trash for good: personal details are erased, gifts and receipts stay in every total. `records` is how many were shown; another number is refused (409).',
  body: z.object({ records: z.number().int().min(1) }),
  response: Trash,
});
