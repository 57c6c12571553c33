import { addDays } from '@tallystick/core/dates';
import { sqlOn } from '@tallystick/server/platform/db';
import type { Services } from '@tallystick/server/app';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { Chance } from './random.ts';
import type { DemoSupporter } from './supporters.ts';
import {
  AddressTable,
  GroupMemberTable,
  GroupTable,
  NoteTable,
  RelationTable,
  SupporterTable,
  TaskTable,
  refuseMailbox,
  WishTable,
} from '@tallystick/server/supporters/index';
import { CustomFieldTable, SupporterFieldTable } from '@tallystick/server/settings/index';
import { kept } from '@tallystick/core/fields';
import type { Repeat } from '@tallystick/core/tasks';
import type { Wish } from '@tallystick/core/wishes';
import type { Note } from '@tallystick/contract/notes';

/** What is known of supporters beside their names and gifts: homes, ties, wishes, fields, groups, notes. */
export async function putLife(
  tx: Transaction,
  supporters: readonly DemoSupporter[],
  ids: readonly number[],
  today: string,
): Promise<void> {
  const chance = new Chance(11);
  const all = supporters.map((supporter, index) => ({ supporter, id: ids[index] ?? 0 }));
  const [first, ...others] = all.filter(({ supporter }) => supporter.name.kind === 'person');
  if (!first) return;
  const people: People = [first, ...others];
  await putWishes(tx, all, today, chance);
  await putHouseholds(tx, all, people, chance);
  await putTies(tx, all, people, today, chance);
  await putSeasons(tx, people, chance);
  await putFields(tx, people, today, chance);
  await putGroups(tx, people, chance);
  await putNotes(tx, people, today, chance);
  await putBirthdays(tx, people, new Chance(13));
  await putMatchers(tx, new Chance(17));
}

type Known = { supporter: DemoSupporter; id: number };
type People = readonly [Known, ...Known[]];

async function putWishes(tx: Transaction, all: readonly Known[], today: string, chance: Chance): Promise<void> {
  const wish = (id: number, kind: Wish, source: string, daysAgo: number) => ({
    supporter_id: id,
    kind,
    since: addDays(today, -daysAgo),
    source,
    set_by: 'Marisol Brightwater',
    happened_on: null as string | null,
  });
  const refused: Parameters<typeof refuseMailbox>[1][] = [];
  await tx.insertAll(
    WishTable,
    all.flatMap(({ supporter, id }) => {
      if (supporter.noEmail) {
        const since = addDays(today, -chance.whole(20, 900));
        if (supporter.email !== null)
          refused.push({ supporterId: id, address: supporter.email, since, source: 'unsubscribe link' });
      }
      return [
        ...(supporter.diedDaysAgo === null
          ? []
          : [
              {
                ...wish(id, 'deceased', 'letter from the family', supporter.diedDaysAgo - 12),
                happened_on: addDays(today, -supporter.diedDaysAgo),
              },
            ]),
        ...(chance.happens(0.02) ? [wish(id, 'no_calls', 'said so in a call', chance.whole(20, 900))] : []),
        ...(chance.happens(0.012) ? [wish(id, 'once_a_year', 'reply card', chance.whole(20, 900))] : []),
        ...(chance.happens(0.01) ? [wish(id, 'receipts_only', 'letter', chance.whole(20, 900))] : []),
        ...(chance.happens(0.03) ? [wish(id, 'anonymous', 'pledge form', chance.whole(20, 900))] : []),
        ...(chance.happens(0.015) ? [wish(id, 'no_mail', 'reply card', chance.whole(20, 900))] : []),
      ];
    }),
  );
  for (const one of refused) await refuseMailbox(tx, one);
}

/** Most families of the demo are made of people with their name who have a record of their own. */
async function putHouseholds(tx: Transaction, all: readonly Known[], people: People, chance: Chance): Promise<void> {
  const free = new Map<string, number[]>();
  for (const { supporter, id } of people) {
    if (supporter.diedDaysAgo !== null) continue;
    const last = supporter.name.last;
    free.set(last, [...(free.get(last) ?? []), id]);
  }
  for (const { supporter, id } of all) {
    if (supporter.name.kind !== 'household') continue;
    const last = /^The (.+) Family$/.exec(supporter.name.organization)?.[1] ?? '';
    const members = free.get(last)?.splice(0, chance.pick([2, 2, 2, 3])) ?? [];
    if (members.length === 0) continue;
    await tx.updateAll(SupporterTable, members, { household_id: id });
    await tx.update(SupporterTable, id, { primary_id: members[0] ?? null });
  }
}

