import PDFDocument from 'pdfkit';
import type { Block, Run } from '@tallystick/core/letters';
import { doHeavy, heavyWork } from '../platform/pool.ts';
import { fontBytes, stretches } from './fonts.ts';
import type { Face } from './fonts.ts';

/** A letter as it is drawn: nothing in it depends on anything that may change later. */
export interface PrintedLetter {
  letterhead: { name: string; lines: string[] };
  /** The envelope's lines: name, street, town. */
  addressee: string[];
  date: string;
  blocks: Block[];
  /** The box at the foot of a receipt; absent from a letter that is none. */
  receipt?: { number: string; lines: [string, string][]; statement: string };
}

const INCH = 72;
const INK = '#23272F';
const FADED = '#646A73';
const HAZEL = '#8F5E2C';

type Mark = '' | 'PROOF' | 'VOID';
const LETTERS = heavyWork<{ letters: PrintedLetter[]; mark: Mark }, Uint8Array>(
  new URL('./letters.work.ts', import.meta.url),
  300,
);

/** As `drawLetters`, in a thread of its own. */
export const lettersPdf = async (letters: Iterable<PrintedLetter>, mark: Mark = ''): Promise<Buffer> =>
  Buffer.from(await doHeavy(LETTERS, { letters: [...letters], mark }));

/** Draws letters one after the other, each on a page of its own; a `mark` across every page says that it is not valid. */
export function drawLetters(letters: Iterable<PrintedLetter>, mark: Mark = ''): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const doc = new PDFDocument({
      size: 'LETTER',
      margins: { top: INCH, bottom: INCH, left: INCH, right: INCH },
      autoFirstPage: false,
      bufferPages: mark !== '',
    });
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => resolve(Buffer.concat(parts)));
    doc.on('error', reject);
    const pen = new Pen(doc);
    for (const letter of letters) drawLetter(doc, pen, letter);
    // At the end, since drawing while a line is being broken over pages would change the letter's own type.
    if (mark !== '')
      for (let page = 0; page < doc.bufferedPageRange().count; page++) {
        doc.switchToPage(page);
        markPage(doc, pen, mark);
      }
    doc.end();
  });
}

/** Writes text in a face, changing the font file wherever a character needs another one. */
export class Pen {
  private readonly registered = new Set<string>();

  constructor(private readonly doc: PDFKit.PDFDocument) {}

  font(name: string): void {
    if (!this.registered.has(name)) {
      this.doc.registerFont(name, fontBytes(name));
      this.registered.add(name);
    }
    this.doc.font(name);
  }

  write(text: string, face: Face, options: PDFKit.Mixins.TextOptions = {}): void {
    const pieces = stretches(text, face);
    if (pieces.length === 0) this.doc.text('', options);
    pieces.forEach((piece, index) => {
      this.font(piece.font);
      const more = index < pieces.length - 1;
      this.doc.text(piece.text, { ...options, continued: more || options.continued === true });
    });
  }
}

function markPage(doc: PDFKit.PDFDocument, pen: Pen, mark: string): void {
  doc.save();
  pen.font(stretches(mark, 'sans-bold')[0]?.font ?? '');
  doc.rotate(-45, { origin: [doc.page.width / 2, doc.page.height / 2] });
  doc.fontSize(120).fillColor('#A2373A').fillOpacity(0.12);
  doc.text(mark, 0, doc.page.height / 2 - 70, { width: doc.page.width, align: 'center', lineBreak: false });
  doc.restore();
}

function drawLetter(doc: PDFKit.PDFDocument, pen: Pen, letter: PrintedLetter): void {
  doc.addPage();
  const width = doc.page.width - 2 * INCH;
  doc.fillColor(HAZEL).fontSize(17);
  pen.write(letter.letterhead.name, 'serif-bold');
  doc.fillColor(FADED).fontSize(9);
  for (const line of letter.letterhead.lines) pen.write(line, 'sans');
  doc
    .moveTo(INCH, doc.y + 6)
    .lineTo(INCH + width, doc.y + 6)
    .lineWidth(0.5)
    .strokeColor(HAZEL)
    .stroke();
  doc.y += 26;
  doc.fillColor(INK).fontSize(10.5);
  pen.write(letter.date, 'sans');
  doc.moveDown(1.2);
  for (const line of letter.addressee) pen.write(line, 'sans');
  doc.moveDown(1.4);
  for (const block of letter.blocks) drawBlock(doc, pen, block);
  if (letter.receipt) drawReceipt(doc, pen, letter.receipt, width);
}

function drawBlock(doc: PDFKit.PDFDocument, pen: Pen, block: Block): void {
  const heading = block.kind === 'heading';
  doc.fontSize(heading ? 13 : 10.5);
  const indent = block.kind === 'bullet' || block.kind === 'numbered' ? 16 : 0;
  const left = INCH + indent;
  const mark = block.kind === 'bullet' ? '•' : `${block.number}.`;
  if (indent > 0) {
    const top = doc.y;
    pen.write(mark, 'sans', { lineBreak: false });
    doc.y = top;
  }
  doc.x = left;
  const runs = block.runs.length > 0 ? block.runs : [EMPTY];
  runs.forEach((run, index) => {
    const face = heading ? 'serif-bold' : faceOf(run);
    pen.write(run.text, face, {
      continued: index < runs.length - 1,
      lineGap: 2.5,
      width: doc.page.width - left - INCH,
      ...(run.link ? { link: run.link, underline: true } : { underline: false }),
    });
  });
  doc.x = INCH;
  doc.moveDown(0.7);
}

const EMPTY: Run = { text: ' ', bold: false, italic: false, link: null };

function faceOf(run: Run): Face {
  if (run.bold) return run.italic ? 'sans-bold-italic' : 'sans-bold';
  return run.italic ? 'sans-italic' : 'sans';
}

function drawReceipt(
  doc: PDFKit.PDFDocument,
  pen: Pen,
  receipt: NonNullable<PrintedLetter['receipt']>,
  width: number,
): void {
  const height = 40 + receipt.lines.length * 16 + 34;
  if (doc.y + height > doc.page.height - INCH) doc.addPage();
  const top = doc.y + 8;
  doc.rect(INCH, top, width, height).lineWidth(0.75).strokeColor(HAZEL).stroke();
  doc.y = top + 12;
  doc.x = INCH + 14;
  doc.fontSize(12).fillColor(INK);
  pen.write(`Receipt ${receipt.number}`, 'serif-bold');
  doc.fontSize(9.5);
  let y = doc.y + 6;
  for (const [label, value] of receipt.lines) {
    doc.y = y;
    doc.x = INCH + 14;
    doc.fillColor(FADED);
    pen.write(label, 'sans', { width: 150 });
    doc.y = y;
    doc.x = INCH + 150;
    doc.fillColor(INK);
    pen.write(value, 'sans', { width: width - 164, height: 14, ellipsis: true });
    y += 16;
  }
  doc.x = INCH + 14;
  doc.y = y + 4;
  doc.fontSize(8.5).fillColor(FADED);
  pen.write(receipt.statement, 'sans', { width: width - 28 });
  doc.fillColor(INK);
  doc.x = INCH;
}
