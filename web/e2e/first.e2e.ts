import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

let world: World;
beforeAll(async () => {
  world = await openWorld({ empty: true });
});
afterAll(() => world.close());

describe('the first hour of a new organization', () => {
  it('begins with what it is called, by keyboard, and says what comes next', async () => {
    const { browser } = world;
    await browser.see('//label[.="Name of the organization"]');
    await expectNoFaults(browser, 'the first page');
    // Nothing typed: every field says what it wants, and the first has the focus.
    await browser.press('Begin');
    await browser.seeText('The name of the organization is missing.');
    expect(await browser.driver.executeScript('return document.activeElement.getAttribute("aria-invalid")')).toBe(
      'true',
    );
    await browser.fill('Name of the organization', 'Lantern Library Friends');
    await browser.choose('Fiscal year begins in', 'July');
    await browser.fill('Your name', 'Ana Larkmoor');
    await browser.fill('E-mail', 'ana@example.org');
    await browser.fill('Password', 'lamps off please');
    await browser.keys(Key.ENTER);
    await browser.seeText('First steps');
    await browser.seeText('at Lantern Library Friends, for Ana Larkmoor');
    await expectNoFaults(browser, 'an empty Today');
    const { organization } = await api<{ organization: object }>(browser, '/session');
    expect(organization).toMatchObject({ name: 'Lantern Library Friends', fiscalYearStart: 7 });
  });

  it('sets up what stands at the head of letters, and tests its mail by a real message', async () => {
    const { browser } = world;
    await browser.press('Say what stands at the head of letters');
    await browser.fill('Address, as at the head of letters', '4 Dune Road');
    await browser.fill('Who signs letters', 'Ana Larkmoor, Director');
    await browser.press('Send a test e-mail');
    await browser.seeText('The mail server took it.');
    await expectNoFaults(browser, 'the organization');
    await browser.press('Save');
    await browser.seeText('Saved');
    const mail: { to: string[]; subject: string }[] = await (
      await fetch(`${world.stack.mailRoom}/messages.json`)
    ).json();
    expect(mail[0]).toMatchObject({ to: ['ana@example.org'], subject: 'Test of the mail of Lantern Library Friends' });
  });

  it('adds a supporter, records a gift and issues a receipt in its own words', async () => {
    const { browser } = world;
    await browser.go(`${world.stack.url}/supporters?add=1`);
    await browser.fill('Last name', 'Testerly');
    await browser.fill('First name', 'Wren');
    await browser.press('Add supporter');
    await browser.see('//h1[.="Wren Testerly"]');
    await browser.keys('g');
    await browser.see('//*[@role="dialog"]//h2[.="Record a gift"]');
    // On a record the key means that person, and typing begins at the amount.
    await browser.keys('50');
    await browser.keys(Key.ENTER);
    await browser.seeText('$50.00 from Wren Testerly');
    await browser.go(world.stack.url);
    await browser.seeText('Issue the first receipt');
    await browser.press('Issue the first receipt');
    await (await browser.see('tr[data-row]:nth-of-type(1) [role=checkbox]')).click();
    await browser.press('Issue 1 receipt');
    await browser.seeText('Look at 1 of 1 first');
    await browser.press('Issue all 1');
    await browser.seeText('Issued 2026-000001');
    await browser.go(world.stack.url);
    await browser.seeText('What waits');
    await browser.until(async () => !(await browser.text()).includes('First steps'), 'the first steps stayed');
    // The letter that it began with is true of any organization.
    const letters = JSON.stringify(await api<object>(browser, '/letters'));
    expect([letters.includes('signature'), /basin|observatory|telescope/i.test(letters)]).toEqual([true, false]);
  });
});
