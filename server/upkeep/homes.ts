import { addressKey, postalLines } from '@tallystick/core/contact';
import { displayName, sortName, supporterParts } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import { creditHome, givenBy } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import {
  deceasedAmong,
  endSpouses,
  homesOf,
  ledTo,
  livingIn,
  lockSupporter,
  moveHome,
  moveTo,
  namesOf,
  NO_WAYS,
  primaryOf,
  SupporterTable,
  tieSpouses,
  waysOf,
} from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';
import { listed, refused, refuseFuture, Telling } from './telling.ts';

type Parting = z.output<typeof contract.partHousehold.body>;
type Joining = z.output<typeof contract.joinHousehold.body>;
type Moving = z.output<typeof contract.noteMove.body>;
type Told = z.infer<typeof contract.planMove.response>;

/** Households part and join, and people move: who lives where from a day on, each as one change set. */
export class Homes {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Who shares a home with somebody, and where each of them lives. */
  async look(asked: number, sql = this.sql): Promise<z.infer<typeof contract.lookAtHome.response>> {
    // The number of who was merged leads to whom they are now.
    const id = (await ledTo(sql, [asked])).get(asked) ?? asked;
    const [{ today }, { country }, homes] = await Promise.all([
      this.settings.calendar(),
      this.settings.organization(),
      homesOf(sql, [id]),
    ]);
    const found = homes.get(id);
    const ids = found ? [found.id, ...found.people] : [id];
    const [names, ways, given, died, primary] = await Promise.all([
      namesOf(sql, ids),
      waysOf(sql, ids, today),
      givenBy(sql, ids),
      deceasedAmong(sql, ids),
      found ? primaryOf(sql, found.id) : null,
    ]);
    const nameOf = new Map(names.map((row) => [row.id, row]));
    if (!nameOf.has(id)) throw notFound(`Supporter ${supporterNumber(id)}`);
    const addressOf = (one: number) => (ways.get(one) ?? NO_WAYS).address;
    const own = addressOf(id);
    const home = found && nameOf.get(found.id);
    return {
      home: home
        ? {
            ...{ id: home.id, name: displayName(home) },
            ...{ gifts: given.get(home.id)?.gifts ?? 0, cents: given.get(home.id)?.cents ?? 0 },
          }
        : null,
      people: ids.flatMap((one) => {
        const name = nameOf.get(one);
        const address = addressOf(one);
        if (!name) return [];
        return [
          {
            ...{ id: one, number: supporterNumber(one), name: displayName(name), kind: name.kind },
            ...{ deceased: died.has(one), primary: primary === one },
            address: address ? postalLines(address, country).join(', ') : '',
            same: one === id || (own !== null && address !== null && addressKey(own) === addressKey(address)),
          },
        ];
      }),
    };
  }

  planMove = (actor: Actor, asked: Moving): Promise<Told> => this.rehearse(actor, (tx) => this.move(tx, asked));
  noteMove = (actor: Actor, asked: Moving) => this.write(actor, (tx) => this.move(tx, asked));
  planParting = (actor: Actor, asked: Parting): Promise<Told> => this.rehearse(actor, (tx) => this.part(tx, asked));
  partHousehold = (actor: Actor, asked: Parting) => this.write(actor, (tx) => this.part(tx, asked));
  planJoining = (actor: Actor, asked: Joining): Promise<Told> => this.rehearse(actor, (tx) => this.join(tx, asked));
  joinHousehold = (actor: Actor, asked: Joining) => this.write(actor, (tx) => this.join(tx, asked));

  private async rehearse(actor: Actor, work: (tx: Transaction) => Promise<Told & { did: string }>): Promise<Told> {
    const reason = { kind: 'edit', summary: 'Looked what follows' } as const;
    const { says, doubts, letters } = await this.changes.rehearse(actor, reason, work);
    return { says, doubts, letters };
  }

