import { dateInZone } from '@tallystick/core/dates';
import type { Came } from '@tallystick/core/feeds';
import type { Elsewhere } from '@tallystick/core/feeds';
import { z } from 'zod';

/** Where the giving portal is reached, and the secret shared with it. */
export interface PortalConfig {
  url: string;
  secret: string;
}

/** The portal said nothing that could be understood; asking again later may help. */
export class PortalSilent extends Error {
  constructor(
    message: string,
    /** How long it asked us to wait; null where it did not say. */
    readonly seconds: number | null = null,
  ) {
    super(message);
  }
}
/** The portal says that this cannot be: asking again will not help. */
export class PortalRefused extends Error {}
/** The portal does not know any more where we read on. */
export class PortalForgot extends Error {}

const said = z
  .string()
  .transform((text) => text.trim().slice(0, 1_000))
  .catch('');
/** Whatever a gift lacks is empty; what is odd about it is for a person to see, who reads it as a row. */
const Gift = z.object({
  id: z.string().trim().min(1).max(60),
  at: z.iso.datetime({ offset: true }).nullable().catch(null),
  cents: z.union([z.number(), said]),
  feeCents: z.union([z.number(), said]),
  ...{ currency: said, paidBy: said, campaign: said, comment: said },
  donor: z
    .object({
      ...{ number: said, first: said, last: said, organization: said, email: said, phone: said },
      ...{ street: said, city: said, state: said, zip: said },
    })
    .catch({
      ...{ number: '', first: '', last: '', organization: '', email: '', phone: '' },
      ...{ street: '', city: '', state: '', zip: '' },
    }),
});
const Refund = z.object({
  id: z.string().trim().min(1).max(50),
  gift: z.string().trim().min(1).max(60),
  cents: z.number().int().positive(),
  reason: said,
});
export type CameRefund = z.infer<typeof Refund>;
const MOST_ON_A_PAGE = 1_000;
const more = { next: z.string().max(200), more: z.boolean() };
const GiftPage = z.object({ gifts: z.array(Gift).max(MOST_ON_A_PAGE), ...more });
const RefundPage = z.object({ refunds: z.array(Refund).max(MOST_ON_A_PAGE), ...more });
const Campaigns = z.object({
  campaigns: z.array(
    z.object({
      ...{ id: z.string().min(1).max(60), name: z.string().max(200), goalCents: z.number() },
      ...{ onlineCents: z.number(), offlineCents: z.number() },
    }),
  ),
});

export interface CamePage<T> {
  items: T[];
  next: string;
  more: boolean;
}

const TIMEOUT_MS = 8_000;
const MOST_BYTES = 20_000_000;
const PAGE = 100;
/** The portal takes so many gifts at once. */
export const MOST_TOLD = 100;
/** How often, and for how many seconds at most, we wait in place when the portal is asked too often. */
const [MOST_WAITS, LONGEST_WAIT] = [5, 15];

/** Speaks to the giving portal over HTTP. Reading changes nothing there; telling the same again changes nothing either. */
export class Portal {
  constructor(
    private readonly config: PortalConfig,
    private readonly timeout = TIMEOUT_MS,
  ) {}

  get address(): string {
    return this.config.url;
  }

  /** The gifts after a place, oldest first; days are those of the time zone. */
  async gifts(after: string, timeZone: string): Promise<CamePage<Came>> {
    const { gifts, ...rest } = await this.ask('GET', `/gifts?${query(after)}`, GiftPage);
    const items = gifts.map(({ at, ...gift }) => ({
      ...gift,
      day: at === null ? null : dateInZone(new Date(at), timeZone),
    }));
    return { items, ...rest };
  }

  async refunds(after: string): Promise<CamePage<CameRefund>> {
    const { refunds, ...rest } = await this.ask('GET', `/refunds?${query(after)}`, RefundPage);
    return { items: refunds, ...rest };
  }

  async campaigns(): Promise<z.infer<typeof Campaigns>['campaigns']> {
    return (await this.ask('GET', '/campaigns', Campaigns)).campaigns;
  }

  /** Tells a campaign of gifts that did not come through the portal: how much and when, and nothing of who gave. */
  async tell(campaign: string, gifts: readonly Elsewhere[]): Promise<void> {
    await this.ask('PUT', `/campaigns/${encodeURIComponent(campaign)}/offline`, z.unknown(), { gifts });
  }

  private async ask<T>(method: string, path: string, shape: z.ZodType<T>, body?: unknown): Promise<T> {
    for (let waits = 0; ; waits++) {
      const { status, text, wait } = await this.send(method, path, body);
      if (status === 429 && waits < MOST_WAITS && wait <= LONGEST_WAIT) {
        await new Promise((resolve) => setTimeout(resolve, wait * 1000));
        continue;
      }
      if (status === 429) throw new PortalSilent('It is asked too often.', wait);
      if (status >= 500) throw new PortalSilent(`It answered ${status}.`);
      if (status === 410) throw new PortalForgot();
      if (status === 401 || status === 403) throw new PortalRefused('It does not take our secret.');
      if (status >= 300) throw new PortalRefused(`It refused (${status}): ${text.slice(0, 120)}`);
      const json = jsonOf(text);
      if (json === undefined) throw new PortalSilent('It answered something that is no answer.');
      const read = shape.safeParse(json);
      if (read.success) return read.data;
      const [issue] = read.error.issues;
      throw new PortalRefused(
        `It answered what cannot be read, so nothing of it was taken (${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''})`,
      );
    }
  }

  private async send(method: string, path: string, body: unknown) {
    try {
      const answer = await fetch(new URL(path, this.config.url), {
        method,
        redirect: 'manual',
        headers: { Authorization: `Bearer ${this.config.secret}`, 'Content-Type': 'application/json' },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(this.timeout),
      });
      const wait = Number(answer.headers.get('retry-after') ?? 2);
      const text = await textOf(answer);
      return { status: answer.status, text, wait: Number.isFinite(wait) && wait >= 0 ? Math.max(wait, 0.2) : 2 };
    } catch (error) {
      const cause = error instanceof Error && error.cause instanceof Error ? error.cause.message : '';
      throw new PortalSilent(cause || (error instanceof Error ? error.message : String(error)));
    }
  }
}

/** What is said in an answer; one without end is given up. */
async function textOf(answer: Response): Promise<string> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of answer.body ?? []) {
    size += part.length;
    if (size > MOST_BYTES) throw new Error(`It answers more than ${MOST_BYTES / 1_000_000} MB at once.`);
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

const query = (after: string): string =>
  new URLSearchParams({ limit: String(PAGE), ...(after === '' ? {} : { after }) }).toString();

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
