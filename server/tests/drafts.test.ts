import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FIELD_KINDS } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { GiftWhole } from '@tallystick/contract/gifts';
import { draftOf } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp, recordOf, snapshot } from './support.ts';
import type { TestApp } from './support.ts';

/* A form that shows a record or a gift and saves it again, with nothing touched, changes nothing: however often. */

const VALUES: Record<FieldKind, string> = {
  text: '1234',
  number: '1,234.5',
  money: '$5,000.00',
  date: '3/14/2026',
  yesno: 'no',
  one: 'Left, right',
  many: 'plain; Left, right',
};

let test: TestApp;
const own: Record<'supporter' | 'gift', Record<number, string>> = { supporter: {}, gift: {} };
beforeAll(async () => {
  test = await openTestApp();
  for (const about of ['supporter', 'gift'] as const)
    for (const kind of Object.keys(FIELD_KINDS) as FieldKind[]) {
      const choices = kind === 'one' || kind === 'many' ? ['plain', 'Left, right', 'PLAIN2'] : [];
      const { body } = await test.call('POST', '/fields', { about, name: kind, kind, choices }, { as: 'admin' });
      own[about][Number(body['id'])] = kind === 'many' ? '["plain","Left, right"]' : VALUES[kind];
    }
});
afterAll(() => test.close());

describe('saving what was read', () => {
  it('leaves a record with a field of every kind as it is, three times over', async () => {
    const other = await addPerson(test);
    const id = await addPerson(test, {
      ...{ prefix: 'Dr.', middle: 'Q.', suffix: 'Jr.', nickname: 'Nan', birthday: '--03-14', tags: ['Van', 'Board'] },
      phones: [{ number: '555-0100', label: 'work', preferred: true }],
      addresses: [{ street: '1 Lyra St', city: 'Tansy Creek', region: 'NV', seasonFrom: '11-15', seasonTo: '04-15' }],
      wishes: [{ kind: 'no_calls', source: 'a call' }],
      fields: own.supporter,
    });
    expect((await recordOf(test, id)).fields.map((field) => field.shown)).toEqual(
      expect.arrayContaining(['1234', '1,234.5', '$5,000.00', 'Mar 14, 2026', 'no', 'Left, right']),
    );
    for (const someone of [id, other])
      for (let turn = 0; turn < 3; turn++) {
        const before = await snapshot(test.sql);
        const record = await recordOf(test, someone);
        const saved = await test.call('PUT', `/supporters/${someone}`, {
          version: record.version,
          draft: draftOf(record),
        });
        expect([saved.status, saved.body['revision']]).toEqual([200, null]);
        expect(await snapshot(test.sql)).toEqual(before);
      }
  });

  it('leaves a gift with a field of every kind as it is, three times over', async () => {
    const who = await addPerson(test);
    const id = await addGift(test, who, { fields: own.gift, cents: 500_000 });
    for (let turn = 0; turn < 3; turn++) {
      const before = await snapshot(test.sql);
      const gift = GiftWhole.parse((await test.call('GET', `/gifts/${id}`)).body);
      const { supporterId, cents, date, fundId, campaignId, appealId, method, cheque, note, version } = gift;
      const draft = { supporterId, cents, date, fundId, campaignId, appealId, method, cheque, note };
      const saved = await test.call('PUT', `/gifts/${id}`, { ...draft, fields: gift.typedFields, version });
      expect([saved.status, saved.text]).toEqual([200, expect.any(String)]);
      expect(await snapshot(test.sql)).toEqual(before);
    }
  });
});
