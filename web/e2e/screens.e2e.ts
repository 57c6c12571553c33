import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* What screens do besides the main path: roles, conflicts, settings, columns, letters, and a server that goes away. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const go = (path: string) => world.browser.go(`${world.stack.url}${path}`);
const buttons = async (words: string): Promise<number> =>
  (await world.browser.all(`//button[contains(normalize-space(.), "${words}")]`)).length;
async function become(name: string): Promise<void> {
  const { browser } = world;
  await browser.driver.manage().deleteAllCookies();
  await browser.signIn(world.stack.url, name);
}

describe('where one is', () => {
  const title = (): Promise<string> => world.browser.driver.getTitle();
  const named = (name: string): Promise<void> =>
    world.browser.until(async () => (await title()) === `${name} · Tallystick`, `the page is not called ${name}`);
  const hasFocus = (selector: string): Promise<void> => world.browser.focusOn(selector);

  it('is said by the name of the page', async () => {
    await go('/supporters');
    await named('Supporters');
    await go('/gifts/20001');
    await named('Gift G-20001');
    await go('/segments/2');
    await named('Gave last year, not yet this year');
  });

  it('stays so over a peek, a dialog, a record and the way back', async () => {
    const { browser } = world;
    await go('/supporters');
    await browser.see('tr[data-row]');
    const list = '[data-list=supporters]';
    await (await browser.see(list)).focus();
    await browser.keys(...'jjjjjjjjjjjjjjjjjjjjjjjjjjjjjj', Key.ENTER);
    await browser.see('aside article h2');
    await hasFocus(list);
    const scrolled = (): Promise<number> =>
      browser.driver.executeScript(`return document.querySelector('${list}').scrollTop`);
    const before = await scrolled();
    expect(before).toBeGreaterThan(0);
    await browser.keys('g');
    await browser.focusOn('[role=dialog] input');
    await browser.keys(Key.ESCAPE);
    await hasFocus(list);
    const name = await (await browser.see('aside article h2')).text();
    await browser.press('Open in full');
    await named(name);
    await browser.driver.navigate().back();
    await browser.see('aside article h2');
    await hasFocus(list);
    await browser.until(async () => Math.abs((await scrolled()) - before) < 64, 'the list is not where it was');
  });
});

describe('typing faster than the server answers', () => {
  it('Enter takes who was typed, never who was found for a part of it', async () => {
    const { browser } = world;
    const { items } = await api<{ items: { id: number; name: string; number: string }[] }>(
      browser,
      '/supporters?q=rookwood&limit=40',
    );
    for (const row of [items[3], items[11], items[25]]) {
      await go('/gifts');
      await browser.see('tr[data-row]');
      await browser.keys('g');
      const field = await browser.see('[role=dialog] input[role=combobox]');
      await field.type(row?.number ?? '', Key.ENTER);
      await browser.until(
        async () => (await field.attribute('value')) === row?.name,
        'the number did not become a name',
      );
      await browser.keys(Key.ESCAPE);
      await browser.press('Throw it away');
      await browser.until(async () => (await browser.all('[role=dialog]')).length === 0, 'the form stayed open');
      await browser.keys('/');
      await (await browser.see('[cmdk-input]')).type(row?.number ?? '', Key.ENTER);
      await browser.until(
        async () => (await browser.driver.getCurrentUrl()).endsWith(`/supporters/${row?.id}`),
        'it was not gone to',
      );
    }
  });
});

