import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Request } from 'express';
import { parseCookie as parse } from 'cookie';
import type { Role } from '@tallystick/contract/endpoint';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import type { Clock } from './clock.ts';
import { Problem } from './problem.ts';
import { Tries } from './tries.ts';

export const COOKIE = 'tallystick_session';
/** By which a browser is known again that someone signed in from before. */
export const BROWSER_COOKIE = 'tallystick_browser';
export const SESSION_DAYS = 14;
export const BROWSER_DAYS = 180;
/** A session in which nothing was asked for so long is over. */
export const IDLE_HOURS = 12;
/** Tries for an account, from a browser that is not known; from one that is; and from one network address, which many share. */
const MOST_TRIES = { account: 10, browser: 10, address: 100 };

export interface UserRow {
  id: number;
  email: string;
  name: string;
  role: Role;
  password_hash: string;
  active: number;
}

/** Who makes a request. A program with a token is a user of its own. */
export interface Caller {
  userId: number;
  name: string;
  role: Role;
  /** A cookie rides along by itself, so what it allows needs the Origin check; a token does not. */
  by: 'cookie' | 'token';
}

export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');
/** OWASP's parameters for argon2id: 19 MiB, two passes. */
export const hashPassword = (password: string): Promise<string> =>
  hash(password, { memoryCost: 19_456, timeCost: 2, parallelism: 1 });
/** What a wrong address is checked against, so that it takes as long as a wrong password. */
let decoy: Promise<string> | null = null;

interface SessionRow {
  id: number;
  token_hash: string;
  created_at: string;
  seen_at: string;
  address: string;
  browser: string;
}

/** Where a request comes from, as sessions and the log of accesses show it. */
export interface From {
  address: string;
  browser: string;
}
export const fromOf = (request: Request): From => ({
  address: request.ip ?? '',
  browser: (request.headers['user-agent'] ?? '').slice(0, 200),
});

