import { writeCard } from '@tallystick/core/vcard';
import type { Card } from '@tallystick/core/vcard';
import { SupporterDraft } from '@tallystick/contract/supporters';
import type { IsoDate } from '@tallystick/core/dates';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { lastRevision } from '../platform/changes.ts';
import { csvOf, toComeBack } from '../platform/csv.ts';
import type { TableFile } from '../platform/csv.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { doHeavy, heavyWork } from '../platform/pool.ts';
import { workbookOf, XLSX } from '../platform/workbook.ts';
import type { SupporterLists } from './lists.ts';
import { bySupporter, usableOf } from './ways.ts';

/** Supporters as cards, in the order of the ids: by each way that can be used, the one of the day first and preferred. */
export async function cardsOf(
  sql: Sql,
  ids: readonly number[],
  today: IsoDate,
): Promise<{ card: Card; name: string }[]> {
  const found: { card: Card; name: string }[] = [];
  for (const slice of chunks(ids)) {
    const [rows, ways, tags] = await Promise.all([
      sql.rows<NameParts & { id: number; nickname: string; birthday: string }>(
        'SELECT * FROM supporter WHERE id IN (?)',
        [slice],
      ),
      usableOf(sql, slice, today),
      // supporter_tag_pair (supporter_id, tag_id)
      sql.rows<{ supporter_id: number; name: string }>(
        'SELECT x.supporter_id, t.name FROM supporter_tag x JOIN tag t ON t.id = x.tag_id WHERE x.supporter_id IN (?) ORDER BY t.name',
        [slice],
      ),
    ]);
    const [byId, tagsOf] = [new Map(rows.map((row) => [row.id, row])), bySupporter(tags)];
    for (const id of slice) {
      const row = byId.get(id);
      const usable = ways.get(id);
      if (!row || !usable) continue;
      const { kind, prefix, first, middle, last, suffix, nickname, organization, birthday } = row;
      const name = { kind, prefix, first, middle, last, suffix, nickname, organization, birthday };
      found.push({
        card: { ...name, ...usable, tags: (tagsOf.get(id) ?? []).map((tag) => tag.name) },
        name: displayName(row),
      });
    }
  }
  return found;
}

const CARDS = heavyWork<string, Card[]>(new URL('./cards.work.ts', import.meta.url), 20);

/**
 * The drafts that a file of cards holds; what would not pass as a supporter is left out of a draft, not the draft, and
 * the remarks say so.
 */
export async function draftsOf(text: string): Promise<{ draft: SupporterDraft; remarks: string[] }[]> {
  const cards = await doHeavy(CARDS, text);
  return cards.flatMap((card) => {
    const remarks: string[] = [];
    const emails = card.emails.filter((email) => {
      const { address } = email;
      const taken = SupporterDraft.shape.emails.safeParse([email]).data?.[0]?.address;
      if (taken === undefined) remarks.push(`“${address}” is not an e-mail address and was left out.`);
      else if (taken.toLowerCase() !== address.toLowerCase()) remarks.push(`“${address}” was taken as ${taken}.`);
      return taken !== undefined;
    });
    const phones = card.phones.filter(({ number }) => {
      if (number.length < 3) remarks.push(`“${number}” is not a telephone number and was left out.`);
      return number.length >= 3;
    });
    const name =
      card.kind === 'person' && card.first + card.last === ''
        ? { last: card.organization || emails[0]?.address || '' }
        : {};
    const draft = SupporterDraft.safeParse({
      ...card,
      ...name,
      organization: card.kind === 'person' ? '' : card.organization,
      emails,
      phones,
    });
    return draft.success ? [{ draft: draft.data, remarks }] : [];
  });
}

/** Who is left out of a file, and why. */
export interface HeldBack {
  supporterId: number;
  number: string;
  name: string;
  reason: string;
}

/** A workbook: its table, and on a sheet of its own who is held back from it. */
export function withHeld(name: string, table: TableFile, held: readonly HeldBack[]): Promise<Buffer> {
  const heldBack: TableFile = {
    columns: ['Number', 'Name', 'Held back because'].map((heading) => ({ heading, kind: 'text' })),
    rows: held.map((one) => [one.number, one.name, one.reason]),
  };
  return workbookOf([{ name, table }, ...(held.length > 0 ? [{ name: 'Held back', table: heldBack }] : [])]);
}

/** Many supporters as one file, which may be made to be brought back; a workbook tells on a sheet of its own who is held back. */
export async function exportFile(
  { sql, lists, today }: { sql: Sql; lists: SupporterLists; today: IsoDate },
  ids: readonly number[],
  as: 'csv' | 'xlsx' | 'vcf',
  held: readonly HeldBack[] = [],
  back = false,
): Promise<{ name: string; type: string; bytes: Buffer }> {
  if (as === 'vcf') {
    const cards: string[] = [];
    for (const slice of chunks(ids))
      for (const { card, name } of await cardsOf(sql, slice, today)) cards.push(writeCard(card, name));
    return { name: 'supporters.vcf', type: 'text/vcard; charset=utf-8', bytes: Buffer.from(cards.join('')) };
  }
  const revision = await lastRevision(sql);
  const plain = await lists.exported(ids);
  const table = back ? toComeBack(plain, revision) : plain;
  if (as === 'csv')
    return { name: 'supporters.csv', type: 'text/csv; charset=utf-8', bytes: Buffer.from(await csvOf(table)) };
  return { name: 'supporters.xlsx', type: XLSX, bytes: await withHeld('Supporters', table, held) };
}
