import { postalLines } from '@tallystick/core/contact';
import { displayName } from '@tallystick/core/names';
import { supporterIdOf, supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { z } from 'zod';
import type * as contract from '@tallystick/contract/upkeep';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Sql } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';
import {
  AddressTable,
  knownAnywhere,
  ledTo,
  namesOf,
  NO_WAYS,
  SupporterTable,
  waysOf,
  refused,
} from '../supporters/index.ts';
import { setTasks } from './mending.ts';
import { refuseFuture } from './telling.ts';

type Asked = z.output<typeof contract.noteReturned.body>;
type Found = z.infer<typeof contract.findReturned.response>['items'][number];

/** Mail came back: whose it was, and that it does not arrive there. */
export class ReturnedMail {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Whose pieces those are, by our numbers, those of merged records too, or by numbers elsewhere. */
  async find(codes: readonly string[]): Promise<Found[]> {
    const { today } = await this.settings.calendar();
    const { country } = await this.settings.organization();
    const ours = codes.flatMap((code) => supporterIdOf(code) ?? []);
    const [led, elsewhere] = await Promise.all([ledTo(this.sql, ours), knownAnywhere(this.sql, codes)]);
    const candidates = (code: string): number[] => {
      const id = supporterIdOf(code);
      const called = elsewhere.filter((one) => one.called.toLowerCase() === code.toLowerCase()).map((one) => one.id);
      return [...(id === null ? [] : [led.get(id) ?? id]), ...called];
    };
    const ids = [...new Set(codes.flatMap(candidates))];
    const [names, ways] = await Promise.all([namesOf(this.sql, ids), waysOf(this.sql, ids, today)]);
    const rows = new Map(names.map((row) => [row.id, row]));
    return codes.map((code) => {
      const found = [...new Set(candidates(code))].flatMap((id) => rows.get(id) ?? []);
      const [row, other] = found.filter(({ state }) => state === 'active' || state === 'trash');
      if (!row) return { code, supporter: null, address: '', trouble: 'Nobody has this number.' };
      const supporter = { id: row.id, number: supporterNumber(row.id), name: displayName(row) };
      const { address, lost } = ways.get(row.id) ?? NO_WAYS;
      const used = address ?? lost.address;
      const trouble = other
        ? `${displayName(row)} and ${displayName(other)} have this number; type ${supporterNumber(row.id)} or ${supporterNumber(other.id)}.`
        : row.state === 'trash'
          ? 'The record is in the trash.'
          : address
            ? ''
            : used
              ? 'The address is marked already.'
              : 'There is no address to mark.';
      return {
        code,
        supporter: other ? null : supporter,
        address: used ? postalLines(used, country).join(', ') : '',
        trouble,
      };
    });
  }

  /** Marks the addresses that are used, and sets tasks to find new ones. */
  async note(actor: Actor, { ids, on, reason, task }: Asked) {
    const { today } = await this.settings.calendar();
    refuseFuture('on', on, today);
    const words = { marked: 0 };
    const summary = (): string => `Mail came back from ${counted(words.marked, 'address', 'addresses')}: ${reason}`;
    const { revision, result } = await this.changes.write(actor, { kind: 'bulk', summary }, async (tx) => {
      const there = [
        ...(
          await tx.lock(
            SupporterTable,
            [...new Set(ids)].sort((a, b) => a - b),
          )
        ).values(),
      ].filter(({ state }) => state === 'active');
      if (there.length === 0) throw refused('ids', 'None of these records is there any more.');
      const ways = await waysOf(
        tx.sql,
        there.map(({ id }) => id),
        today,
      );
      const used = [...ways].flatMap(([id, { address }]) =>
        address ? [{ supporterId: id, address: address.id }] : [],
      );
      words.marked = await tx.updateAll(
        AddressTable,
        used.map(({ address }) => address),
        { bad_on: on, bad_reason: reason },
      );
      const others = await waysOf(
        tx.sql,
        used.map(({ supporterId }) => supporterId),
        today,
      );
      const lost = used.filter(({ supporterId }) => !others.get(supporterId)?.address);
      const set = task === null ? 0 : await setTasks(tx, actor, lost, task);
      const says = [`${counted(words.marked, 'address is', 'addresses are')} marked undeliverable.`];
      if (used.length > lost.length)
        says.push(
          `${counted(used.length - lost.length, 'supporter has', 'supporters have')} another address, which is used from now on.`,
        );
      if (task !== null) says.push(`${counted(set, 'task is', 'tasks are')} set: “${task.title}”.`);
      if (there.length > used.length)
        says.push(`${counted(there.length - used.length, 'supporter')} had no address to mark.`);
      return { says };
    });
    return { revision, ...result };
  }
}
