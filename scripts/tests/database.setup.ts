import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariaDb } from '../lib/mariadb.ts';

/** One MariaDB for all server tests; each test file makes a database of its own on it. */
export default async function setup(): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-tests-'));
  const database = await startMariaDb(folder, { fast: true });
  process.env['TEST_DATABASE_URL'] = database.url;
  return async () => {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
