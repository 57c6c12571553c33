import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { Driver } from 'selenium-webdriver/chrome.js';
import { dateInZone } from '@tallystick/core/dates';
import { DEMO_ORGANIZATION, setUpEmpty } from '@tallystick/demo/load';
import { loadScale } from '@tallystick/demo/scale';
import { Browser } from './lib/browser.ts';
import { freePort, startMariaDb } from './lib/mariadb.ts';
import { main, readOptions } from './lib/options.ts';
import { startStack } from './lib/stack.ts';
import { buildWeb } from './lib/build.ts';

/**
 * Counts what the browser itself measures from now on: the time between frames, frames that took longer than 50 ms
 * (its own `long-animation-frame`), and from a key to what it made visible (its own event timing, in steps of 8 ms).
 */
const WATCH = `
  const seen = (window.seen = { frames: [], long: [], keys: [], busy: true });
  let last = performance.now();
  const frame = (now) => {
    seen.frames.push(now - last);
    last = now;
    if (seen.busy) requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
  new PerformanceObserver((list) => seen.long.push(...list.getEntries().map((one) => one.duration))).observe({
    type: 'long-animation-frame',
  });
  new PerformanceObserver((list) =>
    seen.keys.push(...list.getEntries().filter((one) => one.name === 'keydown').map((one) => one.duration)),
  ).observe({ type: 'event', durationThreshold: 16 });
`;
const SEEN = `window.seen.busy = false; return window.seen;`;

interface Seen {
  frames: number[];
  long: number[];
  keys: number[];
}
const part = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * share)] ?? 0;

/** Does something in the list a number of times at a pace, and answers what the browser saw of it. */
async function watched(browser: Browser, many: number, everyMs: number, act: () => Promise<unknown>): Promise<Seen> {
  await browser.driver.executeScript(WATCH);
  const begun = performance.now();
  for (let turn = 0; turn < many; turn++) {
    await act();
    await pause(Math.max(0, begun + (turn + 1) * everyMs - performance.now()));
  }
  await pause(300);
  return browser.driver.executeScript<Seen>(SEEN);
}

const asked = (browser: Browser, command: string, given: object): Promise<void> =>
  (browser.driver as Driver).sendDevToolsCommand(command, given);
async function key(browser: Browser, name: string, code: number): Promise<void> {
  const given = { key: name, code: name, windowsVirtualKeyCode: code };
  await asked(browser, 'Input.dispatchKeyEvent', { type: 'rawKeyDown', ...given });
  await asked(browser, 'Input.dispatchKeyEvent', { type: 'keyUp', ...given });
}
const wheel = (browser: Browser, deltaY: number): Promise<void> =>
  asked(browser, 'Input.dispatchMouseEvent', { type: 'mouseWheel', x: 600, y: 500, deltaX: 0, deltaY });

/** How smoothly the list of supporters scrolls and moves by key at scale. Machines differ: run it where nothing else runs. */
await main(async () => {
  const options = readOptions();
  const [supporters, gifts] = [options.supporters ?? 200_000, options.gifts ?? 400_000];
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-frames-'));
  await buildWeb(console.log);
  const database = await startMariaDb(folder, { fast: true, bufferPool: '2G' });
  try {
    console.log(`Making ${supporters} supporters and ${gifts} gifts …`);
    await setUpEmpty(database.url);
    const today = options.today ?? dateInZone(new Date(), DEMO_ORGANIZATION.time_zone);
    await loadScale(database.url, supporters, gifts, today, console.log);
    process.env['DATABASE_URL'] = database.url;
    const stack = await startStack(
      { ...options, data: folder, port: await freePort(), empty: true, today },
      () => undefined,
    );
    const browser = await Browser.open();
    try {
      await browser.go(stack.url);
      await browser.driver.executeAsyncScript(
        `const done = arguments[0]; fetch('/api/v1/session/first-user', { method: 'POST', headers: { 'Content-Type': 'application/json' },
         body: JSON.stringify({ email: 'first@example.org', name: 'First', password: 'long enough to pass' }) }).then((r) => r.text()).then(done);`,
      );
      await browser.go(`${stack.url}/supporters`);
      await browser.see('tr[data-row]');
      await browser.atRest();
      await (await browser.see('[data-list=supporters]')).focus();
      for (let warm = 0; warm < 20; warm++) await key(browser, 'ArrowDown', 40);
      const down = await watched(browser, 300, 33, () => key(browser, 'ArrowDown', 40));
      const scrolled = await watched(browser, 400, 16, () => wheel(browser, 240));
      const ends = await watched(browser, 20, 250, () => key(browser, 'PageDown', 34));
      const lines = { 'ArrowDown held': down, 'wheel turned': scrolled, 'PageDown pressed': ends };
      console.table(
        Object.fromEntries(
          Object.entries(lines).map(([what, { frames, long, keys }]) => [
            what,
            {
              frames: frames.length,
              'frame, median': `${part(frames, 0.5).toFixed(1)} ms`,
              'frame, p95': `${part(frames, 0.95).toFixed(1)} ms`,
              'frame, longest': `${part(frames, 1).toFixed(1)} ms`,
              'longer than 50 ms': long.length,
              'key to picture, p95': keys.length === 0 ? 'under 16 ms' : `${part(keys, 0.95)} ms`,
              'key, longest': keys.length === 0 ? 'under 16 ms' : `${part(keys, 1)} ms`,
            },
          ]),
        ),
      );
    } finally {
      await browser.close();
      await stack.stop();
    }
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
