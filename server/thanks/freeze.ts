import { formatDate } from '@tallystick/core/dates';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { mergeLetter, mergeLine, mergeValues } from '@tallystick/core/letters';
import { formatMoney } from '@tallystick/core/money';
import type { Formats } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { Gift } from '@tallystick/contract/gifts';
import type { FundPart } from '../gifts/index.ts';
import type { LetterTemplate, PrintedLetter } from '../letters/index.ts';
import type { Addressee } from '../outreach/index.ts';
import type { OrganizationRow } from '../settings/index.ts';

/* What a receipt says in words and figures. It is frozen when the receipt is issued, and drawn from that for ever. */

export interface Frozen extends PrintedLetter {
  subject: string;
}

/** A gift, what of it went to which fund where it is split, and who is thanked for it. */
export interface Receipted {
  gift: Gift;
  parts: readonly FundPart[];
  person: Addressee;
}

const NOTHING_GIVEN =
  'No goods or services were provided in exchange for this gift. Please keep this receipt for your tax records.';

export function thawed(content: string): Frozen {
  const frozen: Frozen = JSON.parse(content);
  return frozen;
}

/** The receipt of a gift, with the words of a letter; `number` is its own. */
export function freeze(
  letter: LetterTemplate,
  { gift, parts, person }: Receipted,
  sender: OrganizationRow,
  today: string,
  number: string,
): Frozen {
  const values = mergeValues(
    { ...person, gift: { ...gift, parts, receiptNumber: number, description: describedAs(gift) } },
    { organization: sender.name, signature: sender.signature, currency: sender.currency, locale: sender.locale, today },
  );
  return {
    subject: mergeLine(letter.subject, values).text,
    letterhead: {
      name: sender.name,
      lines: [...sender.address.split('\n'), sender.tax_id === '' ? '' : `Tax ID ${sender.tax_id}`].filter(Boolean),
    },
    addressee: [person.addressing.addressee, ...person.addressLines],
    date: formatDate(today, sender, 'long'),
    blocks: mergeLetter(letter.body, values).blocks,
    receipt: {
      number,
      lines: [
        ['Received from', displayName(person.name)],
        ...amountLines(gift, sender),
        ['Date of gift', formatDate(gift.date, sender, 'long')],
        ...fundLines(gift, parts, sender),
        ['Gift', gift.number],
      ],
      statement: statementOf(gift, sender),
    },
  };
}

/** What was given, of a gift that is described and not valued: in kind, and stock of which no shares are named. */
function describedAs({ details, method, note }: Gift): string {
  if (details?.kind === 'in_kind') return details.description;
  return !details && (method === 'in_kind' || method === 'stock') ? note || PAYMENT_METHODS[method] : '';
}

/** What a receipt says of the amount. What was given in kind is described and never valued; stock is named. */
function amountLines(gift: Gift, formats: Formats): [string, string][] {
  const { details } = gift;
  const given = describedAs(gift);
  if (given !== '') return [['Given', given]];
  const amount: [string, string][] = [['Amount', formatMoney(gift.cents, formats)]];
  if (details?.kind === 'stock')
    return [
      ['Given', `${details.shares} shares of ${details.symbol}`],
      ['Mean price that day', details.meanPrice],
      ...amount,
    ];
  return gift.benefitCents === 0
    ? amount
    : [...amount, ['Goods and services', `${gift.benefit || 'received'}, ${formatMoney(gift.benefitCents, formats)}`]];
}

/** As many funds as the box of a receipt has room for. */
const MOST_FUNDS = 24;

/** Where it went: to its fund, or how much of it to which. What was given in kind is not valued, so neither are its parts. */
function fundLines(gift: Gift, parts: readonly FundPart[], formats: Formats): [string, string][] {
  if (parts.length < 2 || describedAs(gift) !== '') return [['Fund', gift.fund]];
  const named = parts.length > MOST_FUNDS ? parts.slice(0, MOST_FUNDS - 1) : parts;
  const others = parts.slice(named.length);
  const lines = named.map(({ fund, cents }) => `${formatMoney(cents, formats)} to ${fund}`);
  if (others.length > 0) {
    const rest = others.reduce((sum, { cents }) => sum + cents, 0);
    lines.push(`${formatMoney(rest, formats)} to ${others.length} other funds`);
  }
  return lines.map((line, at) => [at === 0 ? 'Funds' : '', line]);
}

function statementOf(gift: Gift, formats: Formats): string {
  if (gift.benefitCents === 0) return NOTHING_GIVEN;
  if (describedAs(gift) !== '')
    return `In exchange for this gift you received ${gift.benefit || 'goods or services'} with a fair value of ${formatMoney(gift.benefitCents, formats)}. What may be deducted is what your gift was worth, as you determine it, less that. Please keep this receipt for your tax records.`;
  const [benefit, rest] = [gift.benefitCents, gift.deductibleCents].map((cents) => formatMoney(cents, formats));
  return `In exchange for this gift you received ${gift.benefit || 'goods or services'} with a fair value of ${benefit ?? ''}. The deductible part of your gift is ${rest ?? ''}. Please keep this receipt for your tax records.`;
}
