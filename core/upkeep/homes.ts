import { addressKey } from '../contact/index.ts';
import { displayName } from '../names/index.ts';
import type { Fault } from './findings.ts';
import { columnsOf, inWords, standingAddress } from './records.ts';
import type { KeptAddress, Looked, When } from './records.ts';

/** A household with who lives there, and the pairs among them that are tied. */
export interface LookedHome {
  home: Looked;
  primaryId: number | null;
  members: readonly Looked[];
  tied: readonly (readonly [number, number])[];
}

/** Who is so many years younger is rather a child than a spouse. */
const GENERATION = 16;
const GROWN_UP = 18;

/** What is unclean about a home and those in it, beside what is about each of them. */
export function homeFaults(of: LookedHome, when: When): Fault[] {
  const living = of.members.filter(({ deceased }) => !deceased);
  return [...couple(of, living, when), ...addresses(of, living, when)];
}

function couple({ home, tied }: LookedHome, living: readonly Looked[], { today }: When): Fault[] {
  const [one, other] = living;
  if (living.length !== 2 || !one || !other || tied.length > 0) return [];
  const years = [one, other].map(({ birthday }) => (/^\d{4}/.test(birthday) ? Number(birthday.slice(0, 4)) : null));
  const known = years.filter((year) => year !== null);
  const [first, second] = known;
  if (known.some((year) => Number(today.slice(0, 4)) - year < GROWN_UP)) return [];
  if (first !== undefined && second !== undefined && Math.abs(first - second) >= GENERATION) return [];
  // A parent and child of one name.
  if ([one, other].some(({ suffix }) => /^(jr|sr|ii|iii|iv)\b/i.test(suffix))) return [];
  return [
    {
      ...{ finding: 'couple', supporterId: home.id, table: 'supporter', row: home.id },
      ...{ was: `${displayName(one)} and ${displayName(other)}`, becomes: 'spouses' },
      ...{ from: { one: one.id, other: other.id }, to: { one: one.id, other: other.id } },
    },
  ];
}

/** The address of a home: its own, else that of who stands first in it, else what most have. */
export function homeAddress({ home, primaryId, members }: LookedHome, when: When): KeptAddress | null {
  const own = standingAddress(home, when);
  if (own) return own;
  const inOrder = [...members].sort((a, b) => Number(b.id === primaryId) - Number(a.id === primaryId));
  for (const member of inOrder) {
    const address = member.deceased ? null : standingAddress(member, when);
    if (address) return address;
  }
  return null;
}

function addresses(of: LookedHome, living: readonly Looked[], when: When): Fault[] {
  const best = homeAddress(of, when);
  if (!best) return [];
  return living.flatMap((member): Fault[] => {
    const own = standingAddress(member, when);
    if (!own || addressKey(own) === addressKey(best)) return [];
    return [
      {
        ...{ finding: 'home-address', supporterId: member.id, table: 'address', row: own.id },
        ...{ was: inWords(own), becomes: inWords(best), from: columnsOf(own), to: columnsOf(best) },
      },
    ];
  });
}
