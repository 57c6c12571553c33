import { addDays } from '@tallystick/core/dates';
import { displayName } from '@tallystick/core/names';
import { pledgeNumber } from '@tallystick/core/pledges';
import { recurringNumber } from '@tallystick/core/recurring';
import { FREQUENCIES } from '@tallystick/core/schedule';
import { counted, inAList } from '@tallystick/core/words';
import type { z } from 'zod';
import { DEATH_CHOICES } from '@tallystick/contract/upkeep';
import type * as contract from '@tallystick/contract/upkeep';
import { givenBy } from '../gifts/index.ts';
import { waitingTo } from '../outreach/index.ts';
import type { Actor } from '../platform/changes.ts';
import type { Transaction } from '../platform/transaction.ts';
import { pledgesOf, writeOffAll } from '../pledges/index.ts';
import { endRecurring, recurringOf } from '../recurring/index.ts';
import {
  contactOf,
  livingIn,
  noteDeceased,
  openTasksOf,
  spousesOf,
  SupporterTable,
  TaskTable,
  refused,
} from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';
import type { Doing } from './planned.ts';
import { refuseFuture } from './telling.ts';
import type { Telling } from './telling.ts';

type Asked = z.output<typeof contract.noteDeath.body>;
export type Plan = z.infer<typeof contract.planDeath.response>;
type GoingOn = Plan['going'][number];

/** Somebody died: all that follows from it. */
export async function died(telling: Telling, asked: Asked, actor: Actor): Promise<Doing<Plan>> {
  const { tx, today, says, doubts } = telling;
  refuseFuture('on', asked.on, today);
  const [person] = await telling.people([asked.id], 'id');
  if (!person) throw refused('id', 'There is no such person.');
  const name = displayName(person);
  const home = await homeOf(tx, person);
  const around = [...(home.row ? [home.row.id] : []), ...home.living.map(({ id }) => id)];
  await telling.addressedBefore([person.id, ...around]);
  await wish(telling, actor, person, asked);
  const spouses = await spousesOf(tx.sql, person.id);
  const survivor =
    home.living.find(({ id }) => spouses.includes(id)) ??
    (home.living.length === 1 ? home.living[0] : undefined) ??
    [...(await tx.lock(SupporterTable, spouses)).values()].find(({ state }) => state === 'active') ??
    null;
  const first = survivor && home.living.includes(survivor) ? survivor : home.living[0];
  if (home.row && first && home.row.primary_id === person.id) {
    await tx.update(SupporterTable, home.row.id, { primary_id: first.id });
    says.push(`${displayName(first)} comes first in ${displayName(home.row)}.`);
  }
  const going = await settle(telling, person, survivor, asked);
  if (asked.words === 'rules') await telling.followRules([...around, ...(survivor ? [survivor.id] : [])]);
  const waiting = (await waitingTo(tx.sql, [person.id])).get(person.id) ?? 0;
  if (waiting > 0)
    says.push(
      `${counted(waiting, 'message')} that ${waiting === 1 ? 'waits is' : 'wait are'} held back when they come up.`,
    );
  const given = (await givenBy(tx.sql, [person.id])).get(person.id);
  says.push(
    given
      ? `What ${name} gave stays: ${counted(given.gifts, 'gift')}, ${telling.money(given.cents)}.`
      : `Nothing that is kept of ${name} is taken away.`,
  );
  const standsFor = await contactOf(tx.sql, person.id);
  if (standsFor.length > 0)
    doubts.push(`${name} is whom letters to ${inAList(standsFor)} go to; find out who stands for them now.`);
  if (given && asked.on !== null && given.lastOn > asked.on)
    doubts.push(
      `A gift is dated ${telling.day(given.lastOn)}, after that day; it may be the estate's, or want refunding.`,
    );
  return {
    ...{ did: `${name} died`, name, says, doubts, going },
    survivor: survivor && { id: survivor.id, name: displayName(survivor) },
    letters: await telling.letters([person.id, ...around]),
  };
}

