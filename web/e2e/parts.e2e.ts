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

it('have nothing in them that keeps anyone out', async () => {
  await world.browser.atRest();
  await expectNoFaults(world.browser, 'parts');
});
