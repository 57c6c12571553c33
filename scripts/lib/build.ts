import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { InlineConfig, Plugin } from 'vite';

/*
 * The web app, and the programs that are started with it.
 * What is started is built first: the programs, and the scripts of their threads, as plain JavaScript. A start would
 * otherwise read hundreds of TypeScript files, in each process and each thread anew. What was built lies in a folder
 * named after its sources, so that it is never another than they, and what runs keeps its own.
 */

export const ROOT = join(import.meta.dirname, '..', '..');
const FOLDERS = ['contract', 'core', 'demo', 'scripts', 'server', 'standins'];
/** Beside the server's own packages, where what it imports is found. */
const BUILT = join(ROOT, 'server', 'dist');
/** What was built from earlier sources may still run. */
const KEPT = 6;
const PROGRAMS = /^(scripts[\\/]\w+|server[\\/]main|standins[\\/]\w+[\\/]main)\.ts$|(\.work|[\\/]worker)\.ts$/;
/** Packages of hundreds of small files, of which we use a few: each file costs a start as much as its reading. */
const IN_MANY_FILES = ['@date-fns/tz', '@faker-js/faker', 'date-fns', 'libphonenumber-js', 'validator', 'zod'];
/** They drive the build and the tests themselves, and need no server. */
const NOT_BUILT = /^scripts[\\/](test|dev|weight|licences)\.ts$/;

function sources(): string[] {
  return FOLDERS.flatMap((folder) =>
    readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && entry.name.endsWith('.ts') && !/\.(test|d)\.ts$/.test(entry.name))
      .map((entry) => relative(ROOT, join(entry.parentPath, entry.name))),
  )
    .filter((path) => !/(^|[\\/])(dist|node_modules)[\\/]/.test(path))
    .sort();
}

/** A module knows where its source lies; what it names for a thread is what was built of that. */
const inPlace = (folder: string): Plugin => ({
  name: 'in-place',
  enforce: 'pre',
  transform(code, id) {
    if (!id.startsWith(ROOT) || id.includes('node_modules') || !code.includes('import.meta.')) return null;
    const placeOf = (path: string): string => pathToFileURL(join(folder, relative(ROOT, path))).href;
    const placed = code
      .replaceAll(
        /new URL\(\s*'(\.[^']*)\.ts',\s*import\.meta\.url\s*,?\s*\)/g,
        (_, path: string) => `new URL('${placeOf(join(dirname(id), `${path}.js`))}')`,
      )
      .replaceAll(/import\.meta\.(url|dirname)\b/g, (_, what: string) =>
        JSON.stringify(what === 'url' ? pathToFileURL(id).href : dirname(id)),
      );
    // Lines stay where they were, so the map of before holds.
    return { code: placed, map: null };
  },
});

let ready: Promise<string> | null = null;

/** The folder of what was built of the sources as they are; builds it where it is not there. */
export const builtPrograms = (): Promise<string> => (ready ??= buildPrograms());

async function buildPrograms(): Promise<string> {
  const paths = sources();
  const hash = createHash('sha256').update(ROOT);
  for (const path of paths) hash.update(path).update(readFileSync(join(ROOT, path)));
  const folder = join(BUILT, hash.digest('hex').slice(0, 16));
  if (existsSync(folder)) return folder;
  const making = `${folder}.${process.pid}`;
  const programs = paths.filter((path) => PROGRAMS.test(path) && !NOT_BUILT.test(path));
  await buildForUse({
    configFile: false,
    root: ROOT,
    logLevel: 'warn',
    plugins: [inPlace(folder)],
    ssr: { noExternal: [/^@tallystick\//, ...IN_MANY_FILES] },
    build: {
      ssr: true,
      outDir: making,
      target: 'node20',
      minify: false,
      sourcemap: true,
      rolldownOptions: {
        input: Object.fromEntries(
          programs.map((path) => [path.replace(/\.ts$/, '').replaceAll(sep, '/'), join(ROOT, path)]),
        ),
        output: { entryFileNames: '[name].js', chunkFileNames: 'parts/[name]-[hash].js' },
      },
    },
  });
  try {
    renameSync(making, folder);
  } catch (error) {
    // Another process built the same at the same time.
    rmSync(making, { recursive: true, force: true });
    if (!existsSync(folder)) throw error;
  }
  for (const { name } of readdirSync(BUILT)
    .filter((name) => join(BUILT, name) !== folder)
    .map((name) => ({ name, at: statSync(join(BUILT, name)).mtimeMs }))
    .sort((a, b) => b.at - a.at)
    .slice(KEPT))
    rmSync(join(BUILT, name), { recursive: true, force: true });
  return folder;
}

/** What to give Node.js to run one of our programs, `server/main.ts`. */
export async function programArguments(path: string): Promise<string[]> {
  if (NOT_BUILT.test(path)) return ['--import', 'tsx', join(ROOT, path)];
  return ['--enable-source-maps', join(await builtPrograms(), path.replace(/\.ts$/, '.js'))];
}

/** Builds for use, also where tests ask for it. */
async function buildForUse(config: InlineConfig): Promise<void> {
  const { build } = await import('vite');
  const { NODE_ENV } = process.env;
  process.env['NODE_ENV'] = 'production';
  await build(config);
  if (NODE_ENV === undefined) delete process.env['NODE_ENV'];
  else process.env['NODE_ENV'] = NODE_ENV;
}

/** Builds the web app when a source of it is newer than the last build. */
export async function buildWeb(say: (line: string) => void): Promise<void> {
  const built = join(ROOT, 'web', 'dist', 'index.html');
  const newest = Math.max(
    ...['web', 'core', 'contract'].map((folder) => newestIn(join(ROOT, folder))),
    statSync(join(ROOT, 'package-lock.json')).mtimeMs,
  );
  if (existsSync(built) && statSync(built).mtimeMs > newest) return;
  say('Building the web app …');
  await buildForUse({ root: join(ROOT, 'web'), logLevel: 'warn' });
}

function newestIn(folder: string): number {
  const entries = readdirSync(folder, { recursive: true, withFileTypes: true });
  return Math.max(
    0,
    ...entries
      .filter((entry) => entry.isFile() && !/[\\/](dist|e2e|node_modules)([\\/]|$)/.test(entry.parentPath))
      .map((entry) => statSync(join(entry.parentPath, entry.name)).mtimeMs),
  );
}
