import { constants } from 'node:zlib';
import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import compression from 'compression';
import express from 'express';
import staticCompressed from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { rateLimit } from 'express-rate-limit';
import { builder } from './area.ts';
import type { Area, Base } from './area.ts';
import type { AppConfig } from './config.ts';
import { depositsArea } from './deposits/index.ts';
import { duplicatesArea } from './duplicates/index.ts';
import { factsArea } from './facts/index.ts';
import { feedsArea } from './feeds/index.ts';
import { findArea } from './find/index.ts';
import { giftsArea } from './gifts/index.ts';
import { historyArea } from './history/index.ts';
import { intakeArea } from './intake/index.ts';
import { jobsArea } from './jobs/index.ts';
import { lettersArea } from './letters/index.ts';
import { outreachArea, PUBLIC_STYLE } from './outreach/index.ts';
import { pledgesArea } from './pledges/index.ts';
import { recurringArea } from './recurring/index.ts';
import { searchArea } from './search/index.ts';
import { segmentsArea } from './segments/index.ts';
import { sessionArea } from './session/index.ts';
import { settingsArea } from './settings/index.ts';
import { sheetsArea } from './sheets/index.ts';
import { supportersArea } from './supporters/index.ts';
import { thanksArea } from './thanks/index.ts';
import { upkeepArea } from './upkeep/index.ts';
import { AccessLog } from './platform/access-log.ts';
import { Auth } from './platform/auth.ts';
import { Changes } from './platform/changes.ts';
import { Clock } from './platform/clock.ts';
import { openDatabase, sqlOn } from './platform/db.ts';
import { Http } from './platform/http.ts';
import { Jobs } from './platform/jobs.ts';
import { openLog } from './platform/log.ts';
import { Problem } from './platform/problem.ts';
import { Pulse } from './platform/pulse.ts';
import { apiPage } from './platform/api-page.ts';
import { openApi } from './platform/openapi.ts';
import { declaredTables } from './platform/tables.ts';

export type { AppConfig } from './config.ts';

/** Every area there is. Their order does not matter: each builds what it needs before itself. */
const AREAS = [
  ...[
    sessionArea,
    settingsArea,
    supportersArea,
    findArea,
    searchArea,
    giftsArea,
    pledgesArea,
    recurringArea,
    sheetsArea,
  ],
  ...[depositsArea, segmentsArea, intakeArea, feedsArea, outreachArea, lettersArea, thanksArea, historyArea, jobsArea],
  ...[duplicatesArea, upkeepArea, factsArea],
] as const;

type ServicesIn<A> = A extends Area<infer S> ? S : never;
type Both<U> = (U extends unknown ? (one: U) => void : never) extends (all: infer I) => void ? I : never;

/** The services of all areas, with what they are built on. */
export type Services = Both<ServicesIn<(typeof AREAS)[number]>> & Pick<Base, 'source' | 'clock' | 'changes' | 'jobs'>;

export const VERSION = '0.1.0';

export class App {
  private server: Server | null = null;

  private constructor(
    readonly services: Services,
    /** Ids of the endpoints that are served. */
    readonly served: ReadonlySet<string>,
    private readonly express: express.Express,
    private readonly closers: (() => Promise<void> | void)[],
    private readonly beginners: (() => Promise<void>)[],
    private readonly address: { url: string | null },
  ) {}

  /** Opens the database, brings its tables up to date, and builds the areas; `listen` then serves them. */
  static async open(config: AppConfig): Promise<App> {
    const log = openLog(config.logLevel, config.logFile ?? null);
    const source = await openDatabase(config.databaseUrl, [...declaredTables()]).initialize();
    await source.runMigrations();
    const sql = sqlOn(source);
    const clock = new Clock(config.today);
    const changes = new Changes(source, clock);
    const jobs = new Jobs(sql, clock, log);
    const web = frame(config, log);
    const auth = new Auth(sql, clock);
    const accesses = new AccessLog(sql, clock);
    const pulse = new Pulse(config.databaseUrl, config.patience);
    const http = new Http(web, auth, accesses, pulse, log);
    const address: { url: string | null } = { url: config.publicUrl };
    const closers: (() => Promise<void> | void)[] = [() => source.destroy(), () => pulse.stop(), () => jobs.stop()];
    const beginners: (() => Promise<void>)[] = [];
    const of = builder({
      ...{ config, source, sql, clock, changes, jobs, log, http, auth, accesses },
      address: () => address.url ?? '',
      onClose: (close) => void closers.push(close),
      onListen: (begin) => void beginners.push(begin),
    });
    const services = Object.assign(
      { source, clock, changes, jobs },
      ...AREAS.map((one) => of<object>(one)),
    ) as Services;
    http.unknown();
    if (config.webFolder) servePages(web, config.webFolder);
    http.errors();
    return new App(services, http.served, web, closers, beginners, address);
  }

