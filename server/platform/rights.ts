import { mayDo, mayTouch as mayTouchAs } from '@tallystick/contract/rights';
import type { Right } from '@tallystick/contract/rights';
import type { Role } from '@tallystick/contract/endpoint';
import type { Actor } from './actor.ts';
import { Problem } from './problem.ts';

/** Who may undo what was done by the house itself, by the public, or before it was noted. */
export const LEAST_TO_UNDO: Role = 'officer';

/** Whether somebody has a role, or more; the house itself has every one. */
export const has = ({ role }: Actor, least: Role): boolean => role === undefined || mayDo(role, least);

/** Whether somebody may do a deed to what belongs to a user, or (null) to nobody. */
export const mayTouch = ({ userId, role }: Actor, right: Right, ownerId: number | null): boolean =>
  role === undefined || mayTouchAs({ id: userId, role }, right, ownerId);

/** Refuses (403) a deed to what is somebody else's, where the right is to one's own alone. */
export function requireOwn(actor: Actor, right: Right, ownerId: number | null, what: string): void {
  if (!mayTouch(actor, right, ownerId))
    throw new Problem(403, 'not-yours', `${what} is somebody else’s. Ask them, or a development officer.`);
}
