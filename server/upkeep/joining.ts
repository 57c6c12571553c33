import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { inAList } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import { givenBy } from '../gifts/index.ts';
import { livingIn, moveHome, moveTo, SupporterTable, tieSpouses, waysOf, refused } from '../supporters/index.ts';
import { lockHome, newHome } from './homes.ts';
import type { Doing } from './planned.ts';
import { refuseFuture } from './telling.ts';
import type { Telling } from './telling.ts';

type Asked = z.output<typeof contract.joinHousehold.body>;

/** People share a home from a day on: a new one, or one that is there. */
export async function join(telling: Telling, asked: Asked): Promise<Doing> {
  const { tx, says, doubts, today, home: country } = telling;
  refuseFuture('on', asked.on, today);
  const people = await telling.people(asked.people, 'people');
  const left = people.flatMap(({ household_id: of }) => (of === null || of === asked.homeId ? [] : [of]));
  const old = [...(await tx.lock(SupporterTable, [...new Set(left)])).values()].filter(
    ({ state }) => state === 'active',
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
    `${inAList(all.map(displayName))} ${all.length === 1 ? 'is alone in' : 'share'} ${displayName(home)}${had ? '' : ', a new household'}.`,
  );
  const dead = people.filter(({ id }) => !all.some((one) => one.id === id));
  if (dead.length > 0)
    doubts.push(`${inAList(dead.map(displayName))} ${dead.length > 1 ? 'are' : 'is'} noted as deceased.`);
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
        `${telling.place(from)} is used for ${inAList(moved)} from ${telling.day(asked.on)}; what was used is kept as former.`,
      );
  }
  const [one, other] = all;
  if (asked.spouses) {
    if (all.length !== 2 || !one || !other) throw refused('spouses', 'Two people are tied as spouses, and no more.');
    if (await tieSpouses(tx, one.id, other.id, null))
      says.push(`${displayName(one)} and ${displayName(other)} are tied as spouses.`);
  }
  for (const before of old) {
    const still = await livingIn(tx, before.id);
    if (still.length > 0)
      says.push(`${inAList(still.map(displayName))} ${still.length > 1 ? 'stay' : 'stays'} in ${displayName(before)}.`);
    else
      doubts.push(
        `Nobody lives in ${displayName(before)} any more; merge it with ${displayName(home)}, or move it to the trash.`,
      );
  }
  const given = await givenBy(tx.sql, [home.id, ...all.map(({ id }) => id)]);
  const sum = [...given.values()].reduce((total, { cents }) => total + cents, 0);
  says.push(`Together they gave ${telling.money(sum)}.`);
  if (asked.words === 'rules') await telling.followRules([home.id, ...all.map(({ id }) => id)]);
  return {
    ...{ says, doubts, did: `${inAList(people.map(displayName))} came to ${displayName(home)}` },
    letters: await telling.letters([home.id, ...all.map(({ id }) => id)]),
  };
}