  /** Listens on loopback and begins to work on jobs; answers the URL. */
  async listen(port: number): Promise<string> {
    const server = createServer(this.express);
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', resolve);
    });
    this.server = server;
    const { port: bound } = server.address() as AddressInfo;
    const url = `http://127.0.0.1:${bound}`;
    this.address.url ??= url;
    for (const begin of this.beginners) await begin();
    this.services.jobs.start();
    return url;
  }

  /** Ends what is open, the last opened first; answers that are being streamed end before the server does. */
  async close(): Promise<void> {
    const { server } = this;
    const [first, ...rest] = this.closers.toReversed();
    await first?.();
    if (server)
      await new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      });
    for (const close of rest) await close();
  }
}

/** Names of this computer, under which it is always reached. */
const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];
const hostOf = (address: string): string => new URL(address).hostname;

/** Answers only under names that are set: another site that leads its own name here gets nothing. */
function refuseOtherNames({ publicUrl, hosts = [] }: AppConfig): express.RequestHandler {
  const ours = new Set([...LOOPBACK, ...hosts, ...(publicUrl === null ? [] : [hostOf(publicUrl)])]);
  return (request, _response, next) => {
    const asked = request.headers.host ?? '';
    if (URL.canParse(`http://${asked}`) && ours.has(hostOf(`http://${asked}`))) return next();
    throw new Problem(
      421,
      'unknown-host',
      'Tallystick does not answer under this name. Whoever runs it can set the address that it is reached at (PUBLIC_URL), or more names (TALLYSTICK_HOSTS).',
    );
  };
}

function frame(config: AppConfig, log: Logger): express.Express {
  const web = express();
  web.disable('x-powered-by');
  web.set('trust proxy', config.trustProxy ?? false);
  web.use(refuseOtherNames(config));
  web.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          styleSrcAttr: ["'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          frameSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: config.publicUrl?.startsWith('https:') ?? false,
    }),
  );
  // What is answered here is somebody's; no store on the way, nor the browser's, keeps it.
  web.use(['/api', '/unsubscribe'], (_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  web.use(
    '/api',
    rateLimit({
      ...{ windowMs: 60_000, limit: 6000, standardHeaders: 'draft-8', legacyHeaders: false, validate: false },
      handler: (_request, _response, next) =>
        next(new Problem(429, 'too-many', 'Too many requests came from here in the last minute; wait a little.')),
    }),
  );
  web.use((request, response, next) => {
    const begun = performance.now();
    response.on('finish', () =>
      log.debug({
        method: request.method,
        path: request.path,
        status: response.statusCode,
        ms: Math.round(performance.now() - begun),
      }),
    );
    next();
  });
  // Lightly: packed as hard as is usual, a page of 120 kB takes a millisecond more and is no smaller.
  web.use(
    compression({
      level: 1,
      brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } },
      filter: (request, response) => !isStream(response) && compression.filter(request, response),
    }),
  );
  web.get('/api/v1/openapi.json', (_request, response) => void response.json(openApi(VERSION)));
  web.use('/api/v1/docs', apiPage());
  web.get('/public.css', (_request, response) => void response.type('css').send(PUBLIC_STYLE));
  return web;
}

/** A stream of events is sent word by word, which a compressor would gather. */
const isStream = (response: express.Response): boolean =>
  String(response.getHeader('Content-Type')).startsWith('text/event-stream');

function servePages(web: express.Express, folder: string): void {
  const index = join(folder, 'index.html');
  if (!existsSync(index)) throw new Error(`The web app is not built: ${index} is missing.`);
  web.use(
    '/assets',
    staticCompressed(join(folder, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br', 'gzip'],
      serveStatic: { immutable: true, maxAge: '1y' },
    }),
    (_request, response) => void response.status(404).end(),
  );
  web.use(express.static(folder, { index: false }));
  web.get('/{*path}', (_request, response) => void response.setHeader('Cache-Control', 'no-cache').sendFile(index));
}
