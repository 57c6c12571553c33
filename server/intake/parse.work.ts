import { parseFile } from './parse.ts';
import type { ParsedFile } from './parse.ts';

export const work = (bytes: Uint8Array): ParsedFile => parseFile(bytes);
