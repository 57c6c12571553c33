import { resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { isSetUp, loadDemo, setUpEmpty } from '@tallystick/demo/load';
import { loadScale } from '@tallystick/demo/scale';
import { ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import { Password } from '@tallystick/contract/session';
import { App } from '@tallystick/server/app';
import { sqlOn } from '@tallystick/server/platform/db';
import { brokenGuards, statedGuards } from '@tallystick/server/platform/guards';
import type { Services } from '@tallystick/server/app';
import { dump, restore } from './lib/dump.ts';
import { startMariaDb } from './lib/mariadb.ts';
import { main, Plain, readOptions } from './lib/options.ts';
import type { Options } from './lib/options.ts';

const HELP = `npm run admin -- COMMAND [--data DIR]

  user EMAIL ROLE NAME …     make a user; the password is asked for, or read from standard input
  password EMAIL             reset a user's password and end their sessions
  role EMAIL ROLE            give a user another role
  off EMAIL, on EMAIL        take the way in from a user, or give it back
  users                      list the users
  token ROLE NAME …          make an API token; its secret is printed once
  demo                       load the demo into an empty database
  scale --supporters N --gifts M
                             add made-up supporters and gifts for measuring
  check                      list what does not hold in the database of what must
  dump FILE                  write the whole database to FILE
  restore FILE               put a dump into an empty database, once it is found whole and good

Roles: ${ROLES.join(', ')}. DATABASE_URL names another database than the one in DIR.
When Tallystick is running on DIR, give the DATABASE_URL that it uses, or stop it first.`;

const ACTOR = { userId: null, name: 'the command line' };

const roleOf = (text: string | undefined): Role => {
  const role = ROLES.find((one) => one === text);
  if (!role) throw new Plain(`A role is one of ${ROLES.join(', ')}, not “${text ?? ''}”.`);
  return role;
};
const needed = (text: string | undefined, what: string): string => {
  if (!text) throw new Plain(`${what} is missing.\n\n${HELP}`);
  return text;
};

async function askPassword(): Promise<string> {
  const lines = createInterface({ input: process.stdin, ...(process.stdin.isTTY ? { output: process.stderr } : {}) });
  const typed = process.stdin.isTTY
    ? await lines.question('Password (at least 12 characters): ')
    : ((await lines[Symbol.asyncIterator]().next()).value as string | undefined);
  lines.close();
  const parsed = Password.safeParse((typed ?? '').trim());
  if (!parsed.success) throw new Plain(parsed.error.issues[0]?.message ?? 'This password cannot be used.');
  return parsed.data;
}

async function withServices<T>(url: string, work: (services: Services) => Promise<T>): Promise<T> {
  const app = await App.open({
    databaseUrl: url,
    smtpUrl: 'smtp://127.0.0.1:9',
    today: null,
    demo: false,
    till: null,
    mailRoom: null,
    webFolder: null,
    publicUrl: null,
    logLevel: 'warn',
  });
  try {
    return await work(app.services);
  } finally {
    await app.close();
  }
}

/** What does not hold in a database of what must. */
const brokenIn = (url: string): Promise<string[]> =>
  withServices(url, async ({ source }) =>
    (await brokenGuards(sqlOn(source))).map(({ holds, says }) => `${holds}, but: ${says}`),
  );

/** Lists what does not hold; the command then ends as one that failed. */
async function check(url: string): Promise<void> {
  const broken = await brokenIn(url);
  for (const line of broken) console.log(line);
  if (broken.length > 0) throw new Plain(`${broken.length} times something does not hold that must.`);
  console.log(`All holds that must: ${statedGuards().length} guards.`);
}

async function command(options: Options, url: string): Promise<void> {
  const [name, ...args] = options.rest;
  const setUp = name === 'demo' || name === 'restore' || (await isSetUp(url));
  if (!setUp && name !== 'scale')
    throw new Plain('This database is empty. Run npm start once, or npm run admin -- demo.');
  switch (name) {
    case 'user': {
      const [email, role, ...words] = args;
      const user = {
        email: needed(email, 'The e-mail address'),
        role: roleOf(role),
        name: needed(words.join(' '), 'The name'),
        password: await askPassword(),
      };
      await withServices(url, (services) => services.accounts.addUser(ACTOR, user));
      return console.log(`${user.name} can now sign in as ${user.role}.`);
    }
    case 'password': {
      const email = needed(args[0], 'The e-mail address').toLowerCase();
      const password = await askPassword();
      await withServices(url, (services) => services.accounts.resetPassword(email, password));
      return console.log(`The password of ${email} is reset; open sessions have ended.`);
    }
    case 'role': {
      const email = needed(args[0], 'The e-mail address').toLowerCase();
      const role = roleOf(args[1]);
      const user = await withServices(url, ({ accounts }) => accounts.changeUserOf(ACTOR, email, { role }));
      return console.log(`${user.name} is ${user.role}.`);
    }
    case 'on':
    case 'off': {
      const email = needed(args[0], 'The e-mail address').toLowerCase();
      const active = name === 'on';
      const user = await withServices(url, ({ accounts }) => accounts.changeUserOf(ACTOR, email, { active }));
      return console.log(
        `${user.name} ${active ? 'can sign in again' : 'cannot sign in any more; open sessions have ended'}.`,
      );
    }
    case 'users': {
      const users = await withServices(url, (services) => services.accounts.users());
      return console.log(users.map((user) => `${user.email}\t${user.role}\t${user.name}`).join('\n'));
    }
    case 'token': {
      const [role, ...words] = args;
      const { secret } = await withServices(url, (services) =>
        services.accounts.addToken(ACTOR, needed(words.join(' '), 'What the token is for'), roleOf(role)),
      );
      return console.log(secret);
    }
    case 'demo': {
      if (await isSetUp(url)) throw new Plain('The database is not empty; nothing was loaded.');
      const counts = await loadDemo(url, { today: options.today });
      return console.log(`${counts.supporters} supporters and ${counts.gifts} gifts.`);
    }
    case 'scale':
      if (!(await isSetUp(url))) await setUpEmpty(url);
      return loadScale(url, options.supporters ?? 200_000, options.gifts ?? 2_000_000, options.today, console.log);
    case 'dump':
      await dump(url, resolve(process.env['TALLYSTICK_CALLED_FROM'] ?? '.', needed(args[0], 'The file')));
      return console.log(`Written to ${args[0]}.`);
    case 'restore': {
      const file = resolve(process.env['TALLYSTICK_CALLED_FROM'] ?? '.', needed(args[0], 'The file'));
      const tables = await restore(url, file, brokenIn);
      return console.log(
        `Restored from ${args[0]}: ${tables} tables. All holds that must: ${statedGuards().length} guards.`,
      );
    }
    case 'check':
      return check(url);
    default:
      throw new Plain(HELP);
  }
}

await main(async () => {
  const options = readOptions();
  if (options.rest.length === 0) throw new Plain(HELP);
  const given = process.env['DATABASE_URL'];
  const own = given ? null : await startMariaDb(options.data, options.rest[0] === 'scale' ? { bufferPool: '2G' } : {});
  try {
    await command(options, given ?? own?.url ?? '');
  } finally {
    await own?.stop();
  }
});
