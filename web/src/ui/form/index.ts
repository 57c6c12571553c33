export * from './EntryForm.tsx';
export * from './fields.tsx';
export * from './typed.ts';
export { useUnsaved } from './unsaved.ts';
export { useEntry } from './useEntry.ts';
export type { Entry, Faults } from './useEntry.ts';
