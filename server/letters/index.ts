import type { DataSource } from 'typeorm';
import type { LetterNode } from '@tallystick/core/letters';
import * as contract from '@tallystick/contract/thanks';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Http } from '../platform/http.ts';
import { notFound } from '../platform/problem.ts';
import { long, table, text, setUp } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import { area } from '../area.ts';

export { lettersPdf } from './pdf.ts';
export { tablePdf } from './table-pdf.ts';
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

const view = (row: LetterRecord): LetterTemplate => ({
  ...row,
  body: contract.Letter.shape.body.parse(JSON.parse(row.body)),
});
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
    return this.changes.write(actor, { kind: 'edit', summary: `Added the letter ${draft.name}` }, async (tx) => ({
      id: await tx.insert(LetterTable, rowOf(draft)),
    }));
  }

  change(actor: Actor, id: number, version: number, draft: Draft) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the letter ${draft.name}` }, async (tx) => {
      await tx.expect(LetterTable, id, version, 'This letter');
      await tx.update(LetterTable, id, rowOf(draft));
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
}

/** Letter templates. */
export const lettersArea = area('letters', ({ source, changes, http }) => {
  const letters = new Letters(source, changes);
  serveLetters(http, letters);
  return { letters };
});
