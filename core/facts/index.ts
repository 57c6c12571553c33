export { Bits } from './bits.ts';
export { Column, Dictionary, grown, NO_DAY, WordColumn } from './columns.ts';
export type { Columns, RowFor } from './columns.ts';
export { FLAG, LIST_NAMES, MARKS, rowWith } from './declared.ts';
export type { ListName, ListRow, Lists, PersonRow } from './declared.ts';
export { differences } from './differences.ts';
export { Facts } from './facts.ts';
export type { AnyList, SupporterFacts } from './facts.ts';
export { NO_OWNER, Ragged } from './ragged.ts';
