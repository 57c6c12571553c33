import { parseFile } from './parse.ts';
import type { ParsedFile } from './parse.ts';

export const work = ({ bytes, sheet }: { bytes: Uint8Array; sheet: string | null }): Promise<ParsedFile> =>
  parseFile(bytes, sheet);
