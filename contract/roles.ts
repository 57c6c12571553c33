/** What a person may do; each role may do all that the ones before it may. */
export const ROLES = ['read', 'entry', 'officer', 'admin'] as const;
export type Role = (typeof ROLES)[number];
export const ROLE_NAMES: Record<Role, string> = {
  read: 'Read only',
  entry: 'Gift entry',
  officer: 'Development officer',
  admin: 'Administrator',
};
