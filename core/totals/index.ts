export * from './facets.ts';
export * from './filters.ts';
export * from './known.ts';
export * from './sums.ts';