  private async write(actor: Actor, work: (tx: Transaction) => Promise<Told & { did: string }>) {
    let summary = '';
    const { revision, result } = await this.changes.write(
      actor,
      { kind: 'edit', summary: () => summary },
      async (tx) => {
        const { says, did } = await work(tx);
        summary = did;
        return { says };
      },
    );
    return { revision, ...result };
  }

  private async move(tx: Transaction, asked: Moving): Promise<Told & { did: string }> {
    const telling = await Telling.begin(tx, this.settings);
    const { says, doubts, today, home } = telling;
    const ids = [...new Set(asked.ids)].sort((a, b) => a - b);
    const rows: SupporterRecord[] = [];
    for (const id of ids) rows.push(await lockSupporter(tx, id, supporterNumber(id)));
    const before = await this.look(asked.id, tx.sql);
    const there: string[] = [];
    const ends = new Map<string, string[]>();
    for (const row of rows) {
      const { ended, same } = await moveTo(tx, row.id, asked.place, {
        from: asked.from,
        today,
        home,
        label: asked.label,
      });
      if (same) there.push(displayName(row));
      const key = ended ? telling.place(ended) : '';
      if (!same) ends.set(key, [...(ends.get(key) ?? []), displayName(row)]);
    }
    for (const [old, names] of ends)
      says.push(
        old === ''
          ? `${listed(names)} had no address until now.`
          : `${old} is used for ${listed(names)} until the day before, and kept as former.`,
      );
    if (ends.size > 0) says.push(`${telling.place(asked.place)} is used from ${telling.day(asked.from)}.`);
    if (there.length > 0) says.push(`${listed(there)} ${there.length > 1 ? 'live' : 'lives'} there already.`);
    const staying = before.people.filter(({ id, same, deceased }) => same && !deceased && !ids.includes(id));
    if (staying.length > 0)
      doubts.push(
        `${listed(staying.map(({ name }) => name))} ${staying.length > 1 ? 'have' : 'has'} the same address, and ${staying.length > 1 ? 'stay' : 'stays'} there.`,
      );
    const first = rows.find(({ id }) => id === asked.id) ?? rows[0];
    const others = rows.length - 1;
    const did = `${first ? displayName(first) : 'Somebody'}${others > 0 ? ` and ${counted(others, 'other')}` : ''} moved`;
    return { says, doubts, letters: [], did };
  }

  private async part(tx: Transaction, asked: Parting): Promise<Told & { did: string }> {
    const telling = await Telling.begin(tx, this.settings);
    const { says, doubts, today } = telling;
    refuseFuture('on', asked.on, today);
    const home = await lockHome(tx, asked.homeId);
    const living = await livingIn(tx, home.id);
    const leaving = await telling.people(asked.leaving, 'leaving');
    const stranger = leaving.find(({ household_id: of }) => of !== home.id);
    if (stranger) throw refused('leaving', `${displayName(stranger)} does not live in ${displayName(home)}.`);
    const going = new Set(leaving.map(({ id }) => id));
    const staying = living.filter(({ id }) => !going.has(id));
    if (staying.length === 0)
      throw refused('leaving', 'Somebody stays. A home that nobody lives in any more is moved to the trash.');
    await telling.addressedBefore([home.id, ...living.map(({ id }) => id)]);
    const before = await this.look(home.id, tx.sql);
    const names = listed(leaving.map(displayName));
    const together = asked.together === '' ? null : await newHome(tx, asked.together);
    for (const { id } of leaving) await moveHome(tx, id, together?.id ?? null);
    says.push(
      `${names} ${leaving.length > 1 ? 'leave' : 'leaves'} ${displayName(home)}; ${listed(staying.map(displayName))} ${staying.length > 1 ? 'stay' : 'stays'}.`,
    );
    if (together)
      says.push(`${names} ${leaving.length > 1 ? 'are' : 'is'} in ${displayName(together)}, a new household.`);
    await this.settleLeavers(telling, asked, [...leaving, ...(together ? [together] : [])], before);
    if (asked.endTies) {
      const ended = await endSpouses(
        tx,
        [...going],
        staying.map(({ id }) => id),
        asked.on,
      );
      if (ended > 0)
        says.push(`${counted(ended, 'tie')} as spouses ${ended === 1 ? 'ends' : 'end'} on ${telling.day(asked.on)}.`);
    }
    await this.tellGiving(telling, asked, home, leaving, staying);
    if (asked.words === 'rules') await telling.followRules([home.id, ...going]);
    if (displayName(home) !== '' && leaving.some(({ first }) => first !== '' && displayName(home).includes(first)))
      doubts.push(`The household is still called ${displayName(home)}.`);
    return {
      ...{ says, doubts, did: `${names} left ${displayName(home)}` },
      letters: await telling.letters([
        home.id,
        ...(together ? [together.id] : []),
        ...going,
        ...staying.map(({ id }) => id),
      ]),
    };
  }

