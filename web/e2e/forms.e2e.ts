import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());
/** Goes to a page by its address; what a test before it left typed is not asked about. */
const go = (path: string): Promise<void> => world.browser.go(world.stack.url + path);
const focused = (): Promise<string> =>
  world.browser.driver.executeScript(
    `const at = document.activeElement; return document.querySelector('label[for="' + at.id + '"]')?.innerText ?? at.innerText`,
  );
const gone = (): Promise<void> =>
  world.browser.until(
    async () => (await world.browser.all('[role=dialog], [role=alertdialog]')).length === 0,
    'the dialog stayed',
  );

describe('a form', () => {
  beforeEach(async () => {
    await go('/gifts');
    await world.browser.driver.executeScript('sessionStorage.clear()');
    await go('/gifts');
    await world.browser.see('tr[data-row]');
  });

  it('says what is wrong at each field and goes to the first', async () => {
    const { browser } = world;
    await browser.keys('g');
    await browser.see('//*[@role="dialog"]//h2[.="Record a gift"]');
    await browser.fill('Amount', 'much');
    await browser.keys(Key.ENTER);
    await browser.seeText('Choose who gave');
    await browser.seeText('“much” is not an amount.');
    expect(await focused()).toBe('From');
    await expectNoFaults(browser, 'a form with faults');
    // What is typed anew is no longer called wrong.
    await browser.fill('Amount', '25');
    expect(await browser.text()).not.toContain('is not an amount');
    await browser.keys(Key.ESCAPE);
    await browser.press('Throw it away');
    await gone();
  });

  it('asks before what was typed is lost, and keeps it when told to', async () => {
    const { browser } = world;
    await browser.keys('g');
    await browser.see('//*[@role="dialog"]//h2[.="Record a gift"]');
    // Nothing typed: nothing to ask about.
    await browser.keys(Key.ESCAPE);
    await gone();
    await browser.keys('g');
    await browser.fill('Note', 'from the supper');
    await browser.keys(Key.ESCAPE);
    await browser.seeText('What you typed is not saved');
    await expectNoFaults(browser, 'a form that is left');
    await browser.press('Keep writing');
    await browser.until(async () => (await browser.all('[role=alertdialog]')).length === 0, 'the question stayed');
    expect(await (await browser.see('//*[@role="dialog"]//label[.="Note"]/following::input')).attribute('value')).toBe(
      'from the supper',
    );
    await browser.press('Cancel');
    await browser.press('Throw it away');
    await gone();
    await browser.keys('g');
    await browser.see('//*[@role="dialog"]//h2[.="Record a gift"]');
    expect(await browser.text()).not.toContain('What you typed before is back');
  });

  it('is back after a reload, and can be begun anew', async () => {
    const { browser } = world;
    await browser.keys('g');
    await browser.fill('Note', 'kept for later');
    await go('/gifts');
    await browser.see('tr[data-row]');
    await browser.keys('g');
    await browser.seeText('What you typed before is back');
    await browser.press('Begin anew');
    await browser.until(
      async () => !(await browser.text()).includes('What you typed before is back'),
      'the draft was not let go',
    );
    expect(await (await browser.see('//*[@role="dialog"]//label[.="Note"]/following::input')).attribute('value')).toBe(
      '',
    );
    await browser.keys(Key.ESCAPE);
    await gone();
  });

  it('shows what the server refused at its field', async () => {
    const { browser } = world;
    await go('/gifts/codes');
    await browser.press('Add a fund');
    await browser.fill('Code', 'GEN');
    await browser.fill('Name', 'Another general');
    await browser.keys(Key.ENTER);
    await browser.see('//*[@role="dialog"]//*[@role="alert"]');
    await expectNoFaults(browser, 'a refused form');
    await browser.fill('Code', 'GEN2');
    await browser.keys(Key.ENTER);
    await browser.seeText('Another general saved');
    await gone();
  });
});

describe('a session that ends', () => {
  it('is begun again over the page: nothing typed is lost, and what was being saved is saved', async () => {
    const { browser } = world;
    const gifts = async () => (await api<{ total: number }>(browser, '/gifts?limit=1')).total;
    await go('/gifts');
    await browser.see('tr[data-row]');
    const before = await gifts();
    await browser.keys('g');
    const field = await browser.see('[role=dialog] input[role=combobox]');
    await field.type('S-10020');
    await browser.see('//*[@role="dialog"]//*[@role="option"]');
    await browser.keys(Key.ENTER);
    await browser.fill('Amount', '31.00');
    await browser.driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1]; fetch('/api/v1/session', { method: 'DELETE' }).then(() => done());`,
    );
    await browser.press('Record gift');
    await browser.seeText('Your session has ended');
    await expectNoFaults(browser, 'a session that ended');
    // What is being typed lands in no field.
    await browser.keys('x');
    expect(await browser.driver.executeScript('return document.activeElement.tagName')).toBe('DIV');
    await browser.press('Marisol Brightwater');
    await browser.seeText('$31.00 from');
    await gone();
    expect(await gifts()).toBe(before + 1);
  });
});
