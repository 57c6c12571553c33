import type { RankedReading } from '@tallystick/core/intake';
import { IntakeSetting } from '@tallystick/contract/intake';
import { stored } from '../platform/stored.ts';
import { decoded } from './parse.ts';

/* A file that is no Unicode is kept byte by byte; what its letters are is decided when it is read. */

interface Kept {
  readings: string | null;
  setting: string;
}

/** What cannot be read has no columns, so that its list stands and the file can be read anew or thrown away. */
const UNREADABLE: IntakeSetting = {
  ...{
    columns: [],
    decimal: '.',
    dateOrder: null,
    fundId: 1,
    headed: true,
    encoding: null,
    leaveRest: false,
    picks: {},
  },
};

export const settingOf = ({ setting }: Pick<Kept, 'setting'>): IntakeSetting =>
  stored(IntakeSetting, setting, UNREADABLE);

export function readingsOf({ readings }: Pick<Kept, 'readings'>): RankedReading[] {
  const ranked: RankedReading[] = JSON.parse(readings ?? '[]');
  return ranked;
}

/** The encoding that a file's letters are read in: the chosen one, or the likeliest; null for Unicode. */
export const encodingIn = (kept: Kept): string | null =>
  settingOf(kept).encoding ?? readingsOf(kept)[0]?.encoding ?? null;

/** Reads the cells of a row, or the headings, as they are kept. */
export function cellsReader(kept: Kept): (json: string) => string[] {
  const encoding = encodingIn(kept);
  return (json) => {
    const cells: string[] = JSON.parse(json);
    return encoding === null ? cells : cells.map((cell) => decoded(cell, encoding));
  };
}

interface KeptHeadings extends Kept {
  headings: string;
}

/** What stands above the columns of a file: its headings, or their places where its first row is one of the others. */
export function headingsIn(kept: KeptHeadings): string[] {
  const first = cellsReader(kept)(kept.headings).map((heading) => heading.trim());
  return settingOf(kept).headed === false ? first.map((_, at) => `Column ${at + 1}`) : first;
}
