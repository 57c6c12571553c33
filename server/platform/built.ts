import { existsSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const SERVER = fileURLToPath(new URL('..', import.meta.url));

/**
 * The URL of a thread's script. Of one in TypeScript, as in tests, it is what was built of it where TALLYSTICK_BUILT
 * names the folder of that: a thread would otherwise read hundreds of files and translate them, for seconds.
 */
export function scriptOf(script: URL, built = process.env['TALLYSTICK_BUILT']): string {
  if (!built || !script.pathname.endsWith('.ts')) return script.href;
  const made = join(built, 'server', relative(SERVER, fileURLToPath(script)).replace(/\.ts$/, '.js'));
  return existsSync(made) ? pathToFileURL(made).href : script.href;
}
