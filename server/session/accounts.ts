import { randomBytes } from 'node:crypto';
import { dictionary } from '@zxcvbn-ts/language-common';
import type { Request } from 'express';
import type { DataSource } from 'typeorm';
import { verify } from '@node-rs/argon2';
import type * as contract from '@tallystick/contract/session';
import type { Role } from '@tallystick/contract/endpoint';
import { hashPassword, sha256 } from '../platform/auth.ts';
import type { Auth, UserRow } from '../platform/auth.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { isFinal, lockRevision } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import type { Clock } from '../platform/clock.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import { codeOf, notFound, Problem } from '../platform/problem.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    account: true;
  }
}
isFinal('account', 'it is about users and tokens; change those in the settings');

/** Passwords that are tried first by whoever guesses. */
const COMMON = new Set((dictionary['passwords-common'] ?? []).map((word) => String(word)));
const FEWEST_SIGNS = 5;

/** Refuses (400) a password that is guessed at once: a common one, one of few signs, or one's own address. */
export function refuseWeak(password: string, email: string): void {
  const plain = password.toLowerCase();
  const bare = plain.replace(/[^a-z]+$/, '');
  const weak =
    COMMON.has(plain) ||
    COMMON.has(bare) ||
    new Set(plain).size < FEWEST_SIGNS ||
    plain === email ||
    email.split('@')[0] === bare;
  if (!weak) return;
  const message =
    'This password is among the first that are guessed. Three or four words that do not belong together are a good one.';
  throw new Problem(400, 'weak-password', message, { fields: { password: message, fresh: message } });
}

export const userView = (row: UserRow): contract.User => ({
  id: row.id,
  email: row.email,
  name: row.name,
  role: row.role,
  active: row.active === 1,
});

