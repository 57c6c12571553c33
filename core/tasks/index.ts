import { addDays, addMonths } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';

export const REPEATS = {
  never: 'does not repeat',
  weekly: 'each week',
  fortnightly: 'each two weeks',
  monthly: 'each month',
  quarterly: 'each quarter',
  yearly: 'each year',
} as const;
export type Repeat = keyof typeof REPEATS;

const DAYS = { weekly: 7, fortnightly: 14 } as const;
const MONTHS = { monthly: 1, quarterly: 3, yearly: 12 } as const;

/**
 * When a repeating task is due next, after `due`; null when it does not repeat. `day` is the day of the month that
 * it was set for, so that one for the 31st falls on the last day of shorter months and returns to the 31st.
 */
export function nextDue(due: IsoDate, repeat: Repeat, day: number): IsoDate | null {
  switch (repeat) {
    case 'never':
      return null;
    case 'weekly':
    case 'fortnightly':
      return addDays(due, DAYS[repeat]);
    default:
      return addMonths(due, MONTHS[repeat], day);
  }
}

/** `each month, on the 25th`; the day is said where it matters. */
export function describeRepeat(repeat: Repeat, day: number): string {
  return repeat === 'monthly' || repeat === 'quarterly'
    ? `${REPEATS[repeat]}, on the ${ordinal(day)}`
    : REPEATS[repeat];
}

function ordinal(day: number): string {
  const end = day % 100 >= 11 && day % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][day % 10] ?? 'th');
  return `${day}${end}`;
}