async function putTies(
  tx: Transaction,
  all: readonly Known[],
  people: People,
  today: string,
  chance: Chance,
): Promise<void> {
  const kinds = await tx.sql.rows<{ id: number; name: string }>('SELECT id, name FROM relation_kind');
  const kindId = (name: string): number => kinds.find((kind) => kind.name === name)?.id ?? 0;
  const tie = (from: number, kind: string, to: number, role = '') => ({
    supporter_id: from,
    other_id: to,
    kind_id: kindId(kind),
    role,
    note: '',
    since: chance.happens(0.4) ? `${Number(today.slice(0, 4)) - chance.whole(1, 17)}-0${chance.whole(1, 9)}-01` : null,
    until: null,
  });
  const someone = (): number => chance.pick(people).id;
  const organizations = all.filter(({ supporter }) => supporter.name.kind === 'organization');
  const ties = organizations.flatMap(({ id, supporter }) => {
    if (!chance.happens(0.7)) return [];
    const contact = someone();
    const role =
      supporter.habit === 'foundation'
        ? chance.pick(['Program officer', 'Trustee'])
        : chance.pick(['Owner', 'Manager']);
    return [
      tie(contact, 'contact', id, role),
      ...(chance.happens(0.5) ? [tie(id, 'employer', someone())] : []),
      ...(supporter.habit === 'foundation' ? [tie(someone(), 'board member', id)] : []),
    ];
  });
  const homes = await tx.sql.rows<{ id: number; home: number }>(
    'SELECT id, household_id AS home FROM supporter WHERE household_id IS NOT NULL ORDER BY household_id, id',
  );
  homes.forEach(({ id, home }, index) => {
    const next = homes[index + 1];
    if (next?.home === home && homes[index - 1]?.home !== home) ties.push(tie(id, 'spouse', next.id));
    else if (homes[index - 1]?.home === home && homes[index - 2]?.home === home)
      ties.push(tie(homes[index - 2]?.id ?? id, 'parent', id));
  });
  await tx.insertAll(RelationTable, ties);
}

async function putSeasons(tx: Transaction, people: People, chance: Chance): Promise<void> {
  await tx.insertAll(
    AddressTable,
    people.flatMap(({ supporter, id }) =>
      supporter.address === null || !chance.happens(0.02)
        ? []
        : {
            supporter_id: id,
            street: `${chance.whole(1, 400)} Saguaro Loop`,
            city: 'Mesquite Flats',
            region: 'AZ',
            postal: `857${chance.whole(10, 99)}`,
            country: '',
            label: 'winter',
            preferred: 0,
            season_from: '11-15',
            season_to: '04-15',
          },
    ),
  );
}

async function putFields(tx: Transaction, people: People, today: string, chance: Chance): Promise<void> {
  const scopes = ['Binoculars', 'Refractor', 'Reflector', 'None yet'] as const;
  const [scope = 0, nights = 0, visit = 0, host = 0] = await tx.insertAll(
    CustomFieldTable,
    [
      { name: 'Telescope', kind: 'one' as const, choices: JSON.stringify(scopes) },
      { name: 'Volunteer nights', kind: 'number' as const, choices: '[]' },
      { name: 'Last dome visit', kind: 'date' as const, choices: '[]' },
      { name: 'Would host the van', kind: 'yesno' as const, choices: '[]' },
    ].map((field, place) => ({ about: 'supporter' as const, ...field, place })),
  );
  const value = (id: number, field: number, text: string) => ({ supporter_id: id, field_id: field, value: kept(text) });
  await tx.insertAll(
    SupporterFieldTable,
    people.flatMap(({ id }) => [
      ...(chance.happens(0.3) ? [value(id, scope, chance.pick(scopes))] : []),
      ...(chance.happens(0.12) ? [value(id, nights, String(chance.whole(1, 40)))] : []),
      ...(chance.happens(0.2) ? [value(id, visit, addDays(today, -chance.whole(4, 1400)))] : []),
      ...(chance.happens(0.08) ? [value(id, host, chance.happens(0.8) ? '1' : '0')] : []),
    ]),
  );
}

/** Some people's birthdays, a few without the year. */
async function putBirthdays(tx: Transaction, people: People, chance: Chance): Promise<void> {
  const two = (number: number): string => String(number).padStart(2, '0');
  for (const { id } of people) {
    if (!chance.happens(0.15)) continue;
    const year = chance.happens(0.2) ? '-' : String(chance.whole(1938, 2001));
    await tx.update(SupporterTable, id, {
      birthday: `${year}-${two(chance.whole(1, 12))}-${two(chance.whole(1, 28))}`,
    });
  }
}

