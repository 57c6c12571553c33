import type { Cents } from '../money/index.ts';

/** Where a gift stands that came: in the books, among rows that wait for a person, or left out. */
export type CameState = 'recorded' | 'waiting' | 'leftOut';
export interface Figure {
  gifts: number;
  cents: Cents;
}
export interface Standing extends Record<CameState, Figure> {
  came: Figure;
}

export const NO_FIGURES = (): Figure => ({ gifts: 0, cents: 0 });

/** How many gifts came and what they come to, and where they stand; the three parts add up to what came. */
export function standingOf(all: readonly { state: CameState; cents: Cents }[]): Standing {
  const standing: Standing = {
    came: NO_FIGURES(),
    recorded: NO_FIGURES(),
    waiting: NO_FIGURES(),
    leftOut: NO_FIGURES(),
  };
  for (const { state, cents } of all)
    for (const figure of [standing.came, standing[state]]) {
      figure.gifts++;
      figure.cents += cents;
    }
  return standing;
}
