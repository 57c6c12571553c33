import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, OF_COLOURS, openWorld } from './support.ts';
import type { World } from './support.ts';

/* The whole job as its user does it: from a list of people to a receipt in the mail, by keyboard where it can be. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());
afterEach(async ({ task }) => {
  // What the browser showed when a test failed.
  if (task.result?.state === 'fail')
    await world.browser.picture(join(tmpdir(), `failed-${task.name.slice(0, 30).replace(/\W+/g, '-')}.png`));
});

const go = (path: string) => world.browser.go(`${world.stack.url}${path}`);
/** Waits until the tray names the last change, which Ctrl+Z then undoes. */
const lastChange = async (words: string): Promise<void> => {
  await world.browser.see(`//footer[contains(., "${words}")]`);
};
interface Listed<T> {
  items: T[];
  total: number;
}

describe('the path', () => {
  it('finds a supporter with the keyboard alone, from anywhere', async () => {
    const { browser } = world;
    await go('/gifts');
    await browser.see('tr[data-row]');
    await browser.keys('/');
    await browser.focusOn('[cmdk-input]');
    await browser.keys('ropk', Key.BACK_SPACE, Key.BACK_SPACE, 'okwood aug');
    await browser.see('[cmdk-item][data-value^="s1"]');
    await browser.keys(Key.ENTER);
    await browser.see('//h1[contains(., "Augustin") and contains(., "Rookwood")]');
    await browser.see('svg[role=img][aria-label^="Tally"]');
  });

  it('adds a person, edits the record, and undoes the edit with Ctrl+Z', async () => {
    const { browser } = world;
    await browser.keys('a');
    await browser.see('[role=menu]');
    await browser.keys('s', Key.ENTER);
    await browser.fill('First name', 'Wren');
    await browser.fill('Last name', 'Testerly');
    await browser.press('Add e-mail');
    await browser.fill('E-mail 1: Address', 'wren@example.org');
    await browser.keys(Key.ENTER);
    await browser.see('//h1[.="Wren Testerly"]');
    await lastChange('Added Wren Testerly');
    await browser.keys('e');
    await browser.fill('Last name', 'Testerly-Vale');
    await browser.keys(Key.ENTER);
    await browser.see('//h1[.="Wren Testerly-Vale"]');
    await lastChange('Changed Wren Testerly');
    await browser.control('z');
    await browser.see('//h1[.="Wren Testerly"]');
    await browser.press('History');
    await browser.seeText('Last name changed from Testerly to Testerly-Vale');
    await browser.seeText('Undid: Changed Wren Testerly-Vale');
  });

  it('says what is wrong with an empty record, at the field', async () => {
    const { browser } = world;
    await go('/supporters?add=1');
    await (await browser.see('//button[@type="submit"]')).click();
    await browser.seeText('A person has a first or a last name.');
    await expectNoFaults(browser, 'supporter form');
    await browser.keys(Key.ESCAPE);
  });

  it('records a gift by keyboard alone in under ten seconds', async () => {
    const { browser } = world;
    await go('/');
    await browser.see('figure svg');
    const begun = performance.now();
    await browser.keys('g');
    await browser.focusOn('[role=combobox]');
    await browser.keys('wren testerly');
    await browser.see('//*[@role="listbox"][@aria-busy="false"]//*[@role="option"][contains(., "Wren Testerly")]');
    await browser.keys(Key.ENTER, Key.TAB, '1,250.00', Key.ENTER);
    await browser.seeText('$1,250.00 from Wren Testerly');
    expect((performance.now() - begun) / 1000).toBeLessThan(10);
    const { items } = await api<Listed<{ id: number; name: string }>>(browser, '/supporters?q=wren%20testerly');
    await go(`/supporters/${items[0]?.id}`);
    await browser.seeText('1 gift, 1 not thanked yet');
    await browser.seeText('$1,250.00');
  });

  it('refuses what cannot be a gift, in words at the field, and keeps what was typed', async () => {
    const { browser } = world;
    await browser.press('Record a gift');
    for (const [typed, words] of [
      ['0', 'above zero'],
      ['-5', 'is negative'],
      ['12.345', 'decimals'],
      ['twenty', 'is not an amount'],
    ] as const) {
      await browser.fill('Amount', typed);
      await browser.keys(Key.ENTER);
      await browser.seeText(words);
    }
    await browser.fill('Amount', '5');
    await browser.fill('Date', '2/30/2026');
    await browser.keys(Key.ENTER);
    await browser.seeText('not a day in the calendar');
    await expectNoFaults(browser, 'gift form');
    await browser.keys(Key.ESCAPE);
  });

  it('records a gift of whom the name is meant, however late the answer comes', async () => {
    const { browser } = world;
    const { items } = await api<Listed<{ name: string }>>(browser, '/supporters?q=bakery');
    const name = items[0]?.name ?? '';
    await go('/');
    await browser.see('figure svg');
    await browser.keys('g');
    await browser.focusOn('[role=combobox]');
    await browser.slowBy(1500);
    await browser.keys(name, Key.ENTER, Key.TAB, '7.25', Key.ENTER);
    await browser.slowBy(0);
    await browser.seeText(`$7.25 from ${name}`);
  });

  it('brings a file in, after showing what becomes of each row, and takes it back', async () => {
    const { browser } = world;
    const file = join(tmpdir(), `winners-${process.pid}.csv`);
    writeFileSync(
      file,
      'First name,Last name,Email,Amount,Date,Transaction ID\nFinch,Lowell,finch@example.org,"$1,250.00",11/02/2026,AU-1\nWren,Testerly,wren@example.org,40,11/02/2026,AU-2\nBad,Row,bad,0,2/30/2026,AU-3\n',
    );
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file);
    await browser.seeText('1 new supporter, 2 gifts of $1,290.00');
    await browser.seeText('by e-mail');
    await browser.seeText('“bad” is not an e-mail address');
    await expectNoFaults(browser, 'intake');
    await browser.press('Bring in 2 rows');
    await browser.seeText('Brought in.');
    await browser.seeText('2 rows, 1 new supporter, 2 gifts; 1 left out');
    expect((await api<Listed<unknown>>(browser, '/supporters?q=finch%20lowell')).total).toBe(1);
    await browser.press('Undo this intake');
    await browser.seeText('1 new supporter, 2 gifts of $1,290.00');
    expect((await api<Listed<unknown>>(browser, '/supporters?q=finch%20lowell')).total).toBe(0);
    await browser.press('Bring in 2 rows');
    await browser.seeText('Brought in.');
  });

  it('asks for a measure of gifts, whatever it is, and says why someone is not in', async () => {
    const { browser } = world;
    await go('/segments/new');
    await browser.choose('Add a condition', 'Largest gift');
    await browser.fill('Figure at least', '1000');
    const counted = async (): Promise<string> => (await browser.see('[data-testid="segment-count"]')).text();
    await browser.until(async () => /^[1-9]/.test(await counted()), 'it is not counted');
    const large = await counted();
    await browser.choose('Measure', 'date of the first');
    await browser.choose('Figure: question', 'is');
    await browser.choose('Figure', 'the last …');
    await browser.fill('Figure: how many', '2');
    await browser.choose('Figure: of what', 'years');
    await browser.until(async () => (await counted()) !== large, 'the count did not follow');
    await browser.fill('Supporter to explain', 'S-10009');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.see('//section[@aria-label="Why"]//li[contains(., "was in the last 2 years")]');
    await browser.choose('Measure', 'change of the total');
    await browser.see('[aria-label="Against"]');
    await browser.press('Save segment');
    await browser.seeText('Name the segment.');
    await expectNoFaults(browser, 'measures');
    await browser.press('Remove the condition Gifts');
    await browser.seeText('everyone on record matches');
  });

  it('asks for a value of a field and a pasted list by the keyboard alone', async () => {
    const { browser } = world;
    const people = (await api<Listed<{ id: number }>>(browser, '/supporters?limit=3&sort=number')).items;
    await go('/segments/new');
    await browser.seeText('everyone on record matches');
    await browser.see('[data-testid="segment-sentence"], [data-testid="left-out"]');
    const counted = async (): Promise<number> =>
      Number(
        /([\d,]+) of/.exec(await (await browser.see('[data-testid="segment-count"]')).text())?.[1]?.replace(',', ''),
      );
    const held = (by: string, key: string): Promise<void> =>
      browser.driver.actions().keyDown(by).sendKeys(key).keyUp(by).perform();
    /** Opens what can be asked about, once nothing else is open. */
    const ask = async (): Promise<void> => {
      await browser.until(async () => (await browser.all('[role=option]')).length === 0, 'a list stayed open');
      await held(Key.ALT, 'n');
      await browser.see('//*[@role="option"][starts-with(normalize-space(.), "Gave")]');
    };
    await ask();
    await browser.keys(...'telesc', Key.ENTER);
    await browser.see('[aria-label="Telescope: question"]');
    await browser.keys(...'refr');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER, Key.ESCAPE);
    await browser.see('[aria-label="Take out Refractor"]');
    await browser.until(async () => (await counted()) > 0 && (await counted()) < 400, 'the field did not narrow');
    await ask();
    await browser.keys(...'on a list', Key.ENTER);
    await browser.see('[aria-label="List of people"]');
    await browser.keys(Key.TAB, Key.ENTER);
    await browser.see('[aria-label="Numbers, e-mails or names"]');
    for (const text of [
      'Number',
      ...people.map(({ id }) => `S-${id}`),
      'nobody@example.org',
      `${people[0]?.id ?? 0}.0`,
    ])
      await browser.keys(...text, Key.ENTER);
    await held(Key.CONTROL, Key.ENTER);
    await browser.seeText('3 found, 1 doubled, 2 unknown, 0 ambiguous');
    await browser.keys(Key.ENTER);
  });

  it('makes a segment whose count follows as it is edited', async () => {
    const { browser } = world;
    await go('/segments/new');
    await browser.seeText('everyone on record matches');
    await browser.choose('Add a condition', 'Total given');
    await browser.fill('Figure at least', '1250');
    await browser.choose('When', 'the last 90 days');
    await browser.choose('Add a condition', 'Last gift');
    await browser.choose('Figure: question', 'is');
    await browser.choose('Figure', 'since a date');
    await browser.fill('Figure: since a date', '11/2/2026');
    await browser.keys(Key.ENTER);
    const count = await browser.see('[data-testid="segment-count"]');
    const shown = async () => Number(/([\d,]+) of/.exec(await count.text())?.[1]?.replace(',', ''));
    await browser.until(async () => (await shown()) >= 2 && (await shown()) < 60, 'the count did not follow');
    await browser.fill('Supporter to explain', 'finch lowell');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.seeText('Finch Lowell is in');
    await browser.fill('Name of the segment', 'Large and recent');
    await browser.press('Save segment');
    await browser.see('//button[contains(., "Write to them")]');
    await expectNoFaults(browser, 'segment');
  });

  it('writes to the segment, sees who is held back, sends, and the mail arrives', async () => {
    const { browser } = world;
    await browser.press('Write to them');
    await browser.fill('Name (only you see it)', 'Thank the large');
    await browser.fill('Subject', 'A word, {first|friend}');
    const editor = await browser.see('[role=textbox]');
    await editor.click();
    await browser.control(Key.END);
    await browser.keys('You lit nothing up, and we thank you.');
    await browser.press('Save e-mail');
    await browser.see('//button[starts-with(normalize-space(.), "Send to")]');
    await expectNoFaults(browser, 'mailing');
    const { items } = await api<{ items: { id: number; name: string }[] }>(browser, '/mailings');
    const id = items.find((mailing) => mailing.name === 'Thank the large')?.id;
    const check = await api<{ recipients: unknown[]; held: unknown[] }>(browser, `/mailings/${id}/recipients`);
    expect(check.recipients.length).toBeGreaterThan(0);
    await browser.press(`Send to ${check.recipients.length}`);
    await browser.seeText('cannot be called back');
    await expectNoFaults(browser, 'before sending');
    await browser.keys(Key.ENTER);
    await browser.seeText(`${check.held.length} held back`, 30_000);
    await browser.seeText('sent', 30_000);
    const mail: { to: string[]; subject: string; id: string }[] = await (
      await fetch(`${world.stack.mailRoom}/messages.json`)
    ).json();
    const wren = mail.find((message) => message.to.includes('wren@example.org'));
    expect(wren?.subject).toBe('A word, Wren');
    const raw = await (await fetch(`${world.stack.mailRoom}/messages/${wren?.id}/html`)).text();
    expect(raw).toContain('Dear Wren,');
    expect(raw).toContain('You lit nothing up');
  });

  it('unsubscribes by the link in the e-mail', async () => {
    const { browser } = world;
    const mail: { to: string[]; id: string }[] = await (await fetch(`${world.stack.mailRoom}/messages.json`)).json();
    const finch = mail.find((message) => message.to.includes('finch@example.org'));
    const html = await (await fetch(`${world.stack.mailRoom}/messages/${finch?.id}/html`)).text();
    await browser.go(/href="(http[^"]+unsubscribe[^"]+)"/.exec(html)?.[1]?.replace(/&amp;/g, '&') ?? '');
    await expectNoFaults(browser, 'unsubscribe');
    await (await browser.see('button')).click();
    await browser.seeText('We will send you no more e-mail like this');
    const { items } = await api<Listed<{ id: number; wishes: string[] }>>(browser, '/supporters?q=finch%20lowell');
    expect(items[0]?.wishes).toEqual(['no_email']);
  });

  it('looks at a proof, issues numbered receipts, and the tally closes', async () => {
    const { browser } = world;
    await go('/thanks');
    await browser.see('tr[data-row]');
    const before = await api<Listed<{ id: number; supporterName: string }>>(browser, '/thanks?limit=500');
    const mine = before.items.filter((gift) => ['Wren Testerly', 'Finch Lowell'].includes(gift.supporterName));
    expect(mine).toHaveLength(3);
    const list = await browser.see('[data-list=thanks]');
    await list.click();
    for (const gift of mine) {
      await browser.driver.executeScript(
        'document.querySelector("[data-list=thanks]").scrollTop = arguments[0] * 32',
        before.items.findIndex((one) => one.id === gift.id) - 3,
      );
      await (await browser.see(`tr[data-row="${gift.id}"] [role=checkbox]`)).click();
    }
    await browser.seeText('3 gifts selected');
    await browser.seeText('$2,540.00');
    await expectNoFaults(browser, 'thanks');
    await browser.press('Issue 3 receipts');
    // Finch wants no e-mail and has no address: that is shown before a number is taken.
    await browser.seeText('Look at 1 of 3 first');
    await browser.seeText('wants no e-mail; no address');
    await expectNoFaults(browser, 'thanks, with receipts to look at');
    await browser.press('Issue all 3');
    await browser.seeText('Issued 2026-000001 to 2026-000003: 2 by e-mail, 1 to print');
    expect((await api<Listed<unknown>>(browser, '/thanks?limit=1')).total).toBe(before.total - 3);

    const { items } = await api<Listed<{ id: number }>>(browser, '/supporters?q=wren%20testerly');
    await go(`/supporters/${items[0]?.id}`);
    await browser.seeText('2 gifts, all thanked');
    await browser.seeText('2026-000003');
    await go('/thanks/issued');
    await browser.see('//*[@role="rowheader"][.="2026-000002"]');
    await browser.press('Issues');
    await browser.seeText('2026-000001 to 2026-000003');
    await browser.until(async () => {
      const mail: { to: string[]; attachments: string[] }[] = await (
        await fetch(`${world.stack.mailRoom}/messages.json`)
      ).json();
      const files = mail.filter(({ to }) => to.includes('wren@example.org')).flatMap(({ attachments }) => attachments);
      return files.some((name) => /^receipt-2026-00000\d\.pdf$/.test(name));
    }, 'no receipt came by e-mail');
    expect(await (await browser.see('footer')).text()).not.toContain('Undo');
  });
});

