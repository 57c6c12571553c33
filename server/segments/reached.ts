import type { Goes, Reached } from '@tallystick/core/segments';

/** How one of a table is addressed and reached: its cells, and why a file leaves it out; null where it does not. */
export interface ReachedOne {
  name: string;
  held: string | null;
  cells: Readonly<Record<Reached, string>>;
}

/**
 * How each of the ids is addressed and reached for what a table is for; with `homes`, everybody who shares a home with
 * one of them as that home. Ids of nobody are left out.
 */
export type Reacher = (ids: readonly number[], goes: Goes, homes: boolean) => Promise<Map<number, ReachedOne>>;
