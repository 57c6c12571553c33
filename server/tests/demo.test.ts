import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addDays, dateInZone, fiscalYearOf } from '@tallystick/core/dates';
import { DEMO_ORGANIZATION, DEMO_USERS, isSetUp, loadDemo, setUpEmpty } from '@tallystick/demo/load';
import { DEMO_PASSWORD } from '../session/index.ts';
import { brokenGuards } from '../platform/guards.ts';
import { freshDatabase, openTestApp } from './support.ts';
import type { TestApp } from './support.ts';

/** The demo must be right whatever the day is that it is loaded on. */
const TODAY = dateInZone(new Date(), DEMO_ORGANIZATION.time_zone);

let databaseUrl: string;
let test: TestApp;
let counts: { supporters: number; gifts: number };
beforeAll(async () => {
  databaseUrl = await freshDatabase();
  counts = await loadDemo(databaseUrl, { today: TODAY });
  test = await openTestApp({ databaseUrl, demo: true, today: TODAY });
});
afterAll(() => test.close());

async function checksum(url: string): Promise<unknown> {
  const connection = await mysql.createConnection(url);
  const [rows] = await connection.query(
    'CHECKSUM TABLE supporter, email, phone, address, supporter_tag, gift, gift_split, soft_credit, pledge, installment, pledge_payment, recurring, charge, batch, sheet_row, fund, campaign, appeal, letter, segment',
  );
  await connection.end();
  return (rows as { Table: string; Checksum: number }[]).map((row) => [row.Table.split('.')[1], row.Checksum]);
}

