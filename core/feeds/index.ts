export { CAME_COLUMNS, cellsOfCame } from './came.ts';
export type { Came } from './came.ts';
export { isDue, OFTEN } from './due.ts';
export type { Often } from './due.ts';
export { toTell } from './elsewhere.ts';
export type { Elsewhere } from './elsewhere.ts';
export { NO_FIGURES, standingOf } from './standing.ts';
export type { CameState, Figure, Standing } from './standing.ts';
