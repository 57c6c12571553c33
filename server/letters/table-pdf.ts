import PDFDocument from 'pdfkit';
import { Pen } from './pdf.ts';

/** A table on paper: a title, a few facts under it, the rows with their heading on every page, and last lines of sums. */
export interface PrintedTable {
  title: string;
  facts: readonly string[];
  /** Widths are shares of the page; amounts are set right. */
  columns: readonly { heading: string; share: number; right?: boolean }[];
  rows: readonly (readonly string[])[];
  sums: readonly (readonly string[])[];
  landscape?: boolean;
  /** How tall a row is, in points, where there is to be room to write by hand; a rule then stands under each. */
  tall?: number;
}

const MARGIN = 48;
const LINE = 15;
const [INK, FADED, RULE] = ['#23272F', '#646A73', '#8F5E2C'];

/** Draws the table; a cell that is too long for its column is cut with an ellipsis. */
export function drawTable(table: PrintedTable): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const doc = new PDFDocument({
      size: 'LETTER',
      layout: table.landscape ? 'landscape' : 'portrait',
      margin: MARGIN,
      bufferPages: true,
    });
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => resolve(Buffer.concat(parts)));
    doc.on('error', reject);
    const pen = new Pen(doc);
    const width = doc.page.width - 2 * MARGIN;
    const shares = table.columns.reduce((sum, column) => sum + column.share, 0);
    let y = MARGIN;
    const write = (text: string, x: number, at: number, wide: number, right: boolean, bold: boolean): void => {
      doc.x = x;
      doc.y = at;
      pen.write(text, bold ? 'sans-bold' : 'sans', {
        width: wide,
        height: LINE,
        ellipsis: true,
        align: right ? 'right' : 'left',
      });
    };
    const line = (cells: readonly string[], bold: boolean): void => {
      let x = MARGIN;
      table.columns.forEach((column, index) => {
        const wide = (width * column.share) / shares;
        write(cells[index] ?? '', x, y, wide - 6, column.right === true, bold);
        x += wide;
      });
      y += LINE;
    };
    const rule = (): void => {
      doc
        .moveTo(MARGIN, y - 3)
        .lineTo(MARGIN + width, y - 3)
        .lineWidth(0.5)
        .strokeColor(RULE)
        .stroke();
      y += 2;
    };
    const heading = (): void => {
      doc.fontSize(8.5).fillColor(FADED);
      line(
        table.columns.map((column) => column.heading),
        true,
      );
      rule();
      doc.fillColor(INK);
    };
    doc.fontSize(15).fillColor(INK);
    doc.y = y;
    pen.write(table.title, 'serif-bold');
    doc.fontSize(9).fillColor(FADED);
    for (const fact of table.facts) pen.write(fact, 'sans');
    y = doc.y + 12;
    heading();
    for (const [cells, bold] of [
      ...table.rows.map((row) => [row, false] as const),
      ...table.sums.map((row) => [row, true] as const),
    ]) {
      if (y > doc.page.height - MARGIN - Math.max(2 * LINE, table.tall ?? 0)) {
        doc.addPage();
        y = MARGIN;
        heading();
      }
      if (bold && cells === table.sums[0]) rule();
      line(cells, bold);
      if (table.tall !== undefined && !bold) {
        y += table.tall - LINE;
        rule();
      }
    }
    const { count } = doc.bufferedPageRange();
    for (let page = 0; page < count; page++) {
      doc.switchToPage(page);
      doc.fontSize(8).fillColor(FADED);
      // Inside the margin, since text below it would begin a page of its own.
      write(`Page ${page + 1} of ${count}`, MARGIN, doc.page.height - MARGIN - LINE, width, true, false);
    }
    doc.end();
  });
}