/** Users and API tokens. Their rows hold secrets, so change sets note that they changed and not what they hold. */
export class Accounts {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly clock: Clock,
    private readonly auth: Auth,
  ) {
    this.sql = sqlOn(source);
  }

  /** Whom something may be given to do. */
  colleagues() {
    return this.sql.rows<{ id: number; name: string }>(
      `SELECT id, name FROM user WHERE active = 1 AND kind = 'person' ORDER BY name`,
    );
  }

  users(): Promise<UserRow[]> {
    return this.sql.rows<UserRow>(`SELECT * FROM user WHERE kind = 'person' ORDER BY name`);
  }

  async addUser(actor: Actor, user: { email: string; name: string; role: Role; password: string }): Promise<UserRow> {
    refuseWeak(user.password, user.email);
    const password = await hashPassword(user.password);
    try {
      await this.changes.write(
        actor,
        { kind: 'account', summary: `Made the user ${user.name}`, evenWithoutRows: true },
        (tx) =>
          tx.sql.run('INSERT INTO user (email, name, role, password_hash) VALUES (?, ?, ?, ?)', [
            user.email,
            user.name,
            user.role,
            password,
          ]),
      );
    } catch (error) {
      if (codeOf(error) !== 'ER_DUP_ENTRY') throw error;
      throw new Problem(409, 'user-exists', 'There is already a user with this e-mail address.', {
        fields: { email: 'Already in use.' },
      });
    }
    const row = await one<UserRow>(this.sql, 'SELECT * FROM user WHERE email = ?', [user.email]);
    if (!row) throw notFound('The user');
    return row;
  }

  /** Makes the first administrator; of two requests at once one is refused. */
  /** Makes the first administrator; `also` belongs to the same change. */
  async addFirst(
    user: { email: string; name: string; password: string },
    also: (tx: Transaction) => Promise<void> = () => Promise.resolve(),
  ): Promise<UserRow> {
    refuseWeak(user.password, user.email);
    const password = await hashPassword(user.password);
    await this.changes.write(
      { userId: null, name: user.name },
      { kind: 'account', summary: `Made the first administrator, ${user.name}`, evenWithoutRows: true },
      async (tx) => {
        await lockRevision(tx.sql);
        if (await one(tx.sql, `SELECT id FROM user WHERE kind = 'person' LIMIT 1`))
          throw new Problem(409, 'not-first', 'There is already a user; sign in.');
        await tx.sql.run(`INSERT INTO user (email, name, role, password_hash) VALUES (?, ?, 'admin', ?)`, [
          user.email,
          user.name,
          password,
        ]);
        await also(tx);
      },
    );
    const row = await one<UserRow>(this.sql, 'SELECT * FROM user WHERE email = ?', [user.email]);
    if (!row) throw notFound('The user');
    return row;
  }

  private async byEmail(email: string): Promise<UserRow> {
    const user = await one<UserRow>(this.sql, `SELECT * FROM user WHERE email = ? AND kind = 'person'`, [email]);
    if (!user) throw notFound(`The user ${email}`);
    return user;
  }

  /** Gives a user another password, as the command line may; whoever is in with the old one is out. */
  async resetPassword(email: string, password: string): Promise<void> {
    refuseWeak(password, email);
    const user = await this.byEmail(email);
    await this.sql.run('UPDATE user SET password_hash = ? WHERE id = ?', [await hashPassword(password), user.id]);
    await this.auth.forgetAll(user.id, email, null);
  }

  /** Changes one's own password, which asks for the old one; all other sessions end. */
  async changePassword(actor: Actor, old: string, fresh: string, request: Request): Promise<void> {
    const user = await one<UserRow>(this.sql, `SELECT * FROM user WHERE id = ? AND kind = 'person'`, [actor.userId]);
    if (!user) throw new Problem(403, 'not-allowed', 'A program has no password.');
    await this.auth.countTry(`change:${user.id}`);
    if (!(await verify(user.password_hash, old).catch(() => false)))
      throw new Problem(400, 'wrong-password', 'This is not the password that you have now.', {
        fields: { old: 'This is not the password that you have now.' },
      });
    refuseWeak(fresh, user.email);
    await this.sql.run('UPDATE user SET password_hash = ? WHERE id = ?', [await hashPassword(fresh), user.id]);
    await this.auth.forgetAll(user.id, user.email, request);
  }

  /** Changes what a user may do, or whether they may sign in at all; the last administrator stays one. */
  async changeUser(actor: Actor, id: number, to: { role: Role; active: boolean }): Promise<UserRow> {
    let summary = '';
    await this.changes.write(actor, { kind: 'account', summary: () => summary, evenWithoutRows: true }, async (tx) => {
      await lockRevision(tx.sql);
      const user = await one<UserRow>(tx.sql, `SELECT * FROM user WHERE id = ? AND kind = 'person' FOR UPDATE`, [id]);
      if (!user) throw notFound('This user');
      summary = `${user.name} ${to.active ? `is ${to.role}` : 'may not sign in any more'}`;
      const others = await one(
        tx.sql,
        `SELECT 1 FROM user WHERE role = 'admin' AND active = 1 AND kind = 'person' AND id <> ?`,
        [id],
      );
      if (!others && (to.role !== 'admin' || !to.active))
        throw new Problem(409, 'last-admin', `${user.name} is the last administrator; make another one first.`);
      await tx.sql.run('UPDATE user SET role = ?, active = ? WHERE id = ?', [to.role, to.active ? 1 : 0, id]);
    });
    if (!to.active) await this.auth.endSessions(id, null, null);
    const row = await one<UserRow>(this.sql, 'SELECT * FROM user WHERE id = ?', [id]);
    if (!row) throw notFound('This user');
    return row;
  }

  /** As `changeUser`, for the command line, which names people by their address. */
  async changeUserOf(actor: Actor, email: string, to: { role?: Role; active?: boolean }): Promise<UserRow> {
    const user = await this.byEmail(email);
    return this.changeUser(actor, user.id, { role: to.role ?? user.role, active: to.active ?? user.active === 1 });
  }

  /** Makes a token; the secret is answered once and only its hash kept. */
  async addToken(actor: Actor, name: string, role: Role): Promise<{ id: number; secret: string }> {
    const secret = `tally_${randomBytes(24).toString('base64url')}`;
    const { result } = await this.changes.write(
      actor,
      { kind: 'account', summary: `Made the API token ${name}`, evenWithoutRows: true },
      async (tx) => {
        // A program is a user of its own, who never signs in: what it does is its own, in history and everywhere.
        const program = await one<{ id: number }>(
          tx.sql,
          `INSERT INTO user (email, name, role, password_hash, kind) VALUES (?, ?, ?, '', 'program') RETURNING id`,
          [`token:${randomBytes(8).toString('hex')}`, name, role],
        );
        return one<{ id: number }>(
          tx.sql,
          'INSERT INTO api_token (name, role, token_hash, created_at, user_id) VALUES (?, ?, ?, ?, ?) RETURNING id',
          [name, role, sha256(secret), this.clock.stamp(), program?.id ?? null],
        );
      },
    );
    return { id: result?.id ?? 0, secret };
  }

  async tokens() {
    const rows = await this.sql.rows<{
      id: number;
      name: string;
      role: Role;
      created_at: string;
      last_used_at: string | null;
      revoked: number;
    }>('SELECT id, name, role, created_at, last_used_at, revoked FROM api_token ORDER BY id DESC');
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      role: row.role,
      createdAt: instant(row.created_at),
      lastUsedAt: row.last_used_at === null ? null : instant(row.last_used_at),
      revoked: row.revoked === 1,
    }));
  }

  async revoke(actor: Actor, id: number): Promise<void> {
    await this.changes.write(
      actor,
      { kind: 'account', summary: `Revoked API token ${id}`, evenWithoutRows: true },
      (tx) =>
        tx.sql.run(
          'UPDATE api_token t LEFT JOIN user u ON u.id = t.user_id SET t.revoked = 1, u.active = 0 WHERE t.id = ?',
          [id],
        ),
    );
  }
}
