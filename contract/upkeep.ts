import { FINDING_NAMES } from '@tallystick/core/upkeep';
import { z } from 'zod';
import { Id, IsoDateText, pageOf, Paging, tableOf, Written } from './common.ts';
import { endpoint } from './endpoint.ts';

const area = 'upkeep';

export const FindingName = z.enum(FINDING_NAMES);
const FindingParams = z.object({ finding: FindingName });

/** So many rows of a finding are mended at once. */
export const MOST_MENDED = 100_000;
/** So many records are said to be moved, or to have had their mail come back, at once. */
export const MOST_AT_ONCE = 500;

const Count = z.object({
  finding: FindingName,
  count: z.number(),
  /** How many more are not told of, since a person said so. */
  muted: z.number(),
  /** How many there were on days before, the oldest first, today last. */
  trend: z.array(z.object({ day: z.string(), count: z.number() })),
});
export const listFindings = endpoint({
  id: 'listFindings',
  area,
  method: 'get',
  path: '/upkeep',
  right: 'upkeep.see',
  summary: 'Everything that makes records unclean: how many there are of each finding, now and on days before.',
  response: z.object({ items: z.array(Count), records: z.number(), total: z.number() }),
});

const Found = z.object({
  /** The row that it is of; what is mended is named by it. */
  id: z.number(),
  supporterId: Id,
  number: z.string(),
  name: z.string(),
  was: z.string(),
  becomes: z.string().nullable(),
});
export type Found = z.infer<typeof Found>;
/** What is typed for a remedy that asks for it. */
const Value = z.string().trim().max(60).default('');
export const listFaults = endpoint({
  id: 'listFaults',
  area,
  method: 'get',
  path: '/upkeep/:finding',
  right: 'upkeep.see',
  summary: 'The records of a finding, with what is there and what is proposed in its place.',
  params: FindingParams,
  query: Paging.extend({ muted: z.enum(['no', 'yes']).default('no'), value: Value }),
  response: pageOf(Found).extend({
    /** For how many something is proposed. */
    proposed: z.number(),
    /** What is proposed to be typed where a remedy asks for something; else empty. */
    usual: z.string(),
  }),
});

const TaskSet = z.object({
  title: z.string().trim().min(1, 'Say what is to be done.').max(200),
  due: IsoDateText,
  ownerId: Id.nullable().default(null),
});
export const mendFaults = endpoint({
  id: 'mendFaults',
  area,
  method: 'post',
  path: '/upkeep/:finding/mend',
  right: 'upkeep.change',
  summary:
    'Do what is proposed for some rows of a finding, or for all, as one change set. A row that was changed since is left. Many are mended by a job.',
  params: FindingParams,
  body: z.object({
    /** Null for all of them. */
    rows: z.array(Id).max(MOST_MENDED).nullable(),
    /** Those that are left where all are mended. */
    except: z.array(Id).max(MOST_MENDED).default([]),
    value: Value,
    /** Where the remedy is a task. */
    task: TaskSet.nullable().default(null),
  }),
  response: Written.extend({ mended: z.number().nullable(), left: z.number(), jobId: Id.nullable() }),
});

export const muteFinding = endpoint({
  id: 'muteFinding',
  area,
  method: 'post',
  path: '/upkeep/:finding/mute',
  right: 'upkeep.change',
  summary: 'Say that a finding is right as it is for some records, or tell of it again; can be undone.',
  params: FindingParams,
  body: z.object({ ids: z.array(Id).min(1).max(MOST_MENDED), muted: z.boolean() }),
  response: Written,
});

/** How somebody is addressed before and after. */
const Letter = z.object({ id: Id, name: z.string(), before: z.string(), after: z.string() });
/** What an act does, said before it is done. */
const Said = z.object({
  /** As sentences, with figures. */
  says: z.array(z.string()),
  /** What to think of before, as sentences. */
  doubts: z.array(z.string()),
  letters: z.array(Letter),
});
export type Said = z.infer<typeof Said>;
const Done = Written.extend({ says: z.array(z.string()) });

