import { proposed, staying } from '@tallystick/core/duplicates';
import { displayName } from '@tallystick/core/names';
import { SUPPORTER_KINDS, supporterNumber } from '@tallystick/core/supporters';
import { WISHES } from '@tallystick/core/wishes';
import { counted } from '@tallystick/core/words';
import { NO_GIFTS } from '@tallystick/contract/duplicates';
import type * as contract from '@tallystick/contract/duplicates';
import { givenBy } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { joinFields } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { mergedAway, mergeRows, preferWays, SupporterTable, wishesOf } from '../supporters/index.ts';
import type { SupporterRecord } from '../supporters/index.ts';
import { doubtsOf } from './doubts.ts';
import { COLUMNS, fieldsOf, TYPED, usedWays, WAY_KEYS } from './fields.ts';
import type { Compared, WayKey } from './fields.ts';
import { lockHeld, moveAll } from './move.ts';
import type { Moved } from './move.ts';
import { MOVED_WORDS } from './words.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    merge: true;
  }
}

interface Asked {
  ids: readonly number[];
  /** Which stays; null for the one that is proposed. */
  into: number | null;
  /** Whose value of a field is kept, by the field's key. */
  choices: Readonly<Record<string, number>>;
  /** What is written in place of what any of them has, by the field's key. */
  typed: Readonly<Record<string, string>>;
  /** The versions that were looked at; null where nothing is kept. */
  versions: ReadonlyMap<number, number> | null;
}

/** A field with the side that is kept. */
type Decided = Compared & { from: number; proposed: number; why: string; differs: boolean; typed: string | null };

/** Records that are one made one. */
export class Merges {
  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Compares records and tells what merging them makes, by merging them and taking it back. */
  async compare(actor: Actor, asked: Omit<Asked, 'versions'>): Promise<contract.Comparison> {
    return this.changes.rehearse(actor, { kind: 'merge', summary: 'Compared records' }, (tx) =>
      this.write(tx, { ...asked, versions: null }),
    );
  }

  /** Merges records into one; refuses (409) where one was changed since it was looked at. */
  async merge(
    actor: Actor,
    into: number,
    records: readonly { id: number; version: number }[],
    choices: Asked['choices'],
    typed: Asked['typed'] = {},
  ) {
    const versions = new Map(records.map(({ id, version }) => [id, version]));
    let summary = '';
    const { revision, result } = await this.changes.write(
      actor,
      { kind: 'merge', summary: () => summary },
      async (tx) => {
        const merged = await this.write(tx, { ids: records.map(({ id }) => id), into, choices, typed, versions });
        summary = saidOf(merged);
        return merged.into;
      },
    );
    return { revision, id: result };
  }

  /**
   * Merges records into the one that is proposed, as it is proposed, unless something speaks against it (409, with what
   * that is). By a key it is done once; without one it is only rehearsed. Answers what they gave together, in cents.
   */
  async sure(actor: Actor, ids: readonly number[], key: string | null): Promise<{ given: number }> {
    let summary = '';
    const work = async (tx: Transaction): Promise<{ given: number }> => {
      const merged = await this.write(tx, { ids, into: null, choices: {}, typed: {}, versions: null });
      const [doubt] = merged.doubts;
      if (doubt !== undefined) throw new Problem(409, 'doubtful', doubt);
      summary = saidOf(merged);
      return { given: merged.result.given.cents };
    };
    const reason = { kind: 'merge', summary: () => summary } as const;
    if (key === null) return this.changes.rehearse(actor, reason, work);
    return (await this.changes.write(actor, { ...reason, key: { key, body: ids } }, work)).result;
  }

