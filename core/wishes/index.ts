export * from './kinds.ts';
export * from './reach.ts';
