import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import { FREQUENCIES } from '../schedule/index.ts';
import type { Frequency } from '../schedule/index.ts';
import { allocate, installmentsOf, MOST_INSTALLMENTS, pledgeAt, pledgeNumber, remaining, resized } from './index.ts';
import type { PledgeBooks, PledgePlan, Settled } from './index.ts';

const monthly = { start: '2026-01-31', every: 'month', lastDay: false } as const;
const every = fc.constantFrom(...(Object.keys(FREQUENCIES) as Frequency[]));
const day = fc.integer({ min: dayNumber('2024-01-01'), max: dayNumber('2028-12-31') }).map(dateOfDay);
const schedule = fc.record({ start: day, every, lastDay: fc.boolean() });
const cents = fc.integer({ min: 1, max: 50_000_000 });

const rowsOf = (amount: number, plan: PledgePlan) => {
  const made = installmentsOf(amount, plan);
  if (!made.ok) throw new Error(made.reason);
  return made.rows;
};
const reasonOf = (amount: number, plan: PledgePlan): string => {
  const made = installmentsOf(amount, plan);
  return made.ok ? '' : made.reason;
};

describe('installmentsOf', () => {
  it('makes seven of $100.00 that add up', () => {
    const rows = rowsOf(100_00, { kind: 'count', schedule: monthly, count: 7 });
    expect(rows.map((row) => row.cents)).toEqual([1429, 1429, 1429, 1429, 1428, 1428, 1428]);
    expect(rows.map((row) => row.due)).toEqual([
      '2026-01-31',
      '2026-02-28',
      '2026-03-31',
      '2026-04-30',
      '2026-05-31',
      '2026-06-30',
      '2026-07-31',
    ]);
  });

  it('takes what is left last, with an amount each time', () =>
    expect(rowsOf(100_00, { kind: 'each', schedule: monthly, each: 30_00 }).map((row) => row.cents)).toEqual([
      30_00, 30_00, 30_00, 10_00,
    ]));

  it('puts rows of its own in order', () =>
    expect(
      rowsOf(30_00, {
        kind: 'rows',
        rows: [
          { due: '2026-05-01', cents: 10_00 },
          { due: '2026-02-01', cents: 20_00 },
        ],
      }),
    ).toEqual([
      { due: '2026-02-01', cents: 20_00 },
      { due: '2026-05-01', cents: 10_00 },
    ]));

  it.each<[string, number, PledgePlan, string]>([
    ['one cent in five', 1, { kind: 'count', schedule: monthly, count: 5 }, '1 cent cannot make 5 installments'],
    ['none at all', 500, { kind: 'count', schedule: monthly, count: 0 }, 'from 1 to 600'],
    ['too many', 500_00, { kind: 'count', schedule: monthly, count: 601 }, `from 1 to ${MOST_INSTALLMENTS}`],
    ['nothing each time', 500, { kind: 'each', schedule: monthly, each: 0 }, 'above zero'],
    ['a cent each time', 50_000, { kind: 'each', schedule: monthly, each: 1 }, '50000 installments'],
    ['no row', 500, { kind: 'rows', rows: [] }, 'one installment at least'],
    ['a row of nothing', 500, { kind: 'rows', rows: [{ due: '2026-01-01', cents: 0 }] }, 'above zero'],
    ['too little', 500, { kind: 'rows', rows: [{ due: '2026-01-01', cents: 400 }] }, '1.00 less than the 5.00'],
    ['too much', 500, { kind: 'rows', rows: [{ due: '2026-01-01', cents: 600 }] }, '1.00 more than the 5.00'],
  ])('says why not: %s', (_name, amount, plan, words) => expect(reasonOf(amount, plan)).toContain(words));

  it('adds up to the cent, in order, each above zero and no two apart by more than a cent', () => {
    fc.assert(
      fc.property(cents, schedule, fc.integer({ min: 1, max: 120 }), (amount, when, count) => {
        fc.pre(count <= amount);
        const rows = rowsOf(amount, { kind: 'count', schedule: when, count });
        const parts = rows.map((row) => row.cents);
        expect(rows).toHaveLength(count);
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
        expect(Math.max(...parts) - Math.min(...parts)).toBeLessThanOrEqual(1);
        expect(Math.min(...parts)).toBeGreaterThan(0);
        rows.forEach((row, place) => expect(place === 0 || row.due > (rows[place - 1]?.due ?? '')).toBe(true));
      }),
    );
  });

  it('adds up with an amount each time', () => {
    fc.assert(
      fc.property(cents, schedule, cents, (amount, when, each) => {
        fc.pre(Math.ceil(amount / each) <= MOST_INSTALLMENTS);
        const parts = rowsOf(amount, { kind: 'each', schedule: when, each }).map((row) => row.cents);
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
        expect(parts.slice(0, -1).every((part) => part === each)).toBe(true);
        expect(parts.at(-1)).toBeLessThanOrEqual(each);
      }),
    );
  });
});

