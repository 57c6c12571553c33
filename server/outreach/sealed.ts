import { createHmac, timingSafeEqual } from 'node:crypto';

/** What an address in an e-mail is for, without signing in: to ask for no more of them, or to tell that it was opened. */
export type SealedFor = 'unsubscribe' | 'opened';

/** Names the supporter and the delivery of an e-mail, sealed for one of these with the organization's secret. */
export function sealed(secret: string, aim: SealedFor, supporterId: number, deliveryId: number): string {
  const body = `${supporterId}.${deliveryId}`;
  return `${body}.${seal(secret, aim, body)}`;
}

/** What a sealed name stands for, or null when it was not made here for this purpose. */
export function readSealed(
  secret: string,
  aim: SealedFor,
  token: string,
): { supporterId: number; deliveryId: number } | null {
  const parts = /^(\d+)\.(\d+)\.([\w-]{32})$/.exec(token);
  if (!parts) return null;
  const [, supporter = '', delivery = '', given = ''] = parts;
  const right = seal(secret, aim, `${supporter}.${delivery}`);
  if (!timingSafeEqual(Buffer.from(given), Buffer.from(right))) return null;
  return { supporterId: Number(supporter), deliveryId: Number(delivery) };
}

const seal = (secret: string, aim: SealedFor, body: string): string =>
  createHmac('sha256', secret).update(`${aim}:${body}`).digest('base64url').slice(0, 32);