  /** Where those live who leave: at a new address, or as it was, which is told where it is the home's. */
  private async settleLeavers(
    telling: Telling,
    { place, on }: Parting,
    leavers: readonly SupporterRecord[],
    before: Awaited<ReturnType<Homes['look']>>,
  ): Promise<void> {
    const { tx, today, home, says, doubts } = telling;
    if (place) {
      for (const { id } of leavers) await moveTo(tx, id, place, { from: on, today, home, label: 'home' });
      says.push(
        `${telling.place(place)} is used for ${listed(leavers.map(displayName))} from ${telling.day(on)}; what was used is kept as former.`,
      );
      return;
    }
    for (const { id, name, address, same } of before.people) {
      if (!leavers.some((one) => one.id === id)) continue;
      if (address === '') doubts.push(`${name} has no address of their own.`);
      else if (same) doubts.push(`${name} still has the address of the home, ${address}.`);
    }
  }

  /** What becomes of recognition: of what the home gave itself, and of what each gave. */
  private async tellGiving(
    telling: Telling,
    { credit }: Parting,
    home: SupporterRecord,
    leaving: readonly SupporterRecord[],
    staying: readonly SupporterRecord[],
  ): Promise<void> {
    const { tx, says } = telling;
    const given = await givenBy(tx.sql, [home.id, ...leaving.map(({ id }) => id), ...staying.map(({ id }) => id)]);
    const sum = (rows: readonly SupporterRecord[]): number =>
      rows.reduce((all, { id }) => all + (given.get(id)?.cents ?? 0), 0);
    const own = given.get(home.id);
    if (own && credit === 'each') {
      let gifts = 0;
      for (const { id } of leaving) gifts += await creditHome(tx, home.id, id);
      says.push(
        `${listed(leaving.map(displayName))} ${leaving.length > 1 ? 'are' : 'is'} credited with ${counted(gifts, 'gift')} of the home itself, ${telling.money(own.cents)}, as well as the home.`,
      );
    } else if (own)
      says.push(`What the home gave itself stays with it: ${counted(own.gifts, 'gift')}, ${telling.money(own.cents)}.`);
    const [left, all] = [sum(leaving), sum([home, ...leaving, ...staying])];
    says.push(
      `What ${listed(leaving.map(displayName))} gave, ${telling.money(left)}, goes along: the home comes to ${telling.money(all - left)}, of ${telling.money(all)} before.`,
    );
  }

