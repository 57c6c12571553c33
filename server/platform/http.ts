import { randomUUID } from 'node:crypto';
import type { Express, NextFunction, Request, Response } from 'express';
import type { Logger } from 'pino';
import { ZodError } from 'zod';
import type { z } from 'zod';
import type { AnyEndpoint, Endpoint, Role } from '@tallystick/contract/endpoint';
import type { ApiError } from '@tallystick/contract/common';
import type { Actor } from './changes.ts';
import { isOwnOrigin } from './auth.ts';
import { mayDo } from '@tallystick/contract/rights';
import type { AccessLog } from './access-log.ts';
import type { Auth, Caller } from './auth.ts';
import { cleanText, readJson } from './body.ts';
import type { Pulse } from './pulse.ts';
import { codeOf, isDatabaseGone, Problem } from './problem.ts';

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

/** So many rows in one answer are the reading of a whole list. */
const MUCH = 500;
const VISITOR: Actor = { userId: null, name: 'a visitor' };

const actorOf = ({ userId, name, role }: Caller, asked: Role | 'public'): Actor => ({
  ...{ userId, name, role },
  least: asked === 'public' ? undefined : asked,
});

/** Serves endpoints of the contract: parse, authorise, call, answer; nothing else happens in a route. */
/** What a question asks about, by name. */
type Asked = Record<string, unknown>;
/** May put other values in the place of what a question on a path asks about. */
type LookOver = (path: string, params: Asked, query: Asked) => Promise<void>;

export class Http {
  /** Ids of the endpoints that are served, so that a test can hold them against the contract. */
  readonly served = new Set<string>();
  private readonly looks: LookOver[] = [];

  constructor(
    readonly app: Express,
    private readonly auth: Auth,
    private readonly accesses: AccessLog,
    private readonly pulse: Pulse,
    private readonly log: Logger,
  ) {}

  /** Has questions (GET) be looked over once they are read, before they are answered. */
  before(look: LookOver): void {
    this.looks.push(look);
  }

  on<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
    endpoint: Endpoint<P, Q, B, R>,
    handler: (call: Call<z.output<P>, z.output<Q>, z.output<B>>) => Promise<z.input<R> | undefined>,
  ): void {
    this.served.add(endpoint.id);
    this.app[endpoint.method](`/api/v1${endpoint.path}`, (request, response) =>
      this.pulse.during(() => this.answer(endpoint, handler, request, response)),
    );
  }

  private async answer<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
    endpoint: Endpoint<P, Q, B, R>,
    handler: (call: Call<z.output<P>, z.output<Q>, z.output<B>>) => Promise<z.input<R> | undefined>,
    request: Request,
    response: Response,
  ): Promise<void> {
    // First who asks and whether they may, then what they send.
    const caller = await this.auth.caller(request);
    response.locals['caller'] = caller;
    this.authorise(endpoint, caller, request);
    const body = endpoint.consumes ? {} : await readJson(request, response, caller !== null);
    cleanText(body);
    const call = {
      params: endpoint.params.parse(request.params),
      query: endpoint.query.parse(request.query),
      body: endpoint.body.parse(body),
      actor: caller ? actorOf(caller, endpoint.role) : VISITOR,
      caller,
      key: keyOf(request, { ...(body as object), path: request.path }),
      request,
      response,
    };
    if (endpoint.method === 'get')
      for (const look of this.looks) await look(endpoint.path, call.params as Asked, call.query as Asked);
    // Before anything leaves: a file that is cut off on its way was taken out, too.
    const takesOut = endpoint.logs === 'export';
    if (takesOut) await this.note(endpoint, call.actor, request, undefined);
    const answer = await handler(call);
    if (!takesOut) await this.note(endpoint, call.actor, request, answer);
    if (answer !== undefined && !response.headersSent) response.json(answer);
  }

  /** Notes what takes much out, and what changes who may what. */
  private async note(endpoint: AnyEndpoint, actor: Actor, request: Request, answer: unknown): Promise<void> {
    // What was looked for is not noted: it is somebody's name as a rule.
    const { q: _sought, cursor: _place, ...query } = request.query;
    const asked = `${endpoint.id} ${new URLSearchParams(query as Record<string, string>)}`.trim();
    if (endpoint.logs) return this.accesses.note(endpoint.logs, actor, request.ip ?? '', asked);
    const { items } = (answer ?? {}) as { items?: unknown };
    if (Array.isArray(items) && items.length >= MUCH)
      await this.accesses.note('list', actor, request.ip ?? '', `${asked}: ${items.length} rows`);
  }

  /** Notes that somebody was refused. Who only is not signed in is not, since every page asks that first. */
  private async noteRefusal(error: unknown, request: Request, response: Response): Promise<void> {
    if (!(error instanceof Problem) || ![401, 403, 421, 429].includes(error.status) || error.code === 'signed-out')
      return;
    const caller = response.locals['caller'] as Caller | null | undefined;
    const says = `${error.code}: ${request.method} ${request.path}`;
    await this.accesses.note('refused', caller ?? VISITOR, request.ip ?? '', says).catch(() => undefined);
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
    this.app.use(async (error: unknown, request: Request, response: Response, _next: NextFunction) => {
      await this.noteRefusal(error, request, response);
      if (isGone(error, response)) return void response.end();
      const requestId = randomUUID().slice(0, 8);
      const { status, body } = answerTo(error, requestId);
      if (status >= 500) this.log.error({ err: error, requestId, path: request.path }, 'request failed');
      // What was sent in part is cut off, or it would be taken for whole.
      if (response.headersSent) response.destroy();
      else if (!request.path.startsWith('/api')) response.status(status).type('text').send(body.error.message);
      else {
        // An answer that fails half-made is no longer the file that it was to be.
        response.removeHeader('Content-Disposition');
        response.status(status).type('json').json(body);
      }
    });
  }
}