/** Books whose payments and write-offs never take more than is open, as the server keeps them. */
const books: fc.Arbitrary<PledgeBooks> = fc
  .record({
    amount: fc.integer({ min: 1000, max: 1_000_000 }),
    when: schedule,
    count: fc.integer({ min: 1, max: 24 }),
    moves: fc.array(
      fc.record({
        off: fc.boolean(),
        share: fc.double({ min: 0, max: 1.2, noNaN: true }),
        after: fc.nat(900),
        place: fc.nat(30),
      }),
      { maxLength: 25 },
    ),
  })
  .map(({ amount, when, count, moves }) => {
    const installments = rowsOf(amount, { kind: 'count', schedule: when, count }).map((row, id) => ({ ...row, id }));
    const open = new Map(installments.map((one) => [one.id, one.cents]));
    const made: { off: boolean; row: Settled }[] = moves.flatMap(({ off, share, after, place }) => {
      const one = installments[place % installments.length];
      const left = one ? (open.get(one.id) ?? 0) : 0;
      const taken = one ? Math.min(left, Math.round(one.cents * share)) : 0;
      if (!one || taken === 0) return [];
      open.set(one.id, left - taken);
      return [{ off, row: { installmentId: one.id, date: addDays(when.start, after), cents: taken } }];
    });
    return {
      pledgedOn: addDays(when.start, -10),
      installments,
      payments: made.filter((move) => !move.off).map((move) => move.row),
      writeOffs: made.filter((move) => move.off).map((move) => move.row),
    };
  });

describe('pledgeAt', () => {
  it('is pledged = paid + written off + balance at every date', () => {
    fc.assert(
      fc.property(books, day, (given, date) => {
        const at = pledgeAt(given, date);
        expect(at.paid + at.writtenOff + at.balance).toBe(at.pledged);
        for (const one of at.installments) {
          expect(one.paid + one.writtenOff + one.open).toBe(one.cents);
          expect(one.open).toBeGreaterThanOrEqual(0);
        }
        expect(at.overdue).toBeLessThanOrEqual(at.balance);
      }),
    );
  });

  it('never has less paid or written off at a later date', () => {
    fc.assert(
      fc.property(books, day, fc.nat(400), (given, date, days) => {
        const [early, late] = [pledgeAt(given, date), pledgeAt(given, addDays(date, days))];
        expect(late.paid).toBeGreaterThanOrEqual(early.paid);
        expect(late.writtenOff).toBeGreaterThanOrEqual(early.writtenOff);
      }),
    );
  });

  const three = (over: Partial<PledgeBooks> = {}): PledgeBooks => ({
    pledgedOn: '2026-01-01',
    installments: [
      { id: 1, due: '2026-02-01', cents: 100_00 },
      { id: 2, due: '2026-03-01', cents: 100_00 },
      { id: 3, due: '2026-04-01', cents: 100_00 },
    ],
    payments: [],
    writeOffs: [],
    ...over,
  });

  it('is nothing before it was made', () =>
    expect(pledgeAt(three(), '2025-12-31')).toMatchObject({ pledged: 0, balance: 0, next: null, installments: [] }));

  it('says the state of each installment', () => {
    const given = three({
      payments: [{ installmentId: 1, date: '2026-01-20', cents: 100_00 }],
      writeOffs: [{ installmentId: 3, date: '2026-02-15', cents: 100_00 }],
    });
    expect(pledgeAt(given, '2026-03-02').installments.map((one) => one.state)).toEqual([
      'paid',
      'overdue',
      'written off',
    ]);
    expect(pledgeAt(given, '2026-03-01').installments[1]?.state).toBe('due');
    expect(pledgeAt(given, '2026-02-10').installments.map((one) => one.state)).toEqual(['paid', 'to come', 'to come']);
  });

  it('counts a payment from its own day on, and knows what is next and overdue', () => {
    const given = three({ payments: [{ installmentId: 1, date: '2026-02-20', cents: 60_00 }] });
    expect(pledgeAt(given, '2026-02-19')).toMatchObject({ paid: 0, overdue: 100_00, balance: 300_00 });
    expect(pledgeAt(given, '2026-02-20')).toMatchObject({
      paid: 60_00,
      overdue: 40_00,
      balance: 240_00,
      next: { due: '2026-02-01', cents: 40_00 },
    });
  });

  it('has nothing next once all is settled', () => {
    const payments = [1, 2, 3].map((installmentId) => ({ installmentId, date: '2026-02-01', cents: 100_00 }));
    expect(pledgeAt(three({ payments }), '2026-02-01')).toMatchObject({ balance: 0, next: null, overdue: 0 });
  });
});

