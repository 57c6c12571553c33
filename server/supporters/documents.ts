import { createHash } from 'node:crypto';
import type { DataSource } from 'typeorm';
import * as contract from '@tallystick/contract/notes';
import type { Document } from '@tallystick/contract/notes';
import type { Actor, Changes } from '../platform/changes.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { readBody } from '../platform/body.ts';
import type { Http } from '../platform/http.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { day, ref, table, text, whole, outside } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { lockSupporter } from './record.ts';
import type { RowOf } from '../platform/tables.ts';
import { supporterNumber } from '@tallystick/core/supporters';

export const DocumentTable = table(
  'document',
  {
    ...{ area: 'supporters', owner: 'supporter_id', topics: ['notes'], erasing: 'remove' },
    ...{ merging: 'move', undo: 'rows' },
    called: (row) => `Document ${String(row['name'])}`,
  },
  {
    supporter_id: ref,
    name: text(190).says('Document'),
    type: text(100),
    size: whole,
    hash: text(64),
    added_on: day,
    author: text(120),
  },
);
type DocumentRecord = RowOf<typeof DocumentTable>;
outside('file_content', 'the bytes of documents by their hash; what no document names goes with the trash');

type Ending = (typeof contract.DOCUMENT_TYPES)[number];
const MEDIA: Record<Ending, string> = {
  pdf: 'application/pdf',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  txt: 'text/plain; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
};
/** The first bytes of each kind of file; text has none, but no zero byte either. */
const BEGINNINGS: Partial<Record<Ending, readonly number[]>> = {
  pdf: [0x25, 0x50, 0x44, 0x46],
  png: [0x89, 0x50, 0x4e, 0x47],
  jpg: [0xff, 0xd8, 0xff],
  jpeg: [0xff, 0xd8, 0xff],
  docx: [0x50, 0x4b, 0x03, 0x04],
  xlsx: [0x50, 0x4b, 0x03, 0x04],
};

/** The media type of a file by its name, or the reason it is not taken. */
export function documentType(name: string, bytes: Buffer): string {
  const ending = /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase();
  const known = contract.DOCUMENT_TYPES.find((type) => type === ending);
  if (!known)
    throw new Problem(
      415,
      'wrong-type',
      `“${name}” is not kept here; keep PDF, PNG, JPEG, DOCX, XLSX, text or CSV files.`,
    );
  if (bytes.length === 0) throw new Problem(400, 'empty', `“${name}” is empty.`);
  const beginning = BEGINNINGS[known];
  const right = beginning ? beginning.every((byte, at) => bytes[at] === byte) : !bytes.includes(0);
  if (!right)
    throw new Problem(415, 'wrong-type', `“${name}” is not a ${known.toUpperCase()} file, whatever its name says.`);
  return MEDIA[known];
}

/** Files kept with records. Their bytes are stored once by their hash, and stay when a document is taken off, for undo. */
export class Documents {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async of(supporterId: number, asked: Asked): Promise<{ items: Document[]; next: string | null; total: number }> {
    const page = await pageOf<DocumentRecord>(
      this.sql,
      {
        select: 'SELECT * FROM document WHERE supporter_id = ?',
        params: [supporterId],
        order: [
          { sql: 'added_on', as: 'added_on', down: true },
          { sql: 'id', as: 'id', down: true },
        ],
      },
      asked,
    );
    const items = page.items.map(({ id, version, name, type, size, added_on, author }) => ({
      ...{ id, version, name, type, size, addedOn: added_on, author },
    }));
    return { ...page, items };
  }

  async add(actor: Actor, supporterId: number, name: string, bytes: Buffer) {
    const type = documentType(name, bytes);
    const hash = createHash('sha256').update(bytes).digest('hex');
    const { today } = await this.settings.calendar();
    return this.changes.write(actor, { kind: 'edit', summary: `Kept the document ${name}` }, async (tx) => {
      await lockSupporter(tx, supporterId, `Supporter ${supporterNumber(supporterId)}`);
      await tx.sql.run('INSERT IGNORE INTO file_content (hash, bytes) VALUES (?, ?)', [hash, bytes]);
      const row = {
        supporter_id: supporterId,
        name,
        type,
        size: bytes.length,
        hash,
        added_on: today,
        author: actor.name,
      };
      return { id: await tx.insert(DocumentTable, row) };
    });
  }

  async file(id: number): Promise<{ name: string; type: string; bytes: Buffer }> {
    const row = await one<{ name: string; type: string; bytes: Buffer }>(
      this.sql,
      'SELECT d.name, d.type, f.bytes FROM document d JOIN file_content f ON f.hash = d.hash WHERE d.id = ?',
      [id],
    );
    if (!row) throw notFound('This document');
    return row;
  }

  async remove(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Took a document off a record' }, async (tx) => {
      if (!(await tx.lock(DocumentTable, [id])).has(id)) throw notFound('This document');
      await tx.removeAll(DocumentTable, [id]);
    });
  }
}

export function serveDocuments(http: Http, documents: Documents): void {
  http.on(contract.addDocument, async ({ actor, params, query, request }) => {
    const bytes = await readBody(request, contract.LARGEST_DOCUMENT, 'A document has at most 10 MB.');
    const { revision, result } = await documents.add(actor, params.id, query.name, bytes);
    return { revision, ...result };
  });
  http.on(contract.getDocument, async ({ params, response }) => {
    const { name, type, bytes } = await documents.file(params.id);
    // Never shown within our own pages, whatever is in it.
    response.attachment(name).type(type).setHeader('X-Content-Type-Options', 'nosniff');
    response.send(bytes);
    return undefined;
  });
  http.on(contract.deleteDocument, ({ actor, params }) => documents.remove(actor, params.id));
}
