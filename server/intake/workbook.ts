import { Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { strFromU8, unzipSync } from 'fflate';
import type { FileRow } from '@tallystick/core/intake';
import { counted } from '@tallystick/core/words';

/* Reads the sheets of an XLSX workbook as texts, as they would be written in a CSV file. */

export interface Sheet {
  name: string;
  rows: FileRow[];
}

/** More than this a workbook may not unfold to: what does is made to harm. */
const MOST_UNFOLDED = 400 * 1024 * 1024;
const LIKE_A_BOMB = 'The workbook unfolds to more than 400 MB. Save the sheet as CSV and bring that in.';
/** The sign of an older spreadsheet, and of a workbook behind a password. */
const COMPOUND = [0xd0, 0xcf, 0x11, 0xe0];

export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3;
export const isCompound = (bytes: Uint8Array): boolean => COMPOUND.every((byte, at) => bytes[at] === byte);
export const COMPOUND_SAYS =
  'This is a workbook behind a password, or one of an old kind. Open it, save it without a password as XLSX or CSV, and bring that in.';

/** The sheets that hold anything, and what is odd about them. Throws an Error whose message a person can act on. */
export async function readWorkbook(
  bytes: Uint8Array,
  mostRows: number,
): Promise<{ sheets: Sheet[]; remarks: string[] }> {
  const { parts, merged } = opened(bytes);
  const found = { formulas: 0, unsolved: 0, hidden: 0 };
  const sheets: Sheet[] = [];
  for await (const { name, rows } of sheetsIn(parts)) {
    const sheet: Sheet = { name, rows: [] };
    for await (const row of rows) {
      const cells: string[] = [];
      row.eachCell({ includeEmpty: false }, (cell, at) => {
        while (cells.length < at - 1) cells.push('');
        cells[at - 1] = textOf(cell, found);
      });
      if (cells.every((cell) => cell.trim() === '')) continue;
      if (row.hidden) found.hidden++;
      sheet.rows.push({ row: row.number, cells });
      if (sheet.rows.length > mostRows + 50)
        throw new Error(`The sheet “${sheet.name}” has more than ${mostRows} rows, which are taken at once. Split it.`);
    }
    if (sheet.rows.length > 0) sheets.push(sheet);
  }
  const remarks = [
    found.formulas > 0
      ? `${counted(found.formulas, 'cell holds a formula', 'cells hold formulas')}; what they last came to is read.`
      : '',
    found.unsolved > 0
      ? `${counted(found.unsolved, 'formula was', 'formulas were')} never worked out: open the workbook in a spreadsheet and save it.`
      : '',
    merged > 0
      ? `${counted(merged, 'block of cells is', 'blocks of cells are')} merged; only the first cell of each holds something.`
      : '',
    found.hidden > 0
      ? `${counted(found.hidden, 'row is', 'rows are')} hidden in the sheet and read like the others.`
      : '',
  ].filter(Boolean);
  return { sheets, remarks };
}

type Parts = Readonly<Record<string, Uint8Array>>;
const PARTS = /^xl\/(?:workbook|sharedStrings|styles|_rels\/workbook\.xml|worksheets\/[^/]+)\.(?:xml|rels)$/;

/** The parts of a workbook, and how many blocks of cells are merged. Refuses what is none or unfolds to too much. */
function opened(bytes: Uint8Array): { parts: Parts; merged: number } {
  let unfolded = 0;
  let merged = 0;
  const parts = unzipped(bytes, ({ name, originalSize }) => {
    unfolded += originalSize;
    if (unfolded > MOST_UNFOLDED) throw new Error(LIKE_A_BOMB);
    return PARTS.test(name);
  });
  if (!parts['xl/workbook.xml'])
    throw new Error('This is not a text file, nor a workbook. Save the spreadsheet as CSV or XLSX.');
  for (const [name, sheet] of Object.entries(parts)) {
    if (!name.startsWith('xl/worksheets/')) continue;
    const at = Buffer.from(sheet.buffer, sheet.byteOffset, sheet.length).indexOf('<mergeCells');
    if (at >= 0) merged += (strFromU8(sheet.subarray(at)).match(/<mergeCell /g) ?? []).length;
  }
  return { parts, merged };
}

/** So many bytes of a part are read at once. */
const AT_ONCE = 1 << 16;

/** A part of a workbook as text, piece by piece; no letter is cut in two. */
function* textsOf(part: Uint8Array | undefined): Generator<string> {
  const decoder = new TextDecoder();
  for (let at = 0; part && at < part.length; at += AT_ONCE)
    yield decoder.decode(part.subarray(at, at + AT_ONCE), { stream: true });
}

/** The steps of the library's reader, which its types do not tell of. */
interface Steps {
  workbookRels?: readonly { Id: string; Target: string }[];
  model?: { sheets?: readonly { name: string; rId: string }[] };
  _parseRels: (part: Readable) => Promise<void>;
  _parseWorkbook: (part: Readable) => Promise<void>;
  _parseSharedStrings: (part: Readable) => AsyncIterable<unknown>;
  _parseStyles: (part: Readable) => Promise<void>;
  _parseWorksheet: (part: Readable, no: string) => Iterable<{ value: AsyncIterable<ExcelJS.Row> }>;
}

/**
 * The sheets of a workbook in its order. The library reads each part; in which order is said here, since the library by
 * itself, reading the packed file as it comes, loses a part now and then, and letters that lie across its pieces.
 */
async function* sheetsIn(parts: Parts): AsyncGenerator<{ name: string; rows: AsyncIterable<ExcelJS.Row> }> {
  const steps = new ExcelJS.stream.xlsx.WorkbookReader(Readable.from([]), {
    ...{ worksheets: 'emit', sharedStrings: 'cache', hyperlinks: 'ignore', styles: 'cache', entries: 'ignore' },
  }) as unknown as Steps;
  const part = (name: string): Readable => Readable.from(textsOf(parts[name]));
  await steps._parseRels(part('xl/_rels/workbook.xml.rels'));
  await steps._parseWorkbook(part('xl/workbook.xml'));
  // They are kept by the reader.
  for await (const _text of steps._parseSharedStrings(part('xl/sharedStrings.xml')));
  await steps._parseStyles(part('xl/styles.xml'));
  const targets = new Map((steps.workbookRels ?? []).map(({ Id: id, Target: target }) => [id, target]));
  for (const { name, rId } of steps.model?.sheets ?? []) {
    // From the root of the file, or from where the workbook is.
    const path = (targets.get(rId) ?? '').replace(/^(?!\/)/, '/xl/').slice(1);
    if (!path.startsWith('xl/worksheets/') || !parts[path]) continue;
    for (const { value: rows } of steps._parseWorksheet(part(path), rId)) yield { name, rows };
  }
}

function unzipped(...args: [Uint8Array, (file: { name: string; originalSize: number }) => boolean]) {
  const [bytes, filter] = args;
  try {
    return unzipSync(bytes, { filter });
  } catch (error) {
    if (error instanceof Error && error.message === LIKE_A_BOMB) throw error;
    throw new Error('The workbook is damaged and cannot be opened. Save it again, or as CSV.', { cause: error });
  }
}

/** What the format of a number shows besides it: another currency, or zeros that stand before it. */
const currencyIn = (format: string): string => {
  const named = /\[\$([^\]-]+)(?:-[^\]]*)?\]/.exec(format)?.[1]?.trim();
  const sign = named ?? /[£€¥₹]|"(?:[A-Z]{3})"/.exec(format)?.[0]?.replace(/"/g, '') ?? '';
  return sign === '$' ? '' : sign;
};

