import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* A segment and the table of what matches it, over the demo's data. */

let world: World;
let segments: { id: number; name: string }[] = [];
beforeAll(async () => {
  world = await openWorld();
  segments = (await api<{ items: { id: number; name: string }[] }>(world.browser, '/segments')).items;
});
afterAll(() => world.close());

const go = (path: string): Promise<void> => world.browser.go(`${world.stack.url}${path}`);
const open = async (name: string): Promise<number> => {
  const id = segments.find((one) => one.name === name)?.id ?? 0;
  await go(`/segments/${id}`);
  await world.browser.see('tr[data-row]');
  return id;
};
const headings = (): Promise<string[]> =>
  world.browser.driver.executeScript(
    `return [...document.querySelectorAll('[data-list=segment] th[scope=col]')].map((one) => one.innerText.trim())`,
  );
const becomes = (what: () => Promise<boolean>, words: string): Promise<void> => world.browser.until(what, words);

describe('the table of a segment', () => {
  it('shows what each committed, the largest first, and who the spouse is', async () => {
    const { browser } = world;
    await open('Refractor owners and the director’s list');
    const seen = await headings();
    expect(seen.some((one) => one.startsWith('Committed to Dark Ground'))).toBe(true);
    expect(seen).toContain('Spouse');
    const cells: string[][] = await browser.driver.executeScript(
      `return [...document.querySelectorAll('[data-list=segment] tr[data-row]')].slice(0, 8)
        .map((row) => [...row.querySelectorAll('td')].map((cell) => cell.innerText.trim()))`,
    );
    const amounts = cells.map((row) => Number((row.find((cell) => cell.startsWith('$')) ?? '').replace(/[$,]/g, '')));
    expect(amounts[0]).toBeGreaterThan(0);
    expect(amounts).toEqual(amounts.toSorted((a, b) => b - a));
    await expectNoFaults(browser, 'segment table');
  });

  it('is given one row for each gift, put together, with one more column', async () => {
    const { browser } = world;
    await open('Recurring gift that fails');
    await browser.choose('One row for each', 'gift');
    await becomes(async () => (await headings()).includes('Paid by'), 'rows did not become gifts');
    await browser.choose('Rows together by', 'Fund');
    await browser.see('tr[data-group]');
    await browser.press('Choose columns');
    await browser.choose('Add a column', 'Birthday');
    await browser.seeText('Birthday');
    await expectNoFaults(browser, 'columns of a segment');
    await browser.press('Done');
    await becomes(async () => (await headings()).includes('Birthday'), 'the column did not come');
    const box = await browser.see('[data-list=segment]');
    await box.focus();
    await browser.keys('j', Key.ENTER);
    await browser.see('aside article h2');
  });

  it('of ties ends those that are selected, all of them, and says of tasks that some are about nobody', async () => {
    const { browser } = world;
    await open('Recurring gift that fails');
    await browser.choose('One row for each', 'tie');
    const counted = async (): Promise<number> =>
      Number(/([\d,]+) ties?/.exec((await browser.words('[data-testid=row-count]')).join(' '))?.[1]?.replace(',', ''));
    await browser.until(async () => (await counted()) > 0, 'there is no tie');
    await (await browser.see('[data-list=segment] thead [role=checkbox]')).click();
    await browser.see('[role=toolbar][aria-label="Acts on the ties"]');
    await browser.press('End');
    await expectNoFaults(browser, 'ending ties');
    await browser.keys(Key.ESCAPE);
    await browser.press('Their ');
    await browser.see('[role=toolbar][aria-label="Acts on the selection"]');
    await (await browser.see('[data-list=segment] thead [role=checkbox]')).click();
    await browser.choose('One row for each', 'task');
    await browser.seeText('about nobody');
    await go('/tasks?about=nobody');
    await browser.see('tr[data-row]');
    await expectNoFaults(browser, 'tasks');
  });

  it('has its columns chosen, named and moved by the keyboard alone', async () => {
    const { browser } = world;
    await open('Recurring gift that fails');
    const before = await headings();
    await (await browser.see('button[aria-label="Choose columns"]')).focus();
    await browser.keys(Key.ENTER);
    await browser.see('[role=dialog]');
    const focused = (): Promise<string> =>
      browser.driver.executeScript(
        'return document.activeElement?.getAttribute("aria-label") ?? document.activeElement?.innerText ?? ""',
      );
    for (let step = 0; (await focused()) !== 'Add a column'; step++) {
      expect(step).toBeLessThan(120);
      await browser.keys(Key.TAB);
    }
    await browser.keys(Key.ENTER, ...'nickn', Key.ENTER);
    await becomes(
      async () => (await focused()) === 'Name of the column Nickname',
      'the new column is not where one types',
    );
    await browser.keys(...'Called');
    for (let at = before.length; at > 1; at--) await browser.chord(Key.ALT, Key.ARROW_UP);
    await becomes(async () => (await focused()).startsWith('Name of the column'), 'the focus was lost on the way');
    await browser.keys(Key.ESCAPE);
    await becomes(async () => (await headings())[1] === 'Called', 'it does not stand second');
    expect(await headings()).toHaveLength(before.length + 1);
  });

  it('keeps what somebody else makes of it for themselves, until they go back', async () => {
    const { browser } = world;
    const id = await open('Gave by card only');
    const segment = await api<{ version: number } & Record<string, unknown>>(browser, `/segments/${id}`);
    const others = (await api<{ users: { id: number; name: string }[] }>(browser, '/choices')).users;
    const heir = others.find(({ name }) => name === 'Desmond Kettleworth')?.id ?? 0;
    const { name, conditions, version } = segment;
    await browser.driver.executeAsyncScript(
      `const [path, body, done] = arguments;
       fetch('/api/v1' + path, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body }).then(done)`,
      `/segments/${id}`,
      JSON.stringify({ name, conditions, version, ownerId: heir }),
    );
    await open('Gave by card only');
    await browser.press('Choose columns');
    await browser.press('Take out Town');
    await browser.press('Done');
    await browser.seeText('Your own view');
    await becomes(
      async () => (await api<{ ownView: object | null }>(browser, `/segments/${id}`)).ownView !== null,
      'it was not kept',
    );
    await open('Gave by card only');
    await browser.seeText('Your own view');
    expect(await headings()).not.toContain('Town');
    await browser.press('Back to the owner’s');
    await becomes(async () => (await headings()).includes('Town'), 'the owner’s view did not come back');
  });
});