describe('lists', () => {
  it('move, select and peek by keyboard, and the open section stays', async () => {
    const { browser } = world;
    await go('/supporters');
    await browser.see('tr[data-row]');
    const list = await browser.see('[data-list=supporters]');
    await list.focus();
    await browser.keys('j', 'j', ' ', 'j', ' ', Key.ENTER);
    await browser.seeText('2 supporters selected');
    await browser.press('Correspondence');
    const first = await (await browser.see('aside article h2')).text();
    await browser.driver.executeScript('document.activeElement.blur()');
    await browser.keys(']');
    await browser.until(
      async () => (await (await browser.see('aside article h2')).text()) !== first,
      'the peek stayed',
    );
    expect(await browser.driver.getCurrentUrl()).toContain('section=correspondence');
    await browser.keys(Key.ESCAPE);
    await browser.until(async () => (await browser.all('aside')).length === 0, 'the peek did not close');
  });

  it('scroll through everyone, loading as they go', async () => {
    const { browser } = world;
    await browser.until(
      async () => {
        await browser.driver.executeScript(
          'const list = document.querySelector("[data-list=supporters]"); list.scrollTop = list.scrollHeight',
        );
        return /Zelenko|Zapata/.test(await browser.text());
      },
      'the list did not come to its end',
      120_000,
    );
    expect((await browser.all('tr[data-row]')).length).toBeLessThan(120);
  });

  it('hide columns and remember it', async () => {
    const { browser } = world;
    await browser.press('Choose columns');
    await (await browser.see('[role=checkbox][aria-label="Show E-mail"]')).click();
    await browser.keys(Key.ESCAPE);
    await go('/supporters');
    await browser.see('tr[data-row]');
    const headings = await browser.all('//th[contains(., "E-mail")]');
    expect(headings).toHaveLength(0);
  });
});

