import { randomBytes } from 'node:crypto';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { DEMO_ORGANIZATION, isSetUp, loadDemo, setUpEmpty } from '@tallystick/demo/load';
import { portalLines } from '@tallystick/demo/portal';
import { dateInZone } from '@tallystick/core/dates';
import { PortalStore } from '@tallystick/standins/portal';
import { startMariaDb } from './mariadb.ts';
import { ExitError, ROOT, startProgram } from './processes.ts';
import type { Running } from './processes.ts';
import { Plain } from './options.ts';
import type { Options } from './options.ts';

export interface Stack {
  url: string;
  mailRoom: string;
  /** The pages of the stand-in till and the stand-in giving portal, each empty with a real one. */
  till: string;
  portal: string;
  databaseUrl: string;
  stop(): Promise<void>;
}

/** Whether nothing listens on a port of the loopback. */
export async function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

/**
 * Starts everything: the database (or the one that DATABASE_URL names), the mail room, and the server, with the
 * demo loaded into a database that is still empty. `stop` ends what was started, in the opposite order.
 */
export async function startStack(
  options: Options,
  say: (line: string) => void,
  webFolder: string | null = join(ROOT, 'web', 'dist'),
): Promise<Stack> {
  if (!(await isFree(options.port)))
    throw new Plain(
      `Port ${options.port} is in use. Stop what uses it, or choose another with --port N. Nothing was started.`,
    );
  const stops: (() => Promise<void>)[] = [];
  let stopping = false;
  const stop = async (): Promise<void> => {
    stopping = true;
    for (const one of stops.toReversed()) await one();
  };
  try {
    const databaseUrl = process.env['DATABASE_URL'] ?? (await ownDatabase(options, stops, () => stopping, say));
    if (!(await isSetUp(databaseUrl))) {
      const begun = performance.now();
      say(options.empty ? 'Setting up an empty database …' : 'Loading the demo …');
      if (options.empty) await setUpEmpty(databaseUrl);
      else {
        const counts = await loadDemo(databaseUrl, { today: options.today });
        say(
          `  ${counts.supporters} supporters and ${counts.gifts} gifts in ${((performance.now() - begun) / 1000).toFixed(1)} s`,
        );
      }
    }
    const secret = process.env['TILL_SECRET'] ?? randomBytes(24).toString('hex');
    const till = process.env['TILL_URL'] ? null : await startTill(options, secret);
    if (till) stops.push(till.stop);
    const portalSecret = process.env['PORTAL_SECRET'] ?? randomBytes(24).toString('hex');
    const portal = process.env['PORTAL_URL'] ? null : await startPortal(options, portalSecret);
    if (portal) stops.push(portal.stop);
    const room = await startMailRoom(options);
    stops.push(room.stop);
    const [mailRoom = '', smtpPort = ''] = room.said;
    const environment = {
      DATABASE_URL: databaseUrl,
      SMTP_URL: process.env['SMTP_URL'] ?? `smtp://127.0.0.1:${smtpPort}`,
      MAIL_ROOM_URL: process.env['SMTP_URL'] ? '' : mailRoom,
      TILL_URL: process.env['TILL_URL'] ?? till?.said[0] ?? '',
      TILL_SECRET: secret,
      PORTAL_URL: process.env['PORTAL_URL'] ?? portal?.said[0] ?? '',
      PORTAL_SECRET: portalSecret,
      TALLYSTICK_TODAY: options.today ?? '',
      TALLYSTICK_DEMO: options.empty ? '0' : '1',
      TALLYSTICK_WEB: webFolder ?? '',
      PORT: String(options.port),
      LOG_FILE: join(options.data, 'logs', 'server'),
    };
    const server = await keptRunning(
      () => startProgram('server/main.ts', [], environment),
      () => stopping,
      say,
    );
    stops.push(server.stop);
    return {
      url: server.said[0] ?? '',
      mailRoom,
      till: till?.said[0] ?? '',
      portal: portal?.said[0] ?? '',
      databaseUrl,
      stop,
    };
  } catch (error) {
    await stop();
    if (error instanceof ExitError && error.code === 3)
      throw new Plain(`Port ${options.port} is in use. Choose another with --port N.`);
    throw error;
  }
}

/** How long until what ended by itself is started again, in seconds; longer each time that it does not last. */
const PAUSES = [1, 2, 5, 10, 30];
/** What ran so long has lasted. */
const LASTED_MS = 60_000;

/** A program that is started again when it ends by itself, with growing pauses. `stop` ends it for good. */
async function keptRunning(
  start: () => Promise<Running>,
  stopping: () => boolean,
  say: (line: string) => void,
): Promise<Running> {
  let now = await start();
  let begun = Date.now();
  let failures = 0;
  let timer: NodeJS.Timeout | undefined;
  const watch = (): void => void now.child.once('exit', again);
  const again = (): void => {
    if (stopping()) return;
    failures = Date.now() - begun > LASTED_MS ? 0 : failures;
    const pause = PAUSES[Math.min(failures++, PAUSES.length - 1)] ?? 30;
    say(`The server ended by itself; starting it again in ${pause} s. Its log is in the data folder, under logs.`);
    timer = setTimeout(() => {
      begun = Date.now();
      start().then((next) => {
        now = next;
        if (stopping()) return void next.stop();
        say('The server runs again.');
        watch();
      }, again);
    }, pause * 1000);
  };
  watch();
  return {
    said: now.said,
    child: now.child,
    stop() {
      clearTimeout(timer);
      return now.stop();
    },
  };
}

/** Our own database, started again when it ends by itself; the server waits for it meanwhile. */
async function ownDatabase(
  options: Options,
  stops: (() => Promise<void>)[],
  stopping: () => boolean,
  say: (line: string) => void,
): Promise<string> {
  const start = async (port?: number) =>
    startMariaDb(options.data, {
      ...(port === undefined ? {} : { port }),
      ...(options.supporters ? { bufferPool: '2G' } : {}),
      onExit: () => {
        if (stopping()) return;
        say('The database ended; starting it again …');
        setTimeout(
          () =>
            void start(Number(new URL(database.url).port)).then(
              (next) => (database = next),
              (error: unknown) => say(String(error)),
            ),
          1000,
        );
      },
    });
  let database = await start();
  stops.push(() => database.stop());
  return database.url;
}

async function startMailRoom(options: Options): Promise<Running> {
  const http = (await isFree(options.port + 1)) ? options.port + 1 : 0;
  return startProgram('standins/mailroom/main.ts', [join(options.data, 'mailroom'), '0', String(http)]);
}

/** The till reports to the server's own port, which is free and will be its. */
async function startTill(options: Options, secret: string): Promise<Running> {
  const port = (await isFree(options.port + 2)) ? options.port + 2 : 0;
  const hook = `http://127.0.0.1:${options.port}/api/v1/card-processor/events`;
  return startProgram('standins/till/main.ts', [join(options.data, 'till'), hook, String(port)], {
    TILL_SECRET: secret,
  });
}

/** The giving portal, with what the demo has in it where it starts for the first time. */
async function startPortal(options: Options, secret: string): Promise<Running> {
  const folder = join(options.data, 'portal');
  const store = new PortalStore(folder);
  if (!options.empty && store.campaigns.length === 0)
    for (const line of portalLines(options.today ?? dateInZone(new Date(), DEMO_ORGANIZATION.time_zone)))
      store.keep(line);
  const port = (await isFree(options.port + 3)) ? options.port + 3 : 0;
  return startProgram('standins/portal/main.ts', [folder, String(port)], { PORTAL_SECRET: secret });
}
