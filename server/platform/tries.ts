import type { Clock } from './clock.ts';
import type { Sql } from './db.ts';
import { Problem } from './problem.ts';

/** Tries are counted over so many minutes from the first. */
export const TRIES_MINUTES = 15;

/** Whose tries are counted, and how many there may be before nothing more is looked at. */
export interface Counted {
  subject: string;
  most: number;
}

/**
 * Counts tries, and refuses beyond a number: each try is counted in the step that tells how many there were, so that
 * any number of them at once is no way round it.
 */
export class Tries {
  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
  ) {}

  /** Counts one try of each; throws a 429 where that is more than there may be. */
  async count(counted: readonly Counted[]): Promise<void> {
    for (const { subject, most } of counted) if ((await this.add(subject)) > most) throw tooMany();
  }

  private async add(subject: string): Promise<number> {
    const now = this.clock.stamp();
    const begun = this.clock.stamp(-TRIES_MINUTES * 60);
    const added = await this.sql.run(
      `INSERT INTO sign_in_try (subject, since, many) VALUES (?, ?, LAST_INSERT_ID(1))
       ON DUPLICATE KEY UPDATE many = LAST_INSERT_ID(IF(since < ?, 1, many + 1)), since = IF(since < ?, ?, since)`,
      [subject.slice(0, 200), now, begun, begun, now],
    );
    return added.insertId;
  }

  /** What was tried was right: its tries are forgotten. */
  async forget(subject: string): Promise<void> {
    await this.sql.run('DELETE FROM sign_in_try WHERE subject = ?', [subject.slice(0, 200)]);
  }

  /** Forgets whoever has not tried for so long that it does not count. */
  async forgetOld(): Promise<void> {
    await this.sql.run('DELETE FROM sign_in_try WHERE since < ?', [this.clock.stamp(-TRIES_MINUTES * 60)]);
  }

  /** Takes one try back, of what many share. */
  async takeBack(subject: string): Promise<void> {
    await this.sql.run('UPDATE sign_in_try SET many = many - 1 WHERE subject = ? AND many > 0', [
      subject.slice(0, 200),
    ]);
  }
}

const tooMany = (): Problem =>
  new Problem(
    429,
    'too-many-tries',
    `Too many tries. Wait ${TRIES_MINUTES} minutes, sign in from a browser that you used before, or have an administrator reset the password.`,
  );
