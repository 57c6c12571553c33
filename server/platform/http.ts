import { randomUUID } from 'node:crypto';
import express from 'express';
import type { Express, NextFunction, Request, Response } from 'express';
import type { Logger } from 'pino';
import { ZodError } from 'zod';
import type { z } from 'zod';
import type { Endpoint, Role } from '@tallystick/contract/endpoint';
import type { ApiError } from '@tallystick/contract/common';
import type { Actor } from './changes.ts';
import { isOwnOrigin, mayDo } from './auth.ts';
import type { Auth, Caller } from './auth.ts';
import { isDatabaseGone, Problem } from './problem.ts';

/** What a handler is given: the request, parsed by the contract, and who makes it. */
export interface Call<P, Q, B> {
  params: P;
  query: Q;
  body: B;
  actor: Actor;
  caller: Caller | null;
  /** The Idempotency-Key with the body it stands for, ready for a change set; null when none was sent. */
  key: { key: string; body: unknown } | null;
  request: Request;
  response: Response;
}

const VISITOR: Actor = { userId: null, name: 'a visitor' };

/** Serves endpoints of the contract: parse, authorise, call, answer; nothing else happens in a route. */
export class Http {
  /** Ids of the endpoints that are served, so that a test can hold them against the contract. */
  readonly served = new Set<string>();

  constructor(
    readonly app: Express,
    private readonly auth: Auth,
    private readonly log: Logger,
  ) {}

  on<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
    endpoint: Endpoint<P, Q, B, R>,
    handler: (call: Call<z.output<P>, z.output<Q>, z.output<B>>) => Promise<z.input<R> | undefined>,
  ): void {
    this.served.add(endpoint.id);
    const parser = endpoint.consumes ? [] : [express.json({ limit: '4mb' })];
    this.app[endpoint.method](`/api/v1${endpoint.path}`, ...parser, async (request, response) => {
      const caller = await this.auth.caller(request);
      this.authorise(endpoint, caller, request);
      const body: unknown = endpoint.consumes ? {} : (request.body ?? {});
      // What is only asked is not kept; find takes any text for what it is.
      refuseOddText(body, '');
      const call = {
        params: endpoint.params.parse(request.params),
        query: endpoint.query.parse(request.query),
        body: endpoint.body.parse(body),
        actor: caller ? { userId: caller.userId, name: caller.name } : VISITOR,
        caller,
        key: keyOf(request, { ...(body as object), path: request.path }),
        request,
        response,
      };
      const answer = await handler(call);
      if (answer !== undefined && !response.headersSent) response.json(answer);
    });
  }

  private authorise(
    { role: least, signed = false }: { role: Role | 'public'; signed?: boolean },
    caller: Caller | null,
    request: Request,
  ): void {
    const writes = !['GET', 'HEAD'].includes(request.method);
    if (writes && !signed && caller?.by !== 'token' && !isOwnOrigin(request))
      throw new Problem(403, 'foreign-origin', 'This request came from another site and was refused.');
    if (least === 'public') return;
    if (!caller) throw new Problem(401, 'signed-out', 'Sign in to go on.');
    if (!mayDo(caller.role, least))
      throw new Problem(403, 'not-allowed', 'Your role does not allow this. Ask an administrator.');
  }

  /** After the last endpoint: what is asked for under /api and is not there. */
  unknown(): void {
    this.app.use('/api', (request) => {
      throw new Problem(
        404,
        'no-such-endpoint',
        `There is no ${request.method} ${request.originalUrl.split('?')[0] ?? ''}.`,
      );
    });
  }

  /** The last of the chain: every error in the one shape, or as a plain page outside the API. */
  errors(): void {
    this.app.use((error: unknown, request: Request, response: Response, _next: NextFunction) => {
      const requestId = randomUUID().slice(0, 8);
      const { status, body } = answerTo(error, requestId);
      if (status >= 500) this.log.error({ err: error, requestId, path: request.path }, 'request failed');
      if (response.headersSent) response.end();
      else if (!request.path.startsWith('/api')) response.status(status).type('text').send(body.error.message);
      else response.status(status).json(body);
    });
  }
}

/** The body of an upload; one that is too large is refused as soon as that is known, without being kept. */
export async function readBody(request: Request, most: number, message: string): Promise<Buffer> {
  const tooLarge = new Problem(413, 'too-large', message);
  if (Number(request.headers['content-length'] ?? 0) > most) throw tooLarge;
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > most) throw tooLarge;
    parts.push(part);
  }
  return Buffer.concat(parts);
}

// NUL, or half of a pair that stands for one sign: no database and no file takes either as it is.
const ODD_TEXT = /\0|\p{Surrogate}/u;

/** Refuses (400, at the field) text that holds what is no sign, however deep in what was sent. */
function refuseOddText(given: unknown, path: string): void {
  if (typeof given === 'string' && ODD_TEXT.test(given)) {
    const message = 'The text holds something that is no sign (NUL, or half of a pair). Type it anew.';
    throw new Problem(400, 'invalid', message, { fields: { [path]: message } });
  }
  if (typeof given !== 'object' || given === null) return;
  for (const [name, inner] of Object.entries(given)) {
    refuseOddText(name, path);
    refuseOddText(inner, path === '' ? name : `${path}.${name}`);
  }
}

function keyOf(request: Request, body: unknown): { key: string; body: unknown } | null {
  const key = request.headers['idempotency-key'];
  if (typeof key !== 'string' || key === '') return null;
  if (key.length > 100) throw new Problem(400, 'bad-key', 'An Idempotency-Key has at most 100 characters.');
  return { key, body };
}

function answerTo(error: unknown, requestId: string): { status: number; body: ApiError } {
  if (error instanceof Problem)
    return { status: error.status, body: { error: { code: error.code, message: error.message, ...error.extra } } };
  if (error instanceof ZodError) {
    const fields = Object.fromEntries(error.issues.map((issue) => [issue.path.join('.'), issue.message]));
    const first = error.issues[0];
    const where = first && first.path.length > 0 ? ` (${first.path.join('.')})` : '';
    return {
      status: 400,
      body: { error: { code: 'invalid', message: `${first?.message ?? 'The request is not valid.'}${where}`, fields } },
    };
  }
  const parse = error as { type?: string; status?: number };
  if (parse.type === 'entity.too.large')
    return {
      status: 413,
      body: { error: { code: 'too-large', message: 'The request is larger than is taken here.' } },
    };
  if (parse.type === 'entity.parse.failed')
    return { status: 400, body: { error: { code: 'bad-json', message: 'The body is not JSON.' } } };
  if (isDatabaseGone(error))
    return {
      status: 503,
      body: {
        error: {
          code: 'database-away',
          message: 'The database is not answering. This request changed nothing; it can be tried again in a moment.',
          requestId,
        },
      },
    };
  return {
    status: 500,
    body: {
      error: {
        code: 'unexpected',
        message: `Something went wrong on our side (request ${requestId}). Nothing was changed by it.`,
        requestId,
      },
    },
  };
}
