import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../lib/mariadb.ts';
import { startStack } from '../lib/stack.ts';
import { TODAY } from '../../web/e2e/support.ts';

/** The demo, loaded once for all browser tests; each file of them works on a copy. */
export default async function setup(): Promise<() => void> {
  const data = mkdtempSync(join(tmpdir(), 'tallystick-demo-'));
  const options = { data, empty: false, today: TODAY, supporters: null, gifts: null, rest: [] };
  const stack = await startStack({ ...options, port: await freePort() }, () => undefined);
  await stack.stop();
  process.env['TALLYSTICK_TEST_DEMO'] = data;
  return () => rmSync(data, { recursive: true, force: true });
}
