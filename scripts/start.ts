import { existsSync, statSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'vite';
import { main, readOptions } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';
import { startStack } from './lib/stack.ts';

/** Builds the web app when a source of it is newer than the last build. */
export async function buildWeb(say: (line: string) => void): Promise<void> {
  const built = join(ROOT, 'web', 'dist', 'index.html');
  const newest = Math.max(
    ...['web', 'core', 'contract'].map((folder) => newestIn(join(ROOT, folder))),
    statSync(join(ROOT, 'package-lock.json')).mtimeMs,
  );
  if (existsSync(built) && statSync(built).mtimeMs > newest) return;
  say('Building the web app …');
  await build({ root: join(ROOT, 'web'), logLevel: 'warn' });
}

function newestIn(folder: string): number {
  const entries = readdirSync(folder, { recursive: true, withFileTypes: true });
  return Math.max(
    0,
    ...entries
      .filter((entry) => entry.isFile() && !/[\\/](dist|node_modules)([\\/]|$)/.test(entry.parentPath))
      .map((entry) => statSync(join(entry.parentPath, entry.name)).mtimeMs),
  );
}

if (import.meta.filename === process.argv[1])
  await main(async () => {
    const options = readOptions();
    let stop = async (): Promise<void> => undefined;
    let asked = false;
    const end = (): void => {
      if (asked) return;
      asked = true;
      console.log('\nStopping …');
      void stop().then(() => process.exit(0));
    };
    process.on('SIGINT', end);
    process.on('SIGTERM', end);
    await buildWeb(console.log);
    const stack = await startStack(options, console.log);
    stop = stack.stop;
    if (asked) return stop();
    console.log(
      `\nTallystick  ${stack.url}\nMail room   ${stack.mailRoom}\nTill        ${stack.till || 'none'}\nData        ${options.data}\n\nCtrl-C stops it; the next start finds everything as it was.`,
    );
  });
