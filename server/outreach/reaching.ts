import type { Goes } from '@tallystick/core/segments';
import { displayName } from '@tallystick/core/names';
import { mayReach } from '@tallystick/core/wishes';
import type { ReachedOne } from '../segments/index.ts';
import type { Sql } from '../platform/db.ts';
import { homesOf } from '../supporters/index.ts';
import type { Settings } from '../settings/index.ts';
import type { Addressee, Addressees } from './addressees.ts';

/** How those in a table are addressed and reached, for what the table is for and on its day. */
export class Reaching {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly addressees: Addressees,
  ) {}

  async of(ids: readonly number[], goes: Goes, homes: boolean): Promise<Map<number, ReachedOne>> {
    const { today } = await this.settings.calendar();
    const on = goes.on ?? today;
    const shared = homes ? await homesOf(this.sql, ids) : new Map<number, { id: number; people: number[] }>();
    const all = new Set([...ids, ...[...shared.values()].flatMap(({ id, people }) => [id, ...people])]);
    const people = new Map((await this.addressees.load([...all], on)).map((one) => [one.id, one]));
    const found = new Map<number, ReachedOne>();
    for (const id of ids) {
      const home = shared.get(id);
      const person = people.get(home?.id ?? id);
      if (!person) continue;
      const members = (home?.people ?? []).flatMap((one) => people.get(one) ?? []);
      const reached = atHome(person, members);
      const held = heldOf(reached, goes, on) ?? heldByOne(reached, members, goes, on);
      found.set(id, { name: displayName(person.name), held, cells: cellsOf(reached, held) });
    }
    return found;
  }
}

/** A home is reached by its own ways, and where it has none of a kind by those of the first who lives there; anybody else by theirs. */
function atHome(home: Addressee, members: readonly Addressee[]): Addressee {
  const own = (channel: 'email' | 'mail' | 'call') =>
    [home, ...members].map(({ reach }) => reach[channel]).find((reach) => reach && !reach.bad) ?? home.reach[channel];
  const placed = [home, ...members].find(({ address }) => address !== null) ?? home;
  return {
    ...home,
    reach: { email: own('email'), mail: own('mail'), call: own('call') },
    ...{ address: placed.address, addressLines: placed.addressLines },
  };
}

function heldOf(person: Addressee, { for: by, purpose }: Goes, on: string): string | null {
  if (by === 'office') return null;
  const reach = mayReach(person, purpose, on, by);
  return 'held' in reach ? reach.held : null;
}

/** What goes to a home goes to everyone alive in it: what one of them does not want holds it back. */
function heldByOne(home: Addressee, members: readonly Addressee[], goes: Goes, on: string): string | null {
  for (const member of members) {
    if (member.wishes.includes('deceased')) continue;
    const held = heldOf({ ...member, reach: home.reach }, goes, on);
    if (held !== null) return `${displayName(member.name)} ${held}`;
  }
  return null;
}

function cellsOf({ addressing, address, addressLines, reach }: Addressee, held: string | null): ReachedOne['cells'] {
  const usable = (by: 'email' | 'call'): string => (reach[by] && !reach[by].bad ? reach[by].address : '');
  const { street = '', city = '', region = '', postal = '', country = '' } = address ?? {};
  return {
    ...addressing,
    post: addressLines.join(', '),
    ...{ street: street.replace(/\s*\n\s*/g, ', '), town: city, region, postal, country },
    ...{ email: usable('email'), phone: usable('call'), held: held ?? '' },
  };
}