  /** Merges records, and tells what was compared and what came of it. */
  private async write(tx: Transaction, asked: Asked): Promise<contract.Comparison> {
    const plan = await this.plan(tx, asked);
    const { rows, stays, gone, decided, given, doubts } = plan;
    const into = stays.id;
    const moved = await moveAll(
      tx,
      gone.map(({ id }) => id),
      into,
    );
    await preferWays(tx, into, (key) => {
      const way = plan.ways.get(key) ?? null;
      return way === null ? null : (moved.same.get(`${key}:${way}`) ?? way);
    });
    await joinFields(tx, into, new Map(decided.flatMap(ownOf)));
    const patch = patchOf(decided);
    if (displayName({ ...stays, ...patch }) === '')
      throw new Problem(400, 'invalid', 'The merged record would have no name. Nothing was saved.');
    const merged = await mergeRows(tx, stays, gone, patch);
    const after = (await givenBy(tx.sql, [into])).get(into) ?? NO_GIFTS;
    refuseOtherSum([...given.values()], after);
    const wishes = (await wishesOf(tx.sql, into)).map((wish) => WISHES[wish].word);
    return {
      ...{ into, why: plan.why, kind: stays.kind, doubts, carried: carriedIn(moved), fields: decided.map(fieldShown) },
      records: rows.map((row) => recordShown(row, given.get(row.id) ?? NO_GIFTS)),
      result: { name: displayName(merged), wishes, given: after },
    };
  }

  /** Locks the records with all they have, and decides what each field of the one that stays will be. */
  private async plan(tx: Transaction, { ids, into: asked, choices, typed, versions }: Asked) {
    const rows = await lockAll(tx, ids, versions);
    const { sql } = tx;
    await lockHeld(tx, ids);
    const { today } = await this.settings.calendar();
    const formats = await this.settings.organization();
    const given = await givenBy(sql, ids);
    const fields = await fieldsOf(sql, rows, { today, formats, country: formats.country });
    const best = staying(
      rows.map(({ id }) => ({
        ...{ id, gifts: given.get(id)?.gifts ?? 0 },
        filled: fields.filter(({ sides }) => sides.some((side) => side.id === id && side.value !== '')).length,
      })),
    );
    const into = asked ?? best.id;
    const stays = rows.find(({ id }) => id === into);
    if (!stays) throw new Problem(400, 'invalid', 'The record that stays is not among those that are merged.');
    const strange = Object.keys(typed).find((key) => !fields.some((field) => field.key === key));
    if (strange !== undefined) throw new Problem(400, 'invalid', `None of the records has anything in “${strange}”.`);
    // What differs stands first.
    const decided = fields
      .map((field) => decide(field, choices, typed, into))
      .sort((a, b) => Number(b.differs) - Number(a.differs));
    const used = await usedWays(sql, ids, today);
    return {
      ...{ rows, stays, gone: rows.filter(({ id }) => id !== into), given, decided },
      why: into === best.id ? best.why : '',
      doubts: await doubtsOf(sql, rows),
      ways: new Map(decided.filter(isWay).map(({ key, from }) => [key, used(from, key)])),
    };
  }
}

const recordShown = (row: SupporterRecord, given: contract.Figures): contract.Comparison['records'][number] => ({
  ...{ id: row.id, number: supporterNumber(row.id), name: displayName(row), version: row.version, given },
});

const fieldShown = (field: Decided): contract.Comparison['fields'][number] => {
  const { key, label, differs, from, proposed: best, why, together, sides, typed } = field;
  return {
    ...{ key, label, differs, from, proposed: best, why, together },
    ...(key in TYPED ? { typed } : {}),
    sides: sides.map(({ id, shown }) => ({ id, shown })),
  };
};

/** Locks the records, and refuses those that cannot be merged, each with why. */
async function lockAll(
  tx: Transaction,
  ids: readonly number[],
  versions: Asked['versions'],
): Promise<SupporterRecord[]> {
  if (new Set(ids).size !== ids.length) throw new Problem(400, 'invalid', 'A record is named twice.');
  const locked = await tx.lock(SupporterTable, ids);
  const rows = ids.map((id) => {
    const row = locked.get(id);
    const number = supporterNumber(id);
    if (!row || row.state === 'erased') throw notFound(`Supporter ${number}`);
    if (row.merged_into !== null) throw mergedAway(id, row.merged_into);
    if (row.state === 'trash')
      throw new Problem(409, 'in-trash', `${number} is in the trash; restore the record first. Nothing was saved.`);
    const version = versions?.get(id);
    if (version !== undefined && version !== row.version)
      throw new Problem(
        409,
        'stale',
        `${number} ${displayName(row)} was changed by someone else meanwhile; look at the comparison again. Nothing was saved.`,
        { details: { id } },
      );
    return row;
  });
  const kinds = [...new Set(rows.map(({ kind }) => kind))];
  const [one, other] = kinds;
  if (one && other)
    throw new Problem(
      409,
      'unlike-kinds',
      `${SUPPORTER_KINDS[one].word} and ${SUPPORTER_KINDS[other].word.toLowerCase()} cannot be merged: what belongs to the one has no place at the other. Change the kind of one record first. Nothing was saved.`,
    );
  return rows;
}

