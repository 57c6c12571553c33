import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import './support.ts';
import { AREAS_READ, isStale } from '@tallystick/contract/freshness';
import { declaredTables } from '../platform/tables.ts';

const SERVER = join(import.meta.dirname, '..');
const SQL_TABLE = /\b(?:FROM|JOIN|INTO|UPDATE) (?:\$\{)?(\w+)/g;

/**
 * The tables of others that an area still names in its SQL, in place of a view or function of the owner. Strike out what
 * is mended; nothing is added.
 */
const STILL: Readonly<Record<string, string>> = {
  deposits: 'batch correction gift gift_split',
  gifts: 'gift_field installment pledge pledge_payment receipt recurring recurring_amount relation relation_kind',
  history: 'change_row change_set relation_kind supporter',
  outreach: 'supporter',
  pledges: 'gift task',
  recurring: 'correction gift supporter',
  settings: 'gift gift_split',
  supporters: 'change_row custom_field delivery gift supporter_field',
  thanks: 'delivery letter',
};

/** The replicas, of facts, of names, of who is compared and of what is unclean, load whole tables by their nature: what they load is named here alone. */
const REPLICAS = ['facts/sources.ts', 'find/replica.ts', 'duplicates/replica.ts', 'upkeep/replica.ts'];

const files = (readdirSync(SERVER, { recursive: true }) as string[]).filter(
  (file) => /^[a-z]+\/.*(?<!\.test|\.d)\.ts$/.test(file) && !/^(node_modules|tests)\/|migrations/.test(file),
);
const areaOf = (file: string): string => file.split('/')[0] ?? '';
const textOf = (file: string): string => readFileSync(join(SERVER, file), 'utf8');

/** Each table with the area whose folder declares it. */
function owners(): Map<string, string> {
  const found = new Map<string, string>();
  for (const file of files)
    for (const [, name = ''] of textOf(file).matchAll(/\b(?:table|outside)\(\s*'(\w+)'/g))
      found.set(name, areaOf(file));
  return found;
}

/** `area > table` for every foreign table that SQL names, with the files that do. */
function foreign(owner: ReadonlyMap<string, string>): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const file of files.filter((one) => !REPLICAS.includes(one)))
    for (const [, name = ''] of textOf(file).matchAll(SQL_TABLE)) {
      const pair = `${areaOf(file)} > ${name}`;
      if (owner.has(name) && owner.get(name) !== areaOf(file))
        found.set(pair, (found.get(pair) ?? new Set()).add(file));
    }
  return found;
}

describe('the tables that SQL names', () => {
  it('are declared in the folder of the area that owns them', () => {
    const owner = owners();
    for (const { name, rule } of declaredTables()) expect([name, owner.get(name)]).toEqual([name, rule.area]);
  });

  it('are those of the area itself, but for a list that only gets shorter', () => {
    const found = foreign(owners());
    const still = Object.entries(STILL).flatMap(([area, tables]) =>
      tables.split(' ').map((name) => `${area} > ${name}`),
    );
    const added = [...found].filter(([pair]) => !still.includes(pair));
    expect(added.map(([pair, where]) => `${pair} in ${[...where].join(', ')}`)).toEqual([]);
    // What is mended is struck out, so that it does not come back unseen.
    expect(still.filter((pair) => !found.has(pair))).toEqual([]);
  });
});

describe('what is stale after a write', () => {
  /** What is used of another area without reading a table of its: drawing a PDF, reading a letter, writing rows as an intake does. */
  const READS_NOTHING = ['deposits > letters', 'outreach > letters', 'sheets > letters', 'sheets > intake'];

  it('is all that is made of an area that the code of another uses', () => {
    const holders = new Set(owners().values());
    const forgotten = new Set<string>();
    for (const file of files)
      for (const [, used = ''] of textOf(file).matchAll(/from '\.\.\/(\w+)\/index\.ts'/g)) {
        const pair = `${areaOf(file)} > ${used}`;
        if (AREAS_READ.includes(areaOf(file)) && holders.has(used) && !isStale(areaOf(file), [used]))
          forgotten.add(pair);
      }
    expect([...forgotten].sort()).toEqual(READS_NOTHING.sort());
  });

  it('is all that is made of a table that the SQL of another names', () => {
    const owner = owners();
    const forgotten = [...foreign(owner).keys()].filter((pair) => {
      const [area = '', name = ''] = pair.split(' > ');
      const from = owner.get(name) ?? '';
      return from !== 'platform' && AREAS_READ.includes(area) && !isStale(area, [from]);
    });
    expect(forgotten).toEqual([]);
  });
});
