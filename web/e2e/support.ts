import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { expect } from 'vitest';
import { Browser } from '../../scripts/lib/browser.ts';
import { isFree, startStack } from '../../scripts/lib/stack.ts';
import type { Stack } from '../../scripts/lib/stack.ts';

export { Key };
export const TODAY = '2026-11-23';
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

export interface World {
  stack: Stack;
  browser: Browser;
  close(): Promise<void>;
}

/** So far apart that neither takes what the other, or the system, may. */
const FIRST_PORT = 20_000;
const APART = 1000;

/** A port that is free with the three after it, of a range that only this worker takes from. */
async function portsOfOurOwn(): Promise<number> {
  const first = FIRST_PORT + APART * Number(process.env['VITEST_POOL_ID'] ?? 0);
  for (let port = first; port < first + APART; port += 4)
    if ((await Promise.all([port, port + 1, port + 2, port + 3].map(isFree))).every(Boolean)) return port;
  throw new Error(`No four ports are free from ${first} on.`);
}

/**
 * The whole of Tallystick with the demo, and a browser signed in to it as the development officer; or with nothing in
 * it yet, and a browser at its first page.
 */
export async function openWorld({ empty = false } = {}): Promise<World> {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-e2e-'));
  const demo = process.env['TALLYSTICK_TEST_DEMO'] ?? '';
  if (!empty && demo) cpSync(demo, folder, { recursive: true });
  const stack = await startStack(
    { data: folder, port: await portsOfOurOwn(), empty, today: TODAY, supporters: null, gifts: null, rest: [] },
    () => undefined,
  );
  const browser = await Browser.open();
  if (empty) await browser.go(stack.url);
  else await browser.signIn(stack.url);
  return {
    stack,
    browser,
    async close() {
      await browser.close();
      await stack.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** The rules of axe-core that look at colours. */
export const OF_COLOURS = ['color-contrast', 'link-in-text-block'];

/** What axe-core finds on the page, of any grade, as `rule: element` lines; by all of its rules or by some. */
async function faultsOf(browser: Browser, rules: readonly string[] | null = null): Promise<string[]> {
  // What is still fading in is not as it will be read.
  await browser.atRest();
  if (!(await browser.driver.executeScript<boolean>('return "axe" in window'))) await browser.driver.executeScript(AXE);
  const violations: { id: string; nodes: { target: string[] }[] }[] = await browser.driver.executeAsyncScript(
    'const done = arguments[arguments.length - 1]; axe.run(document, arguments[0]).then((result) => done(result.violations));',
    // No rule that is asked needs the style sheets themselves.
    { resultTypes: ['violations'], preload: false, ...(rules ? { runOnly: { type: 'rule', values: rules } } : {}) },
  );
  return violations.flatMap((one) => one.nodes.map((node) => `${one.id}: ${node.target.join(' ')}`));
}

export const expectNoFaults = async (
  browser: Browser,
  view: string,
  rules: readonly string[] | null = null,
): Promise<void> => expect(await faultsOf(browser, rules), view).toEqual([]);

/** Calls the API as the person signed in to the browser. */
export async function api<T>(browser: Browser, path: string, body?: object): Promise<T> {
  const asked = {
    method: body ? 'POST' : 'GET',
    ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
  };
  const answer = await browser.driver.executeAsyncScript<T & { error?: { message: string } }>(
    `const done = arguments[arguments.length - 1]; fetch('/api/v1' + arguments[0], arguments[1]).then((r) => r.json()).then(done);`,
    path,
    asked,
  );
  if (answer.error) throw new Error(`${path}: ${answer.error.message}`);
  return answer;
}
