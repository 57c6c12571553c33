import { all, inGroup, tagged } from '@tallystick/core/segments';
import type { Condition } from '@tallystick/core/segments';
import type { ListFilter } from '@tallystick/contract/supporters';
import { PLAIN_LIST } from '../facts/index.ts';
import type { AskedGroup, FactsThread, Questions } from '../facts/index.ts';
import type { FindThread } from '../find/index.ts';
import { notFound } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';

const EVERYONE_FOUND = 1_000_000;

/** The conditions that a filter asks beside what was typed and the kind; null for none. */
export async function conditionsOf(questions: Questions, filter: ListFilter): Promise<AskedGroup | null> {
  const parts: Condition[] = [];
  if (filter.segment !== undefined) parts.push({ kind: 'segment', segment: filter.segment });
  if (filter.tag !== undefined) parts.push(tagged(filter.tag));
  if (filter.group !== undefined) parts.push(inGroup(filter.group));
  if (parts.length === 0) return null;
  const asked = await questions.ready({ match: all(...parts), credit: 'legal' });
  if (filter.segment !== undefined && !asked.setting.segments?.has(filter.segment)) throw notFound('This segment');
  return asked;
}

/** Everyone whom a filter shows, in the order of the list by name, or best first for what was typed. */
export async function everyoneIn(
  filter: ListFilter,
  parts: { facts: FactsThread; questions: Questions; finder: FindThread; settings: Settings },
): Promise<{ ids: number[]; alike: number }> {
  const calendar = await parts.settings.calendar();
  const asked = await conditionsOf(parts.questions, filter);
  const kind = filter.kind ?? null;
  if (filter.q?.trim()) {
    const found = await parts.finder.ask({
      ask: 'find',
      text: filter.q,
      kind: filter.kind,
      from: 0,
      limit: EVERYONE_FOUND,
    });
    if (asked === null) return { ids: found.ids, alike: found.alike };
    const members = new Set(await parts.facts.ask({ ask: 'members', ...asked }));
    return { ids: found.ids.filter((id) => members.has(id)), alike: 0 };
  }
  const { ids } = await parts.facts.ask({
    ...{ ...PLAIN_LIST, kind, setting: { calendar }, ...asked, trashed: filter.trashed === 'yes' },
    formats: await parts.settings.formats(),
  });
  return { ids: [...ids], alike: 0 };
}
