import { displayName } from '@tallystick/core/names';
import { counted, inAList } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import { creditHome, givenBy } from '../gifts/index.ts';
import { endSpouses, livingIn, moveHome, moveTo, refused } from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';
import { lockHome, lookAt, newHome } from './homes.ts';
import type { Doing } from './planned.ts';
import { refuseFuture } from './telling.ts';
import type { Telling } from './telling.ts';

type Asked = z.output<typeof contract.partHousehold.body>;

/** A household parts: some leave it, and what that does to addresses, ties, recognition and salutations. */
export async function part(telling: Telling, asked: Asked): Promise<Doing> {
  const { tx, says, doubts, today } = telling;
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
  const before = await lookAt(tx.sql, home.id, telling);
  const names = inAList(leaving.map(displayName));
  const together = asked.together === '' ? null : await newHome(tx, asked.together);
  for (const { id } of leaving) await moveHome(tx, id, together?.id ?? null);
  says.push(
    `${names} ${leaving.length > 1 ? 'leave' : 'leaves'} ${displayName(home)}; ${inAList(staying.map(displayName))} ${staying.length > 1 ? 'stay' : 'stays'}.`,
  );
  if (together)
    says.push(`${names} ${leaving.length > 1 ? 'are' : 'is'} in ${displayName(together)}, a new household.`);
  await settleLeavers(telling, asked, [...leaving, ...(together ? [together] : [])], before);
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
  await tellGiving(telling, asked, home, leaving, staying);
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
async function settleLeavers(
  telling: Telling,
  { place, on }: Asked,
  leavers: readonly SupporterRecord[],
  before: Awaited<ReturnType<typeof lookAt>>,
): Promise<void> {
  const { tx, today, home, says, doubts } = telling;
  if (place) {
    for (const { id } of leavers) await moveTo(tx, id, place, { from: on, today, home, label: 'home' });
    says.push(
      `${telling.place(place)} is used for ${inAList(leavers.map(displayName))} from ${telling.day(on)}; what was used is kept as former.`,
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
async function tellGiving(
  telling: Telling,
  { credit }: Asked,
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
      `${inAList(leaving.map(displayName))} ${leaving.length > 1 ? 'are' : 'is'} credited with ${counted(gifts, 'gift')} of the home itself, ${telling.money(own.cents)}, as well as the home.`,
    );
  } else if (own)
    says.push(`What the home gave itself stays with it: ${counted(own.gifts, 'gift')}, ${telling.money(own.cents)}.`);
  const [left, all] = [sum(leaving), sum([home, ...leaving, ...staying])];
  says.push(
    `What ${inAList(leaving.map(displayName))} gave, ${telling.money(left)}, goes along: the home comes to ${telling.money(all - left)}, of ${telling.money(all)} before.`,
  );
}
