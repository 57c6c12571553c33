import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* What is unclean is mended and taken back; somebody dies, moves, leaves a home; mail comes back: by keys, said before. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const go = (path: string): Promise<void> => world.browser.go(`${world.stack.url}${path}`);
const countOf = async (finding: string): Promise<number> =>
  (await api<{ items: { finding: string; count: number }[] }>(world.browser, '/upkeep')).items.find(
    (item) => item.finding === finding,
  )?.count ?? 0;
interface Person {
  id: number;
  name: string;
  wishes: { kind: string; happenedOn: string | null }[];
  addresses: { street: string; validTo: string | null; badOn: string | null }[];
  household: { id: number; name: string } | null;
  members: { id: number; name: string }[];
}
const record = (id: number): Promise<Person> => api<Person>(world.browser, `/supporters/${id}`);
/** Somebody of the demo who shares a home with one other, tied as spouses or not. */
const ofTwo = async (): Promise<Person> => {
  const { items } = await api<{ items: { id: number }[] }>(world.browser, '/supporters?kind=household&limit=100');
  for (const { id } of items) {
    const { members } = await record(id);
    const [first] = members;
    if (members.length === 2 && first) return record(first.id);
  }
  throw new Error('The demo has no home of two.');
};
const undo = async (): Promise<void> => world.browser.chord(Key.CONTROL, 'z');

describe('upkeep', () => {
  it('is in the menu, counts what is unclean, and leads to each of it', async () => {
    const { browser } = world;
    await go('/');
    await browser.press('Signed in as Marisol Brightwater');
    await browser.press('Upkeep');
    await browser.seeText('Names in capitals or small letters');
    await browser.seeText(`${await countOf('capitals')}`);
    await expectNoFaults(browser, 'upkeep');
    await browser.press('Names in capitals or small letters');
    await browser.see('tr[data-row]');
    await browser.seeText('Beatrix Espinoza');
    await expectNoFaults(browser, 'a finding');
  });

  it('mends what is proposed for all but one, and takes it back', async () => {
    const { browser } = world;
    const many = await countOf('capitals');
    expect(many).toBeGreaterThan(10);
    await (await browser.see('tr[data-row] [role=checkbox]')).click();
    await browser.seeText(`${many - 1} rows:`);
    await browser.press('Write as names are written');
    await browser.until(async () => (await countOf('capitals')) === 1, 'the names were not mended');
    await browser.seeText(`${many - 1} rows done`);
    await undo();
    await browser.until(async () => (await countOf('capitals')) === many, 'the names are not as they were');
  });

  it('lets a finding be right as it is for a record', async () => {
    const { browser } = world;
    await go('/upkeep/birthday');
    const many = await countOf('birthday');
    await browser.see('tr[data-row]');
    // All are chosen at first: let go of them, and take the first.
    await (await browser.see('thead [role=checkbox]')).click();
    await browser.seeText('0 rows:');
    await (await browser.see('tr[data-row] [role=checkbox]')).click();
    await browser.seeText('1 row:');
    await browser.press('Right as they are');
    await browser.until(async () => (await countOf('birthday')) === many - 1, 'it is still told of');
    await browser.press('What is right as it is');
    await browser.seeText('1 row right as they are');
    await undo();
    await browser.until(async () => (await countOf('birthday')) === many, 'it is not told of again');
  });
});

describe('who may look and not mend', () => {
  it('sees what is unclean, and no way to change it', async () => {
    const { browser } = world;
    await browser.press('Signed in as Marisol Brightwater');
    await browser.press('Sign out');
    await browser.signIn(world.stack.url, 'Amos Rookwood');
    await go('/upkeep');
    await browser.seeText('Names in capitals or small letters');
    expect(await browser.text()).not.toContain('What happened:');
    await browser.press('Names in capitals or small letters');
    await browser.see('tr[data-row]');
    expect(await browser.driver.executeScript('return document.querySelectorAll("[role=checkbox]").length')).toBe(0);
    await go('/upkeep/died?id=10089');
    await browser.seeText('Your role does not allow this.');
    await browser.press('Signed in as Amos Rookwood');
    await browser.press('Sign out');
    await browser.signIn(world.stack.url);
  });

  it('is told that there is no such finding', async () => {
    const { browser } = world;
    await go('/upkeep/nothing');
    await browser.seeText('There is no such finding');
    await browser.press('Everything that is looked for');
    await browser.seeText('things to look at');
  });
});

