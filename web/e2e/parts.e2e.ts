import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* The parts that every screen is made of, by keyboard alone, on the page that shows each of them. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());
beforeEach(async () => {
  await world.browser.go(`${world.stack.url}/design`);
  await world.browser.see('//h1[.="Design"]');
});

const labelled = (label: string): string => `//*[@id=//label[.="${label}"]/@for]`;
const focusOn = async (label: string) => (await world.browser.see(labelled(label))).focus();
const wordsOf = async (label: string): Promise<string> => (await world.browser.see(labelled(label))).text();
const becomes = (label: string, words: string): Promise<void> =>
  world.browser.until(async () => (await wordsOf(label)) === words, `${label} did not become ${words}`);
const options = (): Promise<string[]> => world.browser.words('[role=option]');

describe('one of a handful', () => {
  it('is opened, walked and taken by keys, and gives the focus back', async () => {
    const { browser } = world;
    await focusOn('One of a handful');
    await browser.keys(Key.ENTER);
    await browser.see('[role=option]');
    expect(await options()).toEqual(['General Operating', 'Fund 2', 'Fund 3', 'Fund 4']);
    await browser.keys(Key.ARROW_DOWN, Key.ENTER);
    await becomes('One of a handful', 'Fund 2');
    await browser.focusOn('button[role=combobox]');
  });
  it('is left as it was by Escape', async () => {
    const { browser } = world;
    await focusOn('One of a handful');
    await browser.keys(Key.ENTER);
    await browser.see('[role=option]');
    await browser.keys(Key.ARROW_DOWN, Key.ESCAPE);
    await becomes('One of a handful', 'General Operating');
  });
});

describe('one of many', () => {
  it('opens at the first letter, finds any part of a name or code, and remembers what was chosen', async () => {
    const { browser } = world;
    await focusOn('One of many');
    await browser.keys('f', '4', '9', '9', '9');
    await browser.until(async () => (await options()).length === 1, 'one fund of five thousand was not found');
    await browser.keys(Key.ENTER);
    await becomes('One of many', 'Fund 4999');
    await browser.focusOn('button[role=combobox]');
    await browser.keys(Key.ARROW_DOWN);
    await browser.until(async () => (await options())[0]?.startsWith('Fund 4999') === true, 'not remembered');
    await browser.seeText('and 4,900 more: type on');
    expect(await options()).toHaveLength(100);
  });
  it('says when nothing is found, and marks what is closed', async () => {
    const { browser } = world;
    await focusOn('One of many');
    await browser.keys(Key.ARROW_DOWN);
    await browser.see('[cmdk-input]');
    await browser.keys('zebra');
    await browser.seeText('Nothing has “zebra”.');
    await browser.control('a');
    await browser.keys('Fund 5');
    await browser.until(
      async () =>
        (await options()).some((one) => /^Fund 5\s+F5\s+closed$/.test(one)) || (await options()).length === 100,
      'no options',
    );
    await browser.keys(Key.ESCAPE);
    await becomes('One of many', 'General Operating');
  });
});

describe('several of many', () => {
  it('become chips, are made anew where one may, and Backspace takes the last', async () => {
    const { browser } = world;
    const chips = (): Promise<string[]> =>
      browser.driver.executeScript(
        `return [...document.querySelectorAll('[aria-label^="Take out "]')].map((one) => one.ariaLabel.slice(9))`,
      );
    await focusOn('Several of many');
    await browser.keys(Key.ENTER);
    await browser.see('[cmdk-input]');
    await browser.keys('F77', Key.ENTER);
    await browser.until(async () => (await chips()).includes('Fund 77'), 'no chip for Fund 77');
    await browser.keys('Comet tail', Key.ENTER);
    await browser.until(async () => (await chips()).includes('Comet tail'), 'nothing was added');
    await browser.keys(Key.BACK_SPACE, Key.BACK_SPACE);
    await browser.until(async () => (await chips()).length === 2, 'Backspace did not take the last two');
    expect(await chips()).toEqual(['General Operating', 'Fund 3']);
  });
});

