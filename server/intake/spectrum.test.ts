import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { basename, dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { parseFile } from './parse.ts';

/* The cases of `csv-spectrum`, each a file and what it says as JSON. */

const folder = dirname(createRequire(import.meta.url).resolve('csv-spectrum'));
const names = readdirSync(join(folder, 'csvs')).map((name) => basename(name, '.csv'));

describe('csv-spectrum', () => {
  it('has its twelve cases', () => expect(names).toHaveLength(12));
  it.each(names)('%s', async (name) => {
    const said: unknown = JSON.parse(readFileSync(join(folder, 'json', `${name}.json`), 'utf8'));
    const { rows } = await parseFile(readFileSync(join(folder, 'csvs', `${name}.csv`)));
    const [headings = [], ...cells] = rows.map((row) => row.cells);
    const read = cells.map((row) => Object.fromEntries(headings.map((heading, at) => [heading, row[at]])));
    // One telephone number is another in its JSON than in its file.
    const without = (row: object): object => ({ ...row, 'Contact Phone Number': null });
    expect(read.map(without)).toEqual([said].flat().map((row) => without(row as object)));
  });
});
