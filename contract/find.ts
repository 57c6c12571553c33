import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id } from './common.ts';
import { Someone } from './supporters.ts';
import { KIND_NAMES } from '@tallystick/core/supporters';

export const findAnything = endpoint({
  id: 'findAnything',
  area: 'supporters',
  method: 'get',
  path: '/find',
  right: 'supporters.see',
  summary: 'Supporters by anything typed of them; gifts by number, receipt number, check number or amount.',
  query: z.object({ q: z.string().max(200), limit: z.coerce.number().int().min(1).max(30).default(8) }),
  response: z.object({
    /** `by` says what else than the name led to somebody: `nickname Bob`; null where the name did. */
    supporters: z.array(Someone.extend({ kind: z.enum(KIND_NAMES), about: z.string(), by: z.string().nullable() })),
    total: z.number(),
    /** How many of the total are only like what was typed. */
    alike: z.number(),
    gifts: z.array(
      z.object({
        id: Id,
        number: z.string(),
        supporterId: Id,
        supporter: z.string(),
        cents: z.number(),
        date: z.string(),
        /** What was found: `amount`, `check 1207`, `receipt 2026-000123`. */
        by: z.string(),
      }),
    ),
    /** Where an amount was typed: how many gifts are of it in all, and their sum. */
    amount: z.object({ cents: z.number(), gifts: z.number(), sumCents: z.number() }).nullable(),
  }),
});