async function wish(telling: Telling, actor: Actor, person: SupporterRecord, { on, source }: Asked): Promise<void> {
  const { tx, today, says } = telling;
  const known = await noteDeceased(tx, actor, person.id, { today, on, source });
  const when = on === null ? 'on a day that is not known' : `on ${telling.day(on)}`;
  says.push(
    `${displayName(person)} died ${when}${known ? ', as is noted already' : ''}: no mail, e-mail, call or list goes to them any more.`,
  );
}

/** Does with each thing that is still going on what was decided, or else what is proposed. */
async function settle(
  telling: Telling,
  person: SupporterRecord,
  survivor: SupporterRecord | null,
  asked: Pick<Asked, 'on' | 'decisions'>,
): Promise<GoingOn[]> {
  const { tx, today, says } = telling;
  const [pledges, recurring, tasks] = await Promise.all([
    pledgesOf(tx.sql, [person.id]),
    recurringOf(tx.sql, [person.id], today),
    openTasksOf(tx.sql, [person.id]),
  ]);
  const going: GoingOn[] = [];
  const decide = (kind: contract.Going, id: number, words: string, proposed: string): string => {
    const key = `${kind}:${id}`;
    const said: string = asked.decisions[key] ?? proposed;
    const choice = said in DEATH_CHOICES[kind] && (said !== 'survivor' || survivor) ? said : proposed;
    going.push({ key, kind, says: words, choice });
    return choice;
  };
  for (const { id, open, cents, pledged_on: on } of pledges.filter((one) => one.open > 0)) {
    const words = `${pledgeNumber(id)} of ${telling.money(cents)}, pledged ${telling.day(on)}: ${telling.money(open)} is open`;
    if (decide('pledge', id, words, 'keep') === 'keep') continue;
    const off = await writeOffAll(tx, id, { date: today, reason: `${displayName(person)} died` }, today);
    says.push(`${off} of ${pledgeNumber(id)} is written off.`);
  }
  const last = asked.on ?? addDays(today, -1);
  for (const { id, cents, currency, every } of recurring) {
    const words = `${recurringNumber(id)}: ${telling.money(cents, currency)} ${FREQUENCIES[every].word}`;
    if (decide('recurring', id, words, 'end') === 'keep') continue;
    const { givenUp } = await endRecurring(tx, id, last);
    const tries = givenUp > 0 ? ` ${counted(givenUp, 'charge is', 'charges are')} not tried any more.` : '';
    says.push(`${recurringNumber(id)} ends on ${telling.day(last)}; nothing is charged after it.${tries}`);
  }
  const dropped: number[] = [];
  const handed: number[] = [];
  for (const { id, title, due } of tasks) {
    const choice = decide('task', id, `Task “${title}”, due ${telling.day(due)}`, survivor ? 'survivor' : 'drop');
    if (choice === 'drop') dropped.push(id);
    if (choice === 'survivor') handed.push(id);
  }
  await tx.removeAll(TaskTable, dropped);
  if (dropped.length > 0)
    says.push(`${counted(dropped.length, 'task')} ${dropped.length === 1 ? 'is' : 'are'} deleted.`);
  if (survivor && handed.length > 0) {
    await tx.updateAll(TaskTable, handed, { supporter_id: survivor.id });
    says.push(
      `${counted(handed.length, 'task')} ${handed.length === 1 ? 'is' : 'are'} about ${displayName(survivor)} from now on.`,
    );
  }
  return going;
}

/** Ends what is still going on with somebody who died, as it is proposed; their tasks are about nobody else then. */
export async function settleDead(telling: Telling, person: SupporterRecord): Promise<void> {
  await settle(telling, person, null, { on: null, decisions: {} });
}

/** The household of a person with who else is alive in it. */
async function homeOf(
  tx: Transaction,
  person: SupporterRecord,
): Promise<{ row: SupporterRecord | null; living: SupporterRecord[] }> {
  if (person.household_id === null) return { row: null, living: [] };
  const row = (await tx.lock(SupporterTable, [person.household_id])).get(person.household_id);
  if (!row || row.state !== 'active') return { row: null, living: [] };
  return { row, living: (await livingIn(tx, row.id)).filter(({ id }) => id !== person.id) };
}
