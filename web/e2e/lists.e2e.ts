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
    await browser.choose('Add a filter', 'Paid by');
    await (await browser.see('//*[@role="option"][.="Card"]')).click();
    await browser.until(async () => (await browser.driver.getCurrentUrl()).includes('method=card'), 'it was not added');
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

  it('offers the names of a column as they are typed, and the arrows choose one', async () => {
    const { browser } = world;
    await go('/gifts/sheets?new=1');
    await browser.see('//*[@role="dialog"]//h2[.="Begin a sheet"]');
    await browser.press('Begin');
    await browser.see('[role=grid] input');
    await (await browser.see('[role=grid] input')).focus();
    const cell = () => run<string>(`return document.activeElement.getAttribute('aria-label') ?? ''`);
    while (!(await cell()).startsWith('Fund')) {
      const before = await cell();
      await browser.keys(Key.TAB);
      await browser.until(async () => (await cell()) !== before, 'Tab did not go on');
    }
    await browser.keys('van');
    await browser.see('//*[@role="listbox"][@aria-label="Names"]//*[@role="option"][.="Telescope Van"]');
    await browser.keys(Key.ARROW_DOWN);
    await browser.see('//*[@role="option"][@aria-selected="true"][.="Telescope Van"]');
    await browser.keys(Key.TAB);
    await browser.see('//*[@role="gridcell"][contains(., "Telescope Van")]');
  });
});

describe('a short list', () => {
  const first = () => run<string>(`return document.querySelector('tr[data-row] [role=rowheader]').innerText`);
  const under = (heading: string) =>
    run<string[]>(
      `const at = [...document.querySelectorAll('th[scope=col]')].findIndex((one) => one.innerText.startsWith(${JSON.stringify(heading)}));
       return [...document.querySelectorAll('tr[data-row]')].map((row) => row.children[at].innerText)`,
    );
  const centsOf = (words: string): number => Number(words.replace(/[^\d]/g, ''));

  it('is sorted here by one column and then another, and says so', async () => {
    const { browser } = world;
    await go('/gifts/codes');
    await browser.see('tr[data-row]');
    await browser.press('Given');
    await browser.see('th[aria-sort=ascending]');
    const up = (await under('Given')).map(centsOf);
    expect(up).toEqual([...up].sort((a, b) => a - b));
    await browser.press('Given');
    await browser.see('th[aria-sort=descending]');
    expect((await under('Given')).map(centsOf)).toEqual([...up].reverse());
    await browser.press('State');
    await browser.shiftClick('//th[@scope="col"]//button[starts-with(., "Name")]');
    await browser.until(
      async () => (await browser.all('th[aria-sort]')).length === 2,
      'it is not sorted by two columns',
    );
    const [states, names] = [await under('State'), await under('Name')];
    const pairs = states.map((state, place) => `${/\w+$/.exec(state)?.[0] ?? ''} ${names[place] ?? ''}`);
    expect(pairs).toEqual([...pairs].sort((a, b) => a.localeCompare(b, 'en')));
    await expectNoFaults(browser, 'a short list that is sorted');
    // It is so when one comes back.
    await go('/gifts/codes');
    await browser.until(async () => (await browser.all('th[aria-sort]')).length === 2, 'its order is forgotten');
  });

  it('is one stop of Tab, says its row by the keys, and Enter goes where the row leads', async () => {
    const { browser } = world;
    await go('/segments');
    await browser.see('tr[data-row]');
    const list = await browser.see('[data-list=segments]');
    await list.focus();
    const at = () =>
      run<string>(
        `return document.getElementById(document.activeElement.getAttribute('aria-activedescendant')).dataset.row`,
      );
    const begun = await at();
    await browser.keys('j');
    expect(await at()).not.toBe(begun);
    const second = await at();
    await browser.keys(Key.ENTER);
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).endsWith(`/segments/${second}`),
      'Enter did not open it',
    );
  });

  it('shows all of itself among other things, and its totals', async () => {
    const { browser } = world;
    await go('/gifts/totals?by=fund');
    await browser.see('tr[data-row]');
    const { rows, total } = await api<{ rows: object[]; total: { cents: number } }>(browser, '/gifts/totals', {
      ...{ window: { kind: 'ever' }, by: 'fund' },
    });
    await browser.until(async () => (await browser.all('tr[data-row]')).length === rows.length, 'rows are missing');
    const foot = await browser.words('tfoot td');
    expect(foot.slice(0, 2).map((words) => (/\d/.test(words) ? centsOf(words) : words))).toEqual([
      'In all',
      total.cents,
    ]);
    expect(await first()).not.toBe('');
  });
});

describe('a line that narrows a list', () => {
  afterEach(() => world.browser.slowBy(0));
  it('keeps every letter however slow the answers are, and follows the address where something else changes it', async () => {
    const { browser } = world;
    await go('/supporters');
    await browser.see('tr[data-row]');
    await browser.slowBy(400);
    const box = await browser.see('input[aria-label="Find supporters"]');
    await box.focus();
    const value = () => run<string>(`return document.querySelector('input[aria-label="Find supporters"]').value`);
    for (const letter of 'rookwood') await browser.keys(letter);
    expect(await value()).toBe('rookwood');
    await browser.until(async () => (await browser.driver.getCurrentUrl()).includes('q=rookwood'), 'it is not asked');
    await browser.seeText('found for “rookwood”');
    for (let back = 0; back < 4; back++) await browser.keys(Key.BACK_SPACE);
    expect(await value()).toBe('rook');
    await browser.seeText('found for “rook”');
    await (await browser.see('//nav[@aria-label="Areas"]//a[.="Supporters"]')).click();
    await browser.until(async () => (await value()) === '', 'the line kept what the address no longer says');
  });
});

