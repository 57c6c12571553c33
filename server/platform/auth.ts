import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Request } from 'express';
import { parseCookie as parse } from 'cookie';
import type { Role } from '@tallystick/contract/endpoint';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import type { Clock } from './clock.ts';
import { Problem } from './problem.ts';

export const COOKIE = 'tallystick_session';
export const SESSION_DAYS = 14;
const MOST_FAILURES = 10;
const FAILURE_MINUTES = 15;

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

export class Auth {
  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
  ) {}

  private stampIn(minutes: number): string {
    return this.clock.stamp(minutes * 60);
  }

  /** Checks a password; ten failures within 15 minutes, for one address or from one network address, close the door. */
  async signIn(email: string, password: string, from: string): Promise<UserRow> {
    const subjects = [`user:${email}`, `from:${from}`];
    const failed = await this.sql.rows<{ many: number }>(
      'SELECT COUNT(*) AS many FROM sign_in_failure WHERE subject IN (?) AND at > ? GROUP BY subject',
      [subjects, this.stampIn(-FAILURE_MINUTES)],
    );
    if (failed.some((row) => row.many >= MOST_FAILURES))
      throw new Problem(
        429,
        'too-many-tries',
        `Too many tries. Wait ${FAILURE_MINUTES} minutes, or have an administrator reset the password.`,
      );
    const user = await one<UserRow>(this.sql, `SELECT * FROM user WHERE email = ? AND active = 1 AND kind = 'person'`, [
      email,
    ]);
    const against = user?.password_hash ?? (await (decoy ??= hashPassword(randomBytes(12).toString('hex'))));
    const right = await verify(against, password).catch(() => false);
    if (!user || !right) {
      for (const subject of subjects)
        await this.sql.run('INSERT INTO sign_in_failure (subject, at) VALUES (?, ?)', [
          subject.slice(0, 190),
          this.clock.stamp(),
        ]);
      throw new Problem(401, 'wrong-password', 'The e-mail address or the password is wrong.');
    }
    await this.sql.run('DELETE FROM sign_in_failure WHERE subject = ? OR at < ?', [
      `user:${email}`,
      this.stampIn(-FAILURE_MINUTES),
    ]);
    return user;
  }

  /** Begins a session; the token is in the cookie only, its hash in the database. */
  async begin(user: UserRow): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    await this.sql.run('INSERT INTO session (token_hash, user_id, created_at, expires_at) VALUES (?, ?, ?, ?)', [
      sha256(token),
      user.id,
      this.clock.stamp(),
      this.stampIn(SESSION_DAYS * 1440),
    ]);
    return token;
  }

  async end(request: Request): Promise<void> {
    const token = cookieOf(request);
    if (token) await this.sql.run('DELETE FROM session WHERE token_hash = ?', [sha256(token)]);
  }

  /** Who makes this request, or null for someone not signed in. */
  async caller(request: Request): Promise<Caller | null> {
    const bearer = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];
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
    const token = cookieOf(request);
    if (!token) return null;
    const user = await one<UserRow>(
      this.sql,
      'SELECT u.* FROM session s JOIN user u ON u.id = s.user_id WHERE s.token_hash = ? AND s.expires_at > ? AND u.active = 1',
      [sha256(token), this.clock.stamp()],
    );
    return user ? { userId: user.id, name: user.name, role: user.role, by: 'cookie' } : null;
  }
}

export function cookieOf(request: Request): string | undefined {
  return parse(request.headers.cookie ?? '')[COOKIE];
}

/**
 * Whether a write comes from our own pages: its Origin is the host that it was sent to. Browsers always send one
 * with a write; without it, the browser's word that the request is same-origin is taken.
 */
export function isOwnOrigin(request: Request): boolean {
  const origin = request.headers.origin;
  if (origin === undefined) return request.headers['sec-fetch-site'] === 'same-origin';
  return URL.canParse(origin) && new URL(origin).host === request.headers.host;
}
