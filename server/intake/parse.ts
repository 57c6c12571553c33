import chardet from 'chardet';
import { parse } from 'csv-parse/sync';
import iconv from 'iconv-lite';
import { looksBinary, rankReadings, separatorOf } from '@tallystick/core/intake';

export interface ParsedFile {
  /** The encoding of the file; null where it is in doubt. */
  encoding: string | null;
  /** The encodings that it may be in, the likeliest first: its cells are read byte by byte then. Empty for Unicode. */
  readings: string[];
  separator: string;
  headings: string[];
  rows: string[][];
}

export const MOST_ROWS = 250_000;

/** Reads the bytes of a delimited text file. Throws an Error whose message a person can act on. */
export function parseFile(bytes: Uint8Array): ParsedFile {
  if (bytes.length === 0) throw new Error('The file is empty.');
  if (looksBinary(bytes)) throw new Error('This is not a text file. Save the spreadsheet as CSV and bring that in.');
  const unicode = unicodeOf(bytes);
  const buffer = Buffer.from(bytes);
  const text = unicode === null ? buffer.toString('latin1') : iconv.decode(buffer, unicode);
  const { encodings: readings, sure } = unicode === null ? readingsOf(buffer) : { encodings: [], sure: true };
  const separator = separatorOf(text);
  const records = recordsOf(text, separator);
  const [headings, ...rows] = records;
  if (!headings || headings.every((heading) => heading.trim() === ''))
    throw new Error('The file has no headings in its first row.');
  if (rows.length === 0) throw new Error('The file has headings and no rows.');
  if (rows.length > MOST_ROWS)
    throw new Error(`The file has ${rows.length} rows; at most ${MOST_ROWS} are taken at once. Split it.`);
  const encoding = unicode ?? (sure ? (readings[0] ?? null) : null);
  return { encoding, readings, separator, headings, rows };
}

/** Encodings that a file may be in which says nothing of its own. */
const ENCODINGS = [
  ...['windows-1252', 'macintosh', 'windows-1250', 'windows-1251', 'windows-1253', 'windows-1254', 'koi8-r', 'cp850'],
  ...['shift_jis', 'euc-jp', 'gb18030', 'big5', 'euc-kr'],
];
/** What the detector calls otherwise, and the encoding that holds it. */
const HELD_IN: Readonly<Record<string, string>> = {
  'iso-8859-1': 'windows-1252',
  'iso-8859-2': 'windows-1250',
  'iso-8859-7': 'windows-1253',
  'iso-8859-9': 'windows-1254',
};
/** So much of what is beyond plain letters is looked at. */
const LOOKED_AT = 400_000;
/** How much more likely the usual one is beforehand, and what the detector thinks weighs. */
const [USUAL, DETECTED] = [0.3, 0.3];

/** Unicode where the bytes are valid as such; null where they may be in several encodings. */
function unicodeOf(bytes: Uint8Array): string | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return null;
  }
}

/** The encodings that bytes may be in, by how right the words look that each of them reads. */
function readingsOf(bytes: Buffer): ReturnType<typeof rankReadings> {
  const part = onlyBeyondAscii(bytes).subarray(0, LOOKED_AT);
  const thought = new Map<string, number>();
  for (const { name, confidence } of chardet.analyse(part)) {
    const known = HELD_IN[name.toLowerCase()] ?? name.toLowerCase();
    thought.set(known, Math.max(thought.get(known) ?? 0, confidence / 100));
  }
  return rankReadings(
    ENCODINGS.map((encoding, at) => ({
      encoding,
      likely: (at === 0 ? USUAL : 0) + DETECTED * (thought.get(encoding) ?? 0),
      text: iconv.decode(part, encoding),
    })),
  );
}

/** The lines of a text that hold more than plain letters, however far down they stand. */
function onlyBeyondAscii(bytes: Buffer): Buffer {
  const lines = bytes.toString('latin1').split(/(?<=[\r\n])/);
  return Buffer.from(lines.filter((line) => /\P{ASCII}/u.test(line)).join(''), 'latin1');
}

/** A text that was read byte by byte, as an encoding reads those bytes. */
export const decoded = (text: string, encoding: string): string =>
  /\P{ASCII}/u.test(text) ? iconv.decode(Buffer.from(text, 'latin1'), encoding) : text;

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
