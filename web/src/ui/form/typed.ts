import { z } from 'zod';
import { parseDate } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { parseAmount, parseGiftAmount } from '@tallystick/core/money';

/*
 * How what is typed in a form becomes what a request takes: schemas from texts to values, and `readInto` the
 * contract's own. What cannot be read is an issue at its field, in words.
 */

/** A form's schema: what is typed is read by `typed`, and what that gives has to be what the request's `body` takes. */
export const readInto = <Body extends z.ZodType, Typed>(
  typed: z.ZodType<z.input<Body>, Typed>,
  body: Body,
): z.ZodType<z.output<Body>, Typed> => typed.pipe(body as z.ZodType<z.output<Body>, z.input<Body>>);

const failing = (context: z.RefinementCtx, message: string): never => {
  context.addIssue({ code: 'custom', message });
  return z.NEVER;
};

/** What an amount of money comes to in cents, or why it comes to nothing. */
type Amount = { ok: true; cents: number } | { ok: false; reason: string };
const amountBy = (read: (text: string) => Amount) =>
  z.string().transform((text, context) => {
    const amount = read(text);
    return amount.ok ? amount.cents : failing(context, amount.reason);
  });

/** The amount of a gift or promise: more than nothing. */
export const typedGiftAmount = amountBy(parseGiftAmount);

/** As `schema`, and `none` where nothing is typed. */
export const orNone = <Value, None>(schema: z.ZodType<Value, string>, none: None) =>
  z.string().transform((text, context): Value | None => {
    if (text.trim() === '') return none;
    const read = schema.safeParse(text);
    return read.success ? read.data : failing(context, read.error.issues[0]?.message ?? '');
  });

export const typedAmount = amountBy(parseAmount);

export const typedDay = z.string().transform((text, context): IsoDate => {
  const read = parseDate(text);
  return read.ok ? read.date : failing(context, read.reason);
});

/** A whole number; `words` says what is wanted. */
export const typedCount = (words: string) =>
  z.string().transform((text, context) => (/^\d{1,9}$/.test(text.trim()) ? Number(text) : failing(context, words)));

/** Who was picked, as their id; `words` asks for someone. */
export const picked = (words: string) =>
  z.custom<{ id: number; name: string } | null>().transform((who, context) => (who ? who.id : failing(context, words)));

/** What was chosen of a list by id; the empty choice is none. */
export const chosenId = z.string().transform((id) => (id === '' ? null : Number(id)));

/** A text that has to be there; `words` asks for it. */
export const said = (words: string) => z.string().trim().min(1, words);

/** One of the words of a list, as a choice gives it. */
export const oneOf = <Word extends string>() => z.custom<Word>();