describe('the supporters', () => {
  it('are sorted by several columns on the server, and groups show what they come to', async () => {
    const { browser } = world;
    await go('/supporters?by=state');
    await browser.see('tr[data-group]');
    await browser.press('Town');
    await browser.see('th[aria-sort]');
    await browser.shiftClick('//th[@scope="col"]//button[starts-with(., "Lifetime")]');
    await browser.shiftClick('//th[@scope="col"]//button[starts-with(., "Lifetime")]');
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).includes('sort=town%2C-lifetime'),
      'the address does not say both',
    );
    const asked = await api<{
      items: { name: string }[];
      groups: { key: string; count: number; sum: { lifetime: number } }[];
      sum: { lifetime: number };
    }>(browser, '/supporters?groupBy=state&sort=town,-lifetime&limit=200');
    const names = () => run<string>(`return document.querySelector('tr[data-row] [role=rowheader]').innerText`);
    await browser.until(async () => (await names()) === asked.items[0]?.name, 'another stands first');
    const [heading] = await browser.words('tr[data-group]');
    const [group] = asked.groups;
    const lifetime = ((group?.sum.lifetime ?? 0) / 100).toLocaleString('en-US', { style: 'currency', currency: 'USD' });
    expect(heading).toContain(lifetime);
    expect(asked.groups.reduce((sum, one) => sum + one.sum.lifetime, 0)).toBe(asked.sum.lifetime);
  });

  it('show the tally in small when asked to', async () => {
    const { browser } = world;
    await go('/supporters?sort=-lifetime');
    await browser.see('tr[data-row]');
    await browser.press('Choose columns');
    await (await browser.see('[aria-label="Show Tally"]')).click();
    await browser.keys(Key.ESCAPE);
    await browser.see('tr[data-row] svg[role=img][aria-label^="FY"]');
    const { items } = await api<{ items: { id: number }[] }>(browser, '/supporters?sort=-lifetime&limit=1');
    const years = await api<{ items: { year: number; cents: number }[] }>(browser, '/gifts/years', {
      supporterIds: [items[0]?.id ?? 0],
    });
    const says = await run<string>(`return document.querySelector('tr[data-row] svg[role=img]').ariaLabel`);
    for (const { year } of years.items) expect(says).toContain(`FY${year}`);
  });
});

describe('receipts that were issued', () => {
  it('are found by number and voided where they stand, after saying what that does', async () => {
    const { browser } = world;
    const { items } = await api<{ items: { id: number }[] }>(browser, '/thanks?limit=1');
    const { first: number } = await api<{ first: string }>(browser, '/thanks/issue', {
      ...{ letterId: 1, giftIds: [items[0]?.id ?? 0] },
    });
    await go('/thanks/issued');
    await browser.fill('Number begins with', number);
    await browser.see(`//tr[@data-row]//*[.="${number}"]`);
    await browser.press(`Void ${number}`);
    await browser.seeText('keeps its number and its words and is marked as void');
    await expectNoFaults(browser, 'voiding a receipt');
    // Without a reason it is not done.
    await browser.press(`Void ${number}`);
    await browser.seeText('Say why it is void.');
    await browser.fill('Why', 'Wrong address');
    await browser.keys(Key.ENTER);
    await browser.seeText(`Receipt ${number} is void`);
    await browser.see('//tr[@data-row]//*[contains(., "Wrong address")]');
    await browser.choose('State', 'Valid');
    await browser.seeText('No such receipt');
  });
});

describe('stepping through one’s own changes', () => {
  it('goes further back with each Ctrl+Z, and forward again', async () => {
    const { browser } = world;
    for (const name of ['First step', 'Second step']) await api(browser, '/groups', { name });
    await go('/supporters/tags');
    const here = async (name: string): Promise<boolean> => (await browser.words('[role=rowheader]')).includes(name);
    await browser.until(() => here('Second step'), 'what was made is not listed');
    // Two at once, quicker than any answer.
    await browser.control('z');
    await browser.control('z');
    await browser.until(
      async () => !(await here('Second step')) && !(await here('First step')),
      'the two newest changes stand',
    );
    await browser.controlShift('Z');
    await browser.until(() => here('First step'), 'it was not done again');
    expect(await here('Second step')).toBe(false);
    await (await browser.see('button[aria-label^="Do again"][aria-label*="Second step"]')).click();
    await browser.until(() => here('Second step'), 'the newest was not done again');
    // What is undone now is the newest again.
    await browser.control('z');
    await browser.until(async () => !(await here('Second step')), 'it stands');
    expect(await here('First step')).toBe(true);
  });
});

describe('a letter', () => {
  it('that has changes asks before another is opened', async () => {
    const { browser } = world;
    await go('/thanks/letters');
    await browser.fill('Name', 'A name that is not saved');
    await browser.press('Thank you with receipt');
    await browser.seeText('What you typed is not saved');
    await browser.press('Keep writing');
    await browser.until(
      () =>
        run<boolean>(
          `return [...document.querySelectorAll('input')].some((one) => one.value === 'A name that is not saved')`,
        ),
      'what was typed is gone',
    );
    await browser.press('New letter');
    await browser.press('Throw it away');
    await browser.press('Save letter');
    await browser.seeText('Name the letter.');
  });
});
