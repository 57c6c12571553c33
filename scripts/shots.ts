import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { Browser } from './lib/browser.ts';
import { main, readOptions } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';
import { startStack } from './lib/stack.ts';
import { buildWeb } from './lib/build.ts';

/** The main views, each with what is done before its picture is taken. */
const VIEWS: readonly [string, string, (browser: Browser) => Promise<unknown>][] = [
  ['today', '/', (browser) => browser.see('figure svg')],
  ['supporters', '/supporters?by=state&sort=-lifetime', (browser) => browser.see('tr[data-row]')],
  [
    'peek',
    '/supporters?q=rook',
    async (browser) => {
      await (await browser.see('tr[data-row]:nth-of-type(4) td:nth-of-type(4)')).click();
      await browser.see('aside figure svg');
    },
  ],
  [
    'record',
    '/gifts/pledges?show=overdue',
    async (browser) => {
      await (await browser.see('tr[data-row] a')).click();
      await browser.see('figure svg');
      await browser.see('ul[aria-label=Promised]');
    },
  ],
  [
    'relations',
    '/supporters?kind=household&sort=-household&section=relations',
    async (browser) => {
      await (await browser.see('tr[data-row] td:nth-of-type(4)')).click();
      await (await browser.see('aside article p a')).click();
      await browser.see('//article//*[@role="tab"][.="Relations"]');
      await browser.press('Relations');
      await browser.see('g[role=link]');
    },
  ],
  [
    'supporter-form',
    '/supporters?add=1',
    async (browser) => {
      await browser.fill('Or a whole name', 'Dr. Margret Abernathy');
      await browser.keys(Key.TAB);
      await browser.seeText('Likely here already');
    },
  ],
  [
    'find',
    '/supporters',
    async (browser) => {
      await browser.see('tr[data-row]');
      await browser.keys('/');
      await browser.see('[role=dialog] input');
      await browser.keys('$50');
      await browser.seeText('in all');
    },
  ],
  [
    'export',
    '/supporters?sort=-lifetime',
    async (browser) => {
      await (await browser.see('thead [role=checkbox]')).click();
      await browser.press('Export …');
      await browser.choose('What for', 'To write to them by post');
      await browser.seeText('are held back');
    },
  ],
  [
    'duplicates',
    '/duplicates',
    async (browser) => {
      await browser.press('Look through all records');
      await browser.see('section[aria-label=Comparison]');
    },
  ],
  ['upkeep', '/upkeep', (browser) => browser.seeText('Names in capitals')],
  ['gifts', '/gifts', (browser) => browser.see('tr[data-row]')],
  [
    'gift-form',
    '/gifts',
    async (browser) => {
      await browser.press('Record a gift');
      await browser.keys('quill');
      await browser.see('[role=option]');
      await browser.keys(Key.ENTER, Key.TAB, '1,250.00');
      await browser.press('Split');
      await browser.press('Soft credits');
    },
  ],
  [
    'pledge',
    '/gifts/pledges?show=overdue',
    async (browser) => {
      await (await browser.see('tr[data-row] td:nth-of-type(3)')).click();
      await browser.see('[role=grid][aria-label=Installments]');
    },
  ],
  ['sheet', '/gifts/sheets/1', (browser) => browser.seeText('1 row to mend')],
  ['deposits', '/gifts/deposits', (browser) => browser.see('tr[data-row]')],
  ['segment', '/segments/2', (browser) => browser.see('tr[data-row]')],
  [
    'outreach',
    '/outreach/2',
    async (browser) => {
      await browser.see('iframe');
      await browser.seeText('held back');
    },
  ],
  [
    'thanks',
    '/thanks',
    async (browser) => {
      for (const row of [1, 2, 3])
        await (await browser.see(`tr[data-row]:nth-of-type(${row}) [role=checkbox]`)).click();
    },
  ],
  ['intake', '/intake/1', (browser) => browser.see('tr[data-row]')],
];

await main(async () => {
  const options = readOptions();
  const data = join(ROOT, '.tallystick', `shots-${process.pid}`);
  await buildWeb(console.log);
  const stack = await startStack({ ...options, data, port: options.port === 4460 ? 4490 : options.port }, console.log);
  const folder = join(ROOT, 'docs', 'screenshots');
  await mkdir(folder, { recursive: true });
  const browser = await Browser.open();
  try {
    await browser.signIn(stack.url);
    for (const [name, path, before] of VIEWS) {
      if (options.rest.length > 0 && !options.rest.includes(name)) continue;
      await browser.go(`${stack.url}${path}`);
      await before(browser);
      await new Promise((resolve) => setTimeout(resolve, 700));
      await browser.picture(join(folder, `${name}.png`));
      console.log(`docs/screenshots/${name}.png`);
    }
  } finally {
    await browser.close();
    await stack.stop();
  }
});
