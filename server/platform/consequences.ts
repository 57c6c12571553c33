import type { Clock } from './clock.ts';
import { keepTouches, subjectsOf } from './guards.ts';
import type { About, Look } from './guards.ts';
import type { Transaction } from './transaction.ts';

/**
 * What follows of itself from rows that a change set wrote, an undo too: rows that are worked out from them. It is
 * written in the same change set, after its rows and before the guards, while no other can commit.
 */
export interface Consequence {
  /** What follows, as a sentence without a full stop; no two have the same. */
  follows: string;
  /** The rows that it follows from. */
  from: readonly About[];
  write(tx: Transaction, subjects: readonly number[], touched: Look['touched'], clock: Clock): Promise<void>;
}

const consequences = new Map<string, Consequence>();

/** States what follows from a change set. */
export function consequence(stated: Consequence): void {
  consequences.set(stated.follows, stated);
  for (const { table } of stated.from) keepTouches(table.name);
}

/** Writes all that follows from what a change set wrote. */
export async function writeConsequences(tx: Transaction, clock: Clock): Promise<void> {
  for (const stated of consequences.values()) {
    const subjects = [...subjectsOf(stated.from, tx.written)].sort((a, b) => a - b);
    if (subjects.length > 0) await stated.write(tx, subjects, tx.wrote(), clock);
  }
}