describe('allocate', () => {
  const open = [
    { id: 2, due: '2026-03-01', open: 50 },
    { id: 1, due: '2026-02-01', open: 30 },
    { id: 3, due: '2026-04-01', open: 20 },
  ];
  it.each<[string, number, number[], [number, number][], number]>([
    [
      'the oldest open first',
      40,
      [],
      [
        [1, 30],
        [2, 10],
      ],
      0,
    ],
    ['a part of one', 10, [], [[1, 10]], 0],
    [
      'all of them',
      100,
      [],
      [
        [1, 30],
        [2, 50],
        [3, 20],
      ],
      0,
    ],
    [
      'those chosen, in that order',
      60,
      [3, 2],
      [
        [3, 20],
        [2, 40],
      ],
      0,
    ],
    [
      'more than is open',
      130,
      [],
      [
        [1, 30],
        [2, 50],
        [3, 20],
      ],
      30,
    ],
    ['more than is open on the one chosen', 35, [3], [[3, 20]], 15],
    ['one that is not there', 10, [9], [], 10],
  ])('%s', (_name, amount, chosen, parts, over) =>
    expect(allocate(open, amount, chosen)).toEqual({
      parts: parts.map(([installmentId, part]) => ({ installmentId, cents: part })),
      over,
    }),
  );

  it('gives away exactly the sum, never more to one than is open on it', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(500), { maxLength: 12 }), fc.nat(4000), (amounts, sum) => {
        const rows = amounts.map((amount, id) => ({ id, due: addDays('2026-01-01', (id * 37) % 90), open: amount }));
        const { parts, over } = allocate(rows, sum);
        expect(parts.reduce((total, part) => total + part.cents, over)).toBe(sum);
        for (const part of parts)
          expect(part.cents).toBeLessThanOrEqual(rows.find((row) => row.id === part.installmentId)?.open ?? -1);
        if (over > 0)
          expect(parts.reduce((total, part) => total + part.cents, 0)).toBe(amounts.reduce((a, b) => a + b, 0));
      }),
    );
  });
});

describe('remaining', () => {
  it('keeps what was settled, drops what was not, and lays out the rest: the pledge stays the same', () => {
    fc.assert(
      fc.property(books, (given) => {
        const at = pledgeAt(given, '2099-01-01');
        const { keep, drop, rest } = remaining(at);
        const closed = at.installments.filter((one) => one.open === 0);
        const kept = keep.reduce((sum, one) => sum + one.cents, 0) + closed.reduce((sum, one) => sum + one.cents, 0);
        expect(kept + rest).toBe(at.pledged);
        expect(keep.length + drop.length + closed.length).toBe(at.installments.length);
      }),
    );
  });
});

describe('resized', () => {
  it('leaves what was settled, keeps the order, and comes to the new amount', () => {
    fc.assert(
      fc.property(books, fc.nat(2_000_000), (given, amount) => {
        const at = pledgeAt(given, '2099-01-01');
        const made = resized(at, amount, '2030-01-01');
        expect(made === null).toBe(amount < at.paid + at.writtenOff);
        if (made === null) return;
        const now = new Map(at.installments.map((one) => [one.id, one.cents]));
        for (const one of made.change) now.set(one.id, one.cents);
        for (const id of made.drop) now.delete(id);
        const sum = [...now.values(), ...made.add.map((one) => one.cents)].reduce((a, b) => a + b, 0);
        expect(sum).toBe(amount);
        for (const one of at.installments)
          expect(now.get(one.id) ?? 0).toBeGreaterThanOrEqual(one.paid + one.writtenOff);
        expect([...now.values()].every((cents) => cents > 0)).toBe(true);
      }),
    );
  });

  const standing = (paid: number) =>
    pledgeAt(
      {
        pledgedOn: '2026-01-01',
        installments: [
          { id: 1, due: '2026-02-01', cents: 50_00 },
          { id: 2, due: '2026-03-01', cents: 50_00 },
        ],
        payments: [{ installmentId: 1, date: '2026-02-01', cents: paid }],
        writeOffs: [],
      },
      '2026-06-01',
    );
  it('puts more onto the last open installment', () =>
    expect(resized(standing(50_00), 120_00, '2026-06-01')).toEqual({
      ...{ change: [{ id: 2, cents: 70_00 }], drop: [], add: [] },
    }));
  it('takes less off the last, down to what was paid', () =>
    expect(resized(standing(20_00), 30_00, '2026-06-01')).toEqual({
      ...{ change: [{ id: 1, cents: 30_00 }], drop: [2], add: [] },
    }));
  it('makes one more installment where nothing is open', () => {
    const done = pledgeAt(
      { ...{ pledgedOn: '2026-01-01', payments: [], writeOffs: [] }, installments: [] },
      '2026-06-01',
    );
    expect(resized(done, 5_00, '2026-06-01')?.add).toEqual([{ due: '2026-06-01', cents: 5_00 }]);
  });
});

it('is numbered for people', () => expect(pledgeNumber(312)).toBe('P-312'));
