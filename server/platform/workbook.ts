import type { TableFile } from './csv.ts';
import { doHeavy, heavyWork } from './pool.ts';

const WORKBOOK = heavyWork<{ name: string; table: TableFile }[], Uint8Array>(
  new URL('./workbook.work.ts', import.meta.url),
  120,
);
export const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** A workbook with a sheet for each table, made in a thread of its own. */
export const workbookOf = async (sheets: { name: string; table: TableFile }[]): Promise<Buffer> =>
  Buffer.from(await doHeavy(WORKBOOK, sheets));
