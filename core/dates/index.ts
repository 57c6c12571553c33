export * from './calendar.ts';
export * from './typed.ts';
export * from './windows.ts';
export * from './zone.ts';
