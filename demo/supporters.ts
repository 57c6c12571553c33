import type { NameParts } from '@tallystick/core/names';
import { fold } from '@tallystick/core/names';
import { BUSINESSES, FIRST, LAST, NICKNAMES, STREETS, TAGS, TOWNS } from './words.ts';
import type { Chance } from './random.ts';

export interface DemoSupporter {
  name: NameParts;
  nickname: string;
  email: string | null;
  emailBounced: boolean;
  phone: string | null;
  address: { street: string; city: string; region: string; postal: string } | null;
  tags: string[];
  noEmail: boolean;
  /** Null for the living. */
  diedDaysAgo: number | null;
  /** How they give, which decides their gifts. */
  habit: 'never' | 'once' | 'sometimes' | 'yearly' | 'twice' | 'monthly' | 'major' | 'business' | 'foundation';
}

/** Which one is being made, and where its telephone number comes from. */
interface Making {
  index: number;
  phones: PhoneBook;
}

const person = (first: string, last: string): NameParts => ({
  kind: 'person',
  prefix: '',
  first,
  middle: '',
  last,
  suffix: '',
  organization: '',
});
const named = (kind: 'household' | 'organization', organization: string): NameParts => ({
  kind,
  prefix: '',
  first: '',
  middle: '',
  last: '',
  suffix: '',
  organization,
});

function emailFor(name: NameParts, index: number, chance: Chance): string {
  const base = fold(name.kind === 'person' ? `${name.first}.${name.last}` : name.organization).replace(/[^a-z.]+/g, '');
  const domain = chance.weighted([
    ['example.org', 40],
    ['example.com', 35],
    ['example.net', 22],
    ['bounce.example.net', 2],
    ['gone.example.org', 1],
  ]);
  return `${base.slice(0, 40)}${index}@${domain}`;
}

function addressFor(chance: Chance) {
  const [city, region, zip] = chance.weighted(TOWNS);
  return {
    street: `${chance.whole(1, 980)} ${chance.pick(STREETS)}`,
    city,
    region,
    postal: `${zip}${String(chance.whole(1, 99)).padStart(2, '0')}`,
  };
}

/** Area codes of the basin and around it; with the hundred numbers that are nobody's, each number is one record's. */
const AREAS = ['775', '702', '725', '530', '916', '415', '435', '928', '541', '208'] as const;

/** Hands out telephone numbers, each once as long as there are any. */
class PhoneBook {
  private given = 0;

  next(): string {
    const area = AREAS[this.given % AREAS.length] ?? AREAS[0];
    const last = (Math.floor(this.given++ / AREAS.length) * 37) % 100;
    return `(${area}) 555-01${String(last).padStart(2, '0')}`;
  }
}

function details(name: NameParts, { index, phones }: Making, chance: Chance): Omit<DemoSupporter, 'name' | 'habit'> {
  const email = chance.happens(0.74) ? emailFor(name, index, chance) : null;
  return {
    nickname: '',
    email,
    emailBounced: email !== null && chance.happens(0.015),
    phone: chance.happens(0.3) ? phones.next() : null,
    address: chance.happens(0.93) ? addressFor(chance) : null,
    tags: TAGS.filter(() => chance.happens(0.07)),
    noEmail: chance.happens(0.04),
    diedDaysAgo: name.kind === 'person' && chance.happens(0.012) ? chance.whole(32, 912) : null,
  };
}

function onePerson(making: Making, chance: Chance): DemoSupporter {
  const name = person(chance.pick(FIRST), chance.pick(LAST));
  if (chance.happens(0.06)) name.prefix = chance.pick(['Dr.', 'Rev.', 'Prof.', 'Dr.', 'Mx.']);
  if (chance.happens(0.1)) name.middle = `${chance.pick(FIRST)[0] ?? 'A'}.`;
  if (chance.happens(0.02)) name.suffix = chance.pick(['Jr.', 'III', 'Ph.D.']);
  if (chance.happens(0.02)) {
    name.first = name.first.toUpperCase();
    name.last = name.last.toUpperCase();
  }
  const nickname = making.index % 15 === 0 ? (NICKNAMES[name.first] ?? '') : '';
  const habit = chance.weighted<DemoSupporter['habit']>([
    ['never', 10],
    ['once', 20],
    ['sometimes', 26],
    ['yearly', 24],
    ['twice', 7.5],
    ['monthly', 6.1],
    ['major', 1.7],
  ]);
  return { name, ...details(name, making, chance), nickname, habit };
}

/** Copies of records with the ways in which real ones come to be double: a slip, a nickname, a move, a shared e-mail. */
function twin(of: DemoSupporter, index: number, chance: Chance): DemoSupporter {
  const name = { ...of.name };
  const copy: DemoSupporter = { ...of, name, tags: [], habit: 'once' };
  switch (
    chance.weighted([
      ['slip', 3],
      ['nickname', 3],
      ['moved', 2],
      ['shared', 2],
      ['capitals', 2],
    ])
  ) {
    case 'slip':
      name.last = name.last.replace(/(.)(.)$/, '$2$1');
      copy.email = null;
      break;
    case 'nickname':
      name.first = NICKNAMES[name.first] ?? `${name.first.slice(0, 3)}`;
      copy.email = emailFor(name, index, chance);
      break;
    case 'moved':
      copy.address = addressFor(chance);
      copy.phone = null;
      break;
    case 'shared':
      name.first = chance.pick(FIRST);
      break;
    case 'capitals':
      name.first = name.first.toUpperCase();
      name.last = name.last.toUpperCase();
      copy.email = null;
  }
  return copy;
}

/** The donor-advised fund sponsor, whose gifts credit those who advise them. */
export const FUND_SPONSOR = 'Basin Givers Trust';

/** `many` supporters, the same for the same chance: people, households, organizations, and some of them double. */
export function makeSupporters(many: number, chance: Chance): DemoSupporter[] {
  const made: DemoSupporter[] = [];
  const phones = new PhoneBook();
  for (let index = 0; index < many; index++) {
    const making: Making = { index, phones };
    if (index === 30) {
      const name = named('organization', FUND_SPONSOR);
      made.push({ name, ...details(name, making, chance), diedDaysAgo: null, habit: 'never' });
      continue;
    }
    const roll = chance.next();
    const earlier = made[chance.whole(0, Math.max(0, made.length - 1))];
    if (roll < 0.03 && earlier?.name.kind === 'person') made.push(twin(earlier, index, chance));
    else if (roll < 0.11) {
      const name = named('household', `The ${chance.pick(LAST)} Family`);
      made.push({
        name,
        ...details(name, making, chance),
        habit: chance.weighted([
          ['yearly', 3],
          ['sometimes', 4],
          ['once', 2],
          ['never', 1],
        ]),
      });
    } else if (roll < 0.17) {
      const name = named('organization', `${chance.pick(LAST)} ${chance.pick(BUSINESSES)}`);
      made.push({
        name,
        ...details(name, making, chance),
        diedDaysAgo: null,
        habit: chance.weighted([
          ['business', 3],
          ['once', 2],
          ['never', 2],
        ]),
      });
    } else if (roll < 0.185) {
      const name = named('organization', `${chance.pick(LAST)} Foundation`);
      made.push({ name, ...details(name, making, chance), diedDaysAgo: null, habit: 'foundation' });
    } else made.push(onePerson(making, chance));
  }
  return made;
}
