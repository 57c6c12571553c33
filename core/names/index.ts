export * from './addressing.ts';
export { mentions, without, type Mentioned } from './mentions.ts';
export { displayName, sortName, supporterParts } from './parts.ts';
export type { NameParts } from './parts.ts';
export { forgiven, otherNames, slips, sounds } from './similar.ts';
export { looksLikeOrganization, properCase, splitName, splitPeople } from './split.ts';
export type { SplitName } from './split.ts';
export { digitsOf, emailRemark, fold, normalEmail, ODD_SIGN, oneLine, wordsOf } from './text.ts';
