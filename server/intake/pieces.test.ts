import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PLAIN_SETTING } from '../../core/intake/setting.test-support.ts';
import { addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { AT_ONCE, Line } from './reading.ts';

/* A large file is judged some rows at a time: what becomes of each is what it would be if all were judged at once. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const MANY = AT_ONCE * 2 + 300;
const HEADINGS =
  'Number,First name,Last name,Email,Phone,Address,City,State,Zip,Amount,Date,Transaction ID,Tags,Spouse';
/** Rows of strangers, with some among them that have to do with others of the file, far apart. */
function fileOf(rows: Readonly<Record<number, string>>): Buffer {
  const lines = Array.from(
    { length: MANY },
    (_, at) =>
      rows[at] ?? `,F${at},L${at % 97}x${at},p${at}@example.org,,${at} Lyra St,Elko,NV,89801,5.00,2026-11-02,R${at},,`,
  );
  return Buffer.from([HEADINGS, ...lines].join('\n'));
}
const upload = async (bytes: Buffer): Promise<number> =>
  Number((await test.call('POST', '/intakes?name=pieces.csv', undefined, { raw: bytes })).body['id']);
const fatesOf = async (id: number, many: number) =>
  (await test.services.intakes.judge(id, test.sql, many)).rows.map(
    ({ line, match, verdict, says, problems, warnings, changes }) => ({
      ...{ row: line.row, match, verdict, says, problems, warnings, changes },
    }),
  );

describe('a file that is judged some rows at a time', () => {
  it('has the fates that it has when all are judged at once', async () => {
    const ada = await addPerson(test, { first: 'Ada', last: 'Finch' });
    const late = MANY - 3;
    const id = await upload(
      fileOf({
        // One new supporter, a reference and a record of ours, each in the first rows and in the last.
        2: ',Bo,Lark,bo@example.org,,9 Mill Rd,Reno,NV,89501,10.00,2026-11-02,X-1,vip,Cy Lark',
        3: `S-${ada},,,,775-555-0142,,,,,12.00,2026-11-02,X-2,,`,
        4: ',Di,Wren,same@example.org,,,,,,7.00,2026-11-02,X-3,,',
        [AT_ONCE + 7]: ',Cy,Lark,bo@example.org,,9 Mill Rd,Reno,NV,89501,8.00,2026-11-02,X-4,,',
        [late]: ',BO,Lark,BO@example.org,775-555-0111,,,,,11.00,2026-11-02,X-5,,',
        [late + 1]: `S-${ada},,,ada@example.org,(775) 555-0142,,,,,13.00,2026-11-02,X-1,,`,
        [late + 2]: `S-${ada},,,ada@example.org,(775) 555-0142,,,,,13.00,2026-11-02,X-6,,`,
      }),
    );
    const [whole, pieces] = [await fatesOf(id, MANY), await fatesOf(id, AT_ONCE)];
    expect(pieces).toEqual(whole);
    // The file's own first row is its headings.
    const at = (index: number) => pieces[index] ?? null;
    expect(at(late)).toMatchObject({ match: { kind: 'earlier', row: 2 }, says: 'Same new supporter as row 4' });
    expect(at(late + 1)).toMatchObject({ verdict: 'already', says: 'The gift X-1 is in row 4' });
    // The telephone came by the first of their rows already; the e-mail is new.
    expect(at(3)?.changes.map(({ field }) => field)).toEqual(['phone']);
    expect(at(late + 2)?.changes.map(({ field }) => field)).toEqual(['email']);
  });

  it('has them of a list whose rows keep what is promised in it, too', async () => {
    const lines = Array.from({ length: MANY }, (_, at) =>
      at === 5
        ? 'Eve,Vireo,eve@example.org,,,100.00,'
        : at === MANY - 1
          ? 'Eve,Vireo,eve@example.org,40.00,Pledge payment,,2026-11-23'
          : `F${at},M${at},q${at}@example.org,5.00,,,2026-11-02`,
    );
    const headings = 'First name,Last name,Email,Amount,Gift kind,Pledge amount,Date';
    const id = await upload(Buffer.from([headings, ...lines].join('\n')));
    const { version, setting } = await test.services.intakes.get(id);
    const columns = ['first', 'last', 'email', 'amount', 'giftKind', 'pledge', 'date'];
    const set = { version, setting: { ...setting, columns } };
    expect((await test.call('PUT', `/intakes/${id}`, set)).status).toBe(200);
    const [whole, pieces] = [await fatesOf(id, MANY), await fatesOf(id, AT_ONCE)];
    expect(pieces).toEqual(whole);
    expect(pieces[MANY - 1]?.changes).toMatchObject([{ field: 'giftKind', after: 'pays the pledge of the file' }]);
  });
});

describe('what a row says besides its draft', () => {
  it('is the same when it was put away and is read again', () => {
    const columns = ['first', 'last', 'email', 'email:2', 'tag', 'amount', 'date', 'amount:2', 'spouse'] as const;
    const cells = ['Ada', 'Finch', 'a@example.org', 'b@example.org', 'vip; board', '5', '11/2/2026', '7', 'Bo Finch'];
    const line = new Line(2, cells, cells, { columns, labels: {}, setting: PLAIN_SETTING, width: columns.length });
    const before = structuredClone(line.details);
    expect(before).toMatchObject({
      tags: ['vip', 'board'],
      gifts: [{ cents: 700 }],
      spouse: { name: { first: 'Bo' } },
    });
    line.putAway();
    expect(line.details).toEqual(before);
    expect(line.brings).toMatchObject({ tags: ['vip', 'board'], gifts: [{ cents: 700 }] });
  });
});