/** What is decided about something that is still going on. */
export const DEATH_CHOICES = {
  pledge: { keep: 'Stays open: the estate pays', off: 'Write off what is open' },
  recurring: { end: 'Ends', keep: 'Goes on' },
  task: { drop: 'Delete it', survivor: 'Is about who lives on', keep: 'Stays' },
} as const;
export type Going = keyof typeof DEATH_CHOICES;
const Source = z.string().trim().min(1, 'Say who told us.').max(120);
const Words = z.enum(['rules', 'keep']).default('rules');

const DeathBody = z.object({
  id: Id,
  /** The day of death; null where it is not known. */
  on: IsoDateText.nullable(),
  source: Source,
  /** What is decided otherwise than proposed: by `pledge:12`, `recurring:3`, `task:7`. */
  decisions: tableOf(z.enum(['keep', 'off', 'end', 'drop', 'survivor']), 500, 24).default({}),
  /** Whether forms of address that were written by hand for the home and who lives on are kept, or follow the rules. */
  words: Words,
});
const GoingOn = z.object({
  key: z.string(),
  kind: z.enum(Object.keys(DEATH_CHOICES) as [Going, ...Going[]]),
  says: z.string(),
  /** As it is decided or proposed. */
  choice: z.string(),
});
export const planDeath = endpoint({
  id: 'planDeath',
  area,
  method: 'post',
  asks: true,
  path: '/upkeep/died/plan',
  right: 'upkeep.change',
  summary:
    'What noting that somebody died would do, worked out by doing it and taking it back: what is still going on, and how who lives on is addressed.',
  body: DeathBody.extend({ source: z.string().max(120).default('') }),
  response: Said.extend({
    name: z.string(),
    survivor: z.object({ id: Id, name: z.string() }).nullable(),
    going: z.array(GoingOn),
  }),
});
export const noteDeath = endpoint({
  id: 'noteDeath',
  area,
  method: 'post',
  path: '/upkeep/died',
  right: 'upkeep.change',
  summary: 'Note that somebody died, with all that was decided, as one change set; can be undone.',
  body: DeathBody,
  response: Done,
});

const Place = z.object({
  street: z.string().trim().max(200).default(''),
  city: z.string().trim().max(100).default(''),
  region: z.string().trim().max(60).default(''),
  postal: z.string().trim().max(20).default(''),
  country: z.string().trim().max(60).default(''),
});
const NewPlace = Place.refine((place) => place.street !== '' || place.city !== '', {
  path: ['street'],
  message: 'Write a street or a town.',
});

const PartingBody = z.object({
  homeId: Id,
  leaving: z.array(Id).min(1, 'Choose who leaves.').max(30),
  on: IsoDateText,
  /** The name of a home that they are in together from then on; empty where each is alone. */
  together: z.string().trim().max(120).default(''),
  /** Where they live from then on; null where that stays as it is. */
  place: NewPlace.nullable().default(null),
  /** Whether open ties as spouses between who leaves and who stays end that day. */
  endTies: z.boolean().default(true),
  /** Whether who leaves is credited with what the home itself gave. */
  credit: z.enum(['home', 'each']).default('home'),
  words: Words,
});
export const planParting = endpoint({
  id: 'planParting',
  area,
  method: 'post',
  asks: true,
  path: '/upkeep/parting/plan',
  right: 'upkeep.change',
  summary: 'What parting a household would do, worked out by doing it and taking it back.',
  body: PartingBody,
  response: Said,
});
export const partHousehold = endpoint({
  id: 'partHousehold',
  area,
  method: 'post',
  path: '/upkeep/parting',
  right: 'upkeep.change',
  summary: 'Part a household: some leave it, as one change set; can be undone.',
  body: PartingBody,
  response: Done,
});

