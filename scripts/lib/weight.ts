import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

interface Chunk {
  file: string;
  isEntry?: boolean;
  imports?: string[];
  dynamicImports?: string[];
}
type Manifest = Record<string, Chunk>;

export interface Weight {
  /** Bytes of JavaScript, compressed as it is sent, before the first page stands. */
  first: number;
  /** What opening each page after that takes besides. */
  pages: { page: string; bytes: number }[];
}

const FIRST_PAGE = /\/TodayPage\.tsx$/;
const PAGE = /(\w+)Page\.tsx$/;

/** The weight of the built web app (`web/dist` with its manifest): of the frame with Today, and of each other page. */
export function weightOf(dist: string): Weight {
  const manifest: Manifest = JSON.parse(readFileSync(join(dist, '.vite', 'manifest.json'), 'utf8'));
  const sizeOf = (key: string): number => {
    const path = join(dist, manifest[key]?.file ?? '');
    return statSync(existsSync(`${path}.br`) ? `${path}.br` : path).size;
  };
  const entries = Object.keys(manifest).filter((key) => manifest[key]?.isEntry);
  const frame = new Set<string>();
  for (const key of entries) gather(manifest, key, frame);
  const pages = entries.flatMap((key) => manifest[key]?.dynamicImports ?? []);
  const today = pages.find((key) => FIRST_PAGE.test(key));
  if (today === undefined) throw new Error('The built web app has no first page.');
  gather(manifest, today, frame);
  const sum = (keys: Iterable<string>): number => [...keys].reduce((total, key) => total + sizeOf(key), 0);
  return {
    first: sum(frame),
    pages: pages
      .filter((key) => PAGE.test(key) && key !== today)
      .map((key) => {
        const own = new Set<string>();
        gather(manifest, key, own);
        return { page: PAGE.exec(key)?.[1] ?? key, bytes: sum([...own].filter((one) => !frame.has(one))) };
      })
      .sort((a, b) => b.bytes - a.bytes),
  };
}

/** A chunk and all that it cannot stand without. */
function gather(manifest: Manifest, key: string, into: Set<string>): void {
  if (into.has(key)) return;
  into.add(key);
  for (const other of manifest[key]?.imports ?? []) gather(manifest, other, into);
}
