import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addMonths } from '@tallystick/core/dates';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* Money: a sheet by keyboard alone, the gift form, pledges, corrections, deposits. */

interface Listed<T> {
  items: T[];
  total: number;
  sum: { count: number; cents: number };
}
interface Someone {
  id: number;
  name: string;
  number: string;
}

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const go = (path: string) => world.browser.go(`${world.stack.url}${path}`);
const wait = (what: () => Promise<boolean>, words: string) => world.browser.until(what, words);
/** The text box of the cell that is being worked on, once it is the one named. */
const inCell = async (name: string): Promise<void> => {
  await wait(async () => {
    const here = await world.browser.driver.executeScript('return document.activeElement?.ariaLabel');
    return here === name;
  }, `the keys did not come to ${name}`);
};

describe('a sheet of twenty rows', () => {
  it('is begun, typed, repaired, balanced and posted by keyboard alone', async () => {
    const { browser } = world;
    const known = await api<Listed<Someone>>(browser, '/supporters?q=kettleworth&limit=10');
    expect(known.items.length).toBeGreaterThan(4);
    await go('/');
    await browser.see('figure svg');
    await browser.keys('a');
    await browser.see('[role=menu]');
    await browser.keys('s', 'h');
    await wait(
      async () => (await browser.driver.executeScript('return document.activeElement?.innerText')) === 'Sheet of gifts',
      'the menu did not come to the sheet',
    );
    await browser.keys(Key.ENTER);
    await browser.see('//*[@role="dialog"]//h2[.="Begin a sheet"]');
    await browser.focusOn('[role=dialog] input');
    await browser.control('a');
    await browser.keys('Supper tables', Key.TAB, Key.TAB, Key.TAB, '20', Key.TAB, '1,310.00', Key.ENTER);
    await browser.see('[role=grid]');
    await inCell('Who, row 1');
    for (let row = 0; row < 20; row++) {
      const person = row % 4 === 0 ? known.items[row / 4] : undefined;
      await browser.keys(person ? person.number : `Guest Nightingale${'abcdefghijklmnopqrst'[row] ?? ''}`);
      await browser.seeText('Someone new');
      await browser.keys(Key.TAB);
      await inCell(`Amount, row ${row + 1}`);
      await browser.keys(
        row === 6 ? '12o' : row === 7 ? '$50.00' : '65',
        Key.TAB,
        row % 5 === 4 ? 'cash' : '',
        Key.TAB,
      );
      await browser.keys(String(3_000 + row), Key.ENTER);
      await inCell(`Who, row ${row + 2}`);
    }
    await browser.seeText('1 row to mend');
    await browser.seeText('All kept');
    for (let up = 0; up < 14; up++) await browser.keys(Key.ARROW_UP);
    await browser.keys(Key.ARROW_RIGHT);
    await inCell('Amount, row 7');
    await browser.seeText('12o');
    await browser.keys('90', Key.ENTER);
    await browser.seeText('balances');
    await expectNoFaults(browser, 'entry sheet');
    await browser.control(Key.ENTER);
    await browser.seeText('20 gifts, $1,310.00, from 5 known and 15 new supporters');
    await browser.keys(Key.ENTER);
    await browser.seeText('What next?');
    const batches = await api<Listed<{ name: string; id: number; count: number; cents: number; state: string }>>(
      browser,
      '/batches',
    );
    const batch = batches.items.find((one) => one.name === 'Supper tables');
    expect(batch).toMatchObject({ count: 20, cents: 1_310_00, state: 'balanced' });
    const gifts = await api<Listed<{ supporterId: number }>>(browser, `/gifts?batchId=${batch?.id ?? 0}`);
    const ids = new Set(gifts.items.map((gift) => gift.supporterId));
    for (const person of known.items.slice(0, 5)) expect(ids.has(person.id)).toBe(true);
    await browser.press('See these');
    await browser.seeText('20 gifts, $1,310.00');
    await go(`/thanks?batch=${batch?.id ?? 0}`);
    await browser.seeText('20 gifts not yet acknowledged');
  });

  it('keeps what is typed over a reload, pastes a block, fills down, and is undone by Undo', async () => {
    const { browser } = world;
    await go('/gifts/sheets?new=1');
    await browser.see('//*[@role="dialog"]//h2[.="Begin a sheet"]');
    await browser.focusOn('[role=dialog] input');
    await browser.keys(Key.ENTER);
    await inCell('Who, row 1');
    await browser.driver.executeScript(`
      const data = new DataTransfer();
      data.setData('text/plain', 'Odd Paster\\t12.50\\tCash\\nEven Paster\\t7.50\\n');
      document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    `);
    await browser.seeText('Even Paster');
    await browser.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_DOWN);
    await inCell('Paid by, row 2');
    await browser.control('d');
    await browser.seeText('All kept');
    await browser.driver.navigate().refresh();
    await browser.seeText('Even Paster');
    await browser.seeText('2 gifts, $20.00');
    expect((await browser.words('[data-cell$=":2"]')).slice(0, 2)).toEqual(['Cash', 'Cash']);
    await inCell('Who, row 1');
    await browser.control(Key.ENTER);
    await browser.seeText('All of it or nothing');
    await browser.keys(Key.ENTER);
    await browser.seeText('What next?');
    await browser.press('Undo');
    await wait(async () => (await browser.text()).includes('Post 2 gifts'), 'the sheet did not open again');
  });

  it('is typed on while the server is away, and kept once it is back', async () => {
    const { browser } = world;
    await go('/gifts/sheets?new=1');
    await browser.see('//*[@role="dialog"]//h2[.="Begin a sheet"]');
    await browser.focusOn('[role=dialog] input');
    await browser.keys(Key.ENTER);
    await inCell('Who, row 1');
    const sheet = (await browser.driver.getCurrentUrl()).split('/').at(-1) ?? '';
    await browser.offline(true);
    // No key waits for an answer: each goes to the cell that it was meant for.
    await browser.keys('Zora Farfield', Key.TAB, '75', Key.TAB, Key.TAB, '8101', Key.ENTER);
    await browser.keys('Amos Lampwright', Key.TAB, '25', Key.ENTER);
    await inCell('Who, row 3');
    await browser.seeText('Kept on this machine; the server is away');
    const rows = async () =>
      (await api<{ lines: { cells: Record<string, string> }[] }>(browser, `/sheets/${sheet}`)).lines.map(
        (line) => line.cells,
      );
    await browser.offline(false);
    await browser.seeText('All kept');
    expect(await rows()).toEqual([
      { wholeName: 'Zora Farfield', amount: '75', cheque: '8101' },
      { wholeName: 'Amos Lampwright', amount: '25' },
    ]);
    await browser.seeText('2 gifts, $100.00');
  });

  it('has a layout that is moved by keys, and prints', async () => {
    const { browser } = world;
    await go('/gifts/sheets/1');
    await browser.see('[role=grid] [data-cell="0:0"]');
    await browser.seeText('1 row to mend');
    await browser.press('Layout');
    const grip = await browser.see('//button[@aria-label="Move Fund"]');
    await grip.type(Key.SPACE);
    await browser.seeText('moved over droppable area fund');
    await browser.keys(Key.ARROW_UP);
    await wait(async () => /moved over droppable area (?!fund)/.test(await browser.text()), 'Fund did not move');
    await browser.keys(Key.SPACE);
    await browser.seeText('was dropped');
    await expectNoFaults(browser, 'layout');
    await browser.press('Use for this sheet');
    await wait(async () => {
      const heads = await browser.words('[role=columnheader]');
      return heads.indexOf('Fund') > 0 && heads.indexOf('Fund') < heads.indexOf('Check');
    }, 'the column did not move');
    const widthOf = async (field: string): Promise<number> =>
      (await api<{ columns: { field: string; width: number }[] }>(browser, '/sheets/1')).columns.find(
        (column) => column.field === field,
      )?.width ?? 0;
    const before = await widthOf('fund');
    const edge = await browser.see('//*[@role="columnheader"][starts-with(., "Fund")]/*[@role="presentation"]');
    await edge.drag(60);
    await wait(async () => (await widthOf('fund')) === before + 60, 'the column did not grow');
    expect(
      await browser.driver.executeScript('return [...document.links].some((a) => a.href.endsWith("print.pdf"))'),
    ).toBe(true);
  });
});

