import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import express from 'express';
import helmet from 'helmet';
import { pino } from 'pino';
import type { Logger } from 'pino';
import { rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import * as changesContract from '@tallystick/contract/changes';
import * as jobsContract from '@tallystick/contract/jobs';
import { startFacts } from './facts/index.ts';
import { Anything, serveFind, startFind } from './find/index.ts';
import { Deposits, Ledger, serveDeposits } from './deposits/index.ts';
import { Corrections, Gifts, GiftTotals, refuseUndo, serveGifts, giftsOfRecord } from './gifts/index.ts';
import { History } from './history/index.ts';
import { Intakes, serveIntake } from './intake/index.ts';
import { Letters, serveLetters } from './letters/index.ts';
import { Addressees, Deliveries, Mailings, PUBLIC_STYLE, serveOutreach, serveUnsubscribe } from './outreach/index.ts';
import { Auth } from './platform/auth.ts';
import { Changes } from './platform/changes.ts';
import { Clock } from './platform/clock.ts';
import { decodeCursor, encodeCursor } from './platform/cursor.ts';
import { openDatabase, sqlOn } from './platform/db.ts';
import { Http } from './platform/http.ts';
import { Jobs, jobView } from './platform/jobs.ts';
import { SmtpMailer } from './platform/mail.ts';
import type { Mailer } from './platform/mail.ts';
import { apiPage, API_STYLE, openApi } from './platform/openapi.ts';
import { Problem } from './platform/problem.ts';
import { Stream } from './platform/stream.ts';
import { declaredTables } from './platform/tables.ts';
import { Pledges, servePledges, pledgesOfRecord } from './pledges/index.ts';
import { Charges, everyMorning, Recurring, serveRecurring, Till, failingOfRecord } from './recurring/index.ts';
import type { TillConfig } from './recurring/index.ts';
import { Segments, serveSegments } from './segments/index.ts';
import { Accounts, serveSession } from './session/index.ts';
import {
  Fields,
  PlacesSetup,
  serveFields,
  servePlaces,
  serveSettings,
  serveViews,
  Settings,
  Views,
} from './settings/index.ts';
import { serveSheets, Sheets } from './sheets/index.ts';
import * as people from './supporters/index.ts';
import { serveThanks, Thanks } from './thanks/index.ts';

export interface AppConfig {
  databaseUrl: string;
  smtpUrl: string;
  /** Holds 'today' still; null for the real calendar. */
  today: string | null;
  demo: boolean;
  /** The card till; null where cards are not charged. */
  till: TillConfig | null;
  /** How long the till is waited for, in milliseconds. */
  tillPatience?: number;
  /** Where the mail room's inbox is read; null with a real mail server. */
  mailRoom: string | null;
  /** The built web app; null serves the API alone. */
  webFolder: string | null;
  /** The address people reach us at; null takes the address that we listen on. */
  publicUrl: string | null;
  logLevel: string;
  mailer?: Mailer;
}

export const VERSION = '0.1.0';

/** Everything the server is made of, wired once. */
export interface Services {
  source: DataSource;
  clock: Clock;
  changes: Changes;
  jobs: Jobs;
  settings: Settings;
  accounts: Accounts;
  supporters: people.Supporters;
  lists: people.SupporterLists;
  acts: people.Acts;
  fields: Fields;
  gifts: Gifts;
  pledges: Pledges;
  recurring: Recurring;
  charges: Charges;
  sheets: Sheets;
  deposits: Deposits;
  ledger: Ledger;
  segments: Segments;
  intakes: Intakes;
  letters: Letters;
  mailings: Mailings;
  thanks: Thanks;
}

export class App {
  private server: Server | null = null;
  /** Ids of the endpoints that are served. */
  readonly served: ReadonlySet<string>;

  private constructor(
    readonly services: Services,
    private readonly express: express.Express,
    private readonly closers: (() => Promise<void> | void)[],
    http: Http,
    private readonly address: { url: string | null },
    private readonly till: TillConfig | null,
  ) {
    this.served = http.served;
  }

  /** Opens the database, brings its tables up to date, and wires the services; `listen` then serves them. */
  static async open(config: AppConfig): Promise<App> {
    const log = pino({ level: config.logLevel, redact: ['req.headers.cookie', 'req.headers.authorization'] });
    const source = await openDatabase(config.databaseUrl, [...declaredTables()]).initialize();
    await source.runMigrations();
    const sql = sqlOn(source);
    const clock = new Clock(config.today);
    const changes = new Changes(source, clock);
    const jobs = new Jobs(sql, clock, log);
    const settings = new Settings(source, clock);
    const facts = startFacts(config.databaseUrl);
    const finder = startFind(config.databaseUrl);
    const history = new History(source);
    const accounts = new Accounts(source, changes, clock);
    const parts = new people.RecordParts();
    parts.add((of) => giftsOfRecord(sql, of));
    parts.add((of) => pledgesOfRecord(sql, of));
    parts.add((of) => failingOfRecord(sql, of));
    const supporters = new people.Supporters(source, changes, settings, facts, parts, (id, sets) =>
      history.changesSince(id, sets),
    );
    const lists = new people.SupporterLists(source, settings, facts, finder);
    const acts = new people.Acts(source, changes, settings, lists, jobs);
    const tasks = new people.Tasks(source, changes, settings);
    const fields = new Fields(source, changes);
    const gifts = new Gifts(source, changes, settings, (query) => totals.sumOf(query));
    changes.beforeUndo(refuseUndo);
    const till = config.till ? new Till(config.till, config.tillPatience) : null;
    const corrections = new Corrections(changes, settings, (...gift) => charges.giveBack(...gift));
    const charges: Charges = new Charges(source, changes, settings, jobs, till, corrections);
    const recurring = new Recurring(source, changes, settings);
    const pledges = new Pledges(source, changes, settings);
    const deposits = new Deposits(source, changes, settings);
    const ledger = new Ledger(source, changes, settings);
    const sheets = new Sheets(source, changes, settings);
    const segments = new Segments(source, changes, settings, facts);
    const totals: GiftTotals = new GiftTotals(source, settings, facts, (id) => segments.membersOf(id));
    const intakes = new Intakes(source, changes, settings, jobs);
    const letters = new Letters(source, changes);
    const addressees = new Addressees(sql, facts, settings, new people.Addressing(sql, settings));
    const deliveries = new Deliveries(sql, changes, config.mailer ?? new SmtpMailer(config.smtpUrl), clock, settings);
    const address: { url: string | null } = { url: config.publicUrl };
    const mailings = new Mailings(
      source,
      changes,
      settings,
      segments,
      addressees,
      deliveries,
      jobs,
      () => address.url ?? '',
    );
    const thanks = new Thanks(source, changes, settings, gifts, letters, addressees, deliveries, jobs);
    const stream = new Stream(sql, jobs, changes);
    const services: Services = {
      source,
      clock,
      changes,
      jobs,
      settings,
      accounts,
      supporters,
      lists,
      acts,
      fields,
      gifts,
      pledges,
      recurring,
      charges,
      sheets,
      deposits,
      ledger,
      segments,
      intakes,
      letters,
      mailings,
      thanks,
    };

    const web = frame(config, log);
    const auth = new Auth(sql, clock);
    const http = new Http(web, auth, log);
    serveSession(http, accounts, auth, settings, {
      demo: config.demo,
      mailRoom: config.mailRoom,
      till: config.demo ? (config.till?.url ?? null) : null,
      secureCookies: config.publicUrl?.startsWith('https:') ?? false,
    });
    const notice = new people.Notice(source, settings, finder);
    people.serveSupporters(http, {
      supporters,
      lists,
      acts,
      notice,
      trash: new people.Trash(source, changes),
      history,
    });
    people.serveRelations(http, new people.Relations(source, changes, settings));
    const documents = new people.Documents(source, changes, settings);
    people.serveNotes(http, new people.Notes(source, changes), tasks, documents);
    people.serveTasks(http, tasks);
    people.serveDocuments(http, documents);
    people.serveTags(http, new people.Tags(source, changes));
    serveFind(http, new Anything(source, finder));
    serveFields(http, fields);
    serveViews(http, new Views(source, changes));
    serveGifts(http, gifts, corrections, totals);
    servePledges(http, pledges);
    serveRecurring(http, recurring, charges, till, clock);
    serveSheets(http, sheets);
    serveDeposits(http, deposits, ledger);
    servePlaces(http, new PlacesSetup(source, changes));
    serveSegments(http, segments, lists);
    serveIntake(http, intakes);
    serveOutreach(http, mailings);
    serveLetters(http, letters);
    serveThanks(http, thanks);
    serveSettings(http, settings, changes);
    serveChanges(http, changes);
    serveJobs(http, jobs, stream);
    http.unknown();
    serveUnsubscribe(web, source, changes, settings);
    if (config.webFolder) servePages(web, config.webFolder);
    http.errors();
    return new App(
      services,
      web,
      [() => stream.close(), () => jobs.stop(), () => facts.close(), () => finder.close(), () => source.destroy()],
      http,
      address,
      config.till,
    );
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
    this.services.jobs.start();
    if (this.till) {
      const { time_zone } = await this.services.settings.organization();
      this.closers.push(everyMorning(this.services.charges, time_zone));
    }
    return url;
  }

  async close(): Promise<void> {
    const { server } = this;
    const [streams, ...rest] = this.closers;
    await streams?.();
    if (server)
      await new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      });
    for (const close of rest) await close();
  }
}

