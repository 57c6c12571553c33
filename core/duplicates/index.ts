export { likeness } from './likeness.ts';
export type { Comparable, Likeness } from './likeness.ts';
export { proposed, staying } from './merging.ts';
export type { Proposal, Side, Sort, Weighed } from './merging.ts';