describe('what is somebody else’s', () => {
  it('is shown to whoever enters gifts without the buttons that would be refused', async () => {
    const { browser } = world;
    await become('Desmond Kettleworth');
    const { items } = await api<{ items: { id: number }[] }>(browser, '/supporters?limit=1');
    const supporterId = items[0]?.id ?? 0;
    const body = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Likes owls' }] }] };
    await api(browser, '/notes', { supporterId, kind: 'note', date: '2026-01-10', body });
    await api(browser, '/tasks', { supporterId, title: 'Ring about owls', due: '2026-12-10' });
    const columns = ['wholeName', 'amount'].map((field) => ({
      ...{ field, width: 90, byDefault: '', hidden: false, required: field === 'amount' },
    }));
    const sheet = await api<{ id: number }>(browser, '/sheets', {
      ...{ name: 'Not yours', columns, expectedCount: null, expectedCents: null },
    });
    await go(`/supporters/${supporterId}?section=notes`);
    await browser.see('button[aria-label="Edit the note"]');
    await browser.see('button[aria-label="Delete the task Ring about owls"]');
    await become('Fern Dovecote');
    await go(`/supporters/${supporterId}?section=notes`);
    await browser.seeText('Ring about owls');
    await browser.seeText('Likes owls');
    // Nobody has the task, so anyone may tick it off.
    await browser.see('button[aria-label="Tick off: Ring about owls"]');
    const deeds = ['Edit the note', 'Delete the note', 'Delete the task Ring about owls'];
    for (const deed of deeds) expect(await browser.all(`//button[@aria-label="${deed}"]`)).toHaveLength(0);
    await go('/gifts/sheets');
    await browser.see('//tr[contains(., "Not yours")]');
    expect(await browser.all('//tr[contains(., "Not yours")]//button')).toHaveLength(0);
    await go(`/gifts/sheets/${sheet.id}`);
    await browser.seeText('they or a development officer type in it');
    expect(await buttons('Post')).toBe(0);
    await become('Marisol Brightwater');
    await go(`/gifts/sheets/${sheet.id}`);
    await browser.see('//button[contains(., "Post")]');
    await expectNoFaults(browser, 'what is somebody else’s');
  });
});

describe('keys', () => {
  it('? lists them all, Escape closes', async () => {
    const { browser } = world;
    await go('/');
    await browser.see('figure svg');
    await browser.keys('?');
    await browser.seeText('Undo your last change');
    await expectNoFaults(browser, 'keys');
    await browser.keys(Key.ESCAPE);
    await browser.until(async () => !(await browser.text()).includes('Undo your last change'), 'it was not gone to');
  });

  it('t tags a record, and the tag is in its history', async () => {
    const { browser } = world;
    await go('/supporters/10009?section=history');
    await browser.see('svg[role=img]');
    await browser.keys('t');
    const field = await browser.see('//button[@id=//label[.="Tags"]/@for]');
    expect(await field.focused()).toBe(true);
    await browser.keys('Night owl');
    await browser.see('//*[@role="option"][contains(., "Add “Night owl”")]');
    await browser.keys(Key.ENTER);
    await browser.see('button[aria-label="Take out Night owl"]');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.ENTER).keyUp(Key.CONTROL).perform();
    await browser.seeText('Tag Night owl added');
  });

  it('the tally names its gifts with the arrows and opens one with Enter', async () => {
    const { browser } = world;
    await go('/supporters/10009');
    const stick = await browser.see('svg[role=img]');
    await stick.focus();
    await browser.keys(Key.ARROW_RIGHT);
    await browser.seeText(', thanked ');
    await browser.keys(Key.ENTER);
    await browser.see('article[aria-label^="Gift G-"]');
  });
});

