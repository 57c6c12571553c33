import { doHeavy, heavyWork } from '../platform/pool.ts';
import type { Labels } from './labels-pdf.ts';
import type { Mark, PrintedLetter } from './pdf.ts';
import type { PrintedTable } from './table-pdf.ts';

/*
 * What is put on paper is drawn in threads, and what draws is loaded there: a server that starts does without.
 */

const LETTERS = heavyWork<{ letters: PrintedLetter[]; mark: Mark }, Uint8Array>(
  new URL('./letters.work.ts', import.meta.url),
  300,
);
const TABLE = heavyWork<PrintedTable, Uint8Array>(new URL('./table.work.ts', import.meta.url), 120);
const LABELS = heavyWork<Labels, Uint8Array>(new URL('./labels.work.ts', import.meta.url), 120);

/** As `drawLetters`, in a thread of its own. */
export const lettersPdf = async (letters: Iterable<PrintedLetter>, mark: Mark = ''): Promise<Buffer> =>
  Buffer.from(await doHeavy(LETTERS, { letters: [...letters], mark }));

/** As `drawTable`, in a thread of its own. */
export const tablePdf = async (table: PrintedTable): Promise<Buffer> => Buffer.from(await doHeavy(TABLE, table));

/** As `drawLabels`, in a thread of its own. */
export const labelsPdf = async (labels: Labels): Promise<Buffer> => Buffer.from(await doHeavy(LABELS, labels));

/** What of each letter no font of ours can draw: each character with where it stands. */
export async function undrawableIn(
  letters: readonly PrintedLetter[],
): Promise<{ character: string; where: string }[][]> {
  const fonts = await import('./fonts.ts');
  return letters.map((letter) => {
    const parts: [where: string, text: string][] = [
      ['the letterhead', [letter.letterhead.name, ...letter.letterhead.lines].join('')],
      ['the address', letter.addressee.join('')],
      ['the letter', letter.blocks.flatMap((block) => block.runs.map((run) => run.text)).join('')],
      ...(letter.receipt?.lines ?? []).map(([label, value]): [string, string] => [`“${label}”`, label + value]),
      ['the statement', letter.receipt?.statement ?? ''],
    ];
    return parts.flatMap(([where, text]) => fonts.undrawable(text).map((character) => ({ character, where })));
  });
}
