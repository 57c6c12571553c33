import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, expectNoFaults, openWorld } from './support.ts';
import type { World } from './support.ts';
import type { FeedStanding } from '@tallystick/contract/feeds';

/* What comes from the giving portal by itself: rehearsed, taken, looked at, given back, and told the other way. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const go = (path: string): Promise<void> => world.browser.go(`${world.stack.url}${path}`);
const standing = (): Promise<FeedStanding> => api<FeedStanding>(world.browser, '/feeds/1/standing');
/** Does something at the portal's own desk. */
const atDesk = (act: string, fields: Record<string, string>) =>
  fetch(`${world.stack.portal}/desk/${act}`, { method: 'POST', body: new URLSearchParams(fields) });

describe('the feed of the giving portal', () => {
  it('is rehearsed, then taken; what is not sure waits, and the portal is told of the rest', async () => {
    const { browser } = world;
    await go('/intake');
    await browser.press('What comes by itself');
    await browser.see('//h1[.="Giving portal"]');
    await browser.seeText('It never ran yet.');
    await browser.press('Rehearse');
    await browser.seeText('rehearsed');
    expect((await standing()).came.gifts).toBe(0);
    await browser.press('Take what came');
    await browser.seeText('Look at them');
    // The portal is told last.
    await browser.until(
      async () => !(await browser.text()).includes('told by the next run'),
      'the portal was not told',
    );
    await browser.seeText('as the books say');
    const { came, recorded, waiting, leftOut, refunds } = await standing();
    expect([came.gifts, recorded.gifts, waiting.gifts, leftOut.gifts]).toEqual([52, 47, 5, 0]);
    expect(recorded.cents + waiting.cents).toBe(came.cents);
    expect(refunds).toEqual([]);
    await browser.until(
      async () => !(await browser.text()).includes('told by the next run'),
      'the portal was not told',
    );
    await browser.seeText('as the books say');
    await expectNoFaults(browser, 'the feed');
  });

  it('a row that waits is decided and comes into the books; what is left out is looked at again', async () => {
    const { browser } = world;
    await browser.press('Look at them');
    await browser.see('tr[data-row]');
    await browser.press('Choose who row 1 is');
    await browser.press('2 Somebody new');
    await browser.press('Bring in 1 row');
    await browser.seeText('Brought in.');
    await go('/intake/feeds');
    await browser.seeText('Look at them again');
    expect((await standing()).leftOut.gifts).toBe(4);
    await browser.press('Look at them again');
    await browser.until(async () => (await standing()).waiting.gifts === 4, 'they are not looked at again');
  });

  it('a refund comes later, a page in place of an answer does no harm, and the settings say how it runs', async () => {
    const { browser } = world;
    const before = (await api<{ items: { offlineCents: number }[] }>(browser, '/feeds/1/campaigns')).items;
    await atDesk('refund', { gift: 'GP-81000' });
    await atDesk('fail', { fault: 'page' });
    await go('/intake/feeds');
    await browser.press('Settings');
    await browser.choose('Fund told to Where It Is Needed', 'gifts to General Operating');
    await expectNoFaults(browser, 'the settings of a feed');
    await browser.press('Save');
    await browser.press('Take what came');
    await browser.seeText('1 refund of');
    const after = (await api<{ items: { offlineCents: number }[] }>(browser, '/feeds/1/campaigns')).items;
    expect(after[2]?.offlineCents).toBeGreaterThan(before[2]?.offlineCents ?? 0);
  });
});
