export * from './EntryForm.tsx';
export * from './fields.tsx';
export * from './typed.ts';
export { useUnsaved } from './unsaved.ts';
export { onSubmit, useEntry } from './useEntry.ts';
export type { Entry, Faults } from './useEntry.ts';
