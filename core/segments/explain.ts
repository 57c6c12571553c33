import type { Condition, Join } from './condition.ts';

/** One condition's answer for one supporter, with the value that it saw, in words. */
export type Explanation =
  | { kind: 'group'; join: Join; off: boolean; matches: boolean; parts: Explanation[] }
  | { kind: 'condition'; condition: Condition; matches: boolean; saw: string };
