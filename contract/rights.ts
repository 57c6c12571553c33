import { ROLES } from './roles.ts';
import type { Role } from './roles.ts';

/** Who may do something with what is their own, and who with anybody's. */
interface Split {
  own: Role;
  any: Role;
}

/**
 * What can be done with a subject. `add` is also whatever is looked up while adding. `money`: what moves or closes
 * money that is recorded. `send`: what goes out to people.
 */
export const DEEDS = ['see', 'add', 'change', 'delete', 'money', 'send'] as const;
export type Deed = (typeof DEEDS)[number];

/** What is someone's own: changing and deleting may ask for more where it is somebody else's. */
const OWN: Split = { own: 'entry', any: 'officer' };

/**
 * The table of rights: the least role for each deed with each subject; a deed that is not named there is nobody's. Every
 * endpoint names its cell and has its role from here, and so has every rule about what is one's own.
 */
export const RIGHTS = {
  // Supporters and what hangs on them
  supporters: { see: 'read', add: 'entry', change: 'officer' },
  duplicates: { see: 'read', change: 'officer' },
  upkeep: { see: 'read', change: 'officer' },
  relations: { see: 'read', add: 'officer', change: 'officer', delete: 'officer' },
  documents: { see: 'read', add: 'officer', delete: 'officer' },
  notes: { see: 'read', add: 'entry', change: OWN, delete: OWN },
  tasks: { see: 'read', add: 'entry', change: OWN, delete: OWN },
  groups: { add: 'officer', change: 'officer', delete: 'officer' },
  tags: { change: 'officer', delete: 'officer' },
  trash: { see: 'read', delete: 'admin' },
  // Money
  gifts: { see: 'read', add: 'entry', change: 'entry', money: 'officer' },
  pledges: { see: 'read', add: 'entry', change: 'entry', money: 'officer' },
  recurring: { see: 'read', add: 'entry', change: 'entry', money: 'officer' },
  sheets: { see: 'read', add: 'entry', change: OWN, delete: OWN, money: OWN },
  layouts: { see: 'read', change: 'entry', delete: 'officer' },
  batches: { see: 'read', money: 'entry' },
  deposits: { see: 'read', money: 'officer' },
  ledger: { see: 'read', money: 'admin', send: 'officer' },
  accounts: { see: 'read', change: 'admin' },
  // Asking, bringing in, reaching out
  segments: { see: 'read', add: 'officer', change: 'officer', delete: 'officer' },
  intakes: { see: 'read', add: 'officer', change: 'officer', delete: 'officer', money: 'officer' },
  mailings: { see: 'read', add: 'officer', change: 'officer', delete: 'officer', send: 'officer' },
  letters: { see: 'read', add: 'officer', change: 'officer', delete: 'officer' },
  receipts: { see: 'read', money: 'officer', send: 'officer' },
  // The office
  changes: { see: 'read', change: OWN },
  jobs: { see: 'read', change: OWN },
  views: { see: 'read', add: 'entry', change: OWN, delete: OWN },
  giftCodes: { see: 'read', add: 'officer', change: 'officer', delete: 'officer' },
  relationKinds: { see: 'read', add: 'officer', delete: 'admin' },
  fields: { see: 'read', add: 'admin', change: 'admin', delete: 'admin' },
  addressing: { see: 'read', change: 'admin' },
  organization: { see: 'read', change: 'admin', send: 'admin' },
  self: { see: 'read', change: 'read' },
  users: { see: 'admin', add: 'admin', change: 'admin' },
  tokens: { see: 'admin', add: 'admin', delete: 'admin' },
} as const satisfies Record<string, Partial<Record<Deed, Role | Split>>>;

export type Subject = keyof typeof RIGHTS;
/** A cell of the table, as `notes.change`. */
export type Right = { [S in Subject]: `${S}.${keyof (typeof RIGHTS)[S] & Deed}` }[Subject];

function cellOf(right: Right): Role | Split {
  const [subject = '', deed = ''] = right.split('.');
  return (RIGHTS as Record<string, Record<string, Role | Split>>)[subject]?.[deed] as Role | Split;
}

/** The least role that may at all, with what is its own. */
export function leastFor(right: Right): Role {
  const cell = cellOf(right);
  return typeof cell === 'string' ? cell : cell.own;
}

/** The least role that may with anybody's. */
export function leastForAny(right: Right): Role {
  const cell = cellOf(right);
  return typeof cell === 'string' ? cell : cell.any;
}

/** Whether a role may all that another may. */
export const mayDo = (role: Role, least: Role): boolean => ROLES.indexOf(role) >= ROLES.indexOf(least);

/** Whether somebody may do a deed to what belongs to a user, or (null) to nobody. */
export const mayTouch = (who: { id: number | null; role: Role }, right: Right, ownerId: number | null): boolean =>
  mayDo(who.role, ownerId !== null && ownerId === who.id ? leastFor(right) : leastForAny(right));