describe('a day', () => {
  const value = async (): Promise<string | null> => (await world.browser.see(labelled('Day'))).attribute('value');
  it('is typed as people type it, told back, and written as the organization writes it', async () => {
    const { browser } = world;
    await browser.fill('Day', '14 mar 2025');
    await browser.seeText('Fri, Mar 14, 2025');
    await browser.keys(Key.TAB);
    await browser.until(async () => (await value()) === '3/14/2025', 'not written anew');
    await (await browser.see(labelled('Day'))).focus();
    await browser.keys(Key.ARROW_UP);
    await browser.until(async () => (await value()) === '3/15/2025', 'the arrow did not move it');
  });
  it('that is none says so and stays as it was typed', async () => {
    const { browser } = world;
    await browser.fill('Day', '2/30/2025');
    await browser.seeText('“2/30/2025” is not a day in the calendar.');
    await browser.keys(Key.TAB);
    expect(await value()).toBe('2/30/2025');
  });
  it('is picked from a calendar by keys', async () => {
    const { browser } = world;
    await (await browser.see(labelled('Day'))).focus();
    await browser.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();
    await browser.focusOn('[role=dialog] td button');
    await browser.keys(Key.ARROW_RIGHT, Key.ENTER);
    await browser.until(async () => (await value()) === '3/15/2026', 'the next day was not taken');
  });
  it('of a filter counts once it is whole', async () => {
    const { browser } = world;
    await browser.fill('Day in a filter', '3/1');
    await browser.seeText('asked for: any day');
    await browser.keys('4/2025', Key.ENTER);
    await browser.seeText('asked for: 2025-03-14');
  });
});

describe('a list', () => {
  const LIST = '[data-list=design]';
  const here = (): Promise<string> =>
    world.browser.driver.executeScript(
      `const list = document.querySelector('${LIST}'); return document.getElementById(list.getAttribute('aria-activedescendant'))?.querySelector('[role=rowheader]').innerText ?? '';`,
    );
  const isOn = (row: string): Promise<void> =>
    world.browser.until(async () => (await here()) === row, `the list is not on ${row}`);
  const headings = (): Promise<string[]> => world.browser.words(`${LIST} [role=columnheader]`);

  it('is one stop, says which row it is on, and goes through its rows by keys', async () => {
    const { browser } = world;
    const list = await browser.see(LIST);
    expect([await list.attribute('role'), await list.attribute('aria-rowcount')]).toEqual(['grid', '5001']);
    await list.focus();
    await isOn('Row 1');
    await browser.keys('j', Key.ARROW_DOWN, Key.PAGE_DOWN);
    await isOn('Row 23');
    await browser.keys(Key.END);
    await isOn('Row 5000');
    await browser.see(`${LIST} tr[data-row="5000"]`);
    await browser.keys('k', Key.HOME);
    await isOn('Row 1');
  });

  it('selects one by one, by a range, and the whole', async () => {
    const { browser } = world;
    const shift = async (...keys: string[]): Promise<void> => {
      const actions = browser.driver.actions().keyDown(Key.SHIFT);
      await actions
        .sendKeys(...keys)
        .keyUp(Key.SHIFT)
        .perform();
    };
    await (await browser.see(LIST)).focus();
    await browser.keys('j', ' ');
    await browser.seeText('1 row selected');
    await shift(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN);
    await browser.seeText('4 rows selected');
    await shift(Key.ARROW_UP);
    await browser.seeText('3 rows selected');
    const chosen = await browser.driver.executeScript(
      `return [...document.querySelectorAll('${LIST} tr[aria-selected=true]')].map((row) => row.dataset.row)`,
    );
    expect(chosen).toEqual(['2', '3', '4']);
    await browser.control('a');
    await browser.seeText('5,000 rows selected');
  });

  it('is sorted, and its columns are moved and resized, by keys on their headings', async () => {
    const { browser } = world;
    const heading = `//*[@data-list="design"]//*[@role="columnheader"]//button[starts-with(., "Name")]`;
    const sorted = async (): Promise<string | null> =>
      (await browser.see(`${heading}/ancestor::*[@role="columnheader"]`)).attribute('aria-sort');
    const before = await sorted();
    await (await browser.see(heading)).focus();
    await browser.keys(Key.ENTER);
    await browser.until(async () => (await sorted()) !== before, 'Enter did not sort');
    const width = await (await browser.see(`${heading}/ancestor::*[@role="columnheader"]`)).width();
    const hold = (modifier: string, key: string): Promise<void> =>
      browser.driver.actions().keyDown(modifier).sendKeys(key).keyUp(modifier).perform();
    await hold(Key.SHIFT, Key.ARROW_RIGHT);
    await browser.until(
      async () => (await (await browser.see(`${heading}/ancestor::*[@role="columnheader"]`)).width()) === width + 16,
      'the column did not widen',
    );
    const order = await headings();
    await hold(Key.CONTROL, Key.ARROW_RIGHT);
    await browser.until(async () => (await headings()).join() !== order.join(), 'the column did not move');
    expect((await headings()).at(-1)).toMatch(/^Name/);
  });
});

it('have nothing in them that keeps anyone out', async () => {
  await world.browser.atRest();
  await expectNoFaults(world.browser, 'parts');
});
