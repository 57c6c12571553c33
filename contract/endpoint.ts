import { z } from 'zod';
import { leastFor } from './rights.ts';
import type { Right } from './rights.ts';
import type { Role } from './roles.ts';

export { ROLE_NAMES, ROLES } from './roles.ts';
export type { Role } from './roles.ts';

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

/** One endpoint under /api/v1: what it takes, what it answers, who may call it. */
export interface Endpoint<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType> {
  id: string;
  area: string;
  method: Method;
  /** Express form, with `:name` parameters. */
  path: string;
  summary: string;
  /** Its cell of the table of rights, or `public` for what works without signing in. */
  right: Right | 'public';
  /** The least role that may call it at all, from that cell. */
  role: Role | 'public';
  params: P;
  query: Q;
  body: B;
  response: R;
  /** The media type where the answer is not JSON, or where the request is a file's bytes. */
  produces?: string;
  consumes?: string;
  /** True where the caller proves itself by a signature in the request, so that it may come from anywhere. */
  signed?: boolean;
  /** Noted in the log of accesses: what takes much out, and what changes who may what. */
  logs?: 'export' | 'rights';
  /** True of a POST that changes nothing: it asks, and its question is too long for an address. */
  asks?: boolean;
}

const nothing = z.object({});

/** Declares an endpoint; parts that are left out take nothing. */
export function endpoint<
  R extends z.ZodType,
  P extends z.ZodType = typeof nothing,
  Q extends z.ZodType = typeof nothing,
  B extends z.ZodType = typeof nothing,
>(given: {
  id: string;
  area: string;
  method: Method;
  path: string;
  summary: string;
  right: Right | 'public';
  params?: P;
  query?: Q;
  body?: B;
  response: R;
  produces?: string;
  consumes?: string;
  signed?: boolean;
  logs?: 'export' | 'rights';
  asks?: boolean;
}): Endpoint<P, Q, B, R> {
  // The defaults stand in exactly where the type parameters default to `nothing`.
  const role = given.right === 'public' ? 'public' : leastFor(given.right);
  return { params: nothing, query: nothing, body: nothing, ...given, role } as unknown as Endpoint<P, Q, B, R>;
}

export type AnyEndpoint = Endpoint<z.ZodType, z.ZodType, z.ZodType, z.ZodType>;
export type QueryInputOf<E> = E extends Endpoint<z.ZodType, infer Q, z.ZodType, z.ZodType> ? z.input<Q> : never;
export type BodyOf<E> = E extends Endpoint<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.output<B> : never;
export type BodyInputOf<E> = E extends Endpoint<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.input<B> : never;
export type ResponseOf<E> = E extends Endpoint<z.ZodType, z.ZodType, z.ZodType, infer R> ? z.output<R> : never;
