/** Two records that may be one, and how likely they are: 0 to 1. */
export interface Pair {
  one: number;
  other: number;
  chance: number;
}
