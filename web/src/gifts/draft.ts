import { parseDate } from '@tallystick/core/dates';
import { CREDIT_KINDS, isBanked, readParts, stockCents } from '@tallystick/core/gifts';
import type { CreditKind, PaymentMethod } from '@tallystick/core/gifts';
import { parseAmount, parseGiftAmount, typedMoney } from '@tallystick/core/money';
import type { GiftDraft, GiftWhole } from '@tallystick/contract/gifts';
import { NO_CODING, codingOf, typedCoding } from '../ui/CodingSelects.tsx';
import type { Coding } from '../ui/CodingSelects.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import type { Typed } from '@tallystick/core/fields';

export interface TypedPart extends Coding {
  amount: string;
}
export interface TypedCredit {
  who: Picked | null;
  kind: CreditKind;
  amount: string;
}
export interface TypedTribute {
  kind: 'honour' | 'memory';
  name: string;
  of: Picked | null;
  notifyWho: Picked | null;
  notify: string;
  withAmount: boolean;
}

/** The form of a gift as it is typed: texts, none of them checked yet. */
export interface TypedGift extends Coding {
  who: Picked | null;
  amount: string;
  date: string;
  sourceId: string;
  method: PaymentMethod;
  cheque: string;
  note: string;
  parts: TypedPart[];
  /** The goods or services received; null where that is not asked. */
  benefit: { amount: string; what: string } | null;
  symbol: string;
  shares: string;
  meanPrice: string;
  /** Of stock what the broker kept, of money what a processor kept. */
  fee: string;
  soldOn: string;
  proceeds: string;
  description: string;
  estimateBy: 'donor' | 'us';
  credits: TypedCredit[];
  tribute: TypedTribute | null;
  pledgeId: string;
  installments: number[];
  over: 'ask' | 'beyond' | 'raise';
  match: { by: Picked | null; amount: string } | null;
  recurringId: string;
  sameChequeSeen: boolean;
  own: Record<string, Typed>;
}

export const freshGift = (today: string): TypedGift => ({
  ...NO_CODING,
  ...{ who: null, amount: '', date: today, sourceId: '', method: 'cheque', cheque: '', note: '', parts: [] },
  ...{ benefit: null, symbol: '', shares: '', meanPrice: '', fee: '', soldOn: '', proceeds: '' },
  ...{ description: '', estimateBy: 'donor', credits: [], tribute: null, pledgeId: '', installments: [], over: 'ask' },
  ...{ match: null, recurringId: '', sameChequeSeen: false, own: {} },
});

/** A gift as it is, typed. */
export function typedGift(gift: GiftWhole): TypedGift {
  const { details, tribute } = gift;
  const named = (id: number | null, name: string): Picked | null => (id === null ? null : { id, name });
  return {
    ...freshGift(gift.date),
    ...typedCoding(gift),
    who: { id: gift.supporterId, name: gift.supporterName },
    amount: typedMoney(gift.cents),
    sourceId: gift.sourceId === null ? '' : String(gift.sourceId),
    method: gift.method,
    cheque: gift.cheque,
    note: gift.note,
    parts: gift.split ? gift.parts.map((part) => ({ ...typedCoding(part), amount: typedMoney(part.cents) })) : [],
    benefit: gift.benefitCents > 0 ? { amount: typedMoney(gift.benefitCents), what: gift.benefit } : null,
    fee: gift.feeCents === 0 ? '' : typedMoney(gift.feeCents),
    ...(details?.kind === 'stock'
      ? {
          symbol: details.symbol,
          shares: details.shares,
          meanPrice: details.meanPrice,
          fee: details.feeCents === 0 ? '' : typedMoney(details.feeCents),
          soldOn: details.soldOn ?? '',
          proceeds: details.proceedsCents === null ? '' : typedMoney(details.proceedsCents),
        }
      : {}),
    ...(details?.kind === 'in_kind' ? { description: details.description, estimateBy: details.estimateBy } : {}),
    credits: gift.credits.map((credit) => ({
      who: { id: credit.supporterId, name: credit.name },
      kind: credit.kind,
      amount: credit.cents === gift.cents ? '' : typedMoney(credit.cents),
    })),
    tribute: tribute && {
      kind: tribute.kind,
      name: tribute.name,
      of: named(tribute.ofId, tribute.ofName),
      notifyWho: named(tribute.notifyId, tribute.notifyName),
      notify: tribute.notify,
      withAmount: tribute.withAmount,
    },
    own: gift.typedFields,
  };
}

