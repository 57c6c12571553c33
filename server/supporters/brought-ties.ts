import type { ChangeAct } from '@tallystick/core/intake';
import { fold, sortName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import type { Transaction } from '../platform/transaction.ts';
import { moveHome } from './households.ts';
import { WAYS } from './record.ts';
import { RelationTable } from './relations.ts';
import { SupporterTable } from './supporter.entity.ts';

/* Whom outside data ties people to: spouses, employers, and the homes that they share. */

/** Ties people to their spouses, employers and others whom a row names, who are here or are added. */
export async function bringTies(
  tx: Transaction,
  changes: readonly { supporterId: number; act: Extract<ChangeAct, { do: 'spouse' | 'second' | 'employer' }> }[],
): Promise<void> {
  if (changes.length === 0) return;
  const kinds = await tx.sql.rows<{ id: number; code: string }>(
    `SELECT id, code FROM relation_kind WHERE code IN ('spouse', 'employer')`,
  );
  const kindOf = (code: string): number => kinds.find((kind) => kind.code === code)?.id ?? 0;
  // An employer that several rows name is one record.
  const made = new Map<string, number>();
  // Two rows that name each other say one tie.
  const tied = new Set<string>();
  for (const { supporterId, act } of changes) {
    const name = act.do === 'employer' ? act.name : '';
    const other =
      act.to ??
      made.get(name.toLowerCase()) ??
      (await tx.insert(
        SupporterTable,
        act.do === 'employer'
          ? { kind: 'organization', organization: name, sort_name: sortName({ ...NAMELESS, organization: name }) }
          : {
              ...act.member.name,
              ...{ nickname: act.member.nickname, former_last: act.member.formerLast },
              sort_name: sortName(act.member.name),
            },
      ));
    if (act.do === 'employer') made.set(name.toLowerCase(), other);
    const first = act.do === 'spouse' || (act.do === 'second' && act.first);
    const ends = first ? [supporterId, other] : [other, supporterId];
    const kind = act.do === 'second' ? act.kind : kindOf(act.do);
    const key = [kind, ...[supporterId, other].sort((a, b) => a - b)].join(' ');
    if (act.do !== 'employer' && tied.has(key)) continue;
    tied.add(key);
    await tx.insert(RelationTable, {
      ...{ supporter_id: ends[0] ?? 0, other_id: ends[1] ?? 0, kind_id: kind },
      ...{ role: act.do === 'employer' ? act.title : '', note: '', since: null, until: null },
    });
  }
}

const NAMELESS: NameParts = {
  ...{ kind: 'organization', prefix: '', first: '', middle: '', last: '', suffix: '', organization: '' },
};

/** Makes people members of homes; one that several rows name at one address is one record, which has that address. */
export async function bringHome(
  tx: Transaction,
  changes: readonly { supporterId: number; act: Extract<ChangeAct, { do: 'household' }> }[],
): Promise<void> {
  const made = new Map<string, number>();
  for (const { supporterId, act } of changes) {
    const { name, address } = act;
    const key = fold([name, address?.street ?? '', address?.postal.slice(0, 5) ?? ''].join('|'));
    let home = act.to ?? made.get(key);
    if (home === undefined) {
      const named = { kind: 'household' as const, organization: name };
      home = await tx.insert(SupporterTable, { ...named, sort_name: sortName({ ...NAMELESS, ...named }) });
      if (address) await tx.insertRows(WAYS.address, [{ supporter_id: home, preferred: 1, ...address }]);
      made.set(key, home);
    }
    await moveHome(tx, supporterId, home);
  }
}
