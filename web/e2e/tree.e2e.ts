import type { Driver } from 'selenium-webdriver/chrome.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Key, openWorld } from './support.ts';
import type { World } from './support.ts';

/* What a screen reader is told, in its order: the browser's own tree of roles and names. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

interface Node {
  ignored: boolean;
  role?: { value: string };
  name?: { value: string };
}
/** All that is told on the page, as `role name` lines in reading order. */
async function told(): Promise<string[]> {
  const driver = world.browser.driver as Driver;
  const { nodes } = (await driver.sendAndGetDevToolsCommand('Accessibility.getFullAXTree', {})) as unknown as {
    nodes: Node[];
  };
  const inTurn = inOrder(nodes as (Node & { nodeId: string; childIds?: string[]; parentId?: string })[]);
  return inTurn
    .filter((node) => !node.ignored && !/^(StaticText|InlineTextBox|generic|none)$/.test(node.role?.value ?? 'none'))
    .map((node) => `${node.role?.value ?? ''} ${node.name?.value ?? ''}`.trim());
}
function inOrder(nodes: (Node & { nodeId: string; childIds?: string[]; parentId?: string })[]): Node[] {
  const byId = new Map(nodes.map((node) => [node.nodeId, node]));
  const walk = (id: string): Node[] => {
    const node = byId.get(id);
    return node ? [node, ...(node.childIds ?? []).flatMap(walk)] : [];
  };
  return nodes.filter((node) => node.parentId === undefined).flatMap((node) => walk(node.nodeId));
}
/** Waits until lines that begin so are told, one after the other, with others between. */
async function tells(lines: readonly string[]): Promise<void> {
  let all: string[] = [];
  await world.browser.until(
    async () => {
      all = await told();
      let from = 0;
      return lines.every((line) => {
        const at = all.findIndex((one, place) => place >= from && one.startsWith(line));
        from = at + 1;
        return at >= 0;
      });
    },
    `not told in this order: ${lines.join(' › ')}`,
  );
  expect(all.length).toBeGreaterThan(lines.length);
}

describe('a screen reader is told, in order,', () => {
  it('of a list: the page, what it is narrowed by, the columns, the rows, and the row that keys are on', async () => {
    const { browser } = world;
    await browser.go(`${world.stack.url}/supporters?q=rook`);
    await browser.see('tr[data-row]');
    await (await browser.see('[data-list=supporters]')).focus();
    await tells([
      ...['link Skip to the work', 'navigation Areas', 'link Supporters', 'main', 'heading Supporters'],
      ...['textbox Find supporters', 'grid Supporters', 'columnheader Row', 'columnheader Name', 'row', 'rowheader'],
    ]);
    const named = await browser.driver.executeScript<string>(
      `return document.getElementById(document.activeElement.getAttribute('aria-activedescendant')).getAttribute('role')`,
    );
    expect(named).toBe('row');
  });

  it('of a peek: it comes after the list, with whose it is and its sections', async () => {
    const { browser } = world;
    await browser.keys(Key.ENTER);
    await browser.see('aside figure svg');
    await tells([
      ...[
        'grid Supporters',
        'complementary Peek',
        'button Previous record',
        'button Next record',
        'article',
        'heading',
      ],
      ...['button Record a gift', 'image Tally', 'tablist Sections of the record', 'tab Giving', 'tabpanel Giving'],
    ]);
    expect(await browser.words('h1')).toEqual(['Supporters']);
  });

  it('of a dialog: its title, its fields by their names, and its buttons with the main one last', async () => {
    const { browser } = world;
    await browser.go(`${world.stack.url}/supporters`);
    await browser.see('tr[data-row]');
    await browser.keys('g');
    await browser.see('//*[@role="dialog"]//h2');
    await browser.atRest();
    await tells(['dialog', 'heading', 'combobox', 'textbox Amount', 'textbox Date', 'button Cancel', 'button Record']);
    // What lies behind it is not told.
    expect((await told()).some((line) => line.startsWith('grid Supporters'))).toBe(false);
    await browser.keys(Key.ESCAPE);
  });

  it('of a choice box: what it is, that it is open, what is typed and what answers', async () => {
    const { browser } = world;
    await browser.go(`${world.stack.url}/gifts`);
    await browser.see('tr[data-row]');
    await (await browser.see('button[aria-label="Add a filter"]')).focus();
    await browser.keys(Key.ARROW_DOWN);
    await browser.see('[role=option]');
    await tells(['dialog', 'combobox', 'listbox', 'option']);
    await browser.keys(Key.ARROW_DOWN);
    const states = (): Promise<(string | undefined)[]> =>
      browser.driver.executeScript(
        `const line = document.activeElement; return [line.role, line.ariaExpanded, document.getElementById(line.getAttribute('aria-activedescendant'))?.role]`,
      );
    await browser.until(
      async () => (await states()).join() === 'combobox,true,option',
      'the line does not say on which option it is',
    );
  });
});

describe('what can be pressed', () => {
  it.each(['/', '/supporters', '/gifts', '/gifts/deposits', '/thanks/issued', '/settings/organization'])(
    '%s is large enough to be met, 24 pixels or with as much room around it',
    async (path) => {
      const { browser } = world;
      await browser.go(world.stack.url + path);
      await browser.atRest();
      // Links in running text and in cells of a list, whose rows keep them apart, may be as high as their line.
      const small = await browser.driver.executeScript<string[]>(`
        const size = (one) => {
          const box = one.getBoundingClientRect();
          const around = getComputedStyle(one, '::after');
          const more = around.content === 'none' ? 0 : -2 * (parseFloat(around.inset) || 0);
          return [box.width + more, box.height + more];
        };
        return [...document.querySelectorAll('button, a[href], input, [role=checkbox], [role=combobox], [role=tab]')]
          .filter((one) => one.getBoundingClientRect().width > 1)
          .filter((one) => !(one.tagName === 'A' && one.closest('td, p, dd, li, header, nav, h2, section > div')))
          .filter((one) => size(one).some((length) => Math.round(length) < 24))
          .map((one) => one.ariaLabel || one.innerText || one.outerHTML.slice(0, 80));
      `);
      expect(small).toEqual([]);
    },
  );
});

it('colours that the system chooses leave the row, what is chosen and the drawings to be seen', async () => {
  const { browser } = world;
  const driver = browser.driver as Driver;
  await driver.sendDevToolsCommand('Emulation.setEmulatedMedia', {
    features: [{ name: 'forced-colors', value: 'active' }],
  });
  await browser.go(`${world.stack.url}/supporters?q=rook`);
  await browser.see('tr[data-row]');
  await (await browser.see('[data-list=supporters]')).focus();
  const [cursor, other] = await browser.driver.executeScript<string[]>(
    `const edge = (row) => getComputedStyle(row.querySelector('td:nth-of-type(3)')).borderBottomStyle; const rows = document.querySelectorAll('tr[data-row]'); return [edge(rows[0]), edge(rows[1])]`,
  );
  expect([cursor, other]).toEqual(['double', 'solid']);
  await browser.go(world.stack.url);
  await browser.see('figure svg');
  const [ink, paper] = await browser.driver.executeScript<string[]>(
    `const bar = document.querySelector('figure svg rect'); return [getComputedStyle(bar).stroke, getComputedStyle(bar).fill]`,
  );
  expect(ink).not.toBe(paper);
  await driver.sendDevToolsCommand('Emulation.setEmulatedMedia', { features: [] });
});
