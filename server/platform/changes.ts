import { createHash } from 'node:crypto';
import type { DataSource } from 'typeorm';
import { invert } from '@tallystick/core/changes';
import type { Row, RowChange } from '@tallystick/core/changes';
import { codeOf, gaveWay, notFound, Problem } from './problem.ts';
import { aLittle, MOST_ATTEMPTS, one, sqlOn, sqlWithin } from './db.ts';
import type { Sql } from './db.ts';
import { instant } from './clock.ts';
import type { Clock } from './clock.ts';
import { writeConsequences } from './consequences.ts';
import { holdGuards } from './guards.ts';
import './history-erased.ts';
import { Transaction } from './transaction.ts';
import { takeBack } from './undo.ts';
import type { TakenBack } from './undo.ts';
import type { Role } from '@tallystick/contract/endpoint';
import type { Actor } from './actor.ts';
import { has, LEAST_TO_UNDO, mayTouch } from './rights.ts';
import type { AnyTable } from './tables.ts';

export type { Actor } from './actor.ts';

/** The kinds of change sets. An area adds its own to this interface where it declares them. */
export interface ChangeKinds {
  edit: true;
  /** One thing done to many. */
  bulk: true;
  undo: true;
  load: true;
}
export type ChangeKind = keyof ChangeKinds;

const finalKinds = new Map<string, string>();

/** Says of a kind of change set that changing rows back would not take it back, with the reason that a person is told. */
export function isFinal(kind: ChangeKind, because: string): void {
  finalKinds.set(kind, because);
}
isFinal('load', 'it loaded whole data');

/** Looks over what is to be written to take a change set back, where rows are elsewhere by now than it left them. */
type BeforeUndo = (tx: Transaction, inverse: readonly RowChange[]) => Promise<readonly RowChange[]>;
const beforeUndoOf = new Map<string, BeforeUndo>();
export function beforeUndo(kind: ChangeKind, look: BeforeUndo): void {
  beforeUndoOf.set(kind, look);
}

export interface Reason {
  kind: ChangeKind;
  /** What history shows, as a sentence without a full stop. A function sees what was written. */
  summary: string | (() => string);
  /** A repeated request with the same key is answered with the first one's result and writes nothing. */
  key?: { key: string; body: unknown } | null;
  undoes?: number;
  /** Writes the change set though no row changed, for what is not kept as rows (users, a load). */
  evenWithoutRows?: boolean;
}

export interface Committed<T> {
  /** Null when nothing differed, so that nothing was written. */
  revision: number | null;
  result: T;
}

interface StoredSet {
  revision: number;
  at: string;
  user_id: number | null;
  actor: string;
  kind: ChangeKind;
  summary: string;
  row_count: number;
  undoes: number | null;
  undone_by: number | null;
  least: Role;
}

/** Writes change sets: one transaction each, with the state of every row touched before and after. */
export class Changes {
  private readonly listeners = new Set<(revision: number) => void>();

  constructor(
    private readonly source: DataSource,
    private readonly clock: Clock,
  ) {}