function keyOf(request: Request, body: unknown): { key: string; body: unknown } | null {
  const key = request.headers['idempotency-key'];
  if (typeof key !== 'string' || key === '') return null;
  if (key.length > 100) throw new Problem(400, 'bad-key', 'An Idempotency-Key has at most 100 characters.');
  return { key, body };
}

/** What the framework refuses by itself, in words, by its type or code. */
const REFUSED: Readonly<Record<string, [code: string, message: string]>> = {
  'entity.too.large': ['too-large', 'The request is larger than is taken here.'],
  'entity.parse.failed': ['bad-json', 'The body is not JSON.'],
  'entity.verify.failed': ['bad-json', 'The body is not JSON.'],
  'encoding.unsupported': ['bad-encoding', 'The body is packed in a way that is not taken here; send it plain.'],
  'charset.unsupported': ['bad-charset', 'The body is written in a way that is not taken here; send UTF-8.'],
  'request.aborted': ['aborted', 'The request ended before its body did.'],
  'request.size.invalid': ['bad-length', 'The body is not as long as was said.'],
};

/** An error of the framework that is the request's own fault (400 to 499), in the one shape; null for any other. */
function refusalOf(error: unknown): { status: number; body: ApiError } | null {
  const { type = '', status = 0 } = error as { type?: string; status?: number };
  if (status < 400 || status > 499) return null;
  const [code, message] =
    REFUSED[type] ??
    (error instanceof URIError
      ? [
          'bad-address',
          'The address is not written as one: a percent sign in it stands before something else than a code.',
        ]
      : ['refused', 'The request asks for something in a way that is not taken here.']);
  return { status, body: { error: { code, message } } };
}

/** Whether the other end went away: nothing failed here, and nobody reads an answer. */
const isGone = (error: unknown, response: Response): boolean =>
  response.destroyed || ['ECONNABORTED', 'ECONNRESET', 'EPIPE', 'ERR_STREAM_PREMATURE_CLOSE'].includes(codeOf(error));

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
  const refused = refusalOf(error);
  if (refused) return refused;
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
