import { performance } from 'node:perf_hooks';
import type { SheetColumn, SheetField } from '@tallystick/core/sheets';
import type { Services } from '@tallystick/server/app';
import { postSheet } from '@tallystick/server/sheets/index';
import type { Sql } from '@tallystick/server/platform/db';

const ACTOR = { userId: null, name: 'bench' };
const FIELDS: readonly SheetField[] = [
  ...([
    'wholeName',
    'amount',
    'method',
    'cheque',
    'fund',
    'date',
    'email',
    'street',
    'city',
    'region',
    'postal',
  ] as const),
  'note',
];
const COLUMNS: SheetColumn[] = FIELDS.map((field) => ({
  ...{ field, width: 120, byDefault: '', hidden: false, required: field === 'amount' },
}));

/** How long a sheet of so many rows, half of them known supporters, takes to be checked, to be posted and to be undone. */
export async function sheetFigures(
  services: Services,
  sql: Sql,
  many: number,
): Promise<{ check: number; post: () => Promise<number>; undo: () => Promise<number> }> {
  const known = await sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE state = 'active' ORDER BY id LIMIT ?`, [
    many,
  ]);
  const [fund] = await sql.rows<{ name: string }>('SELECT name FROM fund LIMIT 1');
  const { result } = await services.sheets.open(ACTOR, {
    ...{ name: `Bench ${many}`, columns: COLUMNS, expectedCount: null, expectedCents: null },
  });
  const rows = Array.from({ length: many }, (_, place) => {
    const who = place % 2 === 0 ? (known[place]?.id ?? null) : null;
    const gift = {
      amount: `$${5 + (place % 90)}.50`,
      method: 'Check',
      cheque: String(9_000 + place),
      fund: fund?.name ?? '',
    };
    const someone = {
      wholeName: `Bench Guest${many} ${place.toString(36)}`,
      email: `bench${many}.${place}@example.org`,
      street: `${place} Lyra St`,
      ...{ city: 'Tansy Creek', region: 'NV', postal: '89001', note: 'From the sheet' },
    };
    const cells: Record<string, string> = who === null ? { ...someone, ...gift } : gift;
    return { key: `row-${place}`, place, supporterId: who, cells, change: [] };
  });
  await services.sheets.type(ACTOR, result.id, rows, []);
  const taken: number[] = [];
  for (let run = 0; run < 3; run++) {
    const begun = performance.now();
    await services.sheets.check(result.id);
    taken.push(performance.now() - begun);
  }
  let posted = 0;
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const begun = performance.now();
    await work();
    return performance.now() - begun;
  };
  return {
    check: taken.toSorted((a, b) => a - b)[1] ?? 0,
    post: () =>
      timed(async () => {
        posted = (await postSheet(services.sheets, ACTOR, result.id, '', null)).revision ?? 0;
      }),
    undo: () => timed(() => services.changes.undo(ACTOR, posted)),
  };
}
