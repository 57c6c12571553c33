import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import { addDays } from '@tallystick/core/dates';
import { sortName } from '@tallystick/core/names';
import { mayReach } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import { App } from '@tallystick/server/app';
import type { AppConfig, Services } from '@tallystick/server/app';
import { insertGifts } from '@tallystick/server/gifts/index';
import type { NewGift } from '@tallystick/server/gifts/index';
import { DEMO_PASSWORD } from '@tallystick/server/session/index';
import { DEFAULT_ORGANIZATION, FundTable } from '@tallystick/server/settings/index';
import type { OrganizationRow } from '@tallystick/server/settings/index';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { FISCAL_YEAR_START, makeGifts } from './gifts.ts';
import type { DemoGift } from './gifts.ts';
import { putLife, putTasks } from './life.ts';
import { DemoPlaces, putGoals } from './coding.ts';
import { putMess } from './mess.ts';
import { putPromises, putSheet } from './promises.ts';
import { putFeed } from './portal.ts';
import { Chance } from './random.ts';
import { putQuestions, putSegments } from './segments.ts';
import { makeSupporters } from './supporters.ts';
import type { DemoSupporter } from './supporters.ts';
import { FIRST_LETTER, SHORT_LETTER, THANKS_LETTER, VAN_MAIL, YEAR_END_MAIL } from './texts.ts';
import { TAGS } from './words.ts';
import {
  AddressTable,
  EmailTable,
  PhoneTable,
  SupporterTable,
  SupporterTagTable,
  TagTable,
} from '@tallystick/server/supporters/index';
import { DeliveryTable, MailingTable } from '@tallystick/server/outreach/index';
import { LetterTable } from '@tallystick/server/letters/index';

export const LOADER = { userId: null, name: 'Tallystick' };
export const SEED = 20_260_701;

export const DEMO_ORGANIZATION: OrganizationRow = {
  name: 'Juniper Basin Night Sky Conservancy',
  address: 'Tansy Creek, Nevada',
  signature: 'Marisol Brightwater, Development Officer',
  tax_id: '00-0000000',
  currency: 'USD',
  locale: 'en-US',
  time_zone: 'America/Los_Angeles',
  fiscal_year_start: FISCAL_YEAR_START,
  mail_from: 'office@juniperbasin.example.org',
  secret: '',
  addressing: null,
  country: 'US',
  closed_through: null,
  closed_sums: null,
};

export const DEMO_USERS = [
  { name: 'Marisol Brightwater', email: 'marisol@juniperbasin.example.org', role: 'officer' },
  { name: 'Desmond Kettleworth', email: 'desmond@juniperbasin.example.org', role: 'admin' },
  { name: 'Fern Dovecote', email: 'fern@juniperbasin.example.org', role: 'entry' },
  { name: 'Amos Rookwood', email: 'amos@juniperbasin.example.org', role: 'read' },
] as const;

const offline = (databaseUrl: string, today: string | null): AppConfig => ({
  databaseUrl,
  smtpUrl: 'smtp://127.0.0.1:9',
  today,
  demo: false,
  till: null,
  mailRoom: null,
  webFolder: null,
  publicUrl: 'http://127.0.0.1',
  logLevel: 'warn',
});

/** Whether the database holds an organization, so that nothing is loaded over it. */
export async function isSetUp(databaseUrl: string): Promise<boolean> {
  const connection = await mysql.createConnection(databaseUrl);
  try {
    const [tables] = await connection.query<mysql.RowDataPacket[]>(`SHOW TABLES LIKE 'organization'`);
    if (tables.length === 0) return false;
    const [rows] = await connection.query<mysql.RowDataPacket[]>('SELECT id FROM organization');
    return rows.length > 0;
  } finally {
    await connection.end();
  }
}

export async function withApp<T>(
  databaseUrl: string,
  today: string | null,
  work: (services: Services) => Promise<T>,
): Promise<T> {
  const app = await App.open(offline(databaseUrl, today));
  try {
    return await work(app.services);
  } finally {
    await app.close();
  }
}