describe('the demo in the database', () => {
  it('has the size of the scenario, more at the end of a fiscal year than at its beginning', () => {
    expect(counts).toEqual({ supporters: 2400, gifts: expect.any(Number) });
    expect(counts.gifts).toBeGreaterThan(12_000);
    expect(counts.gifts).toBeLessThan(17_500);
  });

  it('is the same every time', async () => {
    const other = await freshDatabase();
    await loadDemo(other, { today: TODAY });
    expect(await checksum(other)).toEqual(await checksum(databaseUrl));
  });

  it('holds all that must hold', async () => expect(await brokenGuards(test.sql)).toEqual([]));

  it('was known on past days as its gifts are dated', async () => {
    const totals = async (asOf: string | null) =>
      (await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, asOf })).body['total'] as { cents: number };
    const [year, now] = [await totals(addDays(TODAY, -365)), await totals(null)];
    expect(year.cents).toBeGreaterThan(now.cents / 3);
    expect(year.cents).toBeLessThan(now.cents);
  });

  it('is not loaded over anything', async () => {
    expect(await isSetUp(databaseUrl)).toBe(true);
    const empty = await freshDatabase();
    expect(await isSetUp(empty)).toBe(false);
    await setUpEmpty(empty);
    expect(await isSetUp(empty)).toBe(true);
  });

  it('lets each of its users in, with the role it says', async () => {
    const session = await test.call('GET', '/session', undefined, { as: null });
    expect((session.body['demoUsers'] as { email: string }[]).map((user) => user.email).sort()).toEqual(
      DEMO_USERS.map((user) => user.email).sort(),
    );
    for (const { email, role } of DEMO_USERS) {
      const { status, body } = await test.call(
        'POST',
        '/session',
        { email, password: DEMO_PASSWORD },
        { as: null, headers: { Origin: test.url } },
      );
      expect([status, body['user']]).toEqual([200, expect.objectContaining({ email, role })]);
    }
  });

  it('adds up: facts, lists and SQL say the same sum', async () => {
    const [sql] = await test.sql.rows<{ many: number; cents: number }>(
      'SELECT COUNT(*) AS many, SUM(cents) AS cents FROM gift',
    );
    const list = (await test.call('GET', '/gifts?limit=1')).body['sum'];
    expect(list).toEqual({ count: sql?.many, cents: sql?.cents });
    let cents = 0;
    let cursor = '';
    do {
      const { body } = await test.call('GET', `/supporters?limit=1000${cursor ? `&cursor=${cursor}` : ''}`);
      cents += (body['items'] as { giving: { lifetime: number } }[]).reduce((sum, row) => sum + row.giving.lifetime, 0);
      cursor = String(body['next'] ?? '');
    } while (cursor !== '');
    expect(cents).toBe(sql?.cents);
  });

  it.each([
    ['auction-winners.csv', { bad: 1, undecided: 0 }, ['columns']],
    ['board-guest-list.xlsx', { bad: 0, known: 0 }, ['columns']],
    ['call-team.csv', { known: 20, bad: 0 }, []],
    ['relationships.csv', { known: 12, bad: 0 }, []],
    ['bad-rows.csv', { new: 3, bad: 12, undecided: 2 }, ['columns']],
  ])('has %s to try, which is read as it should be', async (name, expected, asked) => {
    const raw = await readFile(join(import.meta.dirname, '..', '..', 'demo', 'files', name));
    const { body } = await test.call('POST', `/intakes?name=${name}`, undefined, { raw });
    const found = (await test.call('GET', `/intakes/${String(body['id'])}/rows?limit=1`)).body as {
      counts: object;
      questions: { about: string }[];
    };
    expect(found.counts).toMatchObject(expected);
    expect(found.questions.map(({ about }) => about)).toEqual(asked);
    expect((await test.call('DELETE', `/intakes/${String(body['id'])}`)).status).toBe(200);
  });

  it('waits to be worked on: gifts to thank, a file to look at, an e-mail begun', async () => {
    expect((await test.call('GET', '/thanks?limit=1')).body['total']).toBeGreaterThan(20);
    expect((await test.call('GET', '/intakes')).body['items']).toMatchObject([
      { name: 'giving-portal-export.csv', state: 'open' },
    ]);
    const mailings = (await test.call('GET', '/mailings')).body['items'] as {
      state: string;
      counts: { reached: number; notReached: number };
    }[];
    expect(mailings.map((mailing) => mailing.state).sort()).toEqual(['draft', 'sent']);
    expect(mailings.find((mailing) => mailing.state === 'sent')?.counts.reached).toBeGreaterThan(100);
    const segments = (await test.call('GET', '/segments')).body['items'] as { name: string; count: number }[];
    expect(segments).toHaveLength(24);
    // No intake was brought in last month yet.
    expect(segments.filter(({ count }) => count === 0).map(({ name }) => name)).toEqual([
      'Touched by last month’s intake, no telephone',
    ]);
    expect(segments.filter((segment) => segment.count > 50).length).toBeGreaterThanOrEqual(4);
  });

  it('is full of life: homes, ties, wishes, winters, fields, groups, notes and things to do', async () => {
    const many = async (sql: string): Promise<number> =>
      (await test.sql.rows<{ n: number }>(`SELECT COUNT(*) AS n FROM ${sql}`))[0]?.n ?? 0;
    expect(await many('supporter WHERE household_id IS NOT NULL')).toBeGreaterThan(150);
    expect(await many(`supporter WHERE kind = 'household' AND primary_id IS NOT NULL`)).toBeGreaterThan(60);
    expect(await many('relation')).toBeGreaterThan(150);
    expect(await many('address WHERE season_from IS NOT NULL')).toBeGreaterThan(15);
    expect(await many('supporter_field')).toBeGreaterThan(500);
    expect(await many('group_member')).toBeGreaterThan(40);
    expect(await many('note')).toBeGreaterThan(100);
    expect(await many('task WHERE done_on IS NULL')).toBe(11);
    expect(await many("task t JOIN segment s ON s.id = t.segment_id WHERE t.act = 'labels30'")).toBe(1);
    const kinds = await test.sql.rows<{ kind: string }>('SELECT DISTINCT kind FROM wish');
    expect(kinds.length).toBeGreaterThanOrEqual(6);
    expect(await many('refusal')).toBeGreaterThan(40);
  });

  it('is unclean in every way that can come about, but for what only bad data have', async () => {
    const { body } = await test.call('GET', '/upkeep');
    const items = body['items'] as { finding: string; count: number }[];
    expect(items.filter(({ count }) => count === 0).map(({ finding }) => finding)).toEqual(['nameless', 'empty']);
    // Most homes share one address.
    const moved = items.find(({ finding }) => finding === 'home-address')?.count ?? 0;
    const housed = await test.sql.rows('SELECT id FROM supporter WHERE household_id IS NOT NULL');
    expect(moved / housed.length).toBeLessThan(0.15);
  });

  it('breaks none of its own rules: a primary lives in the home, and nobody who died is one', async () => {
    const stray = await test.sql.rows(
      'SELECT h.id FROM supporter h JOIN supporter p ON p.id = h.primary_id WHERE p.household_id IS NULL OR p.household_id <> h.id',
    );
    expect(stray).toEqual([]);
    const gone = await test.sql.rows(
      `SELECT h.id FROM supporter h JOIN wish w ON w.supporter_id = h.primary_id AND w.kind = 'deceased'`,
    );
    expect(gone).toEqual([]);
    const { body } = await test.call('GET', '/supporters?kind=household&sort=-household&limit=20');
    for (const row of body['items'] as { id: number; giving: { household: { lifetime: number } } }[]) {
      const [sum] = await test.sql.rows<{ cents: number }>(
        'SELECT SUM(g.cents) AS cents FROM gift g JOIN supporter s ON s.id = g.supporter_id WHERE s.id = ? OR s.household_id = ?',
        [row.id, row.id],
      );
      expect([row.id, row.giving.household.lifetime]).toEqual([row.id, sum?.cents ?? 0]);
    }
  });
});

