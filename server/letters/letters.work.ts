import { drawLetters } from './pdf.ts';
import type { Mark, PrintedLetter } from './pdf.ts';

export const work = ({ letters, mark }: { letters: PrintedLetter[]; mark: Mark }): Promise<Uint8Array> =>
  drawLetters(letters, mark);
