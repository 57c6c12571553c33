import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, TODAY } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { TOPICS } from '@tallystick/core/history';
import { declaredTables, outsideTables } from './tables.ts';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

describe('what is declared', () => {
  it('is every table there is, each once', async () => {
    const rows = await test.sql.rows<{ name: string }>(
      `SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name <> 'migration'`,
    );
    const declared = [...declaredTables(), ...outsideTables()].map((one) => one.name);
    expect(declared.sort()).toEqual(rows.map((row) => row.name).sort());
    for (const { why } of outsideTables()) expect(why).not.toBe('');
  });

  it('has the very columns of the database, an owner where it says so, and a topic where it has an owner', async () => {
    const rows = await test.sql.rows<{ name: string; col: string; nullable: string }>(
      `SELECT table_name AS name, column_name AS col, is_nullable AS nullable FROM information_schema.columns WHERE table_schema = DATABASE()`,
    );
    for (const { name, rule, options } of declaredTables()) {
      const real = rows.filter((row) => row.name === name);
      const columns = Object.entries(options.columns) as [string, { nullable?: boolean }][];
      // The organisation's other columns are written when it is set up, and by nothing else.
      if (name !== 'organization')
        expect([name, columns.map(([column]) => column).sort()]).toEqual([name, real.map((row) => row.col).sort()]);
      // What may be null here may be null there.
      for (const [column, { nullable }] of columns)
        if (nullable)
          expect([name, column, real.find((row) => row.col === column)?.nullable]).toEqual([name, column, 'YES']);
      for (const column of [rule.owner, rule.also, rule.alsoWhenChanged])
        if (column) expect([name, real.some((row) => row.col === column)]).toEqual([name, true]);
      expect([name, rule.topics.length > 0]).toEqual([name, rule.owner !== null]);
      expect([name, rule.erasing === 'nobody']).toEqual([name, rule.owner === null]);
    }
    const folders = readdirSync(join(import.meta.dirname, '..'));
    for (const { name, rule } of declaredTables()) expect([name, folders.includes(rule.area)]).toEqual([name, true]);
    const shown = new Set(declaredTables().flatMap(({ rule }) => rule.topics));
    expect([...shown].sort()).toEqual([...TOPICS].sort());
  });
});

describe('emptying the trash', () => {
  it('blanks every column of a record that stays, but those that say what it was and that it is gone', () => {
    const record = declaredTables().find(({ rule }) => rule.owner === 'id');
    const blanked = typeof record?.rule.erasing === 'object' ? Object.keys(record.rule.erasing.blank) : [];
    const stays = Object.keys(record?.options.columns ?? {}).filter((column) => !blanked.includes(column));
    // The last name and the organization's are written over with words for someone removed.
    expect(stays).toEqual(['id', 'version', 'kind', 'last', 'organization', 'org_kind', 'state']);
  });

  it('leaves a name in no table, whatever was typed or brought in, but in what was issued', async () => {
    const marks = ['Zephyrine', 'Quorndale', 'zephyrine.q@example.org'];
    const [first = '', last = '', email = ''] = marks;
    const file = `First name,Last name,Email,Amount\n${first},${last},${email},12\nOther,One,other@example.org,5`;
    const intake = await test.call('POST', '/intakes?name=names.csv', undefined, { raw: Buffer.from(file) });
    const path = `/intakes/${String(intake.body['id'])}`;
    // A cell that was mended, and a value that stands for another, name her too.
    const { version, setting } = intake.body as { version: number; setting: object };
    const care = { 1: { translate: { quorndail: last } } };
    const edits = { '2:0': first, '2:1': 'quorndail', '2:2': email };
    await test.call('PUT', path, { version, setting: { ...setting, edits, care } });
    const posted = await test.call('POST', `${path}/post`, {});
    await test.jobEnd(Number(posted.body['jobId']));
    const found = (await test.call('GET', `/supporters?q=${last}`)).body['items'] as { id: number }[];
    const id = found[0]?.id ?? 0;
    await addGift(test, id, { note: `For ${first} ${last}, as she said` });
    const friend = await addPerson(test);
    const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
    const kindId = kinds.find((kind) => kind.name === 'friend')?.id;
    await test.call('POST', '/relations', { fromId: friend, toId: id, kindId });
    const body = {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'text', text: `Met ${first} ${last} and (${email})!` }] }],
    };
    await test.call('POST', '/notes', { supporterId: friend, date: TODAY, body });
    await test.call('POST', '/tasks', { supporterId: friend, title: `Thank ${first} ${last}`, due: TODAY });
    const rename = await test.call('POST', '/tasks', { title: `Ask ${last}, ${first} to call`, due: TODAY });
    await test.call('DELETE', `/tasks/${String(rename.body['id'])}`);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [id] }, act: { do: 'trash' } });
    const emptied = await test.call('POST', '/trash/empty', { records: 1 }, { as: 'admin' });
    expect([emptied.status, emptied.text]).toEqual([200, expect.any(String)]);

    const holding: string[] = [];
    for (const { name } of [...declaredTables(), ...outsideTables()]) {
      const rows = await test.sql.rows(`SELECT * FROM ${name}`);
      const text = JSON.stringify(rows).toLowerCase();
      for (const mark of marks) if (text.includes(mark.toLowerCase())) holding.push(`${name}: ${mark}`);
    }
    expect(holding).toEqual([]);
    const { items } = (await test.call('GET', `/supporters/${friend}/notes`)).body as { items: { body: unknown }[] };
    expect(JSON.stringify(items[0]?.body)).toContain('Met a removed supporter and (a removed supporter)!');
    const [other] = await test.sql.rows<{ cells: string }>(`SELECT cells FROM intake_row WHERE cells LIKE '%Other%'`);
    expect(other?.cells).toContain('other@example.org');
  });
});
