import { MessageChannel } from 'node:worker_threads';
import type { MessagePort } from 'node:worker_threads';
import type { TableFile } from './csv.ts';
import { doHeavy, heavyWork } from './pool.ts';

export interface Sheet {
  name: string;
  table: TableFile;
}

/** What the thread that makes a workbook is given: its sheets without their rows, and where it asks for those. */
export interface Asked {
  sheets: { name: string; columns: TableFile['columns'] }[];
  rows: MessagePort;
}
/** The next rows of a sheet; null after the last of the last. */
export type Rows = { sheet: number; rows: TableFile['rows'] } | null;

const WORKBOOK = heavyWork<Asked, Uint8Array>(new URL('./workbook.work.ts', import.meta.url), 120);
export const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** So many rows are copied to the thread at once: some milliseconds of the server's own. */
const AT_ONCE = 500;

/** A workbook with a sheet for each table, made in a thread of its own. */
export async function workbookOf(sheets: readonly Sheet[]): Promise<Buffer> {
  const { asked, end } = handedOut(sheets);
  try {
    return Buffer.from(await doHeavy(WORKBOOK, asked, [asked.rows]));
  } finally {
    end();
  }
}

/**
 * Sheets as the thread is given them: their rows are handed out some at a time, as it asks, since a table of everybody
 * takes seconds to copy, in which nobody else would be answered.
 */
export function handedOut(sheets: readonly Sheet[]): { asked: Asked; end: () => void } {
  const { port1: here, port2: there } = new MessageChannel();
  const next = inTurn(sheets);
  here.on('message', () => here.postMessage(next.next().value ?? null));
  return {
    asked: { sheets: sheets.map(({ name, table }) => ({ name, columns: table.columns })), rows: there },
    end: () => here.close(),
  };
}

function* inTurn(sheets: readonly Sheet[]): Generator<Rows, undefined> {
  for (const [sheet, { table }] of sheets.entries())
    for (let at = 0; at < table.rows.length; at += AT_ONCE) yield { sheet, rows: table.rows.slice(at, at + AT_ONCE) };
  return undefined;
}