describe('the money of the demo', () => {
  const items = async <T>(path: string): Promise<T[]> => (await test.call('GET', path)).body['items'] as T[];

  it('has pledges that are late, paid and written off, each adding up', async () => {
    type Row = { standing: Record<'pledged' | 'paid' | 'writtenOff' | 'balance' | 'overdue', number> };
    const rows = await items<Row>('/pledges?show=all&limit=200');
    expect(rows.length).toBeGreaterThan(40);
    for (const { standing } of rows)
      expect(standing.paid + standing.writtenOff + standing.balance).toBe(standing.pledged);
    for (const name of ['paid', 'writtenOff', 'overdue'] as const)
      expect(rows.some(({ standing }) => standing[name] > 0)).toBe(true);
  });

  it('has recurring gifts that fail, and gifts for every charge that was paid', async () => {
    const rows = await items<{ state: string }>('/recurring');
    for (const state of ['active', 'paused', 'failing', 'to call'])
      expect(
        rows.some((row) => row.state === state),
        state,
      ).toBe(true);
    const orphans = await test.sql.rows(`SELECT id FROM charge WHERE (state = 'paid') <> (gift_id IS NOT NULL)`);
    expect(orphans).toEqual([]);
  });

  it('has splits that add up, credits within their gifts, and a ledger that balances', async () => {
    const off = await test.sql.rows(
      'SELECT g.id FROM gift g JOIN gift_split x ON x.gift_id = g.id GROUP BY g.id HAVING SUM(x.cents) <> MAX(g.cents)',
    );
    expect(off).toEqual([]);
    const over = await test.sql.rows('SELECT id FROM soft_credit WHERE cents > of_cents');
    expect(over).toEqual([]);
    const { body } = await test.call('GET', `/ledger?from=2000-01-01&to=${TODAY}`);
    expect(body['debit']).toBe(body['credit']);
    // Every kind of entry has its accounts, so that each is booked once, beside the gifts.
    const [sum] = await test.sql.rows<{ gifts: number; others: number }>(
      `SELECT (SELECT SUM(cents) FROM gift) AS gifts, (SELECT SUM(ABS(cents)) FROM journal WHERE booked_on <= ?) AS others`,
      [TODAY],
    );
    expect(body['notBooked']).toEqual([]);
    expect(body['debit']).toBe(Number(sum?.gifts) + Number(sum?.others));
  });

  it('puts each gift of the Annual Fund into that of its own year', async () => {
    const rows = await test.sql.rows<{ name: string; date: string }>(
      `SELECT DISTINCT c.name, g.date FROM gift g LEFT JOIN gift_split x ON x.gift_id = g.id
       JOIN campaign c ON c.id = COALESCE(x.campaign_id, g.campaign_id) WHERE c.code LIKE 'AF%'`,
    );
    expect(rows.length).toBeGreaterThan(1000);
    for (const { name, date } of rows) expect(name).toBe(`Annual Fund FY${fiscalYearOf(date, 7)}`);
  });

  it('has goals that are on their way or were about reached', async () => {
    type Place = { code: string; gifts: number; goalCents: number | null; towardGoalCents: number; closed: boolean };
    const campaigns = await items<Place>('/gift-codes/campaigns');
    for (const code of ['DOME2', 'LAMPS']) expect(campaigns.find((one) => one.code === code)?.gifts).toBeGreaterThan(5);
    const goals = [...campaigns, ...(await items<Place>('/gift-codes/funds'))].filter(
      ({ goalCents }) => goalCents !== null,
    );
    expect(goals.length).toBeGreaterThan(10);
    const thisYear = `AF${fiscalYearOf(TODAY, 7)}`;
    for (const { code, goalCents, towardGoalCents } of goals) {
      const share = towardGoalCents / (goalCents ?? 1);
      expect(share, code).toBeLessThan(1.15);
      if (code !== thisYear) expect(share, code).toBeGreaterThan(0.1);
    }
  });

  it('gives a telephone number to one record, but for the doubles', async () => {
    const [phones] = await test.sql.rows<{ many: number; distinct_many: number }>(
      'SELECT COUNT(*) AS many, COUNT(DISTINCT number) AS distinct_many FROM phone',
    );
    expect((phones?.distinct_many ?? 0) / (phones?.many ?? 1)).toBeGreaterThan(0.95);
    const last = await test.sql.rows<{ many: number }>(
      'SELECT COUNT(*) AS many FROM phone GROUP BY RIGHT(number, 4) ORDER BY 1 DESC LIMIT 1',
    );
    expect(last[0]?.many).toBeLessThan(15);
  });

  it('has nothing from after a death, and nothing from the future', async () => {
    const late = await test.sql.rows(
      `SELECT g.id FROM gift g JOIN wish w ON w.supporter_id = g.supporter_id AND w.kind = 'deceased' WHERE g.date > w.happened_on`,
    );
    const future = await test.sql.rows('SELECT id FROM gift WHERE date > ? OR acknowledged_on > ?', [TODAY, TODAY]);
    expect([late, future]).toEqual([[], []]);
  });

  it('has a sheet begun, with one amount to mend and its control totals', async () => {
    const [sheet] = await items<{ id: number; rows: number; expectedCount: number }>('/sheets');
    expect(sheet).toMatchObject({ rows: 18, expectedCount: 18 });
    const { body } = await test.call('POST', `/sheets/${sheet?.id ?? 0}/check`, {});
    expect(body['summary']).toMatchObject({ rows: 18, gifts: 17, wrong: 1, new: 9 });
  });
});

