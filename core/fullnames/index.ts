export { readParty } from './kind.ts';
export type { NamedParty } from './kind.ts';
export { firmWords } from './organizations.ts';
export { splitPeople } from './people.ts';
export { splitName } from './split.ts';
export type { ReadName, SplitName } from './split.ts';