async function putOrganization(tx: Transaction, organization: OrganizationRow): Promise<void> {
  const row = { id: 1, ...organization, secret: randomBytes(32).toString('hex') };
  const columns = Object.keys(row);
  await tx.sql.run(
    `INSERT INTO organization (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
    Object.values(row),
  );
}

/** An organization with one fund and one letter, and nobody in it yet. */
export async function setUpEmpty(databaseUrl: string): Promise<void> {
  await withApp(databaseUrl, null, (services) =>
    services.changes.write(LOADER, { kind: 'load', summary: 'Set up an empty organization' }, async (tx) => {
      await putOrganization(tx, DEFAULT_ORGANIZATION);
      await tx.insert(FundTable, { code: 'GEN', name: 'General', closed: 0 });
      await tx.insert(LetterTable, letterRow(FIRST_LETTER));
    }),
  );
}

/** The demo organisation, about 2,400 supporters and 14,000 gifts, the same for the same day. */
export async function loadDemo(
  databaseUrl: string,
  options: { today: string | null; supporters?: number | null },
): Promise<{ supporters: number; gifts: number }> {
  return withApp(databaseUrl, options.today, async (services) => {
    const today = services.clock.today(DEMO_ORGANIZATION.time_zone);
    const chance = new Chance(SEED);
    const supporters = makeSupporters(options.supporters ?? 2400, chance);
    const giving = supporters.map((supporter) => makeGifts(supporter, today, chance));
    await services.changes.write(LOADER, { kind: 'load', summary: 'Loaded the demo' }, async (tx) => {
      await putOrganization(tx, DEMO_ORGANIZATION);
      const places = await DemoPlaces.put(tx, today);
      const tags = await putTags(tx);
      const ids = await putSupporters(tx, supporters, today);
      await putGifts(tx, ids, giving, places);
      await putLife(tx, supporters, ids, today);
      await putPromises(tx, supporters, ids, places);
      await putGoals(tx, today);
      await tx.insert(LetterTable, letterRow(THANKS_LETTER));
      await tx.insert(LetterTable, letterRow(SHORT_LETTER));
      const segments = await putSegments(tx, places.fund('VAN'), tags.get('Schools') ?? 0);
      await putMailings(tx, supporters, ids, segments, today);
      await putQuestions(tx, today);
      await putMess(tx, supporters, ids, today);
    });
    for (const user of DEMO_USERS) await services.accounts.addUser(LOADER, { ...user, password: DEMO_PASSWORD });
    await putTasks(services, today);
    await putOpenIntake(services);
    await putFeed(services, LOADER, today);
    const entry = (await services.accounts.users()).find((user) => user.role === 'entry');
    await putSheet(services, { userId: entry?.id ?? null, name: entry?.name ?? LOADER.name });
    return { supporters: supporters.length, gifts: giving.reduce((sum, gifts) => sum + gifts.length, 0) };
  });
}

const letterRow = (letter: { name: string; subject: string; body: unknown }) => ({
  name: letter.name,
  subject: letter.subject,
  body: JSON.stringify(letter.body),
});

async function putTags(tx: Transaction): Promise<Map<string, number>> {
  const ids = await tx.insertAll(
    TagTable,
    TAGS.map((name) => ({ name })),
  );
  return new Map(TAGS.map((name, index) => [name, ids[index] ?? 0]));
}

async function putSupporters(tx: Transaction, supporters: readonly DemoSupporter[], today: string): Promise<number[]> {
  const ids = await tx.insertAll(
    SupporterTable,
    supporters.map(({ name, nickname }) => ({ ...name, nickname, sort_name: sortName(name) })),
  );
  const owned = supporters.map((supporter, index) => ({
    supporter,
    way: { supporter_id: ids[index] ?? 0, label: 'home', preferred: 1 },
  }));
  await tx.insertAll(
    EmailTable,
    owned.flatMap(({ supporter, way }) =>
      supporter.email === null
        ? []
        : [
            {
              ...way,
              address: supporter.email,
              bad_on: supporter.emailBounced ? addDays(today, -180) : null,
              bad_reason: supporter.emailBounced ? 'bounced' : '',
            },
          ],
    ),
  );
  await tx.insertAll(
    PhoneTable,
    owned.flatMap(({ supporter, way }) => (supporter.phone === null ? [] : [{ ...way, number: supporter.phone }])),
  );
  await tx.insertAll(
    AddressTable,
    owned.flatMap(({ supporter, way }) =>
      supporter.address === null ? [] : [{ ...way, ...supporter.address, country: '' }],
    ),
  );
  const tags = await tx.sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag');
  await tx.insertAll(
    SupporterTagTable,
    owned.flatMap(({ supporter, way }) =>
      supporter.tags.map((tag) => ({
        supporter_id: way.supporter_id,
        tag_id: tags.find((one) => one.name === tag)?.id ?? 0,
        source: 'hand',
      })),
    ),
  );
  return ids;
}

async function putGifts(
  tx: Transaction,
  ids: readonly number[],
  giving: readonly (readonly DemoGift[])[],
  places: DemoPlaces,
): Promise<void> {
  const rows = giving
    .flatMap((gifts, index) => gifts.map((gift) => ({ gift, supporterId: ids[index] ?? 0 })))
    .sort((a, b) => (a.gift.date < b.gift.date ? -1 : a.gift.date > b.gift.date ? 1 : a.supporterId - b.supporterId))
    .map(({ gift, supporterId }): NewGift => ({
      ...{ supporterId, cents: gift.cents, currency: 'USD', date: gift.date, bookedOn: gift.date },
      parts: [{ cents: gift.cents, ...places.part(gift.fund, gift.date, gift.appeal) }],
      ...{ method: gift.method, cheque: gift.cheque, acknowledgedOn: gift.acknowledgedOn },
    }));
  await insertGifts(tx, rows);
}

async function putMailings(
  tx: Transaction,
  supporters: readonly DemoSupporter[],
  ids: readonly number[],
  segments: readonly number[],
  today: string,
): Promise<void> {
  const [, lapsed = null, van = null] = segments;
  const row = (
    mail: { name: string; subject: string; body: unknown },
    segment: number | null,
    state: 'draft' | 'sent',
  ) => ({ ...letterRow(mail), segment_id: segment, appeal_id: null, state });
  const sent = await tx.insert(MailingTable, row(VAN_MAIL, van, 'sent'));
  await tx.insert(MailingTable, row(YEAR_END_MAIL, lapsed, 'draft'));
  const at = `${addDays(today, -24)} 17:00:00.000`;
  const openedAt = `${addDays(today, -23)} 14:30:00.000`;
  const [chance, reading] = [new Chance(7), new Chance(8)];
  // A refusal holds for every record with the mailbox.
  const refused = new Set(supporters.flatMap(({ noEmail, email }) => (noEmail && email !== null ? [email] : [])));
  await tx.insertAll(
    DeliveryTable,
    supporters.flatMap((supporter, index) => {
      if (!chance.happens(0.25)) return [];
      const wishes: Wish[] = [
        ...(supporter.email !== null && refused.has(supporter.email) ? (['no_email'] as const) : []),
        ...(supporter.diedDaysAgo !== null ? (['deceased'] as const) : []),
      ];
      const email = supporter.email === null ? null : { address: supporter.email, bad: supporter.emailBounced };
      const asked = { reach: { email, mail: null, call: null }, wishes, trashed: false, lastSentOn: null };
      const reach = mayReach(asked, 'news', at.slice(0, 10));
      const held = 'held' in reach ? reach.held : null;
      const bounced = /bounce\.|gone\./.test(supporter.email ?? '');
      return {
        supporter_id: ids[index] ?? 0,
        source_kind: 'mailing',
        source_id: sent,
        receipt_id: null,
        channel: 'email',
        address: supporter.email ?? '',
        subject: VAN_MAIL.subject,
        state: held ? 'held' : bounced ? 'bounced' : 'sent',
        detail: held ?? (bounced ? '550 5.1.1 unknown here' : ''),
        at,
        // Not quite half of those who get it open it.
        opened_at: !held && !bounced && reading.happens(0.45) ? openedAt : null,
      };
    }),
  );
}

/** The giving portal's export, uploaded and waiting to be brought in. */
async function putOpenIntake(services: Services): Promise<void> {
  const bytes = await readFile(join(import.meta.dirname, 'files', 'giving-portal-export.csv'));
  const officer = await services.accounts.users();
  const actor = { userId: officer.find((user) => user.role === 'officer')?.id ?? null, name: DEMO_USERS[0].name };
  await services.intakes.upload(actor, 'giving-portal-export.csv', bytes);
}
