import { addDays, dateOfDay, spanOf } from '@tallystick/core/dates';
import type { Calendar, DaySpan } from '@tallystick/core/dates';
import type { Facts } from '@tallystick/core/facts';
import { all, any, anyOf, between, during, gave, not, rows, stateIs, total } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';

/* Questions about many supporters, each answered three ways: by segments, by hand over the same columns, by SQL. */

const fiscal = (ago: number) => during({ kind: 'fiscal-year', ago });

export interface Shape {
  name: string;
  group: Group;
  /** The same by hand, over the same typed arrays. */
  loop: (facts: Facts) => number;
  sql: string;
}

/** Calls `each` with the rows of every supporter that is not in the trash, and counts those it says yes to. */
export function countSupporters(facts: Facts, each: (slot: number, from: number, end: number) => boolean): number {
  let many = 0;
  for (let slot = 0; slot < facts.size; slot++) {
    if (facts.isGone(slot)) continue;
    const from = facts.gifts.start[slot] as number;
    if (each(slot, from, from + (facts.gifts.count[slot] as number))) many++;
  }
  return many;
}

const betweenDays = ({ from, to }: DaySpan): string => `BETWEEN '${dateOfDay(from)}' AND '${dateOfDay(to)}'`;

/** Questions, asked of whatever day the data were made for. */
export function shapesOn(calendar: Calendar): Shape[] {
  const last = spanOf({ kind: 'fiscal-year', ago: 1 }, calendar);
  const current = spanOf({ kind: 'fiscal-year', ago: 0 }, calendar);
  const lately = addDays(calendar.today, -300);
  const LAST = betweenDays(last);
  const THIS = betweenDays(current);
  return [
    {
      name: 'one state',
      group: all(stateIs('NV')),
      loop: (facts) => {
        const { words, values: region } = facts.people.region;
        const nevada = words.find('NV');
        return countSupporters(facts, (slot) => region[slot] === nevada);
      },
      sql: `SELECT COUNT(*) AS many FROM supporter s JOIN address a ON a.supporter_id = s.id AND a.preferred = 1 WHERE s.state = 'active' AND a.region = 'NV'`,
    },
    {
      name: 'gave in a window',
      group: all(gave(fiscal(1))),
      loop: (facts) => {
        const day = facts.gifts.columns.day.values;
        return countSupporters(facts, (_slot, from, end) => {
          for (let row = from; row < end; row++)
            if ((day[row] as number) >= last.from && (day[row] as number) <= last.to) return true;
          return false;
        });
      },
      sql: `SELECT COUNT(DISTINCT g.supporter_id) AS many FROM gift g JOIN supporter s ON s.id = g.supporter_id WHERE s.state = 'active' AND g.date ${LAST}`,
    },
    {
      name: 'total in a window',
      group: all(total([fiscal(1)], 50_000)),
      loop: (facts) => {
        const day = facts.gifts.columns.day.values;
        const cents = facts.gifts.columns.cents.values;
        return countSupporters(facts, (_slot, from, end) => {
          let sum = 0;
          for (let row = from; row < end; row++)
            if ((day[row] as number) >= last.from && (day[row] as number) <= last.to) sum += cents[row] as number;
          return sum >= 50_000;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT g.supporter_id FROM gift g JOIN supporter s ON s.id = g.supporter_id WHERE s.state = 'active' AND g.date ${LAST} GROUP BY g.supporter_id HAVING SUM(g.cents) >= 50000) x`,
    },
    {
      name: 'gave last year, not this',
      group: all(gave(fiscal(1)), not(gave(fiscal(0)))),
      loop: (facts) => {
        const day = facts.gifts.columns.day.values;
        return countSupporters(facts, (_slot, from, end) => {
          let before = false;
          for (let row = from; row < end; row++) {
            const on = day[row] as number;
            if (on >= current.from && on <= current.to) return false;
            if (on >= last.from && on <= last.to) before = true;
          }
          return before;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM supporter s WHERE s.state = 'active' AND EXISTS (SELECT 1 FROM gift g WHERE g.supporter_id = s.id AND g.date ${LAST}) AND NOT EXISTS (SELECT 1 FROM gift g WHERE g.supporter_id = s.id AND g.date ${THIS})`,
    },
    {
      name: 'a fund, a state and a date',
      group: all(
        stateIs('NV', 'CA'),
        total([anyOf('fund', 1)], 20_000),
        rows('gifts', [], 'last', { is: 'in', window: { kind: 'since', from: lately } }),
      ),
      loop: (facts) => {
        const { day, cents, fund } = facts.gifts.columns;
        const [days, amounts, funds] = [day.values, cents.values, fund.values];
        const [nevada, california, since] = [
          facts.people.region.words.find('NV'),
          facts.people.region.words.find('CA'),
          spanOf({ kind: 'between', from: lately, to: calendar.today }, calendar),
        ];
        const region = facts.people.region.values;
        return countSupporters(facts, (slot, from, end) => {
          if (region[slot] !== nevada && region[slot] !== california) return false;
          let sum = 0;
          let recent = false;
          for (let row = from; row < end; row++) {
            if (funds[row] === 1) sum += amounts[row] as number;
            const on = days[row] as number;
            if (on >= since.from && on <= since.to) recent = true;
          }
          return sum >= 20_000 && recent;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT s.id FROM supporter s JOIN address a ON a.supporter_id = s.id AND a.preferred = 1 JOIN gift g ON g.supporter_id = s.id
      WHERE s.state = 'active' AND a.region IN ('NV', 'CA') GROUP BY s.id HAVING SUM(IF(g.fund_id = 1, g.cents, 0)) >= 20000 AND MAX(g.date) >= '${lately}') x`,
    },
    {
      name: 'nested, with windows',
      group: any(
        all(stateIs('NV'), total([fiscal(1)], 100_000)),
        all(gave(anyOf('fund', 1), fiscal(0)), not(gave(anyOf('fund', 1), fiscal(1)))),
      ),
      loop: (facts) => {
        const { day, cents, fund } = facts.gifts.columns;
        const [days, amounts, funds] = [day.values, cents.values, fund.values];
        const { words, values: region } = facts.people.region;
        const nevada = words.find('NV');
        return countSupporters(facts, (slot, from, end) => {
          let sum = 0;
          let now = false;
          let before = false;
          for (let row = from; row < end; row++) {
            const on = days[row] as number;
            if (on >= last.from && on <= last.to) {
              sum += amounts[row] as number;
              if (funds[row] === 1) before = true;
            } else if (on >= current.from && on <= current.to && funds[row] === 1) now = true;
          }
          return (region[slot] === nevada && sum >= 100_000) || (now && !before);
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT s.id FROM supporter s LEFT JOIN address a ON a.supporter_id = s.id AND a.preferred = 1 JOIN gift g ON g.supporter_id = s.id WHERE s.state = 'active'
      GROUP BY s.id HAVING (MAX(a.region) = 'NV' AND SUM(IF(g.date ${LAST}, g.cents, 0)) >= 100000)
      OR (SUM(g.fund_id = 1 AND g.date ${THIS}) > 0 AND SUM(g.fund_id = 1 AND g.date ${LAST}) = 0)) x`,
    },
    {
      name: 'gave in every one of four years',
      group: all(...[0, 1, 2, 3].map((ago) => gave(fiscal(ago)))),
      loop: (facts) => {
        const day = facts.gifts.columns.day.values;
        const years = [0, 1, 2, 3].map((ago) => spanOf({ kind: 'fiscal-year', ago }, calendar));
        return countSupporters(facts, (_slot, from, end) => {
          let seen = 0;
          for (let row = from; row < end; row++)
            for (let year = 0; year < 4; year++) {
              const { from: first, to } = years[year] as DaySpan;
              if ((day[row] as number) >= first && (day[row] as number) <= to) seen |= 1 << year;
            }
          return seen === 15;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM supporter s WHERE s.state = 'active' ${[0, 1, 2, 3]
        .map((ago) => {
          const days = betweenDays(spanOf({ kind: 'fiscal-year', ago }, calendar));
          return `AND EXISTS (SELECT 1 FROM gift g WHERE g.supporter_id = s.id AND g.date ${days})`;
        })
        .join(' ')}`,
    },
    {
      name: 'a large gift once, nothing lately',
      group: all(rows('gifts', [], 'largest', between(100_000)), not(gave(during({ kind: 'since', from: lately })))),
      loop: (facts) => {
        const [day, cents] = [facts.gifts.columns.day.values, facts.gifts.columns.cents.values];
        const since = spanOf({ kind: 'since', from: lately }, calendar).from;
        return countSupporters(facts, (_slot, from, end) => {
          let large = false;
          for (let row = from; row < end; row++) {
            if ((day[row] as number) >= since) return false;
            if ((cents[row] as number) >= 100_000) large = true;
          }
          return large;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT g.supporter_id FROM gift g JOIN supporter s ON s.id = g.supporter_id
      WHERE s.state = 'active' GROUP BY g.supporter_id HAVING MAX(g.cents) >= 100000 AND MAX(g.date) < '${lately}') x`,
    },
  ];
}
