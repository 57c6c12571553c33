export * from './calendar.ts';
export * from './typed.ts';
