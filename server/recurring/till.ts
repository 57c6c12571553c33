import { createHmac, timingSafeEqual } from 'node:crypto';
import { z } from 'zod';

/** Where the till is reached, and the secret shared with it. */
export interface TillConfig {
  url: string;
  secret: string;
}

const Answer = z.object({
  id: z.string(),
  outcome: z.enum(['approved', 'declined', 'expired']),
  reason: z.string().default(''),
  /** What the till keeps of what it charged. */
  feeCents: z.number().int().min(0).default(0),
});
export type TillAnswer = z.infer<typeof Answer>;
const Refund = z.object({ id: z.string(), cents: z.number() });

export const TillEvent = z.discriminatedUnion('kind', [
  z.object({
    ...{ kind: z.literal('charge'), id: z.string(), charge: z.string(), key: z.string(), cents: z.number() },
    feeCents: z.number().int().min(0).default(0),
  }),
  z.object({
    kind: z.literal('refund'),
    id: z.string(),
    charge: z.string(),
    refund: z.string(),
    cents: z.number().int().positive(),
  }),
]);
export type TillEvent = z.infer<typeof TillEvent>;

/** The till said nothing that could be understood: whether it charged is not known. */
export class TillSilent extends Error {}

/** The till says that this charge cannot be: asking again will not help. */
export class TillRefused extends Error {}

const TIMEOUT_MS = 8000;
const FRESH_SECONDS = 300;

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Speaks to the card till over HTTP. The same key always means the same charge or refund, however often it is sent. */
export class Till {
  constructor(
    private readonly config: TillConfig,
    private readonly timeout = TIMEOUT_MS,
  ) {}

  charge(key: string, asked: { card: string; cents: number; currency: string; about: string }): Promise<TillAnswer> {
    return this.post('/charges', key, asked, Answer);
  }

  refund(key: string, asked: { charge: string; cents: number }): Promise<{ id: string; cents: number }> {
    return this.post('/refunds', key, asked, Refund);
  }

  private async post<T>(path: string, key: string, body: unknown, shape: z.ZodType<T>): Promise<T> {
    let answer: Response;
    let text: string;
    try {
      answer = await fetch(new URL(path, this.config.url), {
        method: 'POST',
        headers: {
          Authorization: `Bearer ${this.config.secret}`,
          'Content-Type': 'application/json',
          'Idempotency-Key': key,
        },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(this.timeout),
      });
      text = await answer.text();
    } catch (error) {
      throw new TillSilent(error instanceof Error ? error.message : String(error));
    }
    if (answer.status >= 500 || answer.status === 429) throw new TillSilent(`The till answered ${answer.status}.`);
    if (!answer.ok) throw new TillRefused(`The till refused it (${answer.status}): ${text.slice(0, 120)}`);
    const read = shape.safeParse(jsonOf(text));
    if (!read.success) throw new TillSilent('The till answered something that is not an answer.');
    return read.data;
  }

  /** Reads an event that the till sent; null where the signature is not the till's own or is older than five minutes. */
  read(body: Buffer, time: string, signature: string, now: Date): TillEvent | null {
    const seconds = Number(time);
    if (!Number.isFinite(seconds) || Math.abs(now.getTime() / 1000 - seconds) > FRESH_SECONDS) return null;
    const expected = createHmac('sha256', this.config.secret).update(`${time}\n`).update(body).digest();
    const given = Buffer.from(signature, 'hex');
    if (given.length !== expected.length || !timingSafeEqual(given, expected)) return null;
    return TillEvent.parse(JSON.parse(body.toString('utf8')));
  }
}
