import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Browser } from '../../scripts/lib/browser.ts';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* Records kept clean: households, addresses, ties, notes, tags, lists and acts on many, the trash, two editors. */

interface Record {
  id: number;
  name: string;
  version: number;
  middle: string;
  nickname: string;
  tags: { name: string }[];
  members: { name: string; primary: boolean }[];
  reach: { lines: string[] };
  addresses: { city: string; label: string; seasonFrom: string | null; validTo: string | null; preferred: boolean }[];
}
type Listed<T> = { items: T[]; total: number };

let world: World;
let home = 0;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const go = (path: string, browser = world.browser) => browser.go(`${world.stack.url}${path}`);
const record = (id: number): Promise<Record> => api<Record>(world.browser, `/supporters/${id}`);
const found = async (q: string): Promise<Listed<Record>> =>
  api(world.browser, `/supporters?q=${encodeURIComponent(q)}`);
const openRecord = async (id: number, section = '', browser = world.browser): Promise<void> => {
  await go(`/supporters/${id}${section && `?section=${section}`}`, browser);
  await browser.see('article h1');
};

describe('a household', () => {
  it('is added with two people and an address for the winter', async () => {
    const { browser } = world;
    await go('/supporters');
    await browser.see('tr[data-row]');
    await browser.press('Add supporter');
    // The list has a menu of that name as well.
    await browser.see('[role=dialog] select');
    await browser.choose('Kind', 'Household');
    await browser.fill('Name', 'The Larkmoor Home');
    await browser.fill('Or new people, by their names', 'Mr. Tobias and Dr. Nell Larkmoor');
    await browser.keys(Key.ENTER);
    await browser.press('Add address');
    await browser.fill('Address 1: Street', '12 LYRA STREET');
    await browser.fill('Address 1: City', 'Tansy Creek');
    await browser.fill('Address 1: State', 'NV');
    await browser.press('Write it 12 Lyra St');
    await browser.press('Add address');
    await browser.fill('Address 2: Street', '9 Palo Verde Rd');
    await browser.fill('Address 2: City', 'Mesquite Flats');
    await browser.press('Dates and state of address 2');
    await browser.fill('Address 2: each year from', '11-15');
    await browser.fill('Address 2: to', '04-15');
    await expectNoFaults(browser, 'supporter form');
    await (await browser.see('//form//button[.="Add supporter"]')).click();
    await browser.see('//article//h1[.="The Larkmoor Home"]');
    home = (await found('larkmoor home')).items[0]?.id ?? 0;
    const made = await record(home);
    expect(made.members.map((member) => [member.name, member.primary])).toEqual([
      ['Mr. Tobias Larkmoor', true],
      ['Dr. Nell Larkmoor', false],
    ]);
    expect(made.reach.lines).toEqual(['9 Palo Verde Rd', 'Mesquite Flats']);
    expect(await browser.text()).toContain('Dear Tobias and Nell');
    await expectNoFaults(browser, 'household');
  });

  it('keeps what was typed of someone who looks like one on record', async () => {
    const { browser } = world;
    await go('/supporters?add=1');
    await browser.fill('First name', 'Tobyas');
    await browser.fill('Last name', 'Larkmoor');
    await browser.seeText('Likely here already');
    await browser.seeText('a slip in the first name');
    await go('/gifts');
    await browser.see('tr[data-row]');
    await go('/supporters?add=1');
    await browser.seeText('What you typed before is back.');
    const first = await (await browser.see('//input[@id=//label[.="First name"]/@for]')).attribute('value');
    expect(first).toBe('Tobyas');
    await browser.press('Cancel');
  });

  it('keeps its old address as former when a new one is preferred', async () => {
    const { browser } = world;
    await openRecord(home, 'contact');
    await browser.keys('e');
    await browser.press('Add address');
    await browser.fill('Address 3: Street', '77 New Moon Ln');
    await browser.fill('Address 3: City', 'Saltgrass');
    await (await browser.see('(//label[.="Preferred"]/button)[3]')).click();
    await browser.press('Save');
    await browser.seeText('until Nov 22, 2026');
    const { addresses } = await record(home);
    expect(addresses.map(({ city, label, preferred, validTo }) => [city, label, preferred, validTo])).toEqual([
      ['Saltgrass', 'home', true, null],
      ['Mesquite Flats', 'home', false, null],
      ['Tansy Creek', 'former', false, '2026-11-22'],
    ]);
    await expectNoFaults(browser, 'contact');
  });
});

