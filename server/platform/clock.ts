import { dateInZone } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';

/** The one place where the server asks for the time. `--today` holds the calendar still for tests and pictures. */
export class Clock {
  constructor(private readonly fixedToday: IsoDate | null = null) {}

  now(): Date {
    return new Date();
  }

  /** `2026-03-14 17:05:09.123`, UTC, as DATETIME(3) takes it. */
  stamp(secondsFromNow = 0): string {
    return stampOf(new Date(this.now().getTime() + secondsFromNow * 1000));
  }

  today(timeZone: string): IsoDate {
    return this.fixedToday ?? dateInZone(this.now(), timeZone);
  }
}

/** An instant as DATETIME(3) takes it, UTC. */
export const stampOf = (at: Date): string => at.toISOString().replace('T', ' ').replace('Z', '');

/** A DATETIME of the database as an ISO instant. */
export function instant(stamp: string): string {
  return `${stamp.replace(' ', 'T')}Z`;
}