/** Which companies match the gifts of those who work there. */
async function putMatchers(tx: Transaction, chance: Chance): Promise<void> {
  const field = await tx.insert(CustomFieldTable, {
    ...{ about: 'supporter', name: 'Matches gifts', kind: 'yesno', choices: '[]', place: 4 },
  });
  const employers = await tx.sql.rows<{ id: number }>(
    `SELECT DISTINCT x.supporter_id AS id FROM relation x JOIN relation_kind k ON k.id = x.kind_id AND k.name = 'employer' ORDER BY 1`,
  );
  await tx.insertAll(
    SupporterFieldTable,
    employers.map(({ id }) => ({ supporter_id: id, field_id: field, value: kept(chance.happens(0.4) ? '1' : '0') })),
  );
}

async function putGroups(tx: Transaction, people: People, chance: Chance): Promise<void> {
  const groups = [
    ['Board of trustees', 'Who votes, and who is to be told first', 11],
    ['Dome hosts', 'Open the dome on Fridays', 26],
    ['Supper table captains', 'Meteor Night Supper', 14],
  ] as const;
  for (const [name, about, many] of groups) {
    const group = await tx.insert(GroupTable, { name, about });
    const members = new Set(Array.from({ length: many }, () => chance.pick(people).id));
    await tx.insertAll(
      GroupMemberTable,
      [...members].map((id) => ({ supporter_id: id, group_id: group })),
    );
  }
}

type NoteWords = readonly [kind: Note['kind'], text: string];
const NOTES: readonly [NoteWords, ...NoteWords[]] = [
  ['call', 'Asked how the van is doing after the breakdown. Would like to see the new eyepieces.'],
  ['visit', 'Came to the dome with two grandchildren. Stayed until Saturn set.'],
  ['meeting', 'Talked about a gift for the Second Dome over three years; will speak with the family first.'],
  ['note', 'Prefers letters without a reply envelope.'],
  ['letter', 'Wrote by hand to say thank you for the lamp on Main Street.'],
];
export const paragraph = (text: string): string =>
  JSON.stringify({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] });

async function putNotes(tx: Transaction, people: People, today: string, chance: Chance): Promise<void> {
  await tx.insertAll(
    NoteTable,
    people.flatMap(({ id, supporter }) => {
      if (!chance.happens(supporter.habit === 'major' ? 0.9 : 0.08)) return [];
      return Array.from({ length: supporter.habit === 'major' ? 2 : 1 }, (_, place) => {
        const [kind, text] = chance.pick(NOTES);
        return {
          supporter_id: id,
          kind,
          date: addDays(today, -chance.whole(3, 700)),
          body: paragraph(text),
          pinned: place === 0 && chance.happens(0.3) ? 1 : 0,
          author: chance.pick(['Marisol Brightwater', 'Desmond Kettleworth']),
        };
      });
    }),
  );
}

/** What the demo's users have to do, one of it overdue and one that comes back each month. */
export async function putTasks(services: Services, today: string): Promise<void> {
  const users = await sqlOn(services.source).rows<{ id: number; name: string }>('SELECT id, name FROM user');
  const owner = users.find((user) => user.name === 'Marisol Brightwater');
  if (!owner) return;
  const givers = await sqlOn(services.source).rows<{ id: number }>(
    'SELECT supporter_id AS id FROM gift GROUP BY supporter_id ORDER BY SUM(cents) DESC LIMIT 6',
  );
  const titles = [
    'Call about the Second Dome',
    'Send the van picture',
    'Ask to host a table',
    'Write by hand',
    'Invite to the star walk',
  ];
  await services.changes.write(
    { userId: owner.id, name: owner.name },
    { kind: 'edit', summary: 'Set tasks' },
    async (tx) => {
      const task = (supporter_id: number | null, title: string, due: string, repeats: Repeat = 'never') => ({
        ...{ supporter_id, title, due, repeats },
        owner_id: owner.id,
        repeat_day: Number(due.slice(8)),
        done_on: null,
        done_by: '',
        segment_id: null as number | null,
        act: '' as const,
      });
      const monthEnd = addDays(`${addDays(`${today.slice(0, 7)}-01`, 31).slice(0, 7)}-01`, -1);
      const [birthdays] = await tx.sql.rows<{ id: number }>(
        `SELECT id FROM segment WHERE name = 'Birthday next month, by post'`,
      );
      await tx.insertAll(TaskTable, [
        ...givers
          .slice(0, titles.length)
          .map(({ id }, place) => task(id, titles[place] ?? '', addDays(today, place * 3 - 4))),
        {
          ...task(null, 'Birthday labels for next month', monthEnd, 'monthly'),
          segment_id: birthdays?.id ?? null,
          act: 'labels30',
        },
        task(null, 'Check the deposit against the bank', `${addDays(today, 32).slice(0, 7)}-25`, 'monthly'),
      ]);
    },
  );
}
