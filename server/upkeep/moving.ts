import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted, inAList } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import { lockSupporter, moveTo } from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';
import { lookAt } from './homes.ts';
import type { Doing } from './planned.ts';
import type { Telling } from './telling.ts';

type Asked = z.output<typeof contract.noteMove.body>;

/** Somebody moved: a new address from a day on, for whom of the home it is. */
export async function move(telling: Telling, asked: Asked): Promise<Doing> {
  const { tx, says, doubts, today, home } = telling;
  const ids = [...new Set(asked.ids)].sort((a, b) => a - b);
  const rows: SupporterRecord[] = [];
  for (const id of ids) rows.push(await lockSupporter(tx, id, supporterNumber(id)));
  const before = await lookAt(tx.sql, asked.id, telling);
  const there: string[] = [];
  const ends = new Map<string, string[]>();
  for (const row of rows) {
    const { ended, next, same } = await moveTo(tx, row.id, asked.place, {
      from: asked.from,
      today,
      home,
      label: asked.label,
    });
    if (same) there.push(displayName(row));
    if (next)
      doubts.push(
        `From ${telling.day(next.on)} on ${telling.place(next)} is used for ${displayName(row)}, as was noted before.`,
      );
    const key = ended ? telling.place(ended) : '';
    if (!same) ends.set(key, [...(ends.get(key) ?? []), displayName(row)]);
  }
  for (const [old, names] of ends)
    says.push(
      old === ''
        ? `${inAList(names)} had no address until now.`
        : `${old} is used for ${inAList(names)} until the day before, and kept as former.`,
    );
  if (ends.size > 0) says.push(`${telling.place(asked.place)} is used from ${telling.day(asked.from)}.`);
  if (there.length > 0) says.push(`${inAList(there)} ${there.length > 1 ? 'live' : 'lives'} there already.`);
  const staying = before.people.filter(({ id, same, deceased }) => same && !deceased && !ids.includes(id));
  if (staying.length > 0)
    doubts.push(
      `${inAList(staying.map(({ name }) => name))} ${staying.length > 1 ? 'have' : 'has'} the same address, and ${staying.length > 1 ? 'stay' : 'stays'} there.`,
    );
  const first = rows.find(({ id }) => id === asked.id) ?? rows[0];
  const others = rows.length - 1;
  const did = `${first ? displayName(first) : 'Somebody'}${others > 0 ? ` and ${counted(others, 'other')}` : ''} moved`;
  return { says, doubts, letters: [], did };
}
