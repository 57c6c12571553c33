import { drawLetters } from './pdf.ts';
import type { PrintedLetter } from './pdf.ts';

export const work = ({
  letters,
  mark,
}: {
  letters: PrintedLetter[];
  mark: '' | 'PROOF' | 'VOID';
}): Promise<Uint8Array> => drawLetters(letters, mark);
