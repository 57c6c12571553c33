import { tzOffset } from '@date-fns/tz';
import type { DayNumber } from './calendar.ts';

/** A time zone, with how many minutes it is off UTC in each hour that was asked about. */
export class Zone {
  private readonly offsets = new Map<number, number>();

  constructor(readonly name: string) {}

  /** The day number that a minute since 1970 (UTC) falls on. */
  dayOf(minute: number): DayNumber {
    const hour = Math.floor(minute / 60);
    let offset = this.offsets.get(hour);
    if (offset === undefined) {
      offset = tzOffset(this.name, new Date(hour * 3_600_000));
      this.offsets.set(hour, offset);
    }
    return Math.floor((minute + offset) / 1440);
  }
}