describe('the gift form', () => {
  it('splits by share, credits the spouse, and asks about a check number that was used', async () => {
    const { browser } = world;
    const {
      items: [person],
    } = await api<Listed<Someone>>(browser, '/supporters?q=quillfeather&limit=1');
    const record = async (cheque: string): Promise<void> => {
      await go('/gifts');
      await browser.see('tr[data-row]');
      await browser.keys('g');
      await browser.focusOn('[role=combobox]');
      await browser.keys(person?.number ?? '');
      await browser.see('[role=option]');
      await browser.keys(Key.ENTER);
      await browser.fill('Amount', '100.01');
      await browser.fill('Check number', cheque);
      await browser.press('Split');
      await browser.fill('Amount or share, part 1', '60%');
      await browser.choose('Fund, part 2', 'Dark Ground');
      await expectNoFaults(browser, 'gift form');
      await browser.press('Record gift');
    };
    await record('771199');
    await browser.seeText('$100.01 from');
    const gifts = await api<Listed<{ id: number; cents: number }>>(
      browser,
      `/gifts?supporterId=${person?.id ?? 0}&kind=split`,
    );
    const made = gifts.items.find((gift) => gift.cents === 100_01);
    const whole = await api<{ parts: { cents: number; fund: string }[] }>(browser, `/gifts/${made?.id ?? 0}`);
    expect(whole.parts).toMatchObject([{ cents: 60_01 }, { cents: 40_00, fund: 'Dark Ground' }]);
    await record('771199');
    await browser.seeText('Record it anyway?');
    await browser.press('Record it anyway');
    await wait(
      async () =>
        (
          await api<Listed<{ cents: number }>>(
            browser,
            `/gifts?supporterId=${person?.id ?? 0}&kind=split&atLeast=10001&atMost=10001`,
          )
        ).total === 2,
      'the second gift was not recorded',
    );
  });

  it('records stock in memory of someone, and its sale once it was receipted', async () => {
    const { browser } = world;
    const [person, other] = (await api<Listed<Someone>>(browser, '/supporters?q=quillfeather&limit=2')).items;
    await go('/gifts');
    await browser.see('tr[data-row]');
    await browser.keys('g');
    await browser.focusOn('[role=combobox]');
    await browser.keys(person?.number ?? '');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.choose('Payment method', 'Stock');
    await browser.fill('Symbol', 'hzn');
    await browser.fill('Shares', '125.5');
    await browser.fill('Mean price that day', '41.3375');
    await browser.seeText('The gift is worth $5,187.86');
    await browser.press('Tribute');
    await browser.choose('The gift is', 'in memory of');
    await browser.press('Match');
    await browser.press('Record gift');
    await browser.seeText('Say whom the gift honours or remembers');
    await browser.seeText('Choose the employer that matches it');
    await browser.fill('Name', 'Ada Winterbourne');
    await browser.press('Without match by an employer');
    await browser.press('Record gift');
    await browser.seeText('$5,187.86 from');
    type Whole = { id: number; details: unknown; tribute: unknown; credits: { supporterId: number; cents: number }[] };
    const { items } = await api<Listed<Whole>>(browser, `/gifts?supporterId=${person?.id ?? 0}&method=stock`);
    const id = items[0]?.id ?? 0;
    const whole = () => api<Whole>(browser, `/gifts/${id}`);
    expect(await whole()).toMatchObject({ tribute: { kind: 'memory', name: 'Ada Winterbourne' } });
    await browser.driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1];
       fetch('/api/v1/thanks/issue', { method: 'POST', headers: { 'Content-Type': 'application/json' },
         body: JSON.stringify({ letterId: 1, giftIds: [${id}] }) }).then((answer) => done(answer.status));`,
    );
    await go(`/gifts/${id}`);
    await browser.seeText('Thanked');
    await browser.press('Change');
    await browser.seeText('was issued for it');
    const amount = await browser.see('//*[@role="dialog"]//input[@placeholder="shares × price"]');
    expect(await amount.enabled()).toBe(false);
    await browser.fill('Sold on', '11/20/2026');
    await browser.fill('Sale brought', '5,190.00');
    await browser.press('Soft credits');
    await (await browser.see('//*[@role="dialog"]//input[@aria-label="Credited, line 1"]')).click();
    await browser.keys(other?.number ?? '');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await expectNoFaults(browser, 'gift form of a settled gift');
    await browser.press('Save');
    await browser.seeText('sold Nov 20, 2026 for $5,190.00');
    expect(await whole()).toMatchObject({
      details: { symbol: 'HZN', soldOn: '2026-11-20', proceedsCents: 5_190_00 },
      credits: [{ supporterId: other?.id, cents: 5_187_86 }],
    });
  });

  it('moves a gift to whose it is, keeping what it was', async () => {
    const { browser } = world;
    const [person] = (await api<Listed<Someone>>(browser, '/supporters?q=rookwood&limit=1')).items;
    const [gift] = (
      await api<Listed<{ id: number; supporterName: string }>>(browser, '/gifts?method=card&limit=1&sort=date')
    ).items;
    await go(`/gifts/${gift?.id ?? 0}`);
    await browser.press('Correct');
    await (await browser.see('//*[@role="dialog"]//input[@role="combobox"]')).click();
    await browser.keys(person?.number ?? '');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.fill('Why', 'Two of one name');
    await (await browser.see('//form//button[@type="submit"]')).click();
    await browser.seeText(`Adjusted: donor from ${gift?.supporterName ?? ''} to ${person?.name ?? ''}`);
    await go('/gifts/totals?by=year');
    await browser.see('tr[data-row]');
    await browser.choose('Add a filter', 'As known on');
    const known = await browser.see('//label[contains(., "As known on")]//input');
    await known.type('6/30/2026');
    await browser.keys(Key.ENTER);
    await browser.seeText('as known on Jun 30, 2026');
    await browser.seeText('of legal donors');
  });

  it('corrects a gift that was receipted, and says what the receipt needs', async () => {
    const { browser } = world;
    const {
      items: [gift],
    } = await api<Listed<{ id: number }>>(browser, '/thanks?limit=1');
    await go('/thanks');
    await (await browser.see('tr[data-row]:nth-of-type(1) [role=checkbox]')).click();
    await browser.press('Issue 1 receipt');
    await browser.press('Issue 1 receipt now');
    await browser.seeText('Issued 2026-');
    await go(`/gifts/${gift?.id ?? 0}`);
    await browser.press('Correct');
    await browser.press('Void');
    await browser.fill('Why', 'Recorded twice');
    await expectNoFaults(browser, 'correction');
    await (await browser.see('//form//button[@type="submit"]')).click();
    await browser.seeText('The receipt is to be voided');
    await browser.press('Void receipt');
    await wait(async () => !(await browser.text()).includes('The receipt is to be voided'), 'the receipt stayed');
  });
});

describe('pledges', () => {
  it('are recorded, paid with an overpayment asked about, rescheduled and written off', async () => {
    const { browser } = world;
    await go('/gifts/pledges?add=1');
    await browser.see('//*[@role="dialog"]//h2[.="Record a promise"]');
    await browser.focusOn('[role=combobox]');
    await browser.keys('S-10020');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.fill('Amount', '100.00');
    await browser.fill('How many', '7');
    await browser.seeText('7 installments: $14.29');
    await expectNoFaults(browser, 'pledge form');
    await browser.press('Record pledge');
    await browser.see('[role=grid][aria-label=Installments]');
    await browser.press('Record a payment');
    await browser.seeText('Pays P-');
    await browser.fill('Amount', '120.00');
    await browser.press('Record gift');
    await browser.seeText('$20.00 more than the $100.00 still open');
    await browser.keys(Key.ESCAPE);
    await browser.press('Throw it away');
    await browser.press('Reschedule what is left');
    await browser.choose('To be paid', 'at once');
    await (await browser.see('//*[@role="dialog"]//button[.="Reschedule"]')).click();
    await browser.seeText('laid out anew');
    await browser.press('Write off');
    await browser.fill('Why', 'Moved away');
    await (await browser.see('//*[@role="dialog"]//button[.="Write off"]')).click();
    await browser.seeText('Nothing open');
    await expectNoFaults(browser, 'pledges');
  });

  it('and gifts of long ago are asked about once', async () => {
    const { browser } = world;
    const { organization } = await api<{ organization: { today: string } }>(browser, '/session');
    const longAgo = addMonths(organization.today, -36);
    const gifts = async () => (await api<{ total: number }>(browser, '/gifts?limit=1')).total;
    await go('/gifts/pledges?add=1');
    await browser.see('//*[@role="dialog"]//h2[.="Record a promise"]');
    await browser.focusOn('[role=combobox]');
    await browser.keys('S-10022');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.fill('Amount', '90.00');
    await browser.fill('Promised on', longAgo);
    await browser.press('Record pledge');
    await browser.seeText('That is more than a year ago.');
    await expectNoFaults(browser, 'odd day of a pledge');
    await browser.press('The day is right');
    await browser.see('[role=grid][aria-label=Installments]');
    const before = await gifts();
    await browser.press('Record a payment');
    await browser.seeText('Pays P-');
    await browser.fill('Amount', '30.00');
    await browser.fill('Date', longAgo);
    await browser.press('Record gift');
    await browser.seeText('That is more than a year ago.');
    expect(await gifts()).toBe(before);
    await browser.press('The day is right');
    await wait(async () => (await gifts()) === before + 1, 'the gift was not recorded');
  });
});

describe('a gift recorded before', () => {
  it('is put to a pledge that is raised for it, taken off it, and moved to a batch of its own', async () => {
    const { browser } = world;
    const [who] = (await api<Listed<Someone>>(browser, '/supporters?q=S-10021&limit=1')).items;
    const supporterId = who?.id ?? 0;
    const post = <T>(path: string, body: object) => api<T>(browser, path, body);
    const today = (await api<{ organization: { today: string } }>(browser, '/session')).organization.today;
    const pledge = await post<{ id: number; number: string }>('/pledges', {
      ...{ supporterId, cents: 5_000, pledgedOn: today, fundId: 1 },
      plan: { kind: 'rows', rows: [{ due: today, cents: 5_000 }] },
    });
    const gift = await post<{ id: number; number: string }>('/gifts', {
      ...{ supporterId, cents: 6_500, date: today, fundId: 1, method: 'cash' },
    });
    await go(`/gifts/${gift.id}`);
    await browser.press('Put to a pledge');
    await browser.see('//*[@role="dialog"]//button[@aria-label="Pays a pledge"]');
    await browser.choose('Pays a pledge', `Pays ${pledge.number}`);
    await expectNoFaults(browser, 'put to a pledge');
    await browser.press('Put to the pledge');
    await browser.seeText('$15.00 more than the $50.00 still open');
    await browser.press('Raise the pledge');
    await browser.see(`//section[h2="Pays"]//a[.="${pledge.number}"]`);
    await browser.press('Take off');
    await wait(async () => !(await browser.text()).includes('Take off'), 'it still pays the pledge');
    await browser.press('Move to another batch');
    await browser.see('//*[@role="dialog"]//h2');
    await browser.choose('Batch', 'A new batch');
    await browser.fill('Its name', 'Coins of the fountain');
    await browser.press('Move');
    await browser.see('//dd//a[.="Coins of the fountain"]');
    await go(`/gifts/pledges?peek=${pledge.id}&show=all`);
    await browser.seeText('$65.00');
    await browser.press('Change or raise');
    await browser.see('//*[@role="dialog"]//h2');
    await browser.fill('Amount', '80.00');
    await browser.seeText('$15.00 more, on the last installment');
    await expectNoFaults(browser, 'change a pledge');
    await browser.press('Save');
    await browser.see(`//article[@aria-label="Pledge ${pledge.number}"]//h2[contains(., "$80.00")]`);
    // Its own page names it, and shows what the donor gave beside.
    await browser.see('//a[contains(., "Open in full")]').then((link) => link.click());
    await browser.see(`//article[@aria-label="Pledge ${pledge.number}"]//h1[contains(., "$80.00")]`);
    await browser.see('//aside[@aria-label="Beside"]//h2[starts-with(., "What ")]');
    await wait(async () => (await browser.driver.getTitle()).startsWith(`Pledge ${pledge.number}`), 'it is not named');
  });
});