  private async join(tx: Transaction, asked: Joining): Promise<Told & { did: string }> {
    const telling = await Telling.begin(tx, this.settings);
    const { says, doubts, today, home: country } = telling;
    refuseFuture('on', asked.on, today);
    const people = await telling.people(asked.people, 'people');
    const old = await Promise.all(
      [...new Set(people.flatMap(({ household_id: of }) => of ?? []))]
        .filter((id) => id !== asked.homeId)
        .map((id) => lockHome(tx, id).catch(() => null)),
    );
    if (asked.homeId === null && asked.name === '') throw refused('name', 'A new household has a name.');
    if (asked.homeId === null && people.length < 2) throw refused('people', 'Two people at least share a home.');
    const had = asked.homeId === null ? null : await lockHome(tx, asked.homeId);
    const lived = had ? await livingIn(tx, had.id) : [];
    await telling.addressedBefore([...(had ? [had.id] : []), ...[...people, ...lived].map(({ id }) => id)]);
    const from =
      asked.addressOf === null
        ? null
        : ((await waysOf(tx.sql, [asked.addressOf], today)).get(asked.addressOf)?.address ?? null);
    if (asked.addressOf !== null && from === null)
      throw refused('addressOf', `${supporterNumber(asked.addressOf)} has no address that can be used.`);
    const home = had ?? (await newHome(tx, asked.name));
    for (const { id } of people) await moveHome(tx, id, home.id);
    const all = await livingIn(tx, home.id);
    const primary = all.find(({ id }) => id === asked.primaryId);
    if (primary) await tx.update(SupporterTable, home.id, { primary_id: primary.id });
    says.push(
      `${listed(all.map(displayName))} ${all.length === 1 ? 'is alone in' : 'share'} ${displayName(home)}${had ? '' : ', a new household'}.`,
    );
    const dead = people.filter(({ id }) => !all.some((one) => one.id === id));
    if (dead.length > 0)
      doubts.push(`${listed(dead.map(displayName))} ${dead.length > 1 ? 'are' : 'is'} noted as deceased.`);
    if (from) {
      const moved: string[] = [];
      for (const one of [...all, home])
        if (
          one.id !== asked.addressOf &&
          !(await moveTo(tx, one.id, from, { from: asked.on, today, home: country, label: 'home' })).same
        )
          moved.push(displayName(one));
      if (moved.length > 0)
        says.push(
          `${telling.place(from)} is used for ${listed(moved)} from ${telling.day(asked.on)}; what was used is kept as former.`,
        );
    }
    const [one, other] = all;
    if (asked.spouses) {
      if (all.length !== 2 || !one || !other) throw refused('spouses', 'Two people are tied as spouses, and no more.');
      if (await tieSpouses(tx, one.id, other.id, null))
        says.push(`${displayName(one)} and ${displayName(other)} are tied as spouses.`);
    }
    for (const left of old) {
      if (!left) continue;
      const still = await livingIn(tx, left.id);
      if (still.length > 0)
        says.push(`${listed(still.map(displayName))} ${still.length > 1 ? 'stay' : 'stays'} in ${displayName(left)}.`);
      else
        doubts.push(
          `Nobody lives in ${displayName(left)} any more; merge it with ${displayName(home)}, or move it to the trash.`,
        );
    }
    const given = await givenBy(tx.sql, [home.id, ...all.map(({ id }) => id)]);
    const sum = [...given.values()].reduce((total, { cents }) => total + cents, 0);
    says.push(`Together they gave ${telling.money(sum)}.`);
    if (asked.words === 'rules') await telling.followRules([home.id, ...all.map(({ id }) => id)]);
    return {
      ...{ says, doubts, did: `${listed(people.map(displayName))} came to ${displayName(home)}` },
      letters: await telling.letters([home.id, ...all.map(({ id }) => id)]),
    };
  }
}

async function lockHome(tx: Transaction, id: number): Promise<SupporterRecord> {
  const row = await lockSupporter(tx, id, supporterNumber(id));
  if (row.kind !== 'household') throw refused('homeId', `${displayName(row)} is not a household.`);
  return row;
}

async function newHome(tx: Transaction, organization: string): Promise<SupporterRecord> {
  const parts = supporterParts({ kind: 'household', organization });
  const id = await tx.insert(SupporterTable, { ...parts, sort_name: sortName(parts) });
  return lockSupporter(tx, id, supporterNumber(id));
}