/** What history says of a merge. */
function saidOf({ into, records, result }: contract.Comparison): string {
  const gone = records.filter(({ id }) => id !== into).map(({ number, name }) => `${number} ${name}`);
  const some = gone.length > 3 ? [...gone.slice(0, 2), `${gone.length - 2} more`] : gone;
  return `Merged ${some.join(', ')} into ${supporterNumber(into)} ${result.name}`;
}

function decide(field: Compared, choices: Asked['choices'], typed: Asked['typed'], into: number): Decided {
  const { from, why, differs } = proposed(field.sort, field.sides, into);
  const chosen = choices[field.key];
  if (chosen !== undefined && !field.sides.some(({ id }) => id === chosen))
    throw new Problem(400, 'invalid', `The choice for ${field.label} names a record that is not merged.`);
  return {
    ...field,
    from: chosen ?? from,
    proposed: from,
    why: differs ? why : '',
    differs: differs && !field.together,
    typed: readTyped(field, typed[field.key]),
  };
}

/** What is written for a field, held against what the field takes; null where nothing is. */
function readTyped({ key, label }: Compared, text: string | undefined): string | null {
  if (text === undefined) return null;
  const takes = TYPED[key];
  if (takes === undefined) throw new Problem(400, 'invalid', `${label} is chosen from what is there.`);
  const read = takes.safeParse(text);
  if (!read.success) throw new Problem(400, 'invalid', `${label}: ${read.error.issues[0]?.message ?? ''}`);
  return read.data;
}

/** The columns of the record that stays, as they were decided on. */
function patchOf(decided: readonly Decided[]): Record<string, string | number | null> {
  const patch: Record<string, string | number | null> = {};
  for (const { key, sides, from, typed } of decided) {
    if (!(COLUMNS as readonly string[]).includes(key)) continue;
    const value = typed ?? sides.find(({ id }) => id === from)?.value ?? '';
    patch[key] = key === 'household_id' ? Number(value) || null : key === 'addressing' ? value || null : value;
  }
  return patch;
}

const isWay = (field: Decided): field is Decided & { key: WayKey } => (WAY_KEYS as string[]).includes(field.key);

const ownOf = ({ key, sides, from, together }: Decided): [number, { values: string[]; together: boolean }][] => {
  const field = /^own:(\d+)$/.exec(key)?.[1];
  if (field === undefined) return [];
  const values = together ? sides.map(({ value }) => value) : [sides.find(({ id }) => id === from)?.value ?? ''];
  return [[Number(field), { values: values.filter(Boolean), together }]];
};

const carriedIn = ({ rows }: Moved): contract.Comparison['carried'] =>
  [...rows].flatMap(([table, many]) => {
    const words = MOVED_WORDS[table];
    return words === undefined || many === 0 ? [] : [{ says: counted(many, ...words), many }];
  });

/** What the merged record gave is what all gave together, to the cent; else nothing is kept. */
function refuseOtherSum(
  parts: readonly { gifts: number; cents: number }[],
  whole: { gifts: number; cents: number },
): void {
  const sum = (of: 'gifts' | 'cents'): number => parts.reduce((total, part) => total + part[of], 0);
  if (sum('gifts') !== whole.gifts || sum('cents') !== whole.cents)
    throw new Problem(500, 'merge-lost', 'The merged record would not have all gifts. Nothing was saved.');
}
