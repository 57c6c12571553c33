import { drawTable } from './table-pdf.ts';
import type { PrintedTable } from './table-pdf.ts';

export const work = (table: PrintedTable): Promise<Uint8Array> => drawTable(table);
