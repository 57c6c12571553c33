import iconv from 'iconv-lite';
import { toldApart } from '@tallystick/core/intake';
import type { ToldReading } from '@tallystick/core/intake';
import { IntakeSetting } from '@tallystick/contract/intake';
import { stored } from '../platform/stored.ts';

/* A file that is no Unicode is kept byte by byte; what its letters are is decided when it is read. */

interface Kept {
  readings: string | null;
  setting: string;
}

/** What cannot be read has no columns, so that its list stands and the file can be read anew or thrown away. */
const UNREADABLE = IntakeSetting.parse({ columns: [], decimal: '.', dateOrder: null, fundId: 1 });

export const settingOf = ({ setting }: Pick<Kept, 'setting'>): IntakeSetting =>
  stored(IntakeSetting, setting, UNREADABLE);

export function readingsOf({ readings }: Pick<Kept, 'readings'>): string[] {
  const ranked: string[] = JSON.parse(readings ?? '[]');
  return ranked;
}

/** The encoding that a file's letters are read in: the chosen one, or the likeliest; null for Unicode. */
export const encodingIn = (kept: Kept): string | null => settingOf(kept).encoding ?? readingsOf(kept)[0] ?? null;

/** A text that was read byte by byte, as an encoding reads those bytes. */
export const decoded = (text: string, encoding: string): string =>
  /\P{ASCII}/u.test(text) ? iconv.decode(Buffer.from(text, 'latin1'), encoding) : text;

/** Reads the cells of a row, or the headings, as they are kept. */
export function cellsReader(kept: Kept): (json: string) => string[] {
  const encoding = encodingIn(kept);
  return (json) => {
    const cells: string[] = JSON.parse(json);
    return encoding === null ? cells : cells.map((cell) => decoded(cell, encoding));
  };
}

/** Of so many signs words are shown that tell the encodings of a file apart. */
const TOLD_BY = 20_000;

/** The encodings that a file may be in, with words of its rows as each of them reads those. */
export function toldReadings(kept: Kept, rows: readonly { cells: string }[]): ToldReading[] {
  const encodings = readingsOf(kept);
  if (encodings.length < 2) return [];
  let text = '';
  for (const { cells } of rows) {
    const parsed: string[] = JSON.parse(cells);
    for (const cell of parsed) if (/\P{ASCII}/u.test(cell)) text += `${cell}\n`;
    if (text.length > TOLD_BY) break;
  }
  return toldApart(encodings.map((encoding) => ({ encoding, text: decoded(text, encoding) })));
}

/** Stands for headings where one of the rows of the file may hold them. */
export const AMONG_ROWS = '[]';

/** The first row that is none of headings or notes above them. */
export const firstRowOf = ({ headed, startRow }: IntakeSetting): number => (headed ? startRow + 1 : startRow);

/** What stands above the columns, those that are made last: the headings, or their places where the first row, which is given, is one of the others. */
export function headingsIn(kept: Kept & { headings: string }, first: string | null): string[] {
  const { headed, made } = settingOf(kept);
  const cells = cellsReader(kept)(first ?? kept.headings).map((heading) => heading.trim());
  const own = first === null || headed ? cells : cells.map((_, at) => `Column ${at + 1}`);
  return [...own, ...made.map(({ name }) => name)];
}
