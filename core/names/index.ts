export * from './addressing.ts';
export { casedTitle, isParticle, needsCase, properCase } from './case.ts';
export { mentions, without, type Mentioned } from './mentions.ts';
export { displayName, sortName, supporterParts } from './parts.ts';
export type { NameParts } from './parts.ts';
export { forgiven, nameGroups, otherNames, slips, sounds } from './similar.ts';
export { digitsOf, emailRemark, fold, normalEmail, ODD_SIGN, oneLine, withArticle, wordsOf } from './text.ts';
export * from './words.ts';
export { emailSlip } from './mailboxes.ts';