const JoiningBody = z.object({
  people: z.array(Id).min(1, 'Choose who comes together.').max(30),
  /** The home that they come to; null for a new one. */
  homeId: Id.nullable(),
  /** What a new home is called. */
  name: z.string().trim().max(120).default(''),
  primaryId: Id.nullable().default(null),
  /** Whose address all of them have from then on; null where addresses stay as they are. */
  addressOf: Id.nullable().default(null),
  on: IsoDateText,
  /** Whether the two of them are tied as spouses. */
  spouses: z.boolean().default(false),
  words: Words,
});
export const planJoining = endpoint({
  id: 'planJoining',
  area,
  method: 'post',
  asks: true,
  path: '/upkeep/joining/plan',
  right: 'upkeep.change',
  summary: 'What joining people in one household would do, worked out by doing it and taking it back.',
  body: JoiningBody,
  response: Said,
});
export const joinHousehold = endpoint({
  id: 'joinHousehold',
  area,
  method: 'post',
  path: '/upkeep/joining',
  right: 'upkeep.change',
  summary: 'Join people in one household, as one change set; can be undone.',
  body: JoiningBody,
  response: Done,
});

const Returned = z.object({
  /** What was typed or scanned. */
  code: z.string(),
  supporter: z.object({ id: Id, number: z.string(), name: z.string() }).nullable(),
  /** The address that mail goes to; empty where there is none. */
  address: z.string(),
  /** What keeps it from being marked, in a sentence; empty where nothing does. */
  trouble: z.string(),
});
export type Returned = z.infer<typeof Returned>;
export const findReturned = endpoint({
  id: 'findReturned',
  area,
  method: 'post',
  asks: true,
  path: '/upkeep/returned/find',
  right: 'upkeep.see',
  summary: 'Whose pieces of mail came back, by our numbers or numbers elsewhere, and to which address they went.',
  body: z.object({ codes: z.array(z.string().trim().min(1).max(190)).min(1).max(MOST_AT_ONCE) }),
  response: z.object({ items: z.array(Returned) }),
});
export const noteReturned = endpoint({
  id: 'noteReturned',
  area,
  method: 'post',
  path: '/upkeep/returned',
  right: 'upkeep.change',
  summary:
    'Mark the addresses of supporters undeliverable, with tasks to find new ones, as one change set; can be undone.',
  body: z.object({
    ids: z.array(Id).min(1, 'Type or scan whose mail came back.').max(MOST_AT_ONCE),
    on: IsoDateText,
    reason: z.string().trim().min(1, 'Say why it came back.').max(60),
    task: TaskSet.nullable().default(null),
  }),
  response: Done,
});

const MovingBody = z.object({
  id: Id,
  /** Who moves: the supporter, and whom of their home; the home itself has an address too. */
  ids: z.array(Id).min(1, 'Choose who moves.').max(MOST_AT_ONCE),
  place: NewPlace,
  label: z.string().trim().min(1).max(40).default('home'),
  from: IsoDateText,
});
export const lookAtHome = endpoint({
  id: 'lookAtHome',
  area,
  method: 'get',
  path: '/upkeep/home/:id',
  right: 'upkeep.see',
  summary: 'Who shares a home with a supporter, where each of them lives, and what the home itself gave.',
  params: z.object({ id: Id }),
  response: z.object({
    /** The household; null where they are in none. */
    home: z.object({ id: Id, name: z.string(), gifts: z.number(), cents: z.number() }).nullable(),
    /** The household, if any, and everyone in it; else the supporter alone. */
    people: z.array(
      z.object({
        id: Id,
        number: z.string(),
        name: z.string(),
        kind: z.string(),
        deceased: z.boolean(),
        primary: z.boolean(),
        address: z.string(),
        /** Whether it is the address of the supporter that was asked about. */
        same: z.boolean(),
      }),
    ),
  }),
});
export const planMove = endpoint({
  id: 'planMove',
  area,
  method: 'post',
  asks: true,
  path: '/upkeep/moved/plan',
  right: 'upkeep.change',
  summary: 'What noting a new address would do, worked out by doing it and taking it back.',
  body: MovingBody,
  response: Said,
});
export const noteMove = endpoint({
  id: 'noteMove',
  area,
  method: 'post',
  path: '/upkeep/moved',
  right: 'upkeep.change',
  summary: 'Note a new address from a day on; the old one ends the day before. One change set; can be undone.',
  body: MovingBody,
  response: Done,
});