describe('every page of the area', () => {
  it.each([
    ['/gifts', 'tr[data-row]'],
    ['/gifts/pledges', 'tr[data-row]'],
    ['/gifts/recurring', 'tr[data-row]'],
    ['/gifts/sheets', 'tr[data-row]'],
    ['/gifts/deposits', 'tr[data-row]'],
    ['/gifts/ledger', 'tr[data-row]'],
    ['/gifts/totals', 'tr[data-row]'],
    ['/gifts/codes', 'tr[data-row]'],
  ])('%s has no fault', async (path, selector) => {
    await go(path);
    await world.browser.see(selector);
    await expectNoFaults(world.browser, path);
  });

  it('records a recurring gift shared by two funds, and charges it at the till, once', async () => {
    const { browser } = world;
    const [person] = (await api<Listed<Someone>>(browser, '/supporters?q=rookwood&limit=1')).items;
    const gifts = () =>
      api<Listed<{ cents: number; fund: string }>>(browser, `/gifts?supporterId=${person?.id ?? 0}&from=2026-11-23`);
    const before = (await gifts()).total;
    await go('/gifts/recurring');
    await browser.see('tr[data-row]');
    await browser.press('Record a recurring gift');
    await browser.focusOn('[role=combobox]');
    await browser.keys(person?.number ?? '');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.fill('Each time', '45.01');
    await browser.fill('Card token of the till', 'good-4242');
    await browser.press('Share it with another fund');
    await browser.seeText('$22.51 to General Operating, $22.50 to');
    await expectNoFaults(browser, 'recurring form');
    await (await browser.see('//*[@role="dialog"]//button[.="Record recurring gift"]')).click();
    await browser.seeText('Expected in the next twelve months');
    const charge = async (words: RegExp): Promise<void> => {
      await browser.press('Charge what is due');
      await wait(async () => words.test(await browser.text()), 'no word of it');
    };
    await charge(/\d+ charged/);
    expect((await gifts()).total).toBe(before + 1);
    expect((await gifts()).items.find((gift) => gift.cents === 45_01)?.fund).toContain(' + ');
    await go('/gifts/recurring');
    await browser.see('tr[data-row]');
    await charge(/Nothing is due|0 charged/);
    expect((await gifts()).total).toBe(before + 1);
  });

  it('balances and deposits a batch', async () => {
    const { browser } = world;
    await go('/gifts/deposits');
    await (await browser.see('tr[data-row] [role=checkbox]')).click();
    await browser.press('Deposit 1 batch');
    await browser.see('//*[@role="dialog"]');
    await (await browser.see('//*[@role="dialog"]//button[.="Deposit"]')).click();
    await browser.seeText('Deposited; the slip is in the list');
  });
});
