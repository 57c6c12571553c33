import { writeCard } from '@tallystick/core/vcard';
import type { Card } from '@tallystick/core/vcard';
import { SupporterDraft } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { csv } from '../platform/csv.ts';
import { doHeavy, heavyWork } from '../platform/pool.ts';
import type { SupporterLists } from './lists.ts';
import type { Supporters } from './supporters.service.ts';

/** A record as a card: the ways that still hold, in their order. */
export function cardOf(supporter: Supporter): Card {
  const { kind, prefix, first, middle, last, suffix, nickname, organization, birthday } = supporter;
  const holding = <T extends { label: string }>(ways: readonly T[]): T[] =>
    ways.filter((way) => way.label !== 'former');
  return {
    ...{ kind, prefix, first, middle, last, suffix, nickname, organization, birthday },
    emails: holding(supporter.emails),
    phones: holding(supporter.phones),
    addresses: holding(supporter.addresses),
    tags: supporter.tags.map((tag) => tag.name),
  };
}

type Rows = { headings: string[]; rows: (string | number | null)[][] };
const WORKBOOK = heavyWork<Rows, Uint8Array>(new URL('./workbook.work.ts', import.meta.url), 120);
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

/** Many supporters as one file. */
export async function exportFile(
  lists: SupporterLists,
  supporters: Supporters,
  ids: readonly number[],
  as: 'csv' | 'xlsx' | 'vcf',
): Promise<{ name: string; type: string; bytes: Buffer }> {
  if (as === 'vcf') {
    const cards: string[] = [];
    for (const id of ids) {
      const supporter = await supporters.get(id);
      cards.push(writeCard(cardOf(supporter), supporter.name));
    }
    return { name: 'supporters.vcf', type: 'text/vcard; charset=utf-8', bytes: Buffer.from(cards.join('')) };
  }
  const { headings, rows } = await lists.exported(ids);
  if (as === 'csv')
    return { name: 'supporters.csv', type: 'text/csv; charset=utf-8', bytes: Buffer.from(csv(headings, rows)) };
  return {
    name: 'supporters.xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    bytes: Buffer.from(await doHeavy(WORKBOOK, { headings, rows })),
  };
}