describe('columns', () => {
  const headings = () => world.browser.words('th[scope=col]');

  it('are sorted by a click, resized and moved by dragging', async () => {
    const { browser } = world;
    await go('/gifts');
    await browser.see('tr[data-row]');
    await browser.press('Amount');
    await browser.see('th[aria-sort=ascending]');
    expect(await browser.driver.getCurrentUrl()).toContain('sort=amount');
    const fund = await browser.see('//th[contains(., "Fund")]');
    const before = await fund.width();
    const handle = await browser.see('//th[contains(., "Fund")]/span[@role="presentation"]');
    await handle.drag(60);
    expect(await fund.width()).toBeGreaterThan(before + 40);
    for (const [heading, type] of [
      ['Paid by', 'dragstart'],
      ['Date', 'dragover'],
      ['Date', 'drop'],
    ] as const)
      await browser.driver.executeScript(
        `[...document.querySelectorAll('th')].find((th) => th.innerText.startsWith(arguments[0]))
           .dispatchEvent(new DragEvent(arguments[1], { bubbles: true, cancelable: true, dataTransfer: new DataTransfer() }));`,
        heading,
        type,
      );
    await browser.until(async () => /Paid by.*Date/s.test((await headings()).join()), 'the column did not move');
    await go('/gifts');
    await browser.see('tr[data-row]');
    const kept = await headings();
    expect(kept.indexOf('Paid by')).toBeLessThan(kept.findIndex((name) => name.startsWith('Date')));
  });

  it('follow the filters, with the sum of the whole list in the footer', async () => {
    const { browser } = world;
    await browser.press('Telescope Van');
    const { sum } = await api<{ sum: { count: number; cents: number } }>(browser, '/gifts?limit=1&fundId=2');
    await browser.seeText(
      `${sum.count.toLocaleString('en-US')} gifts, $${(sum.cents / 100).toLocaleString('en-US', { minimumFractionDigits: 2 })}`,
    );
  });
});

describe('an intake', () => {
  it('is read anew as columns are given other places', async () => {
    const { browser } = world;
    const file = join(tmpdir(), `odd-${process.pid}.csv`);
    writeFileSync(file, 'Who,How much,Noted\nVesper Lowell,25,11/02/2026\n');
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file);
    await browser.seeText('0 of 3 columns have a place');
    await browser.choose('Who', 'Last name');
    await browser.seeText('1 of 3 columns have a place');
    await browser.choose('How much', 'Gift amount');
    await browser.seeText('1 new supporter, 1 gift of $25.00');
  });

  it('is cleaned up, rehearsed, brought in, and its recipe reads the next file of the source', async () => {
    const { browser } = world;
    const file = (name: string, ...rows: string[]): string => {
      const path = join(tmpdir(), `${name}-${process.pid}.csv`);
      writeFileSync(path, ['First name,Last name,Fund,Paid,Amount', ...rows].join('\n'));
      return path;
    };
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file('auction', 'ORLA,MCKINTYRE,Sky watch,card,75', 'Odell,Quist,Dark Ground,card,25'));
    await browser.seeText('There is no fund named “Sky watch”.');
    await browser.press('Columns (5)');
    await browser.choose('Paid', 'Payment method');
    await browser.press('Clean up Fund');
    await browser.choose('What Sky watch stands for', 'Dark Ground');
    await expectNoFaults(browser, 'clean-up of a column');
    await browser.press('Use this');
    await browser.seeText('2 new supporters, 2 gifts of $100.00');
    await expectNoFaults(browser, 'columns of an intake');
    await browser.press('How it is read');
    await browser.press('Keep as a recipe …');
    await browser.fill('Name', 'Auction list');
    await browser.press('Keep it');
    await browser.seeText('The recipe is kept');
    await expectNoFaults(browser, 'how an intake is read');
    await browser.press('Rehearse');
    await browser.seeText('Rehearsed, nothing was kept: 2 rows, 2 new supporters, 2 gifts');
    await browser.press('Bring in 2 rows');
    await browser.seeText('Added: 2 records, 2 gifts.');
    await browser.press('A segment of everyone it touched');
    await browser.seeText('was changed from auction');
    await browser.seeText('2 supporters');
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file('auction-2', 'Otis,Quill,SKY WATCH,card,40'));
    await browser.seeText('Read by the recipe “Auction list”.');
    await browser.seeText('1 new supporter, 1 gift of $40.00');
    await browser.press('Open row 2');
    await browser.fill('Amount', '45');
    await browser.press('Use these');
    await browser.seeText('1 new supporter, 1 gift of $45.00');
  });

  it('asks what it would have to guess, and who a row is, before anything is written', async () => {
    const { browser } = world;
    const { items } = await api<{ items: { id: number; name: string; email: string | null }[] }>(
      browser,
      '/supporters?limit=200&kind=person',
    );
    const known = items.find(({ email }) => email) ?? { name: '', email: '' };
    const file = join(tmpdir(), `guests-${process.pid}.csv`);
    const rows = [`Zelda,Quorn,${known.email},25,03/04/2026,7`, 'Cosmo,Vale,cosmo@example.org,40,05/06/2026,8'];
    writeFileSync(file, ['First name,Last name,Email,Amount,Date,Table', ...rows].join('\n'));
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file);
    await browser.seeText('“03/04/2026” can be read two ways, and no date of the column says which.');
    await browser.seeText('1 column holds something and has no place: “Table”.');
    await expectNoFaults(browser, 'questions of an intake');
    await browser.press('The month first');
    await browser.seeText('1 new supporter, 1 gift of $40.00');
    await browser.press('Leave what has no place out');
    await browser.seeText('Its e-mail is of somebody with quite another name');
    await browser.press('Choose who row 2 is');
    await browser.see('[role=menuitem]');
    // The second of those to choose from is somebody new.
    await browser.keys('2', Key.ENTER);
    await browser.seeText('2 new supporters, 2 gifts of $65.00');
    await browser.press('Choose again');
    await browser.seeText('1 new supporter, 1 gift of $40.00');
    await browser.press('Bring in 1 row');
    await browser.seeText('Brought in.');
  });

  it('of a file that is none says so and keeps the page', async () => {
    const { browser } = world;
    const file = join(tmpdir(), `picture-${process.pid}.csv`);
    writeFileSync(file, Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 2]));
    await go('/intake');
    await browser.see('tr[data-row]');
    await browser.upload(file);
    await browser.seeText('This is not a text file, nor a workbook.');
  });
});

