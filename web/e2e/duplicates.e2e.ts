import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Comparison } from '@tallystick/contract/duplicates';
import { api, expectNoFaults, Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* Records that may be one: found, compared and merged by keys, and taken back. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

interface Groups {
  total: number;
  items: { members: { id: number; number: string; name: string }[] }[];
}
const go = (path: string): Promise<void> => world.browser.go(`${world.stack.url}${path}`);
const groups = (): Promise<Groups> => api<Groups>(world.browser, '/duplicates/groups', { limit: 100 });
const lifetime = async (id: number): Promise<number> =>
  (await api<{ giving: { lifetime: number } }>(world.browser, `/supporters/${id}`)).giving.lifetime;
/** Whom the group in hand is about. */
const inHand = async (): Promise<number[]> =>
  world.browser.driver.executeScript(
    `return [...document.querySelectorAll('section[aria-label=Comparison] thead a')].map((link) => Number(link.textContent.slice(2)));`,
  );

describe('records that may be one', () => {
  it('are looked for, and stand in groups with reasons, the surest first', async () => {
    const { browser } = world;
    await go('/duplicates');
    await browser.seeText('Nobody looked yet');
    await browser.press('Look through all records');
    await browser.see('section[aria-label=Comparison]');
    await browser.seeText('% likely one: same');
    const { total } = await groups();
    expect(total).toBeGreaterThan(10);
    await browser.seeText(`${total} groups`);
    await expectNoFaults(browser, 'the groups');
  });

  it('one after another by keys: another stays, merged with the giving of all, said to be apart; undone, it is as before', async () => {
    const { browser } = world;
    const { total } = await groups();
    await browser.keys('j');
    await browser.until(async () => (await inHand()).length > 1, 'no comparison came');
    const [one = 0, other = 0] = await inHand();
    const first = await browser.driver.executeScript('return document.querySelector("[aria-current=true]").innerText');
    const ids = [one, other];
    const whole = (await lifetime(one)) + (await lifetime(other));
    const { into } = await api<Comparison>(browser, '/duplicates/compare', { ids });
    const stays = into === one ? other : one;
    // The other one stays instead.
    await browser.keys(stays === one ? '1' : '2');
    await browser.seeText(`Merge both into S-${stays}`);
    await browser.keys('m');
    await browser.until(async () => (await groups()).total === total - 1, 'the group was not merged');
    await browser.until(async () => !(await inHand()).includes(one), 'the next group did not come');
    expect(await lifetime(stays)).toBe(whole);
    // The number that went leads to the record.
    expect(await lifetime(into)).toBe(whole);

    await browser.until(async () => (await inHand()).length > 1, 'no comparison came');
    const apart = await inHand();
    await browser.keys('n');
    await browser.until(async () => (await groups()).total === total - 2, 'the group is still there');
    await browser.until(async () => !(await inHand()).includes(apart[0] ?? 0), 'the next group did not come');

    await browser.chord(Key.CONTROL, 'z');
    await browser.until(async () => (await groups()).total === total - 1, 'that they are apart was not undone');
    await browser.chord(Key.CONTROL, 'z');
    await browser.until(async () => (await groups()).total === total, 'the merge was not undone');
    expect((await lifetime(one)) + (await lifetime(other))).toBe(whole);
    expect((await api<{ id: number }>(browser, `/supporters/${into}`)).id).toBe(into);
    await browser.seeText(String(first).split('\n')[0] ?? '');
  });

  it('only those that agree in something; and a value that none of them has is written anew', async () => {
    const { browser } = world;
    const { total } = await groups();
    await browser.choose('In what two of them agree', 'Agree in the telephone');
    await browser.until(
      async () => !(await browser.text()).includes(`${total} groups, `),
      'the groups were not narrowed',
    );
    await browser.choose('In what two of them agree', 'Whatever agrees');
    await browser.choose('Size', 'Three or more');
    await browser.until(
      async () => !(await browser.text()).includes(`${total} groups, `),
      'the groups were not narrowed by size',
    );
    await browser.choose('Size', 'Of any size');
    await browser.choose('What they gave', 'Gave $1,000.00 or more');
    await browser.until(
      async () => !(await browser.text()).includes(`${total} groups, `),
      'the groups were not narrowed by what they gave',
    );
    await browser.choose('What they gave', 'Whatever they gave');
    await browser.seeText(`${total} groups, `);
    await browser.press('Write another last name');
    await browser.keys(Key.chord(Key.CONTROL, 'a'), 'Starling', Key.ENTER);
    await browser.seeText('Starling');
    await browser.until(
      async () => /Together: [^\n]*Starling/.test(await browser.text()),
      'the merged name is not what was written',
    );
    await expectNoFaults(browser, 'a value written anew');
    await browser.press('Back to the last name that is there');
    await browser.until(async () => !/Together: [^\n]*Starling/.test(await browser.text()), 'it is still written anew');
  });

  it('the sure ones together: rehearsed, merged, and all taken back', async () => {
    const { browser } = world;
    const { total } = await groups();
    await browser.press('Merge the sure ones …');
    await browser.press('Rehearse');
    await browser.seeText('Would merge');
    await expectNoFaults(browser, 'the sure ones');
    expect((await groups()).total).toBe(total);
    await browser.press('Merge them');
    await browser.seeText('before and after.');
    await browser.seeText('Take them all back');
    expect((await groups()).total).toBeLessThan(total);
    await browser.press('Take them all back');
    await browser.seeText('Took back');
    await browser.until(async () => (await groups()).total === total, 'they were not taken back');
    await browser.press('Close');
  });

  it('by what must agree, counted as one chooses', async () => {
    const { browser } = world;
    await browser.press('By what agrees');
    await browser.choose('Another field that must agree', 'Last name');
    await browser.seeText('records.');
    const before = await browser.text();
    await browser.choose('Another field that must agree', 'ZIP');
    await browser.until(async () => (await browser.text()) !== before, 'nothing was counted anew');
    await browser.choose('How Last name must agree', 'has the same first letters');
    await browser.see('input[aria-label="How many letters"]');
    await expectNoFaults(browser, 'the rule');
  });

  it('from a record: another is found, compared and merged; the old address leads on', async () => {
    const { browser } = world;
    const { items } = await groups();
    const [stays, goes] = items.at(-1)?.members ?? [];
    await go(`/supporters/${stays?.id ?? 0}`);
    await browser.press('More');
    await browser.press('Merge with another …');
    await browser.fill('With whom', goes?.number ?? '');
    await browser.see(`//*[@role="option"][contains(., "${goes?.name ?? ''}")]`);
    await browser.keys(Key.ENTER);
    await browser.seeText('Together:');
    await expectNoFaults(browser, 'merging two records');
    await browser.press(`Merge both into`);
    await browser.see(`//h1[contains(., " ")]`);
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).includes('/supporters/'),
      'the merged record did not open',
    );
    const url = await browser.driver.getCurrentUrl();
    await go(`/supporters/${goes?.id ?? 0}`);
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()) === url,
      'the old address did not lead to the record',
    );
  });
});
