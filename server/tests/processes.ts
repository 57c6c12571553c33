import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openMailRoom } from '@tallystick/standins/mailroom';
import type { MailRoom } from '@tallystick/standins/mailroom';
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

/** A server of its own process over a database; resolves once it listens. */
export async function startServer(databaseUrl: string, smtpPort: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', join(import.meta.dirname, '..', 'main.ts')], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
      PORT: '0',
      TALLYSTICK_TODAY: TODAY,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve) =>
    child.stdout?.on('data', (part: Buffer) => part.toString().includes('listening') && resolve()),
  );
  return child;
}

export const killServer = (child: ChildProcess): Promise<void> =>
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
