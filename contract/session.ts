import { z } from 'zod';
import { endpoint, ROLES } from './endpoint.ts';
import { Id, IdParams, pageOf, Paging } from './common.ts';
import { OrganizationStart } from './organization.ts';

export const User = z.object({ id: Id, email: z.string(), name: z.string(), role: z.enum(ROLES), active: z.boolean() });
export type User = z.infer<typeof User>;

export const Organization = z.object({
  name: z.string(),
  taxId: z.string(),
  currency: z.string(),
  locale: z.string(),
  timeZone: z.string(),
  fiscalYearStart: z.number().int().min(1).max(12),
  today: z.string(),
});
export type Organization = z.infer<typeof Organization>;

export const Password = z.string().min(12, 'A password has at least 12 characters.').max(200);
const Email = z.string().trim().toLowerCase().max(190).email('This is not an e-mail address.');

const SessionState = z.object({
  user: User.nullable(),
  organization: Organization,
  /** True while there is no user at all: the first administrator is made on the sign-in page. */
  needsFirstUser: z.boolean(),
  /** On the demo: who can be signed in as. */
  demoUsers: z.array(z.object({ email: z.string(), name: z.string(), role: z.enum(ROLES), password: z.string() })),
  /** Where the mail room's inbox can be read; null where mail goes to a real server. */
  mailInbox: z.string().nullable(),
  cardProcessor: z.string().nullable(),
  /** Whether it is set at which address people reach us; else links in e-mails lead to this computer. */
  addressSet: z.boolean(),
});
export type SessionState = z.infer<typeof SessionState>;

const area = 'session';
export const getSession = endpoint({
  id: 'getSession',
  area,
  method: 'get',
  path: '/session',
  right: 'public',
  summary: 'Who is signed in, and the organization.',
  response: SessionState,
});
export const signIn = endpoint({
  id: 'signIn',
  area,
  method: 'post',
  path: '/session',
  right: 'public',
  summary:
    'Sign in; sets the session cookie. After ten tries for an account within 15 minutes further ones are refused (429), but from a browser that it was signed in from before.',
  body: z.object({ email: Email, password: z.string().min(1, 'The password is missing.').max(200) }),
  response: z.object({ user: User }),
});
export const signOut = endpoint({
  id: 'signOut',
  area,
  method: 'delete',
  path: '/session',
  right: 'public',
  summary: 'Sign out.',
  response: z.object({}),
});
export const createFirstUser = endpoint({
  id: 'createFirstUser',
  area,
  method: 'post',
  path: '/session/first-user',
  right: 'public',
  summary: 'Make the first administrator; refused once there is a user.',
  body: z.object({
    email: Email,
    name: z.string().trim().min(1, 'The name is missing.').max(120),
    password: Password,
    /** What the organization is; it can be said later, too. */
    organization: OrganizationStart.optional(),
  }),
  response: z.object({ user: User }),
});
export const OwnSession = z.object({
  id: Id,
  createdAt: z.string(),
  seenAt: z.string(),
  address: z.string(),
  browser: z.string(),
  current: z.boolean(),
});
export const listSessions = endpoint({
  id: 'listSessions',
  area,
  method: 'get',
  path: '/session/all',
  right: 'self.see',
  summary: 'One’s own sessions that are going on, the last used first.',
  response: z.object({ items: z.array(OwnSession) }),
});
export const endSession = endpoint({
  id: 'endSession',
  area,
  method: 'delete',
  path: '/session/all/:id',
  right: 'self.change',
  summary: 'End one of one’s own sessions.',
  params: IdParams,
  response: z.object({}),
});
export const endOtherSessions = endpoint({
  id: 'endOtherSessions',
  area,
  method: 'delete',
  path: '/session/others',
  right: 'self.change',
  summary: 'End all of one’s own sessions but this one.',
  response: z.object({ ended: z.number() }),
});
export const changePassword = endpoint({
  id: 'changePassword',
  area,
  method: 'put',
  path: '/session/password',
  right: 'self.change',
  logs: 'rights',
  summary: 'Change one’s password; all other sessions end.',
  body: z.object({ old: z.string().min(1, 'The password that you have now is missing.').max(200), fresh: Password }),
  response: z.object({}),
});
export const ACCESSES = ['sign-in', 'sign-out', 'refused', 'export', 'list', 'rights'] as const;
export const AccessEntry = z.object({
  id: Id,
  at: z.string(),
  by: z.string(),
  what: z.enum(ACCESSES),
  address: z.string(),
  says: z.string(),
});
export type AccessEntry = z.infer<typeof AccessEntry>;
export const listAccesses = endpoint({
  id: 'listAccesses',
  area: 'settings',
  method: 'get',
  path: '/accesses',
  right: 'users.see',
  summary: 'Who signed in, was refused, took much out or changed rights, newest first. Nothing of it can be changed.',
  query: Paging.extend({ what: z.enum(ACCESSES).optional() }),
  response: pageOf(AccessEntry),
});
export const updateUser = endpoint({
  id: 'updateUser',
  area: 'settings',
  method: 'put',
  path: '/users/:id',
  right: 'users.change',
  logs: 'rights',
  summary: 'Change a user’s role, or whether they may sign in. The last administrator stays one.',
  params: IdParams,
  body: z.object({ role: z.enum(ROLES), active: z.boolean() }),
  response: User,
});
export const listUsers = endpoint({
  id: 'listUsers',
  area: 'settings',
  method: 'get',
  path: '/users',
  right: 'users.see',
  summary: 'All users.',
  response: z.object({ items: z.array(User) }),
});
export const createUser = endpoint({
  id: 'createUser',
  area: 'settings',
  method: 'post',
  path: '/users',
  right: 'users.add',
  logs: 'rights',
  summary: 'Make a user.',
  body: z.object({ email: Email, name: z.string().trim().min(1).max(120), role: z.enum(ROLES), password: Password }),
  response: User,
});
export const ApiToken = z.object({
  id: Id,
  name: z.string(),
  role: z.enum(ROLES),
  createdAt: z.string(),
  lastUsedAt: z.string().nullable(),
  revoked: z.boolean(),
});
export const listTokens = endpoint({
  id: 'listTokens',
  area: 'settings',
  method: 'get',
  path: '/tokens',
  right: 'tokens.see',
  summary: 'API tokens, without their secrets.',
  response: z.object({ items: z.array(ApiToken) }),
});
export const createToken = endpoint({
  id: 'createToken',
  area: 'settings',
  method: 'post',
  path: '/tokens',
  right: 'tokens.add',
  logs: 'rights',
  summary: 'Make an API token. Its secret is in this answer and nowhere else.',
  body: z.object({ name: z.string().trim().min(1).max(120), role: z.enum(ROLES) }),
  response: z.object({ token: ApiToken, secret: z.string() }),
});
export const revokeToken = endpoint({
  id: 'revokeToken',
  area: 'settings',
  method: 'delete',
  path: '/tokens/:id',
  right: 'tokens.delete',
  logs: 'rights',
  summary: 'Revoke an API token.',
  params: IdParams,
  response: z.object({}),
});