export class Auth {
  private readonly tries: Tries;

  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
  ) {
    this.tries = new Tries(sql, clock);
  }

  private stampIn(minutes: number): string {
    return this.clock.stamp(minutes * 60);
  }

  /**
   * Checks a password. Tries are counted before it is looked at, by account and by network address each for itself; a
   * browser that the account was signed in from before has a count of its own, so that nobody is shut out of it by
   * others' guesses.
   */
  async signIn(email: string, password: string, request: Request): Promise<UserRow> {
    const user = await one<UserRow>(this.sql, `SELECT * FROM user WHERE email = ? AND active = 1 AND kind = 'person'`, [
      email,
    ]);
    const browser = await this.knownBrowser(request, user);
    const [mine, shared] = [browser === null ? `user:${email}` : `browser:${browser}`, `from:${request.ip ?? ''}`];
    await this.tries.count(
      browser === null
        ? [
            { subject: mine, most: MOST_TRIES.account },
            { subject: shared, most: MOST_TRIES.address },
          ]
        : [{ subject: mine, most: MOST_TRIES.browser }],
    );
    const against = user?.password_hash ?? (await (decoy ??= hashPassword(randomBytes(12).toString('hex'))));
    const right = await verify(against, password).catch(() => false);
    if (!user || !right) throw new Problem(401, 'wrong-password', 'The e-mail address or the password is wrong.');
    await this.tries.forget(mine);
    if (browser === null) await this.tries.takeBack(shared);
    return user;
  }

  /** The hash by which a browser is known that this user signed in from before; null for another. */
  private async knownBrowser(request: Request, user: UserRow | null): Promise<string | null> {
    const token = cookieOf(request, BROWSER_COOKIE);
    if (!token || !user) return null;
    const hash = sha256(token);
    const known = await one(this.sql, 'SELECT 1 FROM known_browser WHERE token_hash = ? AND user_id = ? AND at > ?', [
      ...[hash, user.id, this.stampIn(-BROWSER_DAYS * 1440)],
    ]);
    return known === null ? null : hash;
  }

  /** Begins a session in place of the one before; its token, and that of the browser, are in cookies only. */
  async begin(user: UserRow, request: Request): Promise<{ session: string; browser: string }> {
    await this.end(request);
    const [session, browser] = [randomBytes(32).toString('base64url'), randomBytes(32).toString('base64url')];
    const now = this.clock.stamp();
    const { address, browser: agent } = fromOf(request);
    await this.forgetOld();
    await this.sql.run('DELETE FROM session WHERE expires_at < ? OR seen_at < ?', [
      now,
      this.stampIn(-IDLE_HOURS * 60),
    ]);
    await this.sql.run(
      'INSERT INTO session (token_hash, user_id, created_at, expires_at, seen_at, address, browser) VALUES (?, ?, ?, ?, ?, ?, ?)',
      [sha256(session), user.id, now, this.stampIn(SESSION_DAYS * 1440), now, address, agent],
    );
    const before = cookieOf(request, BROWSER_COOKIE);
    if (before) await this.sql.run('DELETE FROM known_browser WHERE token_hash = ?', [sha256(before)]);
    await this.sql.run('INSERT INTO known_browser (token_hash, user_id, at) VALUES (?, ?, ?)', [
      ...[sha256(browser), user.id, now],
    ]);
    return { session, browser };
  }

  /** What is too old to count any more. */
  private async forgetOld(): Promise<void> {
    await this.tries.forgetOld();
    await this.sql.run('DELETE FROM known_browser WHERE at < ?', [this.stampIn(-BROWSER_DAYS * 1440)]);
  }

  async end(request: Request): Promise<void> {
    const token = cookieOf(request, COOKIE);
    if (token) await this.sql.run('DELETE FROM session WHERE token_hash = ?', [sha256(token)]);
  }

  /** The sessions of a user that are going on, the last used first; which of them asks is marked. */
  async sessions(userId: number, request: Request) {
    const own = sha256(cookieOf(request, COOKIE) ?? '');
    const rows = await this.sql.rows<SessionRow>(
      'SELECT * FROM session WHERE user_id = ? AND expires_at > ? AND seen_at > ? ORDER BY seen_at DESC',
      [userId, this.clock.stamp(), this.stampIn(-IDLE_HOURS * 60)],
    );
    return rows.map((row) => ({ ...row, current: row.token_hash === own }));
  }

  /** Ends one session of a user, or (null) all but the one that asks. */
  async endSessions(userId: number, id: number | null, request: Request | null): Promise<number> {
    const own = sha256((request && cookieOf(request, COOKIE)) ?? '');
    const ended = await this.sql.run(
      `DELETE FROM session WHERE user_id = ? AND ${id === null ? 'token_hash <> ?' : 'id = ?'}`,
      [userId, id ?? own],
    );
    return ended.affectedRows;
  }

  /** Counts a try of something that only the holder of an account may do. */
  countTry(subject: string): Promise<void> {
    return this.tries.count([{ subject, most: MOST_TRIES.account }]);
  }

  /** After another password nobody is in any more with the old one, and no browser is known. */
  async forgetAll(userId: number, email: string, request: Request | null): Promise<void> {
    await this.endSessions(userId, null, request);
    await this.sql.run('DELETE FROM known_browser WHERE user_id = ?', [userId]);
    await this.tries.forget(`user:${email}`);
  }

  /** Whether the session or token of a request still stands; looking is no use of it. */
  async stands(request: Request): Promise<boolean> {
    const bearer = bearerOf(request);
    if (bearer)
      return (
        (await one(this.sql, 'SELECT 1 FROM api_token WHERE token_hash = ? AND revoked = 0', [sha256(bearer)])) !== null
      );
    return (await this.inSession(request)) !== null;
  }

  private async inSession(request: Request): Promise<(UserRow & { seen_at: string; session: number }) | null> {
    const token = cookieOf(request, COOKIE);
    if (!token) return null;
    return one<UserRow & { seen_at: string; session: number }>(
      this.sql,
      `SELECT u.*, s.seen_at, s.id AS session FROM session s JOIN user u ON u.id = s.user_id
       WHERE s.token_hash = ? AND s.expires_at > ? AND s.seen_at > ? AND u.active = 1`,
      [sha256(token), this.clock.stamp(), this.stampIn(-IDLE_HOURS * 60)],
    );
  }

  /** Who makes this request, or null for someone not signed in. */
  async caller(request: Request): Promise<Caller | null> {
    const bearer = bearerOf(request);
    if (bearer) {
      const token = await one<{ id: number; user_id: number; name: string; role: Role; last_used_at: string | null }>(
        this.sql,
        'SELECT id, user_id, name, role, last_used_at FROM api_token WHERE token_hash = ? AND revoked = 0',
        [sha256(bearer)],
      );
      if (!token) throw new Problem(401, 'bad-token', 'This API token is unknown or revoked.');
      // Kept to the minute, so that reading does not write.
      if (token.last_used_at === null || token.last_used_at < this.stampIn(-1))
        await this.sql.run('UPDATE api_token SET last_used_at = ? WHERE id = ?', [this.clock.stamp(), token.id]);
      return { userId: token.user_id, name: token.name, role: token.role, by: 'token' };
    }
    const user = await this.inSession(request);
    // Kept to the minute, so that reading does not write.
    if (user && user.seen_at < this.stampIn(-1))
      await this.sql.run('UPDATE session SET seen_at = ? WHERE id = ?', [this.clock.stamp(), user.session]);
    return user ? { userId: user.id, name: user.name, role: user.role, by: 'cookie' } : null;
  }
}

export function cookieOf(request: Request, name: string): string | undefined {
  return parse(request.headers.cookie ?? '')[name];
}
const bearerOf = (request: Request): string | undefined =>
  /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];

/**
 * Whether a write comes from our own pages: its Origin is the host that it was sent to. Browsers always send one
 * with a write; without it, the browser's word that the request is same-origin is taken.
 */
export function isOwnOrigin(request: Request): boolean {
  const origin = request.headers.origin;
  if (origin === undefined) return request.headers['sec-fetch-site'] === 'same-origin';
  return URL.canParse(origin) && new URL(origin).host === request.headers.host;
}
