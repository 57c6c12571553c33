import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RowDataPacket } from 'mysql2/promise';
import type { Calendar } from '@tallystick/core/dates';
import { countParts, evaluate, Masks } from '@tallystick/core/segments';
import { askedOn, settingOf } from './asked.ts';
import { report, reportFaster, reportUnder, timed } from './figures.ts';
import { madeFacts } from './made-facts.ts';
import { writeMadeTables } from './made-tables.ts';
import { startMariaDb } from './mariadb.ts';

/**
 * What officers ask, of facts made straight in memory: as fast as one types, against the same by hand, and against the
 * same by SQL of the same rows as tables. Throws where two of the three answers differ.
 */
export async function benchQuestions(supporters: number, gifts: number, calendar: Calendar): Promise<void> {
  const facts = madeFacts(supporters, gifts, calendar);
  const setting = settingOf(facts, calendar);
  const questions = askedOn(calendar);
  const [found, taken] = [new Map<string, number>(), new Map<string, number>()];
  for (const { name, group, loop } of questions) {
    const ours = (): number => evaluate(group, facts, setting).count();
    const counts = [ours(), loop(facts)];
    agree(name, counts);
    found.set(name, counts[0] ?? 0);
    for (let warm = 0; warm < 5; warm++) {
      ours();
      loop(facts);
    }
    taken.set(name, await timed(15, ours));
    const byHand = await timed(15, () => loop(facts));
    report(`question ${name} (${counts[0]}), against a loop`, taken.get(name) ?? 0, byHand, 3);
    // A line is written while the others stand: the slowest of the lines, never asked before.
    const masks = new Masks(100);
    countParts(group, facts, setting, masks);
    let written = 0;
    let slowest = 0;
    for (const at of group.parts.keys())
      slowest = Math.max(
        slowest,
        await timed(5, () => {
          const parts = group.parts.map((part, place) => (place === at ? { ...part, written: ++written } : part));
          return countParts({ ...group, parts }, facts, setting, masks);
        }),
      );
    reportUnder(`question ${name}, after a keystroke`, slowest, 100);
  }
  // A database beside it would take from what was timed so far.
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-questions-'));
  const database = await startMariaDb(folder, { fast: true, bufferPool: '3G' });
  try {
    const connection = await writeMadeTables(database.url, facts);
    for (const { name, sql } of questions) {
      const ask = async (): Promise<number> => {
        const [rows] = await connection.query<RowDataPacket[]>(sql);
        return Number(rows[0]?.['many']);
      };
      agree(name, [found.get(name) ?? 0, await ask()]);
      reportFaster(`question ${name}, against SQL`, taken.get(name) ?? 0, await timed(3, ask), 10);
    }
    await connection.end();
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

function agree(name: string, counts: readonly number[]): void {
  if (new Set(counts).size > 1) throw new Error(`The answers for “${name}” differ: ${counts.join(', ')}.`);
}
