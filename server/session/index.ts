import { randomBytes } from 'node:crypto';
import type { CookieOptions, Response } from 'express';
import type { DataSource } from 'typeorm';
import * as contract from '@tallystick/contract/session';
import type { Role } from '@tallystick/contract/endpoint';
import { COOKIE, hashPassword, SESSION_DAYS, sha256 } from '../platform/auth.ts';
import type { Auth, UserRow } from '../platform/auth.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import type { Clock } from '../platform/clock.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { codeOf, notFound, Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import { outside } from '../platform/tables.ts';
import { area } from '../area.ts';
import { isFinal, lockRevision } from '../platform/changes.ts';
import { settingsArea } from '../settings/index.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    account: true;
  }
}
isFinal('account', 'it is about users and tokens; change those in the settings');

/** Everyone's password on the demo; shown on its sign-in page. */
export const DEMO_PASSWORD = 'dark skies ahead';

const userView = (row: UserRow): contract.User => ({
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
  async addFirst(user: { email: string; name: string; password: string }): Promise<UserRow> {
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
      },
    );
    const row = await one<UserRow>(this.sql, 'SELECT * FROM user WHERE email = ?', [user.email]);
    if (!row) throw notFound('The user');
    return row;
  }

  async resetPassword(email: string, password: string): Promise<void> {
    const hash = await hashPassword(password);
    const changed = await this.sql.run('UPDATE user SET password_hash = ? WHERE email = ?', [hash, email]);
    if (changed.affectedRows === 0) throw notFound(`The user ${email}`);
    await this.sql.run('DELETE s FROM session s JOIN user u ON u.id = s.user_id WHERE u.email = ?', [email]);
    await this.sql.run('DELETE FROM sign_in_failure WHERE subject = ?', [`user:${email}`]);
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
      (tx) => tx.sql.run('UPDATE api_token SET revoked = 1 WHERE id = ?', [id]),
    );
  }
}

export interface SessionSetting {
  demo: boolean;
  mailRoom: string | null;
  /** Where the stand-in till shows what it charged. */
  till: string | null;
  secureCookies: boolean;
}

export function serveSession(
  http: Http,
  accounts: Accounts,
  auth: Auth,
  settings: Settings,
  setting: SessionSetting,
): void {
  const cookie: CookieOptions = {
    httpOnly: true,
    sameSite: 'lax',
    secure: setting.secureCookies,
    path: '/',
    maxAge: SESSION_DAYS * 86_400_000,
  };
  const begin = async (response: Response, row: UserRow) => {
    response.cookie(COOKIE, await auth.begin(row), cookie);
    return { user: userView(row) };
  };

  http.on(contract.getSession, async ({ caller }) => {
    const [organization, calendar, users] = await Promise.all([
      settings.organization(),
      settings.calendar(),
      accounts.users(),
    ]);
    const me = users.find((user) => user.id === caller?.userId);
    return {
      user: me ? userView(me) : null,
      organization: {
        name: organization.name,
        town: organization.town,
        taxId: organization.tax_id,
        currency: organization.currency,
        locale: organization.locale,
        timeZone: organization.time_zone,
        fiscalYearStart: organization.fiscal_year_start,
        today: calendar.today,
      },
      needsFirstUser: users.length === 0,
      demoUsers:
        setting.demo && !me
          ? users.map((user) => ({ email: user.email, name: user.name, role: user.role, password: DEMO_PASSWORD }))
          : [],
      mailInbox: me ? setting.mailRoom : null,
      cardProcessor: me ? setting.till : null,
    };
  });
  http.on(contract.signIn, async ({ body, request, response }) =>
    begin(response, await auth.signIn(body.email, body.password, request.ip ?? '')),
  );
  http.on(contract.signOut, async ({ request, response }) => {
    await auth.end(request);
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  });
  http.on(contract.createFirstUser, async ({ body, response }) => begin(response, await accounts.addFirst(body)));
  http.on(contract.listUsers, async () => ({ items: (await accounts.users()).map(userView) }));
  http.on(contract.createUser, async ({ actor, body }) => userView(await accounts.addUser(actor, body)));
  http.on(contract.listTokens, async () => ({ items: await accounts.tokens() }));
  http.on(contract.createToken, async ({ actor, body }) => {
    const { id, secret } = await accounts.addToken(actor, body.name, body.role);
    const token = (await accounts.tokens()).find((one) => one.id === id);
    if (!token) throw notFound('The token');
    return { token, secret };
  });
  http.on(contract.revokeToken, async ({ actor, params }) => {
    await accounts.revoke(actor, params.id);
    return {};
  });
}

for (const name of ['user', 'session', 'api_token', 'sign_in_failure'])
  outside(name, 'holds secrets; that users and tokens were made is noted in history without rows');

/** Who signs in, and with which tokens programs call. */
export const sessionArea = area('session', ({ source, changes, clock, auth, http, config }, of) => {
  const accounts = new Accounts(source, changes, clock);
  const { settings } = of(settingsArea);
  settings.offer(async () => ({ users: await accounts.colleagues() }));
  serveSession(http, accounts, auth, settings, {
    demo: config.demo,
    mailRoom: config.mailRoom,
    till: config.demo ? (config.till?.url ?? null) : null,
    secureCookies: config.publicUrl?.startsWith('https:') ?? false,
  });
  return { accounts };
});
