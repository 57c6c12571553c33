import { all, NOBODY } from '@tallystick/core/segments';
import type { Condition, Group } from '@tallystick/core/segments';
import * as segmentsContract from '@tallystick/contract/segments';
import type { ListFilter } from '@tallystick/contract/supporters';
import type { FactsThread } from '../facts/index.ts';
import type { FindThread } from '../find/index.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import type { Settings } from '../settings/index.ts';

const EVERYONE_FOUND = 1_000_000;

/** The conditions that a filter asks beside what was typed and the kind; null for none. */
export async function conditionsOf(sql: Sql, filter: ListFilter): Promise<Group | null> {
  const parts: (Condition | Group)[] = [];
  if (filter.segment !== undefined) {
    const row = await one<{ conditions: string }>(sql, 'SELECT conditions FROM segment WHERE id = ?', [filter.segment]);
    if (!row) throw notFound('This segment');
    parts.push(stored(segmentsContract.Group, row.conditions, NOBODY) as Group);
  }
  if (filter.tag !== undefined) parts.push({ kind: 'tag', tag: filter.tag });
  if (filter.group !== undefined) parts.push({ kind: 'in-group', group: filter.group });
  return parts.length === 0 ? null : all(...parts);
}

/** Everyone whom a filter shows, in the order of the list by name, or best first for what was typed. */
export async function everyoneIn(
  filter: ListFilter,
  parts: { sql: Sql; facts: FactsThread; finder: FindThread; settings: Settings },
): Promise<{ ids: number[]; alike: number }> {
  const calendar = await parts.settings.calendar();
  const conditions = await conditionsOf(parts.sql, filter);
  const kind = filter.kind ?? null;
  if (filter.q?.trim()) {
    const found = await parts.finder.ask({
      ask: 'find',
      text: filter.q,
      kind: filter.kind,
      from: 0,
      limit: EVERYONE_FOUND,
    });
    if (conditions === null) return { ids: found.ids, alike: found.alike };
    const members = new Set(await parts.facts.ask({ ask: 'members', group: conditions, calendar }));
    return { ids: found.ids.filter((id) => members.has(id)), alike: 0 };
  }
  const { ids } = await parts.facts.ask({
    ask: 'list',
    kind,
    conditions,
    trashed: filter.trashed === 'yes',
    sorts: [{ by: 'name', down: false }],
    groupBy: null,
    after: null,
    limit: null,
    calendar,
  });
  return { ids: [...ids], alike: 0 };
}