function frame(config: AppConfig, log: Logger): express.Express {
  const web = express();
  web.disable('x-powered-by');
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
  web.use(
    '/api',
    rateLimit({ windowMs: 60_000, limit: 6000, standardHeaders: 'draft-8', legacyHeaders: false, validate: false }),
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
  web.get('/api/v1/openapi.json', (_request, response) => void response.json(openApi(VERSION)));
  web.get('/api/v1/docs', (_request, response) => void response.type('html').send(apiPage()));
  web.get('/api/v1/docs.css', (_request, response) => void response.type('css').send(API_STYLE));
  web.get('/public.css', (_request, response) => void response.type('css').send(PUBLIC_STYLE));
  return web;
}

function servePages(web: express.Express, folder: string): void {
  const index = join(folder, 'index.html');
  if (!existsSync(index)) throw new Error(`The web app is not built: ${index} is missing.`);
  web.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y' }),
    (_request, response) => void response.status(404).end(),
  );
  web.use(express.static(folder, { index: false }));
  web.get('/{*path}', (_request, response) => void response.setHeader('Cache-Control', 'no-cache').sendFile(index));
}

function serveChanges(http: Http, changes: Changes): void {
  http.on(changesContract.listChanges, async ({ query, actor }) => {
    const before = decodeCursor(query.cursor)?.id ?? null;
    const items = await changes.list(before, query.limit, query.mine === 'yes' ? actor.userId : null);
    const last = items.at(-1);
    return {
      items,
      next: last && items.length === query.limit ? encodeCursor({ value: '', id: last.revision }) : null,
    };
  });
  http.on(changesContract.undoChange, async ({ params, actor, caller }) => {
    const set = await changes.find(params.revision);
    if (caller?.role === 'entry' && set.user_id !== caller.userId)
      throw new Problem(403, 'not-allowed', 'Your role undoes your own changes only. Ask a development officer.');
    return changes.undo(actor, params.revision);
  });
}

function serveJobs(http: Http, jobs: Jobs, stream: Stream): void {
  http.on(jobsContract.listJobs, async ({ actor }) => ({
    items: (await jobs.recent()).map((job) => jobView(job, actor.userId)),
  }));
  http.on(jobsContract.streamJobs, async ({ response, actor }) => {
    stream.add(response, actor.userId);
    return undefined;
  });
  http.on(jobsContract.getJob, async ({ params, actor }) => jobView(await jobs.get(params.id), actor.userId));
  http.on(jobsContract.cancelJob, async ({ params, actor }) => {
    await jobs.cancel(params.id);
    return jobView(await jobs.get(params.id), actor.userId);
  });
}
