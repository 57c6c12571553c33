import type { DataSource } from 'typeorm';
import { unknownFields } from '@tallystick/core/letters';
import type { LetterNode } from '@tallystick/core/letters';
import { LetterDoc } from '@tallystick/contract/outreach';
import * as contract from '@tallystick/contract/thanks';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Http } from '../platform/http.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import { fieldsIn } from '../settings/index.ts';
import { long, table, text, setUp } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import { area } from '../area.ts';

export { labelsPdf, lettersPdf, tablePdf, undrawableIn } from './printing.ts';
export type { LabelSheet } from './labels-pdf.ts';
export type { PrintedLetter } from './pdf.ts';

export const LetterTable = table('letter', setUp('letters', 'Letter'), {
  name: text(120),
  subject: text(200),
  body: long,
});
type LetterRecord = RowOf<typeof LetterTable>;

export interface LetterTemplate {
  id: number;
  version: number;
  name: string;
  subject: string;
  body: LetterNode;
}
type Draft = Omit<LetterTemplate, 'id' | 'version'>;

/** A letter that is kept, or a blank one where it cannot be read. */
export const letterIn = (json: string): LetterNode =>
  stored(LetterDoc, json, { type: 'doc', content: [{ type: 'paragraph' }] });

/** Refuses (400) a letter with a merge field that there is not; it may name custom fields of supporters, or of gifts too. */
export async function refuseUnknownFields(
  sql: Sql,
  letter: { subject: string; body: LetterNode },
  about?: 'supporter',
): Promise<void> {
  const own = await fieldsIn(sql, about);
  const unknown = unknownFields(
    letter,
    own.map(({ id }) => id),
  );
  if (unknown.length === 0) return;
  const message = `There is no merge field ${unknown.map((name) => `{${name}}`).join(', ')}. Choose it from the list of fields.`;
  throw new Problem(400, 'unknown-field', message, { fields: { body: message } });
}

const view = (row: LetterRecord): LetterTemplate => ({ ...row, body: letterIn(row.body) });
const rowOf = (draft: Draft) => ({ name: draft.name, subject: draft.subject, body: JSON.stringify(draft.body) });

/** Letter templates. */
export class Letters {
  constructor(
    private readonly source: DataSource,
    private readonly changes: Changes,
  ) {}

  async list(): Promise<LetterTemplate[]> {
    return (await this.source.getRepository(LetterTable).find({ order: { name: 'ASC' } })).map(view);
  }

  async get(id: number): Promise<LetterTemplate> {
    const row = await this.source.getRepository(LetterTable).findOneBy({ id });
    if (!row) throw notFound('This letter');
    return view(row);
  }

  add(actor: Actor, draft: Draft) {
    return this.changes.write(actor, { kind: 'edit', summary: `Added the letter ${draft.name}` }, async (tx) => {
      await refuseUnknownFields(tx.sql, draft);
      return { id: await tx.insert(LetterTable, rowOf(draft)) };
    });
  }

  change(actor: Actor, id: number, version: number, draft: Draft) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the letter ${draft.name}` }, async (tx) => {
      await tx.expect(LetterTable, id, version, 'This letter');
      await refuseUnknownFields(tx.sql, draft);
      await tx.update(LetterTable, id, rowOf(draft));
    });
  }

  remove(actor: Actor, id: number) {
    let name = '';
    return this.changes.write(actor, { kind: 'edit', summary: () => `Deleted the letter ${name}` }, async (tx) => {
      const row = (await tx.lock(LetterTable, [id])).get(id);
      if (!row) throw notFound('This letter');
      name = row.name;
      await tx.removeUnused(LetterTable, id, `Receipts were issued with “${name}”, so it stays.`);
    });
  }
}

export function serveLetters(http: Http, letters: Letters): void {
  http.on(contract.listLetters, async () => ({ items: await letters.list() }));
  http.on(contract.createLetter, async ({ actor, body }) => {
    const { revision, result } = await letters.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateLetter, async ({ actor, params, body }) => {
    const { version, ...draft } = body;
    const { revision } = await letters.change(actor, params.id, version, draft);
    return { revision };
  });
  http.on(contract.deleteLetter, async ({ actor, params }) => {
    const { revision } = await letters.remove(actor, params.id);
    return { revision };
  });
}

/** Letter templates. */
export const lettersArea = area('letters', ({ source, changes, http }) => {
  const letters = new Letters(source, changes);
  serveLetters(http, letters);
  return { letters };
});
