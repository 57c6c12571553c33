import { LARGEST_AMOUNT } from '@tallystick/core/money';
import { isIsoDate, isPlausible } from '@tallystick/core/dates';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import type { CellType as KnownCellType } from '@tallystick/core/segments';
import { z } from 'zod';
import type { Kept, Typed } from '@tallystick/core/fields';

/** The id of a row: a number, or its digits where it comes in a path or a query; nothing else is taken for one. */
export const Id = z
  .union([
    z.number(),
    z
      .string()
      .regex(/^\d{1,12}$/)
      .transform(Number),
  ])
  .pipe(z.number().int().positive());
export const IdParams = z.object({ id: Id });
export const IsoDateText = z
  .string()
  .max(10)
  .refine(
    (text) => isIsoDate(text) && isPlausible(text),
    'This is not a day in the calendar, from 1800 to 2199; write it as 2026-03-14.',
  );
/** Whole cents above zero. */
export const GiftCents = z
  .number({ error: 'The amount is missing.' })
  .int('Amounts are whole cents.')
  .positive('The amount must be above zero.')
  .max(LARGEST_AMOUNT, 'The amount is larger than any kept here.');

/** Whole cents, zero or above. */
export const Cents = z.number().int('Amounts are whole cents.').min(0).max(LARGEST_AMOUNT);

/** What is ready to be done with a segment at a click: it is shown, a file is made of it, or an e-mail to it is begun. */
export const READY_ACTS = ['open', 'table', 'labels30', 'labels10', 'calls', 'write'] as const;
export type ReadyAct = (typeof READY_ACTS)[number];

/** A custom field's value as typed, and in the form that it is kept in; the one never stands for the other. */
export const TypedValue = z.string().max(2000) as unknown as z.ZodType<Typed, string>;
export const KeptValue = z.string() as unknown as z.ZodType<Kept, string>;

/** A table of values by their names, of so many entries at most. */
export const tableOf = <T extends z.ZodType>(value: T, most: number, longestName: number) =>
  z
    .record(z.string().max(longestName), value)
    .refine((table) => Object.keys(table).length <= most, `These are more than ${most} values.`);
/** Values of custom fields by the field's id, as typed. */
export const TypedFields = tableOf(TypedValue, 200, 12);

/** The one shape of every error. `fields` maps a field's path to what is wrong with it. */
export const ApiError = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    fields: z.record(z.string(), z.string()).optional(),
    requestId: z.string().optional(),
    details: z.unknown().optional(),
  }),
});
export type ApiError = z.infer<typeof ApiError>;

/** What every list takes: how many, and the cursor that the page before ended with. */
export const Paging = z.object({
  limit: z.coerce.number().int().min(1).max(1000).default(100),
  cursor: z.string().max(2000).optional(),
});

/** Up to three columns that a list is sorted by, the first counting most; `-` before one turns it round. */
export const sortedBy = (columns: readonly string[], usual: string) =>
  z
    .string()
    .regex(
      new RegExp(`^-?(${columns.join('|')})(,-?(${columns.join('|')})){0,2}$`),
      'There is no such column to sort by.',
    )
    .default(usual);

/** What a cell of a table holds: words, cents or a number, a date; null for nothing. */
export const Cell = z.union([z.string(), z.number(), z.null()]);
export const CellType = z.enum(['text', 'money', 'number', 'date'] as const satisfies readonly KnownCellType[]);

/** A page of a list; `next` is null on the last one; `total` counts the whole list. */
export function pageOf<T extends z.ZodType>(item: T) {
  return z.object({ items: z.array(item), next: z.string().nullable(), total: z.number() });
}

/** What a write answers with: the revision of its change set, null when nothing differed. */
export const Written = z.object({ revision: z.number().nullable() });

/** Money and number of gifts, for footers. */
export const Sum = z.object({ count: z.number(), cents: z.number() });

/** The keys of a table of words, as what a request may say. */
export const keysOf = <K extends string>(table: Readonly<Record<K, unknown>>): z.ZodEnum<{ [N in K]: N }> =>
  z.enum(Object.keys(table) as [K, ...K[]]) as never;

export const Method = keysOf(PAYMENT_METHODS);
/** Whose giving counts. */
export const Credit = keysOf(CREDIT_CHOICES);
