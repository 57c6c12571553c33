import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());
const go = (path: string): Promise<void> => world.browser.go(world.stack.url + path);
const size = (width: number, height: number) => world.browser.driver.manage().window().setRect({ width, height });
afterEach(() => size(1280, 800));
const run = <T>(script: string): Promise<T> => world.browser.driver.executeScript<T>(script);

describe('filters', () => {
  it('are added, changed and cleared by keyboard, and stand in the address', async () => {
    const { browser } = world;
    await go('/gifts');
    await browser.see('tr[data-row]');
    await (await browser.see('button[aria-label="Add a filter"]')).focus();
    // The first letter opens it; what is chosen opens the choice of its own.
    await browser.keys('pai');
    await browser.see('//*[@role="option"][.="Paid by"]');
    await browser.keys(Key.ENTER);
    await browser.see('//*[@role="option"][.="Check"]');
    await browser.keys('che', Key.ENTER);
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).includes('method=cheque'),
      'no filter is set',
    );
    await browser.choose('Thanked', 'yes');
    await expectNoFaults(browser, 'a list that is narrowed');
    const { total } = await api<{ total: number }>(browser, '/gifts?method=cheque&thanked=yes&limit=1');
    await browser.seeText(`${total.toLocaleString('en-US')} gifts`);
    // A colleague who gets the address sees the same.
    await go('/gifts?method=cheque&thanked=yes');
    await browser.see('button[aria-label="Paid by"]');
    await browser.press('Without paid by');
    await browser.until(async () => !(await browser.driver.getCurrentUrl()).includes('method='), 'the filter stayed');
    await browser.choose('Paid by', 'Card');
    await browser.press('Clear');
    await browser.until(async () => !/method|thanked/.test(await browser.driver.getCurrentUrl()), 'filters stayed');
  });

  it('stand in one row on a screen of 1024', async () => {
    const { browser } = world;
    await size(1024, 768);
    await go('/gifts?kind=split&thanked=yes&fund=1');
    await browser.see('button[aria-label="Fund"]');
    const tops = await run<number[]>(
      `return [...document.querySelectorAll('[aria-label=Filters] > *')].map((one) => Math.round(one.getBoundingClientRect().top + one.getBoundingClientRect().height / 2))`,
    );
    expect(tops.length).toBeGreaterThan(4);
    expect(Math.max(...tops) - Math.min(...tops)).toBeLessThan(6);
  });
});

describe('a chart', () => {
  it('names each bar by the arrow keys, and is a table at a key', async () => {
    const { browser } = world;
    await go('/gifts/recurring');
    await (await browser.see('figure svg')).focus();
    await browser.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    const words = await run<string>(`return document.querySelector('figcaption [aria-live]').innerText`);
    expect(words).toMatch(/^\w+ \d+: \$[\d,.]+ in \d+ gifts?$/);
    await browser.keys('t');
    const rows = await browser.all('table[aria-label="Expected by month"] tbody tr');
    expect(rows.length).toBeGreaterThan(11);
    await expectNoFaults(browser, 'a chart as a table');
  });
});

describe('a small or magnified screen', () => {
  it.each(['/', '/supporters', '/gifts', '/gifts/deposits', '/gifts/totals', '/thanks', '/outreach', '/segments'])(
    '%s overflows to no side, and find, add and the person are there',
    async (path) => {
      const { browser } = world;
      // 1280 at 200 % is 640 wide for the page.
      await size(640, 700);
      await go(path);
      await browser.see('button[aria-label="Find anything"]');
      await browser.atRest();
      const [wide, room, right] = await run<[number, number, number]>(
        `return [document.documentElement.scrollWidth, innerWidth, document.querySelector('button[aria-label^="Signed in as"]').getBoundingClientRect().right]`,
      );
      expect([wide, right <= room]).toEqual([room, true]);
    },
  );
});

describe('an entry sheet', () => {
  it('is left by Tab at its ends and by Escape, and a row that is wrong is gone to', async () => {
    const { browser } = world;
    await go('/gifts/sheets?new=1');
    await browser.see('//*[@role="dialog"]//h2[.="Begin a sheet"]');
    await browser.press('Begin');
    await browser.see('[role=grid] input');
    const inside = () => run<boolean>(`return document.activeElement.closest('[role=gridcell]') !== null`);
    await (await browser.see('[role=grid] input')).focus();
    await browser.keys('Wren Nobody', Key.TAB);
    await browser.control(Key.HOME);
    expect(await inside()).toBe(true);
    await browser.keys(Key.ESCAPE);
    expect(await inside()).toBe(false);
    await browser.keys(Key.TAB);
    expect(await inside()).toBe(false);
    await (await browser.see('[role=grid]')).focus();
    await browser.keys(Key.ENTER);
    expect(await inside()).toBe(true);
    await browser.control(Key.ENTER);
    await browser.seeText('Nothing is posted yet: 1 row to mend');
    expect(await inside()).toBe(true);
  });
});