describe('finding people of the demo by what is not quite right', () => {
  interface Person {
    id: number;
    first: string;
    last: string;
    street: string | null;
    phone: string | null;
    email: string | null;
  }
  const ROADS: [RegExp, string][] = [
    [/\bRoad$/, 'Rd'],
    [/\bStreet$/, 'St'],
    [/\bDrive$/, 'Dr'],
    [/\bLane$/, 'Ln'],
    [/\bTrail$/, 'Trl'],
    [/\bAvenue$/, 'Ave'],
    [/\bPlace$/, 'Pl'],
    [/\bCourt$/, 'Ct'],
    [/\bRd$/, 'Road'],
    [/\bSt$/, 'Street'],
    [/\bDr$/, 'Drive'],
  ];
  const shortened = (street: string): string => {
    const [from, to] = ROADS.find(([pattern]) => pattern.test(street)) ?? [/$/, ''];
    return street.replace(from, to);
  };
  const without = (text: string, at: number): string => text.slice(0, at) + text.slice(at + 1);
  /** What is typed of somebody; null where they have nothing of the kind. */
  const WAYS: Record<string, (one: Person) => string | null> = {
    'last and first': ({ first, last }) => `${last}, ${first}`,
    'first letters': ({ first, last }) => `${first.slice(0, 3)} ${last.slice(0, 4)}`,
    'a letter left out': ({ first, last }) => (last.length > 4 ? `${first} ${without(last, 3)}` : null),
    'two letters swapped': ({ first, last }) =>
      last.length > 5 ? `${first} ${last.slice(0, 2)}${last[3]}${last[2]}${last.slice(4)}` : null,
    'a letter doubled': ({ first, last }) => (last.length > 4 ? `${first} ${last.slice(0, 3)}${last.slice(2)}` : null),
    'no accents, small letters': ({ first, last }) =>
      `${first} ${last}`.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase(),
    'name and street in another form': ({ last, street }) => (street ? `${last} ${shortened(street)}` : null),
    'street in another form': ({ street }) => (street ? shortened(street) : null),
    'last digits of the telephone and name': ({ last, phone }) => (phone ? `${last} ${phone.slice(-4)}` : null),
    'beginning of the e-mail': ({ email }) => (email ? (email.split('@')[0] ?? '') : null),
  };

  it('gives nearly all first or in the first five', async () => {
    const people = await test.sql.rows<Person>(
      `SELECT s.id, s.first, s.last, (SELECT a.street FROM address a WHERE a.supporter_id = s.id AND a.preferred = 1 LIMIT 1) AS street,
       (SELECT p.number FROM phone p WHERE p.supporter_id = s.id AND p.preferred = 1 LIMIT 1) AS phone,
       (SELECT e.address FROM email e WHERE e.supporter_id = s.id AND e.preferred = 1 LIMIT 1) AS email
       FROM supporter s WHERE s.kind = 'person' AND s.state = 'active' AND s.first <> '' AND s.last <> '' AND s.id % 23 = 0 ORDER BY s.id`,
    );
    const lines: string[] = [];
    let [asked, first, five] = [0, 0, 0];
    for (const [way, typed] of Object.entries(WAYS)) {
      let [many, one, some] = [0, 0, 0];
      for (const person of people) {
        const text = typed(person);
        if (text === null) continue;
        const { body } = await test.call('GET', `/find?limit=5&q=${encodeURIComponent(text)}`);
        const names = await test.sql.rows<{ id: number }>(
          // Two of one name cannot be told apart by it.
          'SELECT id FROM supporter WHERE first = ? AND last = ?',
          [person.first, person.last],
        );
        const at = (body['supporters'] as { id: number }[]).findIndex((found) =>
          names.some(({ id }) => id === found.id),
        );
        many++;
        if (at === 0) one++;
        if (at >= 0) some++;
      }
      lines.push(`| ${way} | ${many} | ${one} | ${some} |`);
      [asked, first, five] = [asked + many, first + one, five + some];
    }
    lines.push(`| all | ${asked} | ${first} | ${five} |`);
    expect(asked).toBeGreaterThan(400);
    expect([lines.join('\n'), five / asked]).toEqual([
      lines.join('\n'),
      expect.toSatisfy((share: number) => share > 0.95),
    ]);
    expect(first / asked).toBeGreaterThan(0.85);
    // The table in docs/find.md is this one.
    const written = await readFile(join(import.meta.dirname, '../../docs/find.md'), 'utf8');
    expect(written.replace(/ +/g, ' ')).toContain(lines.join('\n'));
  }, 180_000);
});
