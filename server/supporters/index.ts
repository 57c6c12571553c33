export { Acts } from './acts.ts';
export { Documents, serveDocuments } from './documents.ts';
export { SupporterLists } from './lists.ts';
export { Notes, NoteTable, serveNotes } from './notes.ts';
export { Notice } from './notice.ts';
export { contactRows, requireActive, supporterRow, syncWishes, tagIds } from './record.ts';
export { Relations, RelationTable, serveRelations } from './relations.ts';
export { Supporters } from './supporters.service.ts';
export { serveSupporters } from './supporters.routes.ts';
export { Addressing } from './addressing.ts';
export { serveTags, Tags } from './tags.ts';
export { serveTasks, Tasks, TaskTable } from './tasks.ts';
export { Trash } from './trash.ts';
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
export { RecordParts } from './parts.ts';
export type { PartOfRecord, ReadPart, RecordOf } from './parts.ts';