describe('a segment', () => {
  it('is pinned to Today with a ready act, and taken off again', async () => {
    const { browser } = world;
    await open('Birthday next month, by post');
    await browser.press('Pin …');
    await browser.press('Labels, 30 a page');
    await browser.seeText('Pinned to Today');
    await go('/');
    await browser.see('#pins');
    await browser.see('//button[.="Labels, 30 a page"]');
    await expectNoFaults(browser, 'pins');
    await browser.press('Arrange Birthday next month, by post, Labels, 30 a page');
    await browser.press('Take off Today');
    await becomes(async () => (await browser.all('#pins')).length === 0, 'the pin stayed');
  });

  it('says how many a standing tag will be put on before it is saved', async () => {
    const { browser } = world;
    await open('First gift in the last 90 days');
    await browser.press('About this segment');
    await browser.choose('Standing tag', 'Volunteer');
    await browser.seeText('will be tagged');
    await browser.press('Save segment');
    await browser.seeText('Segment saved');
    await browser.seeText('Everyone who matches has it');
  });

  it('is copied with its conditions and its view', async () => {
    const { browser } = world;
    await open('Refractor owners and the director’s list');
    await browser.press('More');
    await browser.press('Copy');
    await becomes(async () => (await browser.driver.getCurrentUrl()).endsWith('/segments/new'), 'no copy opened');
    await browser.see('[aria-label="Take out Refractor"]');
    await becomes(
      async () => (await headings()).some((one) => one.startsWith('Committed to Dark Ground')),
      'the copy has other columns',
    );
    await browser.press('Save segment');
    await browser.seeText('Segment saved');
  });

  it('is carried by a task that comes again each month, and does its act at a click', async () => {
    const { browser } = world;
    const id = await open('Birthday next month, by post');
    await browser.press('Pin …');
    await browser.press('A task that carries it …');
    await browser.fill('What is to be done', 'Envelopes for birthdays');
    await browser.choose('At a click, with Birthday next month, by post', 'Open');
    await expectNoFaults(browser, 'a task that carries');
    await browser.press('Set the task');
    await browser.seeText('The task is set');
    await go('/');
    await browser.seeText('Envelopes for birthdays');
    await browser.press('Open Birthday next month, by post');
    await becomes(async () => (await browser.driver.getCurrentUrl()).endsWith(`/segments/${id}`), 'it did not open');
  });

  it('says whom its file would reach, and shows how each is addressed', async () => {
    const { browser } = world;
    await open('Friends of the van');
    await browser.press('Choose columns');
    await browser.choose('Add a column', 'Addressee');
    await browser.seeText('Addressee');
    await browser.press('Done');
    await becomes(async () => (await headings()).includes('Addressee'), 'the column did not come');
    await browser.press('Export');
    await browser.press('What the table is for, and its day …');
    const said = async (): Promise<string> => (await browser.words('[role=dialog] [role=status]')).join(' ');
    await becomes(async () => /^(\d+) of \1 go into the file\.$/.test(await said()), 'not everyone goes into it');
    await browser.choose('What for', 'To write to them by post');
    await browser.see('ul[aria-label="Held back"] li');
    await expectNoFaults(browser, 'what a table is for');
    expect(await said()).toMatch(/^\d+ of \d+ go into the file; \d+ are held back:$/);
    await browser.press('Done');
    const cells: string[][] = await browser.driver.executeScript(
      `return [...document.querySelectorAll('[data-list=segment] tr[data-row]')].slice(0, 8)
        .map((row) => [...row.querySelectorAll('td')].map((cell) => cell.innerText.trim()))`,
    );
    expect(cells.every((row) => (row.at(-1) ?? '') !== '')).toBe(true);
  });

  it('goes by a window that is kept by a name', async () => {
    const { browser } = world;
    await open('Gave more this year than last');
    await browser.choose('Against', 'the last …');
    await browser.press('Keep this window by a name');
    await browser.fill('Name, as a sentence says it after ‘in’', 'the half year');
    await browser.press('Keep it');
    await browser.seeText('against the half year');
    await browser.press('Change the window the half year');
    await browser.fill('Name, as a sentence says it after ‘in’', 'the short year');
    await browser.press('Save');
    await browser.seeText('against the short year');
  });
});
