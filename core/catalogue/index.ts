export { FIELDS, fieldsWith, SETTABLE, settableIn } from './fields.ts';
export type { OwnField } from './fields.ts';
export { LISTED, LISTED_NAMES, listedAs, listedIn, partIn } from './lists.ts';
export type { Listed, ListedName } from './lists.ts';
export { AREAS } from './types.ts';
export type { Area, Field, Known, Read, Reading, Ref, Settable, Type } from './types.ts';
