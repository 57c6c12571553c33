import { join } from 'node:path';
import { main, Plain } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';
import { weightOf } from './lib/weight.ts';
import { buildWeb } from './lib/build.ts';

const MOST_BYTES = 300_000;
const kB = (bytes: number): string => `${(bytes / 1000).toFixed(0).padStart(5)} kB`;

/** Builds the web app and prints what a browser loads, compressed; ends as a failure where the first load is too heavy. */
await main(async () => {
  await buildWeb(console.log);
  const { first, pages } = weightOf(join(ROOT, 'web', 'dist'));
  console.log(`${kB(first)}  first load: the frame with Today`);
  for (const { page, bytes } of pages) console.log(`${kB(bytes)}  more for ${page}`);
  if (first > MOST_BYTES) throw new Plain(`The first load is heavier than ${kB(MOST_BYTES).trim()}.`);
});