describe('ties, notes and tasks', () => {
  it('ties two supporters, and the picture can be walked', async () => {
    const { browser } = world;
    const [tobias] = (await found('tobias larkmoor')).items;
    await openRecord(tobias?.id ?? 0, 'relations');
    await browser.press('Add a tie');
    await browser.choose('Their', 'spouse');
    await browser.fill('The other supporter', 'nell larkmoor');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.press('Add the tie');
    await browser.see('//li//span[.="spouse"]');
    await expectNoFaults(browser, 'relations');
    await (await browser.see('g[aria-label^="Dr. Nell Larkmoor"]')).click();
    await browser.see('//article//h1[.="Dr. Nell Larkmoor"]');
    await browser.see('//li//a[.="Mr. Tobias Larkmoor"]');
  });

  it('writes a note as it was typed, and a task that comes back each month', async () => {
    const { browser } = world;
    await openRecord(home, 'notes');
    await browser.press('Write a note');
    await (await browser.see('[role=textbox][aria-label=Note]')).click();
    await browser.keys('Asked for <b>two</b> maps');
    await browser.press('Save the note');
    await browser.seeText('Asked for <b>two</b> maps');
    await browser.press('Set a task');
    await browser.fill('What is to be done', 'Send the maps');
    await browser.choose('Again', 'each month');
    await (await browser.see('//form//button[.="Set the task"]')).click();
    await browser.seeText('each month, on the 23rd');
    await expectNoFaults(browser, 'notes');
    await browser.press('Tick off: Send the maps');
    await browser.seeText('Dec 23, 2026');
    await go('/');
    await browser.seeText('Send the maps');
    await expectNoFaults(browser, 'today');
  });
});

describe('two people on one record', () => {
  it('the second sees both versions field by field and chooses; nothing is lost', async () => {
    const { browser } = world;
    const other = await Browser.open();
    try {
      await other.signIn(world.stack.url, 'Desmond Kettleworth');
      await openRecord(10_008);
      await browser.keys('e');
      await browser.fill('Middle', 'Quill');
      await browser.fill('Suffix', 'Jr.');
      await openRecord(10_008, '', other);
      await other.keys('e');
      await other.fill('Middle', 'Lyra');
      await other.fill('Nickname', 'Moth');
      await other.press('Save');
      await other.see('//article//h1[contains(., "Lyra")]');
      await browser.press('Save');
      await browser.seeText('Someone changed this record while you were editing');
      const panel = await (await browser.see('section[aria-label="Two versions"]')).text();
      expect(panel).toContain('nickname');
      expect(panel).toMatch(/Middle name, both changed\s+Yours\s+Quill\s+Theirs\s+Lyra/);
      await expectNoFaults(browser, 'two versions');
      await (await browser.see('//section[@aria-label="Two versions"]//label[contains(., "Lyra")]/button')).click();
      await browser.press('Go on with what is chosen');
      await browser.press('Save');
      await browser.see('//article//h1[contains(., "Lyra") and contains(., "Jr.")]');
      expect(await record(10_008)).toMatchObject({ middle: 'Lyra', nickname: 'Moth', suffix: 'Jr.' });
    } finally {
      await other.close();
    }
  });
});

describe('tags', () => {
  it('are merged with the number of supporters, and the merge is undone', async () => {
    const { browser } = world;
    const before = (await api<{ tags: { id: number; name: string; count: number }[] }>(browser, '/choices')).tags;
    const [one, two] = before;
    await go('/supporters/tags');
    await browser.see('tr[data-row]');
    await expectNoFaults(browser, 'tags');
    await (await browser.see(`//tr[td[1]="${one?.name}"]//button[.="Merge"]`)).click();
    await browser.choose('Into', two?.name ?? '');
    await browser.press(`Merge ${one?.name} into ${two?.name}`);
    await browser.seeText('supporters moved');
    expect((await api<{ tags: object[] }>(browser, '/choices')).tags).toHaveLength(before.length - 1);
    await browser.control('z');
    await browser.seeText(`Undone: Merged the tag ${one?.name}`);
    expect((await api<{ tags: object[] }>(browser, '/choices')).tags).toEqual(before);
  });
});

