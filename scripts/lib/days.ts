import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { TZDate } from '@date-fns/tz';

/* The days on which calendars go wrong, so that tests can be run as if today were one of them. */

/** The demo organisation's zone, whose clocks change twice a year. */
const HOME = 'America/Los_Angeles';

interface DayOfTrial {
  name: string;
  /** The first such moment after another. */
  after(now: Date): Date;
  /** The zone of the machine. */
  zone: string;
}

/** A day of the year at an hour of the home zone. */
const yearly = (name: string, month: number, day: number, hour = 12, minute = 0): DayOfTrial => ({
  name,
  zone: HOME,
  after(now) {
    for (let year = now.getUTCFullYear(); ; year++) {
      const at = new TZDate(year, month - 1, day, hour, minute, HOME);
      if (at.getDate() === day && at.getTime() > now.getTime()) return new Date(at.getTime());
    }
  },
});

/** Half an hour before the clocks are put forward or back, when a run of tests goes over the change. */
const clockChange = (name: string, month: number, sunday: number): DayOfTrial => ({
  name,
  zone: HOME,
  after(now) {
    for (let year = now.getUTCFullYear(); ; year++) {
      const first = new TZDate(year, month - 1, 1, HOME);
      const day = 1 + ((7 - first.getDay()) % 7) + 7 * (sunday - 1);
      const at = new TZDate(year, month - 1, day, 1, 50, HOME);
      if (at.getTime() > now.getTime()) return new Date(at.getTime());
    }
  },
});

/** The next time that it is an hour of the day in a zone. */
const hourly = (name: string, zone: string, hour: number): DayOfTrial => ({
  name,
  zone,
  after(now) {
    const at = new TZDate(now.getTime(), zone);
    at.setHours(hour, 30, 0, 0);
    if (at.getTime() <= now.getTime()) at.setDate(at.getDate() + 1);
    return new Date(at.getTime());
  },
});

export const DAYS_OF_TRIAL: readonly DayOfTrial[] = [
  yearly('28 February', 2, 28),
  yearly('29 February', 2, 29),
  yearly('31 March', 3, 31, 23, 50),
  yearly('30 June, the last minutes of the fiscal year', 6, 30, 23, 50),
  yearly('1 July', 7, 1, 0, 1),
  yearly('31 December, close to midnight', 12, 31, 23, 50),
  yearly('1 January', 1, 1, 0, 1),
  clockChange('the night in which the clocks go forward', 3, 2),
  clockChange('the night in which the clocks go back', 11, 1),
  hourly('an evening on which UTC has tomorrow', HOME, 20),
  hourly('a morning on which UTC still has yesterday', 'Pacific/Auckland', 7),
];

/** The one of them that `npm test` takes on a date, each in its turn. */
export function dayOfTrialOn(now: Date): DayOfTrial {
  const day = DAYS_OF_TRIAL[Math.floor(now.getTime() / 86_400_000) % DAYS_OF_TRIAL.length];
  if (!day) throw new Error('There is no day to try.');
  return day;
}

/** `29 February (2028-02-29 12:00, America/Los_Angeles)`. */
export const described = ({ name, zone }: DayOfTrial, at: Date): string =>
  `${name} (${new TZDate(at.getTime(), zone).toISOString().slice(0, 16).replace('T', ' ')}, ${zone})`;

/** What a process and all that it starts must have in its environment to believe that it is `at` now. */
export function environmentAt(at: Date, zone: string, now: Date): Record<string, string> {
  const seconds = Math.round((at.getTime() - now.getTime()) / 1000);
  return {
    TZ: zone,
    TEST_ZONE: zone,
    LD_PRELOAD: libraryOfFakeTime(),
    FAKETIME: `${seconds < 0 ? '' : '+'}${seconds}`,
    // Waiting goes by the monotonic clock, which must stay the machine's.
    FAKETIME_DONT_FAKE_MONOTONIC: '1',
  };
}

function libraryOfFakeTime(): string {
  const found = readdirSync('/usr/lib')
    .map((folder) => join('/usr/lib', folder, 'faketime', 'libfaketimeMT.so.1'))
    .find(existsSync);
  if (!found) throw new Error('The library of the package faketime is not where Debian puts it.');
  return found;
}
