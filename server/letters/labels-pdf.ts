import PDFDocument from 'pdfkit';
import { Pen } from './pdf.ts';

/** Sheets of labels on Letter paper, in points: how many across and down, how large each is, and where the first begins. */
export const LABEL_SHEETS = {
  30: { across: 3, down: 10, width: 189, height: 72, left: 13.5, top: 36, gap: 9 },
  10: { across: 2, down: 5, width: 288, height: 144, left: 11.25, top: 36, gap: 13.5 },
} as const;
export type LabelSheet = keyof typeof LABEL_SHEETS;

const PADDING = 10;
/** The largest and the smallest type, and how much room a line of it takes. */
const [LARGE, SMALL, LEADING] = [11, 6.5, 1.22];
const INK = '#23272F';

export interface Labels {
  sheet: LabelSheet;
  labels: readonly (readonly string[])[];
}

/** Draws labels from left to right and from the top down; a label of many lines is set smaller, a long line is cut. */
export function drawLabels({ sheet, labels }: Labels): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const { across, down, width, height, left, top, gap } = LABEL_SHEETS[sheet];
    const doc = new PDFDocument({ size: 'LETTER', margin: 0, autoFirstPage: false });
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => resolve(Buffer.concat(parts)));
    doc.on('error', reject);
    const pen = new Pen(doc);
    labels.forEach((lines, index) => {
      const place = index % (across * down);
      if (place === 0) doc.addPage();
      const x = left + (place % across) * (width + gap) + PADDING;
      const size = Math.max(SMALL, Math.min(LARGE, (height - 12) / (Math.max(1, lines.length) * LEADING)));
      let y = top + Math.floor(place / across) * height + (height - lines.length * size * LEADING) / 2;
      doc.fontSize(size).fillColor(INK);
      for (const line of lines) {
        [doc.x, doc.y] = [x, y];
        pen.write(line, 'sans', { width: width - 2 * PADDING, height: size * LEADING, ellipsis: true });
        y += size * LEADING;
      }
    });
    if (labels.length === 0) doc.addPage();
    doc.end();
  });
}