describe('every view', () => {
  it.each([
    '/',
    '/supporters',
    '/supporters?peek=10008',
    '/supporters/10008?section=contact',
    '/supporters/10008?section=history',
    '/gifts',
    '/gifts/20005',
    '/segments',
    '/outreach',
    '/outreach/1',
    '/outreach/2',
    '/thanks',
    '/thanks/issued',
    '/thanks/letters',
    '/intake',
    '/intake/1',
    '/changes',
    '/nowhere',
  ])('%s has no fault for those who do not see or use a mouse, in light and dark', async (path) => {
    const { browser } = world;
    await go(path);
    await expectNoFaults(browser, path);
    await browser.driver.executeScript('document.documentElement.dataset.theme = "dark"');
    // In the dark nothing is another but the colours.
    await expectNoFaults(browser, `${path}, dark`, OF_COLOURS);
  });

  it('reports nothing wrong to the console', async () => {
    const entries = await world.browser.driver.manage().logs().get('browser');
    expect(
      entries
        .filter((entry) => entry.level.name === 'SEVERE' && !/40[0-9]|422/.test(entry.message))
        .map((entry) => entry.message),
    ).toEqual([]);
  });

  it('is served with at most 300 kB of compressed script at first', async () => {
    const html = await (await fetch(world.stack.url)).text();
    const scripts = [...html.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((match) => match[1]);
    const { gzipSync } = await import('node:zlib');
    let size = 0;
    for (const script of scripts)
      size += gzipSync(Buffer.from(await (await fetch(`${world.stack.url}${script}`)).arrayBuffer())).length;
    expect(size).toBeGreaterThan(50_000);
    expect(size).toBeLessThan(300_000);
  });
});
