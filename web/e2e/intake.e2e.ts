import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* A file whose rows a person looks at: where it comes from, whose a row is, and taken back after others went on. */

let world: World;
let folder: string;
beforeAll(async () => {
  world = await openWorld();
  folder = mkdtempSync(join(tmpdir(), 'tallystick-files-'));
});
afterAll(async () => {
  await world.close();
  rmSync(folder, { recursive: true, force: true });
});

const go = (path: string): Promise<void> => world.browser.go(`${world.stack.url}${path}`);
interface Listed {
  items: { id: number; number: string; name: string }[];
  total: number;
}
const found = (words: string): Promise<Listed> =>
  api<Listed>(world.browser, `/supporters?q=${encodeURIComponent(words)}&limit=5`);
const bringIn = async (name: string, text: string): Promise<void> => {
  const file = join(folder, name);
  writeFileSync(file, text);
  await go('/intake');
  await world.browser.see('tr[data-row]');
  await world.browser.upload(file);
  await world.browser.see(`//h1[.="${name}"]`);
};

describe('a file from elsewhere', () => {
  it('is asked where it comes from, and a row is looked at beside somebody who is found', async () => {
    const { browser } = world;
    const [someone] = (await api<Listed>(browser, '/supporters?kind=person&sort=name&limit=1')).items;
    await bringIn(
      'portal.csv',
      'First name,Last name,Portal ID,Email,Amount,Date\nZora,Quibble,P-1,zora@gmial.com,25,11/20/2026\nZed,Quibble,P-2,zed@example.org,30,11/20/2026\n',
    );
    await browser.seeText('Where does the file come from?');
    await browser.fill('Where the file comes from', 'Star portal');
    await browser.press('Say so');
    await browser.until(async () => !(await browser.text()).includes('Where does the file'), 'it still asks');
    await browser.press('Open row 2');
    await browser.press('Write zora@gmail.com');
    await browser.press('Use these');
    await browser.press('Open row 3');
    await browser.fill('Somebody else who is here', someone?.number ?? '');
    await browser.see('[role=option]');
    await browser.keys(Key.ENTER);
    await browser.seeText('differs');
    await expectNoFaults(browser, 'whose a row is');
    await browser.press(`1 It is theirs: ${someone?.name ?? ''} ${someone?.number ?? ''}`);
    await browser.seeText('by your choice');
    await browser.press('Bring in 2 rows');
    await browser.seeText('Brought in.');
    const [zora] = (await found('zora quibble')).items;
    const record = await api<{ emails: { address: string }[]; elsewhere: object[] }>(
      browser,
      `/supporters/${zora?.id ?? 0}`,
    );
    expect(record.emails.map(({ address }) => address)).toEqual(['zora@gmail.com']);
    expect(record.elsewhere).toEqual([{ number: 'P-1', source: 'Star portal' }]);
  });

  it('is taken back though somebody went on with one of its records, which stays', async () => {
    const { browser } = world;
    const zora = (await found('zora quibble')).items[0]?.id ?? 0;
    const body = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Rang her' }] }] };
    await api(browser, '/notes', { supporterId: zora, kind: 'call', date: '2026-11-20', body });
    await browser.press('Undo this intake');
    await browser.seeText('depends on it');
    await browser.press('Undo the rest');
    await browser.seeText('stay');
    await browser.see('//button[.="Bring in 2 rows"]');
    expect((await found('zora quibble')).total).toBe(1);
    const { giving } = await api<{ giving: { lifetime: number } }>(browser, `/supporters/${zora}`);
    expect(giving.lifetime).toBe(0);
  });

  it('of more gifts than one page shows is receipted as a whole: all of its batch are selected', async () => {
    const { browser } = world;
    const rows = Array.from({ length: 620 }, (_, nth) => `Wanda,Meadowlark,wanda@example.org,5,11/19/2026,W-${nth}`);
    await bringIn('many.csv', ['First name,Last name,Email,Amount,Date,Transaction ID', ...rows].join('\n'));
    await browser.press('Bring in 620 rows');
    await browser.seeText('Brought in.');
    const { items } = await api<{ items: { id: number; count: number }[] }>(browser, '/batches?limit=1000');
    const batch = items.find(({ count }) => count === 620);
    await go(`/thanks?batch=${batch?.id ?? 0}`);
    await browser.seeText('620 gifts not yet acknowledged');
    await browser.see('//button[.="Issue 620 receipts"]');
    await browser.seeText('All selected.');
    await expectNoFaults(browser, 'a batch to be thanked for');
  });

  it('gets columns made of its own, a fund that there is not yet, and goes in as they say', async () => {
    const { browser } = world;
    await bringIn('guests.csv', 'Guest,Cause,Paid\n"Vesper, Una",Star Kids,25\n');
    await browser.press('Columns (3)');
    for (const [part, name] of [
      ['last', 'Given'],
      ['first', 'Family'],
    ] as const) {
      await browser.press('Make a column …');
      await browser.choose('Of the column', 'Guest');
      await browser.choose('The part', part);
      await browser.fill('Called', name);
      await browser.seeText(part === 'last' ? 'Una' : 'Vesper');
      await expectNoFaults(browser, 'making a column');
      await browser.press('Make it');
      await browser.see(`//button[@role="combobox"][@aria-label="${name}"]`);
    }
    await browser.choose('Given', 'First name');
    await browser.choose('Family', 'Last name');
    await browser.choose('Paid', 'Gift amount');
    await browser.choose('Cause', 'Fund');
    await browser.press('Clean up Cause');
    await browser.press('Add it as a new fund');
    await browser.until(
      async () => !(await browser.text()).includes('There is no fund named'),
      'it is still not known',
    );
    await browser.press('Use this');
    await browser.press('Bring in 1 row');
    await browser.seeText('Brought in.');
    const [una] = (await found('una vesper')).items;
    const { items } = await api<{ items: { fund: string; cents: number }[] }>(
      browser,
      `/gifts?supporterId=${una?.id ?? 0}&limit=5`,
    );
    expect(items).toMatchObject([{ fund: 'Star Kids', cents: 2_500 }]);
  });

  it('that went out as a list shows only what was changed in it, and what was changed here since', async () => {
    const { browser } = world;
    const [one, two] = (await api<Listed>(browser, '/supporters?kind=person&sort=-name&limit=2')).items;
    const { items } = await api<{ items: { revision: number }[] }>(browser, '/changes?limit=1');
    const asOf = items[0]?.revision ?? 0;
    const record = await api<{ first: string }>(browser, `/supporters/${two?.id ?? 0}`);
    const selection = { kind: 'ids', ids: [one?.id] };
    await api(browser, '/supporters/acts', { selection, act: { do: 'field', field: 'title', value: 'Dr.' } });
    const lines = [`${one?.number ?? ''},Prof.,${asOf}`, `${two?.number ?? ''},Prof.,${asOf}`];
    await bringIn('list.csv', ['Number,Prefix,As of change', ...lines].join('\n'));
    await browser.seeText('Prof.');
    await browser.press('Open row 2');
    await browser.seeText('changed here since');
    await expectNoFaults(browser, 'a row that was changed here too');
    await browser.press('Cancel');
    await browser.press('Bring in 2 rows');
    await browser.seeText('Brought in.');
    const names = await Promise.all(
      [one, two].map((each) => api<{ prefix: string; first: string }>(browser, `/supporters/${each?.id ?? 0}`)),
    );
    expect(names.map(({ prefix }) => prefix)).toEqual(['Dr.', 'Prof.']);
    expect(names[1]?.first).toBe(record.first);
  });
});
