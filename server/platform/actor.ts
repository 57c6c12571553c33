import type { Role } from '@tallystick/contract/endpoint';

/** Who writes: a user, a program with a token, a job on a user's behalf, or the public. */
export interface Actor {
  userId: number | null;
  name: string;
  /** The role of whoever asked; the house's own work and the command line have none and may all. */
  role?: Role;
  /** The least role that may do what is being done, and so may undo it; an officer's where it is not said. */
  least?: Role | undefined;
}
