import type { Facts } from '../facts/index.ts';

/** Of so few among all supporters it costs less to ask them by their names than to go over everyone. */
export const areFew = (many: number, { size }: Pick<Facts, 'size'>): boolean => many < size / FEW;
const FEW = 8;
