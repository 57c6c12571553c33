import { QueryClient, queryOptions } from '@tanstack/react-query';
import type { z } from 'zod';
import { ApiError } from '@tallystick/contract/common';
import { listJobs } from '@tallystick/contract/jobs';
import type { Job } from '@tallystick/contract/jobs';
import { getSession } from '@tallystick/contract/session';
import type { Endpoint } from '@tallystick/contract/endpoint';
import { isStale, writes } from '@tallystick/contract/freshness';
import type { Written } from '@tallystick/contract/freshness';
import { untilSignedIn } from './signedOut.ts';

/** An answer that the server refused, with its code, a message to show, and what is wrong with which field. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, string> = {},
    readonly details: unknown = undefined,
  ) {
    super(message);
  }
}

interface Given<P, Q, B> {
  params?: P;
  query?: Q;
  body?: B;
  /** Makes a repeated request count once. */
  key?: string;
  signal?: AbortSignal;
  /** True where the screen that writes holds what it wrote, so that nothing needs to be asked for again. */
  quiet?: boolean;
}

function urlOf(path: string, params: Record<string, unknown>, query: Record<string, unknown>): string {
  const filled = path.replace(/:(\w+)/g, (_whole, name: string) => encodeURIComponent(String(params[name])));
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries(query))
    if (value !== undefined && value !== '') search.set(name, String(value));
  const text = search.toString();
  return `/api/v1${filled}${text ? `?${text}` : ''}`;
}

async function refusal(response: Response): Promise<Refused> {
  const parsed = ApiError.safeParse(await response.json().catch(() => null));
  if (!parsed.success)
    return new Refused(
      response.status,
      'unreachable',
      'The server is not answering. What you typed is still here; try again in a moment.',
    );
  const { code, message, fields, details } = parsed.data.error;
  return new Refused(response.status, code, message, fields, details);
}

/** Calls an endpoint of the contract; a refusal and a lost connection are thrown as `Refused`. */
export async function call<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, R>,
  given: Given<z.input<P>, z.input<Q>, z.input<B>> = {},
): Promise<z.output<R>> {
  const response = await request(endpoint, given);
  const answer: z.output<R> = await response.json();
  if (writes(endpoint) && !given.quiet) refresh(endpoint.area === 'changes' ? ['*'] : [endpoint.area]);
  return answer;
}

/** The key of a question: its area, its endpoint, and what it is asked with. */
export const keyOf = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, R>,
  given: Given<z.input<P>, z.input<Q>, z.input<B>> = {},
) => [endpoint.area, endpoint.id, given] as const;

/** A question to an endpoint, as `useQuery` takes it: asked again by itself when something that it reads was written. */
export const ask = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, R>,
  given: Given<z.input<P>, z.input<Q>, z.input<B>> = {},
) =>
  queryOptions({
    queryKey: keyOf(endpoint, given),
    queryFn: ({ signal }): Promise<z.output<R>> => call(endpoint, { ...given, signal }),
  });

/** Has what is on the screen asked for again where it may be another after what was written. */
export function refresh(written: Written): void {
  void queries.invalidateQueries({ predicate: ({ queryKey }) => isStale(String(queryKey[0]), written) });
}

/** As `call`, for endpoints that answer with a file. */
export async function callFile<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, R>,
  given: Given<z.input<P>, z.input<Q>, z.input<B>> = {},
): Promise<Blob> {
  return (await request(endpoint, given)).blob();
}

/** Sends a file's bytes as the body. */
export async function sendFile<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, R>,
  query: z.input<Q>,
  file: Blob,
): Promise<z.output<R>> {
  const response = await fetched(urlOf(endpoint.path, {}, query as Record<string, unknown>), {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  const answer: z.output<R> = await response.json();
  refresh([endpoint.area]);
  return answer;
}

export function linkTo(
  endpoint: { path: string },
  params: Record<string, unknown>,
  query: Record<string, unknown> = {},
): string {
  return urlOf(endpoint.path, params, query);
}

function request(
  endpoint: { path: string; method: string },
  given: Given<unknown, unknown, unknown>,
): Promise<Response> {
  const hasBody = !['get', 'delete'].includes(endpoint.method);
  const url = urlOf(
    endpoint.path,
    (given.params ?? {}) as Record<string, unknown>,
    (given.query ?? {}) as Record<string, unknown>,
  );
  return fetched(url, {
    method: endpoint.method.toUpperCase(),
    headers: {
      ...(hasBody ? { 'Content-Type': 'application/json' } : {}),
      ...(given.key ? { 'Idempotency-Key': given.key } : {}),
    },
    ...(hasBody ? { body: JSON.stringify(given.body ?? {}) } : {}),
    ...(given.signal ? { signal: given.signal } : {}),
  });
}

async function fetched(url: string, init: RequestInit): Promise<Response> {
  const response = await fetch(url, { ...init, credentials: 'same-origin' }).catch((error: unknown) => {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Refused(
      0,
      'unreachable',
      'The server cannot be reached. What you typed is still here; try again in a moment.',
    );
  });
  if (response.ok) return response;
  const refused = await refusal(response);
  if (refused.status !== 401 || refused.code !== 'signed-out') throw refused;
  // The page asks to sign in again over what is on it; then this goes on as if nothing had been.
  queries.setQueryData(
    keyOf(getSession),
    (old: { user: unknown } | undefined) => (old ? { ...old, user: null } : old) as never,
  );
  await untilSignedIn(init.signal);
  return fetched(url, init);
}

export const isAway = (error: unknown): boolean =>
  error instanceof Refused && (error.status === 0 || error.status === 503 || error.code === 'unreachable');

export const queries = new QueryClient({
  defaultOptions: {
    // The server may be on this machine or its network: a browser that thinks itself offline asks all the same.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      retry: (count, error) => isAway(error) && count < 60,
      retryDelay: (count) => Math.min(500 * (count + 1), 3000),
    },
  },
});

/** Jobs that run or ended lately: the stream of the server fills them in. */
export const runningJobs = queryOptions({ queryKey: keyOf(listJobs), queryFn: (): Job[] => [], staleTime: Infinity });

export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : 'Something went wrong.');
