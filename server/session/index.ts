import type { CookieOptions, Request, Response } from 'express';
import * as contract from '@tallystick/contract/session';
import type { AccessLog } from '../platform/access-log.ts';
import { BROWSER_COOKIE, BROWSER_DAYS, COOKIE, fromOf, SESSION_DAYS } from '../platform/auth.ts';
import type { Auth, UserRow } from '../platform/auth.ts';
import { instant } from '../platform/clock.ts';
import type { Http } from '../platform/http.ts';
import { notFound } from '../platform/problem.ts';
import { outside } from '../platform/tables.ts';
import { settingsArea } from '../settings/index.ts';
import type { OwnOrganization, Settings } from '../settings/index.ts';
import { area } from '../area.ts';
import { Accounts, userView } from './accounts.ts';

export { Accounts } from './accounts.ts';

/** Everyone's password on the demo; shown on its sign-in page. */
export const DEMO_PASSWORD = 'dark skies ahead';

export interface SessionSetting {
  demo: boolean;
  mailRoom: string | null;
  /** Where the stand-in till shows what it charged. */
  till: string | null;
  secureCookies: boolean;
  /** Whether the address that people reach us at is set. */
  addressSet: boolean;
}

export function serveSession(
  http: Http,
  accounts: Accounts,
  auth: Auth,
  accesses: AccessLog,
  settings: Settings,
  own: OwnOrganization,
  setting: SessionSetting,
): void {
  const cookie: CookieOptions = {
    httpOnly: true,
    sameSite: 'lax',
    secure: setting.secureCookies,
    path: '/',
    maxAge: SESSION_DAYS * 86_400_000,
  };
  const begin = async (request: Request, response: Response, row: UserRow) => {
    const { session, browser } = await auth.begin(row, request);
    response.cookie(COOKIE, session, cookie);
    response.cookie(BROWSER_COOKIE, browser, { ...cookie, maxAge: BROWSER_DAYS * 86_400_000 });
    await accesses.note('sign-in', { userId: row.id, name: row.name }, request.ip ?? '', fromOf(request).browser);
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
      addressSet: setting.addressSet,
    };
  });
  http.on(contract.signIn, async ({ body, request, response }) =>
    begin(request, response, await auth.signIn(body.email, body.password, request)),
  );
  http.on(contract.signOut, async ({ request, response, caller, actor }) => {
    await auth.end(request);
    if (caller) await accesses.note('sign-out', actor, request.ip ?? '', '');
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  });
  http.on(contract.createFirstUser, async ({ body, request, response }) =>
    begin(
      request,
      response,
      await accounts.addFirst(body, (tx) =>
        body.organization ? own.begin(tx, body.organization, body.email) : Promise.resolve(),
      ),
    ),
  );
  http.on(contract.listSessions, async ({ caller, request }) => ({
    items: (await auth.sessions(caller?.userId ?? 0, request)).map(({ created_at, seen_at, ...session }) => ({
      ...{ id: session.id, address: session.address, browser: session.browser, current: session.current },
      ...{ createdAt: instant(created_at), seenAt: instant(seen_at) },
    })),
  }));
  http.on(contract.endSession, async ({ caller, params }) => {
    if ((await auth.endSessions(caller?.userId ?? 0, params.id, null)) === 0) throw notFound('This session');
    return {};
  });
  http.on(contract.endOtherSessions, async ({ caller, request }) => ({
    ended: await auth.endSessions(caller?.userId ?? 0, null, request),
  }));
  http.on(contract.changePassword, async ({ actor, body, request }) => {
    await accounts.changePassword(actor, body.old, body.fresh, request);
    return {};
  });
  http.on(contract.listAccesses, ({ query }) => accesses.list(query));
  http.on(contract.updateUser, async ({ actor, params, body }) =>
    userView(await accounts.changeUser(actor, params.id, body)),
  );
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

for (const name of ['user', 'session', 'api_token', 'sign_in_try', 'known_browser'])
  outside(name, 'holds secrets; that users and tokens were made is noted in history without rows');

/** Who signs in, and with which tokens programs call. */
export const sessionArea = area('session', ({ source, changes, clock, auth, accesses, http, config }, of) => {
  const accounts = new Accounts(source, changes, clock, auth);
  const { settings, own } = of(settingsArea);
  settings.offer(async () => ({ users: await accounts.colleagues() }));
  serveSession(http, accounts, auth, accesses, settings, own, {
    demo: config.demo,
    mailRoom: config.mailRoom,
    till: config.demo ? (config.till?.url ?? null) : null,
    secureCookies: config.publicUrl?.startsWith('https:') ?? false,
    addressSet: config.publicUrl !== null,
  });
  return { accounts };
});
