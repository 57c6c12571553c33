import type { Sql } from '../platform/db.ts';
import type { Run } from './log.ts';
import { PortalForgot } from './portal.ts';
import type { CamePage } from './portal.ts';

/* Pages of an outside source, one after the other. */

/** How many pages a rehearsal looks at. */
export const MOST_REHEARSED = 50;

/**
 * A page after a place; null where the source forgot it: then it is read from the beginning, and what came before is
 * known. A page that leads nowhere is an error.
 */
export async function paged<T>(
  sql: Sql,
  { feed }: Pick<Run, 'feed'>,
  what: 'gifts' | 'refunds',
  after: string,
  ask: (after: string) => Promise<CamePage<T>>,
): Promise<CamePage<T> | null> {
  try {
    const page = await ask(after);
    if (page.more && page.next === after)
      throw new Error(`${feed.name} sends the same page of ${what} again and again.`);
    return page;
  } catch (error) {
    if (!(error instanceof PortalForgot)) throw error;
    if (after === '')
      throw new Error(`${feed.name} does not let ${what} be read from the beginning.`, { cause: error });
    await sql.run(`UPDATE feed_place SET ${what} = '' WHERE feed_id = ? AND ${what} = ?`, [feed.id, after]);
    return null;
  }
}

/** All pages after a place, and whether there are more than are looked at. */
export async function allPages<T>(
  run: Run,
  what: 'gifts' | 'refunds',
  from: string,
  ask: (after: string) => Promise<CamePage<T>>,
): Promise<{ items: T[]; more: boolean }> {
  const items: T[] = [];
  let after = from;
  for (let pages = 0; pages < MOST_REHEARSED; pages++) {
    await run.alive(`Asking for ${what}`);
    const page = await ask(after).catch((error: unknown) => {
      if (error instanceof PortalForgot && after !== '') return null;
      throw error;
    });
    if (page) items.push(...page.items);
    if (page && !page.more) return { items, more: false };
    after = page?.next ?? '';
  }
  return { items, more: true };
}
