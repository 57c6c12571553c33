import type { RowChange } from '@tallystick/core/changes';
import { counted } from '@tallystick/core/words';

/** What rows of a table are called; of the others nobody asks. */
const CALLED: Readonly<Record<string, readonly [one: string, many?: string]>> = {
  supporter: ['record'],
  gift: ['gift'],
  email: ['e-mail'],
  phone: ['telephone'],
  address: ['address', 'addresses'],
  wish: ['wish', 'wishes'],
  supporter_field: ['own field', 'own fields'],
  supporter_tag: ['tag put on', 'tags put on'],
  tag: ['new tag'],
  group_member: ['member of a group', 'members of groups'],
  people_group: ['new group'],
  relation: ['tie'],
  note: ['note'],
};

/** What an intake wrote, in words: how many rows of what were added, and how many changed. */
export function written(changes: readonly RowChange[]): string {
  const added = new Map<string, number>();
  const changed = new Map<string, Set<number>>();
  for (const { table, id, before, after } of changes)
    if (before === null) added.set(table, (added.get(table) ?? 0) + 1);
    else if (after !== null) changed.set(table, (changed.get(table) ?? new Set()).add(id));
  const told = (many: ReadonlyMap<string, number>): string =>
    Object.entries(CALLED)
      .flatMap(([table, [one, plural]]) => (many.get(table) ? [counted(many.get(table) ?? 0, one, plural)] : []))
      .join(', ');
  const sizes = new Map([...changed].map(([table, ids]) => [table, ids.size]));
  const parts = [told(added) && `Added: ${told(added)}.`, told(sizes) && `Changed: ${told(sizes)}.`].filter(Boolean);
  return parts.join(' ') || 'Nothing was added or changed.';
}
