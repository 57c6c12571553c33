import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtPrograms } from '../lib/build.ts';
import { startMariaDb } from '../lib/mariadb.ts';

/** One MariaDB for all server tests, on which each test file makes a database of its own; and what threads run, built. */
export default async function setup(): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-tests-'));
  const database = await startMariaDb(folder, { fast: true });
  process.env['TEST_DATABASE_URL'] = database.url;
  process.env['TALLYSTICK_BUILT'] = await builtPrograms();
  return async () => {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
