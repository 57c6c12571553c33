import chardet from 'chardet';
import { parse } from 'csv-parse/sync';
import iconv from 'iconv-lite';
import {
  looksBinary,
  rankReadings,
  separatorOf,
  tableOfCards,
  tableOfObjects,
  tableStart,
} from '@tallystick/core/intake';
import type { FileRow, IntakeColumn } from '@tallystick/core/intake';
import { readCards } from '@tallystick/core/vcard';
import { COMPOUND_SAYS, isCompound, isZip, readWorkbook } from './workbook.ts';

export interface ParsedFile {
  format: 'text' | 'workbook' | 'cards' | 'objects';
  /** The encoding of the file; null where it is in doubt. Empty where the format itself says it. */
  encoding: string | null;
  /** The encodings that it may be in, the likeliest first: its cells are read byte by byte then. Empty for Unicode. */
  readings: string[];
  separator: string;
  /** What stands over the columns where the format itself says that; else it is one of the rows. */
  headings: string[] | null;
  /** Where the columns go, and their labels, where the format itself says that. */
  columns: (IntakeColumn | null)[] | null;
  labels: Record<string, string>;
  rows: FileRow[];
  /** The first row of the table; above it are notes. */
  startRow: number;
  /** What is odd about the file, in words. */
  remarks: string[];
  /** The sheets of a workbook that hold something, where one of several must be chosen; there are no rows then. */
  sheets: { name: string; rows: number }[];
}

export const MOST_ROWS = 250_000;

const NOTHING = { readings: [], separator: '', columns: null, labels: {}, remarks: [], sheets: [] };

/**
 * Reads the bytes of a file: delimited text, an XLSX workbook (`sheet` is the wanted one), vCards, or one JSON object a
 * line. Throws an Error whose message a person can act on.
 */
export async function parseFile(bytes: Uint8Array, sheet: string | null = null): Promise<ParsedFile> {
  if (bytes.length === 0) throw new Error('The file is empty.');
  if (isCompound(bytes)) throw new Error(COMPOUND_SAYS);
  const file = isZip(bytes) ? await ofWorkbook(bytes, sheet) : ofText(bytes);
  if (file.sheets.length > 0) return file;
  if (file.rows.length > MOST_ROWS)
    throw new Error(`The file has ${file.rows.length} rows; at most ${MOST_ROWS} are taken at once. Split it.`);
  return file;
}

async function ofWorkbook(bytes: Uint8Array, wanted: string | null): Promise<ParsedFile> {
  const { sheets, remarks } = await readWorkbook(bytes, MOST_ROWS);
  const named = sheets.map(({ name, rows }) => ({ name, rows: rows.length }));
  const base = { ...NOTHING, format: 'workbook', encoding: '', headings: null, startRow: 1 } as const;
  const sheet = wanted === null && sheets.length === 1 ? sheets[0] : sheets.find(({ name }) => name === wanted);
  if (sheets.length === 0) throw new Error('The workbook holds nothing.');
  if (wanted !== null && !sheet) throw new Error(`The workbook has no sheet “${wanted}” that holds something.`);
  if (!sheet) return { ...base, rows: [], sheets: named };
  return { ...base, ...tableIn(sheet.rows), remarks };
}

/** The rows of a table, each as long as the longest of its first ones, and where it begins. */
function tableIn(rows: FileRow[]): Pick<ParsedFile, 'rows' | 'startRow'> {
  const start = tableStart(rows.map(({ cells }) => cells));
  const first = rows[start];
  if (!first || first.cells.every((cell) => cell.trim() === ''))
    throw new Error('The file has no headings in its first row.');
  if (rows.length === start + 1) throw new Error('The file has headings and no rows.');
  return { rows, startRow: first.row };
}

function ofText(bytes: Uint8Array): ParsedFile {
  if (looksBinary(bytes))
    throw new Error('This is not a text file, nor a workbook. Save the spreadsheet as CSV or XLSX and bring that in.');
  const unicode = unicodeOf(bytes);
  const buffer = Buffer.from(bytes);
  const text = unicode === null ? buffer.toString('latin1') : iconv.decode(buffer, unicode);
  const start = text
    .slice(0, 2000)
    .replace(/^\uFEFF/, '')
    .trimStart();
  if (/^BEGIN:VCARD/i.test(start)) {
    return unicode === null ? cardsByByte(text, buffer) : ofCards(text, unicode);
  }
  if (unicode !== null && /^[[{]\s*["{}\]]/.test(start)) return ofObjects(text, unicode);
  const { encodings: readings, sure } = unicode === null ? readingsOf(buffer) : { encodings: [], sure: true };
  const separator = separatorOf(text);
  const rows = recordsOf(text, separator).map((cells, at): FileRow => ({ row: at + 1, cells }));
  const encoding = unicode ?? (sure ? (readings[0] ?? null) : null);
  return { ...NOTHING, format: 'text', headings: null, encoding, readings, separator, ...tableIn(rows) };
}

const numbered = (rows: readonly string[][]): FileRow[] => rows.map((cells, at) => ({ row: at + 1, cells }));

function ofCards(text: string, encoding: string): ParsedFile {
  const cards = readCards(text.replace(/^\uFEFF/, ''));
  if (cards.length === 0) throw new Error('The file has no card that can be read.');
  const { rows, ...table } = tableOfCards(cards);
  return { ...NOTHING, ...table, format: 'cards', encoding, rows: numbered(rows), startRow: 0 };
}

/** Encodings in which a sign takes several bytes, some of which would be taken for what stands between parts. */
const OF_SEVERAL_BYTES = new Set(['shift_jis', 'euc-jp', 'gb18030', 'big5', 'euc-kr']);

/** Cards that are no Unicode and do not say what else: kept byte by byte, as any text that may be in several encodings. */
function cardsByByte(text: string, bytes: Buffer): ParsedFile {
  const { encodings, sure } = readingsOf(bytes);
  const [likeliest = ''] = encodings;
  if (OF_SEVERAL_BYTES.has(likeliest) || /[;:](?:charset=|encoding=)?quoted-printable|;charset=/i.test(text))
    throw new Error('The letters of these cards cannot be told. Export them again as vCard 3.0 or 4.0, in UTF-8.');
  const readings = encodings.filter((encoding) => !OF_SEVERAL_BYTES.has(encoding));
  return { ...ofCards(text, ''), encoding: sure ? likeliest : null, readings };
}

/** Reads one JSON object a line, or a list of them. */
function ofObjects(text: string, encoding: string): ParsedFile {
  const clean = text.replace(/^\uFEFF/, '').trim();
  let objects: unknown[];
  if (clean.startsWith('[')) {
    const all: unknown = readJson(clean, () => 'The file begins as a JSON list and cannot be read as one.');
    objects = Array.isArray(all) ? all : [all];
  } else
    objects = clean
      .split(/\r?\n|\r/)
      .flatMap((line, at) =>
        line.trim() === '' ? [] : [readJson(line, () => `Line ${at + 1} is no JSON object; nothing was kept.`)],
      );
  if (objects.length === 0) throw new Error('The file holds no rows.');
  const { headings, rows } = tableOfObjects(objects);
  return { ...NOTHING, format: 'objects', encoding, headings, rows: numbered(rows), startRow: 0 };
}

function readJson(text: string, says: () => string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Error(says(), { cause: error });
  }
}

/** Encodings that a file may be in which says nothing of its own. */
const ENCODINGS = [
  ...['windows-1252', 'macintosh', 'windows-1250', 'windows-1251', 'windows-1253', 'windows-1254', 'koi8-r', 'cp850'],
  ...OF_SEVERAL_BYTES,
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