  /** Calls back after each change set that this process commits. */
  onCommit(listener: (revision: number) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /**
   * Runs `work` in one transaction and records what it wrote as one change set. Deadlocks are tried again, up to
   * eight times, so `work` has no effects outside the transaction. The revision is taken last, under a lock held
   * to commit: revision order is commit order.
   */
  async write<T>(actor: Actor, reason: Reason, work: (tx: Transaction) => Promise<T>): Promise<Committed<T>> {
    for (let attempt = 1; ; attempt++) {
      try {
        const committed = (await this.answered<T>(actor, reason)) ?? (await this.attempt(actor, reason, work));
        if (committed.revision !== null) for (const listener of this.listeners) listener(committed.revision);
        return committed;
      } catch (error) {
        // The same request may have been through meanwhile, and be what this one failed on.
        const answered = await this.answered<T>(actor, reason).catch(() => null);
        if (answered) return answered;
        const taken = codeOf(error) === 'ER_DUP_ENTRY';
        // Whoever was first with the same name may be joined, once their change set is seen.
        const waited = codeOf(error) === 'ER_LOCK_WAIT_TIMEOUT';
        const again = gaveWay(error) || waited || (taken && (attempt === 1 || /idem_key/.test(String(error))));
        if (codeOf(error) === 'ER_NO_REFERENCED_ROW_2') throw namesNothing(error);
        if (!again || attempt === MOST_ATTEMPTS) throw taken ? rowTaken(error) : error;
        await aLittle(attempt);
      }
    }
  }

  /** Does all that `write` does, guards and all, and takes it back: nothing of it is kept. */
  async rehearse<T>(actor: Actor, reason: Reason, work: (tx: Transaction) => Promise<T>): Promise<T> {
    return (await this.attempt(actor, reason, work, false)).result;
  }

  private async attempt<T>(
    actor: Actor,
    reason: Reason,
    work: (tx: Transaction) => Promise<T>,
    keep = true,
  ): Promise<Committed<T>> {
    const runner = this.source.createQueryRunner();
    try {
      await runner.startTransaction('READ COMMITTED');
      const tx = new Transaction(sqlWithin(runner), this.clock.stamp(), actor);
      const result = await work(tx);
      let revision: number | null = null;
      if (tx.changes.length > 0 || reason.evenWithoutRows || reason.key)
        revision = await this.record(tx, actor, reason, result);
      await (keep ? runner.commitTransaction() : runner.rollbackTransaction());
      return { revision: keep ? revision : null, result };
    } catch (error) {
      await runner.rollbackTransaction().catch(() => undefined);
      throw error;
    } finally {
      await runner.release();
    }
  }

  private async record(tx: Transaction, actor: Actor, reason: Reason, result: unknown): Promise<number> {
    await tx.bumpRecords();
    await tx.sql.run(`UPDATE counter SET value = value + 1 WHERE name = 'revision'`);
    // No other can commit from here on: what follows is worked out from what holds, and what the guards read will hold.
    await writeConsequences(tx, this.clock);
    await tx.refuseLedAway();
    await holdGuards(tx.sql, tx.written);
    const revision = await lastRevision(tx.sql);
    const summary = typeof reason.summary === 'string' ? reason.summary : reason.summary();
    await tx.sql.run(
      `INSERT INTO change_set (revision, at, user_id, actor, least, kind, summary, row_count, undoes, idem_key, idem_hash, result)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [
        revision,
        tx.at,
        actor.userId,
        actor.name,
        actor.least ?? LEAST_TO_UNDO,
        reason.kind,
        summary.slice(0, 300),
        tx.changes.length,
        reason.undoes ?? null,
        reason.key ? scoped(actor, reason.key.key) : null,
        reason.key ? hashOf(reason.key.body) : null,
        reason.key ? JSON.stringify(result ?? null) : null,
      ],
    );
    if (reason.undoes !== undefined)
      await tx.sql.run('UPDATE change_set SET undone_by = ? WHERE revision = ?', [revision, reason.undoes]);
    await tx.store(revision);
    return revision;
  }

  /** The answer to an earlier request with the same key, or null. Throws when that request was another one. */
  private async answered<T>(actor: Actor, reason: Reason): Promise<Committed<T> | null> {
    if (!reason.key) return null;
    const earlier = await one<{ revision: number; idem_hash: string; result: string }>(
      sqlOn(this.source),
      'SELECT revision, idem_hash, result FROM change_set WHERE idem_key = ?',
      [scoped(actor, reason.key.key)],
    );
    if (!earlier) return null;
    if (earlier.idem_hash !== hashOf(reason.key.body))
      throw new Problem(422, 'key-reused', 'This Idempotency-Key was used for another request; nothing was written.');
    const result: T = JSON.parse(earlier.result);
    return { revision: earlier.revision, result };
  }

  /**
   * Takes a change set back by writing the inverse of each row's change, last first. Throws a 409 that names the
   * later change sets in the way; then nothing is written. Undoing an undo does the first change again. It asks for the
   * right that the act itself asked for, and for whoever did it or an officer. With `keepLater` what was changed since
   * stays as it is, and the answer says what that is.
   */
  async undo(actor: Actor, revision: number, keepLater = false): Promise<{ revision: number } & TakenBack> {
    const set = await this.find(revision);
    if (!mayUndo(actor, set))
      throw new Problem(
        403,
        'not-allowed',
        `“${set.summary}” is not yours to undo. Ask ${set.actor}, or somebody who may do it themselves.`,
      );
    if (set.undone_by !== null)
      throw new Problem(409, 'already-undone', `“${set.summary}” was already undone, by change ${set.undone_by}.`);
    const final = finalKinds.get(set.kind);
    if (final !== undefined) throw new Problem(409, 'not-undoable', `“${set.summary}” cannot be undone: ${final}.`);
    const verb = set.undoes === null ? 'Undid' : 'Did again';
    const original = set.undoes === null ? set.summary : set.summary.replace(/^Undid: /, '');
    const { revision: made, result } = await this.write(
      { ...actor, least: set.least },
      { kind: 'undo', summary: `${verb}: ${original}`, undoes: revision, evenWithoutRows: true },
      async (tx) => {
        const open = await one(
          tx.sql,
          'SELECT revision FROM change_set WHERE revision = ? AND undone_by IS NULL FOR UPDATE',
          [revision],
        );
        if (!open) throw new Problem(409, 'already-undone', `“${set.summary}” was already undone.`);
        // Whoever it touched was not touched after all, also where no row of theirs is taken back.
        const touched = await tx.sql.rows<{ id: number }>(
          'SELECT supporter_id AS id FROM change_touch WHERE revision = ?',
          [revision],
        );
        tx.touch(touched.map(({ id }) => id));
        const turned = invert(await rowsOf(tx.sql, revision));
        const inverse = (await beforeUndoOf.get(set.kind)?.(tx, turned)) ?? turned;
        const { rows, left } = await takeBack(tx, inverse, revision, keepLater);
        if (rows === 0 && left.length > 0)
          throw new Problem(409, 'undo-blocked', `All of it was changed since, and stays: ${left.join(' ')}`);
        if (set.undoes !== null) {
          await tx.sql.run('UPDATE change_set SET undone_by = NULL WHERE revision = ?', [set.undoes]);
          // What was done again is undone again: what it was done again from is undone as before.
          await tx.sql.run(
            'UPDATE change_set s JOIN change_set u ON u.undoes = s.revision SET s.undone_by = u.revision WHERE u.revision = ?',
            [set.undoes],
          );
        }
        return { rows, left };
      },
    );
    return { revision: made ?? 0, ...result };
  }

  /** The change sets that somebody wrote by keys that begin so and that were not undone, newest first. */
  async standingByKey(actor: Actor, beginning: string): Promise<number[]> {
    const rows = await sqlOn(this.source).rows<{ revision: number }>(
      // idem_key (idem_key)
      `SELECT revision FROM change_set WHERE idem_key LIKE ? AND undone_by IS NULL ORDER BY revision DESC`,
      [`${scoped(actor, beginning).replace(/[%_\\]/g, '\\$&')}%`],
    );
    return rows.map(({ revision }) => revision);
  }

  async find(revision: number): Promise<StoredSet> {
    const set = await one<StoredSet>(sqlOn(this.source), `SELECT ${SET_COLUMNS} FROM change_set WHERE revision = ?`, [
      revision,
    ]);
    if (!set) throw notFound(`Change ${revision}`);
    return set;
  }

  /** Change sets before a revision, newest first; of one user where `userId` is given. */
  async list(before: number | null, limit: number, userId: number | null, actor: Actor) {
    const sets = await sqlOn(this.source).rows<StoredSet>(
      // change_set_user (user_id, revision), or the primary key
      `SELECT ${SET_COLUMNS} FROM change_set WHERE revision < ? ${userId === null ? '' : 'AND user_id = ?'} ORDER BY revision DESC LIMIT ?`,
      [before ?? Number.MAX_SAFE_INTEGER, ...(userId === null ? [] : [userId]), limit],
    );
    return sets.map((set) => ({ ...changeSetView(set), undoable: isUndoable(set) && mayUndo(actor, set) }));
  }
}

/** The refusal of a row whose like there is already, by the database's own words for it. */
function rowTaken(error: unknown): Problem {
  const [, entry = ''] = /Duplicate entry '(.*)' for key/.exec(String(error)) ?? [];
  const { query = '' } = error as { query?: string };
  const [, name = 'row'] = /^\s*(?:INSERT INTO|UPDATE) (\w+)/.exec(query) ?? [];
  return new Problem(
    409,
    'name-taken',
    `There is a ${name.replace(/_/g, ' ')} “${entry}” already, which is in the way. Rename or remove that first. Nothing was saved.`,
    { details: { table: name, entry } },
  );
}

/** The refusal of a row that names another which is not there, or is not there any more. */
function namesNothing(error: unknown): Problem {
  const [, column = '', named = 'row'] = /FOREIGN KEY \(`(\w+)`\) REFERENCES `(\w+)`/.exec(String(error)) ?? [];
  const field = column.replace(/_(\w)/g, (_, letter: string) => letter.toUpperCase());
  const message = `There is no such ${named.replace(/_/g, ' ')}.`;
  return new Problem(400, 'invalid', `${message} Nothing was saved.`, { fields: { [field]: message } });
}

const SET_COLUMNS = 'revision, at, user_id, actor, kind, summary, row_count, undoes, undone_by, least';

export const isUndoable = (set: { kind: string; undone_by: number | null }): boolean =>
  set.undone_by === null && !finalKinds.has(set.kind);

/** Whether someone may undo a change set: who may do it themselves, and did, or may undo what others did. */
export const mayUndo = (actor: Actor, set: { user_id: number | null; least: Role }): boolean =>
  has(actor, set.least) && mayTouch(actor, 'changes.change', set.user_id);

function changeSetView(set: StoredSet) {
  return {
    revision: set.revision,
    at: instant(set.at),
    by: set.actor,
    kind: set.kind,
    summary: set.summary,
    rows: set.row_count,
    undoes: set.undoes,
    undoneBy: set.undone_by,
  };
}

/** The changes of a change set in the order they were made. */
export async function rowsOf(sql: Sql, revision: number): Promise<RowChange[]> {
  const rows = await sql.rows<{
    table_name: string;
    row_id: number;
    before_json: string | null;
    after_json: string | null;
  }>('SELECT table_name, row_id, before_json, after_json FROM change_row WHERE revision = ? ORDER BY seq', [revision]);
  return rows.map((row) => ({
    table: row.table_name,
    id: row.row_id,
    before: parsed(row.before_json),
    after: parsed(row.after_json),
  }));
}

export function parsed(json: string | null): Row | null {
  if (json === null) return null;
  const row: Row = JSON.parse(json);
  return row;
}

const scoped = (actor: Actor, key: string): string => `${actor.userId ?? actor.name}:${key}`.slice(0, 190);
const hashOf = (body: unknown): string => createHash('sha256').update(JSON.stringify(body)).digest('hex');

/** The revision that was committed last. */
export async function lastRevision(sql: Sql): Promise<number> {
  const row = await one<{ value: number }>(sql, `SELECT value FROM counter WHERE name = 'revision'`);
  return Number(row?.value ?? 0);
}

/** Holds up whoever else is about to commit, for what two must not begin at once. */
export const lockRevision = (sql: Sql): Promise<unknown> =>
  sql.rows(`SELECT value FROM counter WHERE name = 'revision' FOR UPDATE`);

/** The last 50 change sets that touched a row, newest first. */
export const changesOf = (sql: Sql, { name }: AnyTable, id: number) =>
  sql.rows<{ revision: number; at: string; by: string; summary: string }>(
    `SELECT DISTINCT s.revision, s.at, s.actor AS \`by\`, s.summary FROM change_row r JOIN change_set s USING (revision)
     WHERE r.table_name = ? AND r.row_id = ? ORDER BY s.revision DESC`, // change_row_row (table_name, row_id, revision)
    [name, id],
  );

/** The revision of the last change set of a kind that touched a row and was not undone; null without one. */
export async function standingRevision(sql: Sql, kind: ChangeKind, { name }: AnyTable, id: number) {
  const found = await one<{ revision: number }>(
    sql, // change_row_row (table_name, row_id, revision)
    `SELECT s.revision FROM change_row r JOIN change_set s USING (revision)
     WHERE r.table_name = ? AND r.row_id = ? AND s.kind = ? AND s.undone_by IS NULL ORDER BY s.revision DESC LIMIT 1`,
    [name, id, kind],
  );
  return found?.revision ?? null;
}