/** A number without what counting in halves leaves behind it: 0.30000000000000004 is 0.3. */
const plain = (number: number): string => {
  const short = Number(number.toPrecision(15));
  // Long numbers are written out, as they stand in the sheet.
  return Number.isInteger(short) ? BigInt(short).toString() : String(short);
};

function numberText(number: number, format: string): string {
  if (/^0{2,}$/.test(format)) return plain(number).padStart(format.length, '0');
  return `${currencyIn(format)}${plain(number)}`;
}

function dateText(date: Date): string {
  if (Number.isNaN(date.getTime())) return '';
  const text = date.toISOString();
  return text.slice(11, 19) === '00:00:00' ? text.slice(0, 10) : `${text.slice(0, 10)} ${text.slice(11, 16)}`;
}

/** What stands for a formula without a result: a row that has it is refused, not read as if the cell were empty. */
const NO_RESULT = '#N/A';

function textOf(cell: ExcelJS.Cell, found: { formulas: number; unsolved: number }): string {
  const { value } = cell;
  const format = typeof cell.numFmt === 'string' ? cell.numFmt : '';
  return valueText(value, format, found);
}

function valueText(value: ExcelJS.CellValue, format: string, found: { formulas: number; unsolved: number }): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return value;
  // The library reads the error that a formula came to as no number.
  if (typeof value === 'number') return Number.isFinite(value) ? numberText(value, format) : NO_RESULT;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value instanceof Date) return dateText(value);
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('error' in value) return value.error;
  if ('text' in value) return valueText(value.text as ExcelJS.CellValue, format, found);
  found.formulas++;
  const { result } = value;
  if (result !== undefined) return valueText(result as ExcelJS.CellValue, format, found);
  found.unsolved++;
  return NO_RESULT;
}
