export { CATALOGUED, FIELD_RULES, MERGE_FIELDS, mergeFieldWord } from './fields.ts';
export type { MergeField, MergeValues } from './fields.ts';
export * from './merge.ts';
export { mergeValues } from './values.ts';
export type { MergeSetting, MergeSubject } from './values.ts';
