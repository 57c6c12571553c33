import PDFDocument from 'pdfkit';
import type { Block, Run } from '@tallystick/core/letters';
import { featuresOff, fontBytes, riseOf, stretches } from './fonts.ts';
import type { Face } from './fonts.ts';
import { layOut, layOutOne, runsRightToLeft } from './lines.ts';
import type { Piece, Span } from './lines.ts';

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

export type Mark = '' | 'PROOF' | 'VOID';

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

type TextOptions = PDFKit.Mixins.TextOptions;

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

  write(text: string, face: Face, options: TextOptions = {}): void {
    this.writeAll([{ text, face }], options);
  }

  /** Writes what belongs together as one paragraph, from where the pen stands. */
  writeAll(spans: readonly Span[], options: TextOptions = {}): void {
    if (spans.some(({ text, face }) => shapedWhole(text, face, options))) this.writeLines(spans, options);
    else this.writeOn(spans, options);
  }

  private writeOn(spans: readonly Span[], options: TextOptions): void {
    const pieces = spans.flatMap(({ text, face, link }) =>
      stretches(text, face).map((piece) => ({ ...piece, face, link })),
    );
    if (pieces.length === 0) this.doc.text('', options);
    pieces.forEach(({ text, font, face, link }, index) => {
      this.font(font);
      this.doc.text(text, { ...options, ...this.onLine(face), ...linked(link), continued: index < pieces.length - 1 });
    });
  }

  /** Breaks a text into lines before it is drawn, since words that run both ways are put in order line by line. */
  private writeLines(spans: readonly Span[], options: TextOptions): void {
    const { doc } = this;
    const { margins } = doc.page;
    const room = options.width ?? doc.page.width - doc.x - margins.right;
    const face = spans[0]?.face ?? 'sans';
    const measure = (piece: Piece): number => {
      this.font(piece.font);
      return doc.widthOfString(piece.text, shaped(piece.font));
    };
    const boxed = options.height !== undefined;
    const { lines, rightToLeft } = boxed
      ? { lines: [layOutOne(spans, room, measure)], rightToLeft: false }
      : layOut(spans, room, measure);
    this.font(stretches('x', face)[0]?.font ?? '');
    const height = doc.currentLineHeight(true) + (options.lineGap ?? 0);
    const left = doc.x;
    const toTheRight =
      options.align === 'right' || (options.align === undefined && options.width !== undefined && rightToLeft);
    for (const { pieces, width } of lines) {
      if (!boxed && doc.y + height > doc.page.height - margins.bottom) doc.addPage();
      const top = doc.y;
      let x = toTheRight ? left + room - width : left;
      for (const piece of pieces) {
        const wide = measure(piece);
        // Shaped letters are parts of glyphs; what is copied or read aloud is the text itself.
        doc.markContent('Span', { actual: piece.text });
        doc.text(piece.text, x, top, {
          ...this.onLine(face),
          ...shaped(piece.font),
          lineBreak: false,
          link: piece.link,
        });
        doc.endMarkedContent();
        if (piece.link) this.underline(x, top + riseOf(face) * doc.sizeToPoint('1em') + 1.5, wide);
        x += wide;
      }
      doc.x = left;
      doc.y = top + height;
    }
  }

  /** Under letters of any font at one height; pdfkit's own follows the height of each font. */
  private underline(x: number, y: number, width: number): void {
    this.doc.save();
    this.doc.strokeColor(INK).lineWidth(0.5);
    this.doc
      .moveTo(x, y)
      .lineTo(x + width, y)
      .stroke();
    this.doc.restore();
  }

  /** Puts every font on the line on which the letters of the face stand. */
  private onLine(face: Face): TextOptions {
    return { baseline: -riseOf(face) * this.doc.sizeToPoint('1em') };
  }
}

/** With features named, even none, pdfkit shapes a text as a whole, joined and turned round; else word by word. */
const shaped = (font: string): TextOptions => ({
  features: (featuresOff(font) ?? {}) as unknown as PDFKit.Mixins.OpenTypeFeatures[],
});
function shapedWhole(text: string, face: Face, options: TextOptions): boolean {
  if (runsRightToLeft(text)) return true;
  const fonts = stretches(text, face);
  return (
    fonts.some(({ font }) => featuresOff(font) !== undefined) ||
    // pdfkit sets each font's part at the right, or cuts it, by itself.
    (fonts.length > 1 && (options.align === 'right' || options.height !== undefined))
  );
}
const linked = (link: string | null | undefined): TextOptions =>
  link ? { link, underline: true } : { underline: false };

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
  pen.writeAll(
    runs.map((run) => ({ text: run.text, face: heading ? 'serif-bold' : faceOf(run), link: run.link })),
    { lineGap: 2.5, width: doc.page.width - left - INCH },
  );
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