describe('what happened', () => {
  it('somebody died: from the record, said before, done and taken back', async () => {
    const { browser } = world;
    const { id, name } = await ofTwo();
    await go(`/supporters/${id}`);
    await browser.press('More');
    await browser.press('Died …');
    await browser.seeText('What will happen');
    await browser.fill('Day of death', '11/1/2026');
    await browser.fill('Who told us', 'a call from the family');
    await browser.seeText(`${name} died on Nov 1, 2026`);
    await browser.seeText('Estate of');
    await expectNoFaults(browser, 'somebody died');
    await browser.keys(Key.ENTER);
    await browser.seeText('Done; it can be undone at any time');
    const died = async (): Promise<string | null> =>
      (await record(id)).wishes.find(({ kind }) => kind === 'deceased')?.happenedOn ?? null;
    expect(await died()).toBe('2026-11-01');
    await undo();
    await browser.until(async () => (await died()) === null, 'the death was not undone');
  });

  it('somebody moved, with whoever has the same address', async () => {
    const { browser } = world;
    const { id, household } = await ofTwo();
    await go(`/upkeep/moved?id=${id}`);
    await browser.seeText('Who moves');
    await browser.fill('Street', '9 Fir Street');
    await browser.fill('City', 'Elko');
    await browser.fill('State', 'Nevada');
    await browser.fill('ZIP', '89801');
    await browser.seeText('9 Fir Street, Elko, NV 89801 is used from');
    await expectNoFaults(browser, 'somebody moved');
    await browser.press('Note the new address');
    await browser.seeText('Done; it can be undone at any time');
    expect((await record(id)).addresses[0]).toMatchObject({ street: '9 Fir Street', validTo: null });
    expect((await record(household?.id ?? 0)).addresses[0]?.street).toBe('9 Fir Street');
    await undo();
    await browser.until(
      async () => (await record(id)).addresses[0]?.street !== '9 Fir Street',
      'the address is not as it was',
    );
  });

  it('a household parts', async () => {
    const { browser } = world;
    const { id, name, household } = await ofTwo();
    await go(`/upkeep/parts?id=${household?.id ?? 0}`);
    await browser.seeText('Who leaves');
    await (await browser.see(`//label[contains(., "${name}")]//*[@role="checkbox"]`)).click();
    await browser.seeText(`${name} leaves`);
    await expectNoFaults(browser, 'a household parts');
    await browser.press('Part the household');
    await browser.seeText('Done; it can be undone at any time');
    expect((await record(id)).household).toBeNull();
    await undo();
    await browser.until(async () => (await record(id)).household !== null, 'the household was not joined again');
  });

  it('two share a home', async () => {
    const { browser } = world;
    const one = await ofTwo();
    const other = one.members[0]?.id ?? 0;
    await go(`/upkeep/joins?ids=${one.id},${other}`);
    await browser.seeText('a new household');
    await browser.seeText('Nobody lives in');
    await expectNoFaults(browser, 'people share a home');
    await browser.press('Join them in one household');
    await browser.seeText('Done; it can be undone at any time');
    expect((await record(one.id)).household?.name).toContain('Household');
    await undo();
    await browser.until(
      async () => (await record(one.id)).household?.id === one.household?.id,
      'the home is not as it was',
    );
  });

  it('mail came back: typed one after another, marked, and taken back', async () => {
    const { browser } = world;
    const { id, name } = await ofTwo();
    await go('/upkeep/returned');
    await browser.fill('Number', `s-${id}`);
    await browser.keys(Key.ENTER);
    await browser.seeText(name);
    await browser.fill('Number', '999999');
    await browser.keys(Key.ENTER);
    await browser.seeText('Nobody has this number.');
    await browser.fill('Number', String(id));
    await browser.keys(Key.ENTER);
    await browser.seeText('1 piece typed before');
    await browser.press('Take 999999 off');
    await browser.until(async () => !(await browser.text()).includes('Nobody has this number.'), 'it is still there');
    await expectNoFaults(browser, 'mail came back');
    await browser.press('Mark 1 address, set 1 task');
    await browser.seeText('1 address is marked undeliverable.');
    expect((await record(id)).addresses[0]?.badOn).not.toBeNull();
    await undo();
    await browser.until(
      async () => (await record(id)).addresses.every(({ badOn }) => badOn === null),
      'the address is still marked',
    );
  });
});
