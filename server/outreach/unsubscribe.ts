import { createHmac, timingSafeEqual } from 'node:crypto';

/** A link that needs no signing in: the supporter and the delivery, sealed with the organisation's secret. */
export function unsubscribeToken(secret: string, supporterId: number, deliveryId: number): string {
  const body = `${supporterId}.${deliveryId}`;
  return `${body}.${seal(secret, body)}`;
}

/** What a token stands for, or null when it was not made here. */
export function readUnsubscribeToken(
  secret: string,
  token: string,
): { supporterId: number; deliveryId: number } | null {
  const parts = /^(\d+)\.(\d+)\.([\w-]{32})$/.exec(token);
  if (!parts) return null;
  const [, supporter = '', delivery = '', given = ''] = parts;
  const right = seal(secret, `${supporter}.${delivery}`);
  if (!timingSafeEqual(Buffer.from(given), Buffer.from(right))) return null;
  return { supporterId: Number(supporter), deliveryId: Number(delivery) };
}

const seal = (secret: string, body: string): string =>
  createHmac('sha256', secret).update(`unsubscribe:${body}`).digest('base64url').slice(0, 32);