/** The request that what was typed comes to, or what is wrong with which field. */
export function draftOf(
  typed: TypedGift,
): { ok: true; draft: GiftDraft } | { ok: false; problems: Record<string, string> } {
  const problems: Record<string, string> = {};
  const money = (field: string, text: string, empty: number | null = null): number => {
    if (text.trim() === '' && empty !== null) return empty;
    const read = empty === null ? parseGiftAmount(text) : parseAmount(text);
    if (read.ok) return read.cents;
    problems[field] = read.reason;
    return 0;
  };
  const day = (field: string, text: string): string => {
    const read = parseDate(text);
    if (read.ok) return read.date;
    problems[field] = read.reason;
    return '';
  };
  const { who, method } = typed;
  if (!who) problems['supporterId'] = 'Choose who gave: type a name and press Enter.';
  const value = method === 'stock' ? stockCents(typed.shares, typed.meanPrice) : null;
  if (method === 'stock' && value === null) problems['shares'] = 'Shares and mean price are numbers such as 12.5.';
  const cents = method === 'stock' ? (value ?? 0) : money('cents', typed.amount);
  const date = day('date', typed.date);
  const amounts = readParts(
    cents,
    typed.parts.map((part) => part.amount),
  );
  if (!amounts.ok) problems['parts'] = `Part ${amounts.place + 1}: ${amounts.reason}`;
  const parts = typed.parts.map((part, place) => ({
    ...codingOf(part),
    cents: amounts.ok ? (amounts.cents[place] ?? 0) : 0,
  }));
  const credits = typed.credits.map((credit, place) => {
    if (!credit.who) problems['credits'] = `Choose who is credited in line ${place + 1}.`;
    const amount = credit.amount.trim() === '' ? cents : money('credits', credit.amount);
    return { supporterId: credit.who?.id ?? 0, kind: credit.kind, cents: amount };
  });
  const details =
    method === 'stock'
      ? {
          kind: 'stock' as const,
          symbol: typed.symbol,
          shares: typed.shares.replace(/,/g, '').trim(),
          meanPrice: typed.meanPrice.replace(/,/g, '').trim(),
          feeCents: money('fee', typed.fee, 0),
          soldOn: typed.soldOn === '' ? null : day('soldOn', typed.soldOn),
          proceedsCents: typed.proceeds === '' ? null : money('proceeds', typed.proceeds),
        }
      : method === 'in_kind'
        ? { kind: 'in_kind' as const, description: typed.description, estimateBy: typed.estimateBy }
        : null;
  const { benefit, match, tribute } = typed;
  if (match && !match.by) problems['match'] = 'Choose the employer that matches it, or take the match away.';
  if (tribute && tribute.name.trim() === '' && !tribute.of)
    problems['tribute'] = 'Say whom the gift honours or remembers, or take the tribute away.';
  const draft: GiftDraft = {
    supporterId: who?.id ?? 0,
    cents,
    date,
    ...codingOf(typed),
    parts,
    sourceId: typed.sourceId === '' ? null : Number(typed.sourceId),
    method,
    cheque: method === 'cheque' ? typed.cheque : '',
    note: typed.note,
    benefitCents: benefit ? money('benefitCents', benefit.amount) : 0,
    benefit: benefit?.what ?? '',
    feeCents: isBanked(method) ? money('feeCents', typed.fee, 0) : 0,
    details,
    credits,
    tribute: tribute && {
      kind: tribute.kind,
      name: tribute.name,
      ofId: tribute.of?.id ?? null,
      notifyId: tribute.notifyWho?.id ?? null,
      notify: tribute.notify,
      withAmount: tribute.withAmount,
    },
    pays:
      typed.pledgeId === ''
        ? null
        : { pledgeId: Number(typed.pledgeId), installments: typed.installments, over: typed.over, byOther: false },
    recurringId: typed.recurringId === '' ? null : Number(typed.recurringId),
    match: match && {
      supporterId: match.by?.id ?? 0,
      cents: match.amount.trim() === '' ? cents : money('match', match.amount),
    },
    sameChequeSeen: typed.sameChequeSeen,
    fields: typed.own,
  };
  return Object.keys(problems).length > 0 ? { ok: false, problems } : { ok: true, draft };
}

/** What a tie in the records credits by, for the people that are suggested. */
export const creditKindOf = (as: string): CreditKind => (as in CREDIT_KINDS ? (as as CreditKind) : 'solicitor');

/** Whether a fee is asked about: of what goes through a processor as a rule, and of any money that has one already. */
export const asksFee = ({ method, fee }: Pick<TypedGift, 'method' | 'fee'>): boolean =>
  isBanked(method) && (fee.trim() !== '' || (method !== 'cash' && method !== 'cheque'));
