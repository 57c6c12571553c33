import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { sortName } from '@tallystick/core/names';
import { sqlOn } from '@tallystick/server/platform/db';
import { DEMO_ORGANIZATION, LOADER, SEED, withApp } from './load.ts';
import { Chance } from './random.ts';
import { makeSupporters } from './supporters.ts';

/**
 * Bulk data for measuring: `gifts` gifts over `supporters` supporters in the eight years to `day` (the real one
 * where it is null), written past the row-by-row history as one load.
 */
export async function loadScale(
  databaseUrl: string,
  supporters: number,
  gifts: number,
  day: IsoDate | null,
  say: (line: string) => void = () => undefined,
): Promise<void> {
  await withApp(databaseUrl, day, async (services) => {
    const sql = sqlOn(services.source);
    const chance = new Chance(SEED);
    const made = makeSupporters(supporters, chance);
    const [first] = await sql.rows<{ id: number | null }>('SELECT MAX(id) + 1 AS id FROM supporter');
    const base = first?.id ?? 10_001;
    const funds = (await sql.rows<{ id: number }>('SELECT id FROM fund')).map((row) => row.id);
    const tags = (await sql.rows<{ id: number }>('SELECT id FROM tag')).map((row) => row.id);
    await inSlices(made, 2000, async (slice, from) => {
      const ids = slice.map((_, index) => base + from + index);
      const rowOf = (index: number) => ids[index] ?? 0;
      await sql.run(
        'INSERT INTO supporter (id, kind, prefix, first, middle, last, suffix, organization, sort_name, nickname) VALUES ?',
        [
          slice.map(({ name }, index) => [
            rowOf(index),
            name.kind,
            name.prefix,
            name.first,
            name.middle,
            name.last,
            name.suffix,
            name.organization,
            sortName(name),
            '',
          ]),
        ],
      );
      const wishes = slice.flatMap(({ noEmail, diedDaysAgo }, index) => [
        ...(noEmail ? [[rowOf(index), 'no_email', '2025-01-01', 'load', 'load']] : []),
        ...(diedDaysAgo !== null ? [[rowOf(index), 'deceased', '2025-01-01', 'load', 'load']] : []),
      ]);
      if (wishes.length > 0)
        await sql.run('INSERT INTO wish (supporter_id, kind, since, source, set_by) VALUES ?', [wishes]);
      const emails = slice.flatMap(({ email }, index) => (email === null ? [] : [[rowOf(index), email, 'home', 1]]));
      const phones = slice.flatMap(({ phone }, index) => (phone === null ? [] : [[rowOf(index), phone, 'home', 1]]));
      const addresses = slice.flatMap(({ address: at }, index) =>
        at === null ? [] : [[rowOf(index), at.street, at.city, at.region, at.postal, '', 'home', 1]],
      );
      await sql.run('INSERT INTO email (supporter_id, address, label, preferred) VALUES ?', [emails]);
      await sql.run('INSERT INTO phone (supporter_id, number, label, preferred) VALUES ?', [phones]);
      await sql.run(
        'INSERT INTO address (supporter_id, street, city, region, postal, country, label, preferred) VALUES ?',
        [addresses],
      );
      const tagged = slice.flatMap((_, index) =>
        tags.length > 0 && chance.happens(0.3)
          ? [[rowOf(index), tags[chance.whole(0, tags.length - 1)] ?? 0, 'load']]
          : [],
      );
      if (tagged.length > 0)
        await sql.run('INSERT INTO supporter_tag (supporter_id, tag_id, source) VALUES ?', [tagged]);
    });
    say(`  ${supporters} supporters`);
    const today = services.clock.today(DEMO_ORGANIZATION.time_zone);
    const perSlice = 5000;
    for (let at = 0; at < gifts; at += perSlice) {
      const many = Math.min(perSlice, gifts - at);
      const rows = Array.from({ length: many }, (_, index) => {
        // A few give much more often than most: the square of chance leans to the first supporters.
        const owner = base + Math.floor(chance.next() ** 1.6 * supporters);
        const date = addDays(today, -chance.whole(0, 2900));
        const fund = funds[chance.whole(0, funds.length - 1)] ?? 0;
        return [
          owner,
          chance.whole(5, 500) * 100,
          'USD',
          date,
          date,
          fund,
          'cheque',
          String(1000 + ((at + index) % 9000)),
          today,
        ];
      });
      await sql.run(
        'INSERT INTO gift (supporter_id, cents, currency, date, booked_on, fund_id, method, cheque, acknowledged_on) VALUES ?',
        [rows],
      );
    }
    await services.changes.write(
      LOADER,
      {
        kind: 'load',
        summary: `Loaded ${supporters} supporters and ${gifts} gifts for measuring`,
        evenWithoutRows: true,
      },
      async () => undefined,
    );
    say(`  ${gifts} gifts`);
  });
}

async function inSlices<T>(
  items: readonly T[],
  size: number,
  work: (slice: T[], from: number) => Promise<void>,
): Promise<void> {
  for (let from = 0; from < items.length; from += size) await work(items.slice(from, from + size), from);
}
