import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openMailRoom } from '@tallystick/standins/mailroom';
import type { MailRoom } from '@tallystick/standins/mailroom';
import { startProgram } from '../../scripts/lib/processes.ts';
import type { Running } from '../../scripts/lib/processes.ts';
import { FakeMailer, freshDatabase, openTestApp, TODAY } from './support.ts';
import type { TestApp } from './support.ts';

/* Servers of their own processes, which can be paused and killed, and the mail room that counts what they send. */

export interface TestRoom extends Pick<MailRoom, 'smtpPort' | 'postbox'> {
  close(): Promise<void>;
}

/** A mail room over a folder of its own. */
export async function openTestRoom(): Promise<TestRoom> {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-mail-'));
  const { smtpPort, postbox, close } = await openMailRoom(folder);
  return {
    ...{ smtpPort, postbox },
    async close() {
      await close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A server of its own process over a database; resolves once it listens, with where. `more` is told it besides. */
export function startServer(
  databaseUrl: string,
  smtpPort?: number,
  more: Readonly<Record<string, string>> = {},
): Promise<Running> {
  return startProgram('server/main.ts', [], {
    ...{ DATABASE_URL: databaseUrl, PORT: '0', TALLYSTICK_TODAY: TODAY },
    ...(smtpPort === undefined ? {} : { SMTP_URL: `smtp://127.0.0.1:${smtpPort}` }),
    ...more,
  });
}

export const killServer = ({ child }: Running): Promise<void> =>
  new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGKILL');
  });

/** A database with what `prepare` puts in it, and jobs that no one works on yet. */
export async function prepared<T>(
  prepare: (app: TestApp) => Promise<T>,
): Promise<{ databaseUrl: string; app: TestApp; value: T }> {
  const databaseUrl = await freshDatabase();
  const app = await openTestApp({ databaseUrl, mailer: new FakeMailer() });
  const value = await prepare(app);
  await app.services.jobs.stop();
  return { databaseUrl, app, value };
}