describe('a list', () => {
  it('has any field of the catalogue as a column, found by its name, and sorts by it', async () => {
    const { browser } = world;
    await go('/supporters?kind=person');
    await browser.see('tr[data-row]');
    await browser.press('Choose columns');
    await browser.fill('Find a column', 'birth');
    await (await browser.see('[role=checkbox][aria-label="Show Birthday"]')).click();
    await browser.keys(Key.ESCAPE);
    await (await browser.see('//th//button[starts-with(., "Birthday")]')).click();
    const first = '/supporters?kind=person&sort=field:birthday&columns=field:birthday&limit=1';
    const [row] = (await api<Listed<{ name: string; cells: string[] }>>(browser, first)).items;
    expect(row?.cells[0]).toMatch(/^[A-Z][a-z]{2} \d+$/);
    await browser.see(`(//tr[@data-row])[1][contains(., "${row?.name}")][contains(., "${row?.cells[0]}")]`);
    await browser.press('Choose columns');
    await browser.press('As they were');
    await browser.keys(Key.ESCAPE);
    await browser.until(async () => !(await browser.text()).includes('Birthday'), 'the column goes');
  });

  it('is grouped, arranged, saved as a view, and acted on as a whole', async () => {
    const { browser } = world;
    await go('/supporters?kind=organization');
    await browser.see('tr[data-row]');
    await browser.choose('Put together', 'by state');
    await browser.see('tr[data-group]');
    await (await browser.see('//th//button[starts-with(., "Lifetime")]')).click();
    await browser.press('Choose columns');
    await (await browser.see('[role=checkbox][aria-label="Show Average"]')).click();
    await browser.fill('Name of the column Lifetime', 'All told');
    await browser.keys(Key.ESCAPE);
    await browser.see('//th//button[starts-with(., "All told")]');
    await browser.press('Views');
    await browser.fill('Name of the view', 'Firms by state');
    await browser.keys(Key.ENTER);
    await browser.seeText('Saved the view Firms by state');
    await expectNoFaults(browser, 'grouped list');
    await go('/supporters');
    await browser.see('tr[data-row]');
    await browser.press('Views');
    await browser.press('Firms by state');
    await browser.see('tr[data-group]');
    const { total } = await api<Listed<object>>(browser, '/supporters?kind=organization');
    await (await browser.see('[role=checkbox][aria-label="Select the whole list"]')).click();
    await browser.seeText(`${total} supporters selected`);
    await (await browser.see('//*[@role="toolbar"]//button[.="Tag"]')).click();
    // The box has the focus: what is typed opens it, and what is new is offered as new.
    await browser.focusOn('[role=dialog] [role=combobox]');
    await browser.keys('Everyone with a door');
    await browser.see('//*[@role="option"][contains(., "Add “Everyone with a door”")]');
    await browser.keys(Key.ENTER);
    await browser.focusOn('[role=dialog] [role=combobox]');
    await expectNoFaults(browser, 'act on many');
    await (await browser.see('//*[@role="dialog"]//button[@data-look="main"][starts-with(., "Tag ")]')).click();
    await browser.seeText(`${total} of ${total} changed`);
    const tags = (await api<{ tags: { name: string; count: number }[] }>(browser, '/choices')).tags;
    expect(tags.find((tag) => tag.name === 'Everyone with a door')?.count).toBe(total);
    await browser.control('z');
    await browser.seeText('Undone: Tagged Everyone with a door');
  });

  it('finds by a slip, a gift by its number, and goes there with Enter', async () => {
    const { browser } = world;
    await go('/');
    await browser.seeText('To do');
    await browser.keys('/');
    await browser.keys('larkmor tobias');
    await browser.see('//*[@cmdk-item][contains(., "Tobias Larkmoor")]');
    await browser.keys(Key.ESCAPE);
    const gift = (await api<Listed<{ id: number; number: string }>>(browser, '/gifts?limit=1')).items[0];
    await browser.keys('/');
    await browser.keys(gift?.number ?? '');
    await browser.keys(Key.ENTER);
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).endsWith(`/gifts/${gift?.id}`),
      'the gift was not gone to',
    );
  });
});

describe('the trash', () => {
  it('takes a record with one press, gives it back with one, and says what emptying means', async () => {
    const { browser } = world;
    await openRecord(home);
    await browser.press('More');
    await browser.press('Move to trash');
    await browser.seeText('In the trash');
    expect((await found('larkmoor home')).items.map((row) => row.id)).not.toContain(home);
    await browser.press('Restore');
    await browser.seeText('Restored The Larkmoor Home');
    expect((await found('larkmoor home')).items.map((row) => row.id)).toContain(home);
    await browser.press('More');
    await browser.press('Move to trash');
    await browser.seeText('In the trash');
    await browser.driver.manage().deleteAllCookies();
    await browser.signIn(world.stack.url, 'Desmond Kettleworth');
    await go('/supporters?trashed=yes');
    await browser.see('tr[data-row]');
    await expectNoFaults(browser, 'trash');
    await browser.press('Empty the trash');
    await browser.seeText('Erase 1 record for good?');
    await browser.press('Keep them');
  });
});

describe('what an administrator sets', () => {
  it('makes a field, and changes how people are addressed with an example beside', async () => {
    const { browser } = world;
    await go('/settings/fields');
    await browser.press('Make a field');
    await browser.fill('Name', 'Favourite planet');
    await browser.choose('Kind', 'One of a list');
    await browser.fill('Choices, one a line', 'Saturn\nMars');
    await (await browser.see('//form//button[.="Make the field"]')).click();
    await browser.see('//td[.="Favourite planet"]');
    await expectNoFaults(browser, 'fields');
    await go('/settings/addressing');
    await browser.fill('Salutation, informal', 'good {a.known}');
    await browser.seeText('good Anita');
    await browser.fill('Salutation, informal', '{a.fist}');
    await browser.seeText('There is no field {a.fist}');
    await expectNoFaults(browser, 'addressing');
  });
});