describe('letters', () => {
  it('are edited with fields in them, and saved', async () => {
    const { browser } = world;
    await go('/thanks/letters');
    await browser.see('[role=textbox]');
    await browser.fill('Subject when it goes by e-mail', 'Thank you, {first|friend}');
    await (await browser.see('[role=textbox]')).click();
    await browser.control(Key.END);
    await browser.choose('Merge field', 'Receipt number');
    await browser.press('Insert field');
    await browser.press('Save letter');
    await browser.seeText('Letter saved');
    const { items } = await api<{ items: { subject: string; body: unknown }[] }>(browser, '/letters');
    const letter = items.find((one) => one.subject === 'Thank you, {first|friend}');
    expect(JSON.stringify(letter?.body)).toContain('"field":"receiptNumber"');
  });
});

describe('all changes', () => {
  it('can be undone from their list, each once', async () => {
    const { browser } = world;
    await go('/changes');
    await browser.see('tr[data-row]');
    await (await browser.see('//tr[contains(., "Changed the letter")]//button[.="Undo"]')).click();
    await browser.seeText('Undid: Changed the letter');
    await browser.seeText('undone by');
  });
});

describe('roles', () => {
  it('read only sees everything and changes nothing', async () => {
    await become('Amos Rookwood');
    const { browser } = world;
    for (const [path, words] of [
      ['/supporters', 'Add supporter'],
      ['/gifts', 'Record a gift'],
      ['/segments', 'New segment'],
      ['/outreach', 'New e-mail'],
      ['/thanks', 'Issue'],
      ['/intake', 'Bring in'],
    ] as const) {
      await go(path);
      await browser.see('tr[data-row]');
      expect([path, await buttons(words)]).toEqual([path, 0]);
    }
    await browser.keys('g');
    expect(await browser.all('[role=dialog]')).toHaveLength(0);
  });

  it('an administrator makes a user and a token whose secret is shown once', async () => {
    await become('Desmond Kettleworth');
    const { browser } = world;
    await go('/settings');
    await browser.see('//h2[.="Users"]');
    await browser.fill('Name', 'Wren Testerly');
    await browser.fill('E-mail', 'wren@example.org');
    await browser.fill('First password', 'short');
    await browser.press('Add user');
    await browser.seeText('A password has at least 12 characters.');
    await browser.fill('First password', 'a long enough one');
    await browser.press('Add user');
    await browser.seeText('Wren Testerly can now sign in');
    await browser.fill('What the token is for', 'Nightly feed');
    await browser.press('Make token');
    await browser.seeText('Copy it now, it is shown this once: tally_');
    await expectNoFaults(browser, 'settings');
    await go('/settings');
    await browser.seeText('Nightly feed');
    expect(await browser.text()).not.toContain('tally_');
  });

  it('who came in is seen, a way in is taken and given back, and one’s own sessions are ended', async () => {
    const { browser } = world;
    await go('/settings');
    await (await browser.see('//tr[contains(., "Wren Testerly")]//button[.="Deactivate"]')).click();
    await browser.seeText('Wren Testerly cannot sign in any more');
    await (await browser.see('//tr[contains(., "Wren Testerly")]//button[.="Activate"]')).click();
    await browser.see('//tr[contains(., "Wren Testerly")]//button[.="Deactivate"]');
    await go('/settings/accesses?what=rights');
    await browser.see('//tr[contains(., "updateUser")]');
    await expectNoFaults(browser, 'access log');
    await go('/settings/account');
    await browser.seeText('this one');
    await browser.fill('The one you have now', 'not mine at all');
    await browser.fill('The new one', 'moss copper lantern');
    await browser.press('Change password');
    await browser.seeText('This is not the password that you have now.');
    await expectNoFaults(browser, 'account');
  });

  it('a segment is deleted and comes back by Undo', async () => {
    const { browser } = world;
    const made = await api<{ id: number }>(browser, '/segments', {
      ...{ name: 'To be deleted', conditions: { kind: 'group', join: 'all', parts: [] } },
    });
    await go(`/segments/${made.id}`);
    // What the tray shows comes later than what happened: Undo is about what happened.
    await browser.slowBy(700);
    await browser.press('More');
    await browser.press('Delete');
    await browser.seeText('Segment deleted; Undo brings it back');
    await browser.press('Undo');
    await browser.slowBy(0);
    await browser.until(
      async () => JSON.stringify(await api(browser, '/segments')).includes('To be deleted'),
      'the segment did not come back',
    );
  });

  it('a wrong password is refused in words', async () => {
    const { browser } = world;
    await browser.driver.manage().deleteAllCookies();
    await go('/');
    await browser.fill('E-mail', 'wren@example.org');
    await browser.fill('Password', 'not this one');
    await browser.keys(Key.ENTER);
    await browser.seeText('The e-mail address or the password is wrong.');
    await expectNoFaults(browser, 'sign in');
    await browser.fill('Password', 'a long enough one');
    await browser.keys(Key.ENTER);
    await browser.see('footer[aria-label="Tray"]');
  });

  it('a password is changed with the one before, and the new one signs in', async () => {
    const { browser } = world;
    await go('/settings/account');
    await browser.fill('The one you have now', 'a long enough one');
    await browser.fill('The new one', 'moss copper lantern');
    await browser.press('Change password');
    await browser.seeText('Your password is changed');
    await browser.driver.manage().deleteAllCookies();
    await go('/');
    await browser.fill('E-mail', 'wren@example.org');
    await browser.fill('Password', 'a long enough one');
    await browser.keys(Key.ENTER);
    await browser.seeText('The e-mail address or the password is wrong.');
    await browser.fill('Password', 'moss copper lantern');
    await browser.keys(Key.ENTER);
    await browser.see('footer[aria-label="Tray"]');
  });
});

describe('a server that goes away', () => {
  it('is spoken of plainly, and what is on the screen stays', async () => {
    const { browser } = world;
    await become('Marisol Brightwater');
    await go('/supporters');
    await browser.see('tr[data-row]');
    await world.stack.stop();
    await browser.seeText('is not answering', 20_000);
    await browser.seeText('nothing you typed is lost', 20_000);
    expect((await browser.all('tr[data-row]')).length).toBeGreaterThan(10);
  });
});
