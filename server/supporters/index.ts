import './guards.ts';
export type { Alike } from './alike.ts';
export { supportersArea } from './area.ts';
export { addNotes, addToGroups, bringChanges, knownAnywhere, knownAs, rememberAs } from './brought.ts';
export { KEPT_PARTS, keptRecords, writtenSince } from './held.ts';
export type { KeptPart } from './held.ts';
export type { Brought } from './brought.ts';
export { comparedOf, knownOfMany } from './comparables.ts';
export type { Compared } from './comparables.ts';
export { keepTag, letGoOfTag, tagDifference, tagNamed, tagNames } from './kept-tags.ts';
export { SupporterLists } from './lists.ts';
export { NoteTable } from './notes.ts';
export {
  addTags,
  contactRows,
  lockSupporter,
  mergedAway,
  wishesOf,
  WAYS,
  noteBounce,
  noteDeceased,
  refused,
  requireActive,
  supporterRow,
  syncWishes,
  tagIds,
} from './record.ts';
export { REFUSERS, RefusalTable, refuseMailbox } from './refusals.ts';
export { moveTo } from './moving.ts';
export { contactOf, endSpouses, RelationTable, spousesOf, tieKinds, tiesAmong, tieSpouses } from './relations.ts';
export { Supporters } from './supporters.service.ts';
export { Addressing, outlived, overridesIn } from './addressing.ts';
export { livingIn, mendPrimary, moveHome } from './households.ts';
export { exportFile, withHeld } from './files.ts';
export type { HeldBack } from './files.ts';
export { NO_WAYS, storedOf, waysOf } from './ways.ts';
export type { StoredWays } from './ways.ts';
export {
  DECEASED,
  deceasedAmong,
  primaryOf,
  everyLed,
  homeOf,
  homesOf,
  householdOf,
  ledTo,
  nameColumns,
  namesByEmail,
  namesBySorting,
  namesOf,
  PEOPLE,
  trashedOf,
} from './views.ts';
export type { Named, Trashed } from './views.ts';
export { deleteTagsOnce } from './tags.ts';
export type { Tags } from './tags.ts';
export { openTasksOf, TaskTable } from './tasks.ts';
export {
  AddressTable,
  EmailTable,
  GroupMemberTable,
  GroupTable,
  PhoneTable,
  SupporterTable,
  SupporterTagTable,
  TagTable,
  WishTable,
} from './supporter.entity.ts';
export type { SupporterRecord } from './supporter.entity.ts';
export { mergeRows, preferWays } from './merged.ts';
export type { PartOfRecord, ReadPart, RecordOf } from './parts.ts';
