import chardet from 'chardet';
import { parse } from 'csv-parse/sync';
import iconv from 'iconv-lite';
import { looksBinary, separatorOf } from '@tallystick/core/intake';

export interface ParsedFile {
  encoding: string;
  separator: string;
  headings: string[];
  rows: string[][];
}

export const MOST_ROWS = 250_000;

/** Reads the bytes of a delimited text file. Throws an Error whose message a person can act on. */
export function parseFile(bytes: Uint8Array): ParsedFile {
  if (bytes.length === 0) throw new Error('The file is empty.');
  if (looksBinary(bytes)) throw new Error('This is not a text file. Save the spreadsheet as CSV and bring that in.');
  const encoding = encodingOf(bytes);
  const text = iconv.decode(Buffer.from(bytes), encoding);
  const separator = separatorOf(text);
  const records = recordsOf(text, separator);
  const [headings, ...rows] = records;
  if (!headings || headings.every((heading) => heading.trim() === ''))
    throw new Error('The file has no headings in its first row.');
  if (rows.length === 0) throw new Error('The file has headings and no rows.');
  if (rows.length > MOST_ROWS)
    throw new Error(`The file has ${rows.length} rows; at most ${MOST_ROWS} are taken at once. Split it.`);
  return { encoding, separator, headings: headings.map((heading) => heading.trim()), rows };
}

/** UTF-8 where the bytes are valid as such, else what they look like; Latin-1 is read as Windows-1252, which holds it. */
function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    const guess = chardet.detect(bytes.subarray(0, 100_000)) ?? '';
    return /^windows-125[0134567]$|^ISO-8859-[2579]$|^KOI8/i.test(guess) && iconv.encodingExists(guess)
      ? guess.toLowerCase()
      : 'windows-1252';
  }
}

function recordsOf(text: string, separator: string): string[][] {
  try {
    const records: string[][] = parse(text, {
      delimiter: separator,
      bom: true,
      // Files put together from several have lines that end in several ways.
      record_delimiter: ['\r\n', '\n', '\r'],
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
    });
    return records;
  } catch (error) {
    if (!String(error).includes('Quote Not Closed')) throw error;
    // Any later mark would have closed it, so the last one in the file is the one left open.
    const line = text.slice(0, text.lastIndexOf('"')).split('\n').length;
    throw new Error(
      `A quotation mark opened in line ${line} is never closed, so where rows end cannot be told. Close or remove it.`,
      { cause: error },
    );
  }
}
