/** Whole minor units (cents) of one currency; always a safe integer. */
export type Cents = number;

/** The largest single amount accepted: 100 billion, so that any 900 of them still add up exactly. */
export const LARGEST_AMOUNT: Cents = 10_000_000_000_000;

export type ParsedAmount = { ok: true; cents: Cents } | { ok: false; reason: string };

const refuse = (reason: string): ParsedAmount => ({ ok: false, reason });

/**
 * Reads an amount as people write it: `1250`, `$1,250.00`, `1.250,00`, `1 250,5`, `(12.00)`, `-12`.
 * Where both marks occur the last one is the decimal mark. A single mark followed by exactly three digits
 * is a thousands mark when it is not `decimal`; when it is, the amount has three decimals and is refused,
 * because guessing would be off by a factor of a thousand. Where a `currency` is given, an amount that
 * names another is refused.
 */
export function parseAmount(text: string, decimal: '.' | ',' = '.', currency: string | null = null): ParsedAmount {
  const other = currency === null || !/\d/.test(text) ? null : otherCurrency(text, currency);
  if (other !== null)
    return refuse(`“${text.trim()}” is in ${other}; amounts here are in ${currency}. Change it into them first.`);
  let rest = text.normalize('NFKC').trim();
  if (rest === '') return refuse('The amount is missing.');
  let sign = 1;
  if (/^\(.*\)$/.test(rest)) {
    sign = -1;
    rest = rest.slice(1, -1);
  }
  // '25 usd', and '25,-' where there are no cents.
  if (currency !== null && rest.slice(-3).toUpperCase() === currency && /[\d\s]/.test(rest.at(-4) ?? ''))
    rest = rest.slice(0, -3).trim();
  rest = rest
    .replace(/(?<=\d[.,])[-–—]{1,2}$/, '00')
    .replace(currency === null ? ANY_SIGN : OUR_SIGN, '')
    .trim();
  if (/^[-−+]/.test(rest)) {
    if (!rest.startsWith('+')) sign = -sign;
    rest = rest.slice(1).trim();
  }
  rest = rest.replace(/^[$€£¥]\s*/, '').replace(/(?<=\d)[\s'’](?=\d{3}(?!\d))/g, '');
  if (!/^\d*(?:[.,]\d+)*[.,]?$/.test(rest) || !/\d/.test(rest)) return refuse(`“${text.trim()}” is not an amount.`);

  const mark = decimalMarkOf(rest, decimal);
  const at = mark === null ? -1 : rest.lastIndexOf(mark);
  const whole = at < 0 ? rest : rest.slice(0, at);
  const fraction = at < 0 ? '' : rest.slice(at + 1);
  if (/[.,]/.test(whole) && !/^[1-9]\d{0,2}(?:\.\d{3})+$|^[1-9]\d{0,2}(?:,\d{3})+$/.test(whole))
    return refuse(`“${text.trim()}” is not an amount: its thousands are not in groups of three.`);
  if (fraction.length > 2)
    return refuse(`“${text.trim()}” has ${fraction.length} decimals; money has two. Write it with two.`);

  const digits = whole.replace(/[.,]/g, '') + fraction.padEnd(2, '0');
  const cents = sign * Number(digits);
  if (Math.abs(cents) > LARGEST_AMOUNT) return refuse(`“${text.trim()}” is larger than any amount kept here.`);
  return { ok: true, cents: cents === 0 ? 0 : cents };
}

const ANY_SIGN = /^(?:[A-Z]{3}\b|[$€£¥])|(?:\b[A-Z]{3}|[$€£¥])$/g;
/** Where another currency is refused before, a sign may say whose it is: `US$`. */
const OUR_SIGN = /^(?:[A-Z]{1,3}\$|[A-Z]{3}(?![A-Z])|\p{Sc})|(?:\b[A-Z]{3}|\p{Sc})$/gu;

/** Signs of money, as `$`, `£` or `CA$`, and codes of three letters that stand beside an amount. */
const SIGNS = /\p{Lu}{0,3}\p{Sc}|(?<!\p{L})\p{Lu}{3}(?!\p{L})/gu;

/** The currency that an amount names, where it is another than the one given. */
function otherCurrency(text: string, currency: string): string | null {
  const ours = signsOf(currency);
  return (
    text
      .normalize('NFKC')
      .match(SIGNS)
      ?.find((sign) => !ours.includes(sign)) ?? null
  );
}

const signs = new Map<string, readonly string[]>();

/** Every way that a currency is written before or after an amount: `USD`, `$`, `US$`. */
function signsOf(currency: string): readonly string[] {
  let known = signs.get(currency);
  if (known === undefined) {
    const written = (locale: string, currencyDisplay: 'symbol' | 'narrowSymbol'): string =>
      new Intl.NumberFormat(locale, { style: 'currency', currency, currencyDisplay })
        .formatToParts(1)
        .find(({ type }) => type === 'currency')?.value ?? currency;
    // As it is written at home, and as it is told from others elsewhere.
    known = [currency, written('en', 'narrowSymbol'), written('en', 'symbol'), written('en-AU', 'symbol')];
    const land = currency.slice(0, 2);
    if (known.includes('$')) known = [...known, `${land}$`, `${currency.slice(0, 1)}$`, `${currency}$`];
    signs.set(currency, known);
  }
  return known;
}

function decimalMarkOf(digits: string, decimal: '.' | ','): '.' | ',' | null {
  const dot = digits.lastIndexOf('.');
  const comma = digits.lastIndexOf(',');
  if (dot < 0 && comma < 0) return null;
  if (dot >= 0 && comma >= 0) return dot > comma ? '.' : ',';
  const mark = dot >= 0 ? '.' : ',';
  const once = digits.indexOf(mark) === digits.lastIndexOf(mark);
  if (!once) return null;
  if (mark === decimal) return mark;
  return /^[1-9]\d{0,2}[.,]\d{3}$/.test(digits) ? null : mark;
}

/** `parseAmount` for money that came in: zero and negative amounts are refused with the remedy. */
export function parseGiftAmount(text: string, decimal: '.' | ',' = '.', currency: string | null = null): ParsedAmount {
  const parsed = parseAmount(text, decimal, currency);
  if (!parsed.ok) return parsed;
  if (parsed.cents === 0) return refuse('The amount is zero; a gift has an amount above zero.');
  if (parsed.cents < 0) return refuse(`“${text.trim()}” is negative; enter a refund as a correction of the gift.`);
  return parsed;
}

/**
 * The decimal mark that a column of amounts uses, from the values that leave no doubt (`1.250,00`, `12,50`).
 * Without any, the mark given as `otherwise`.
 */
export function decimalMarkOfColumn(values: Iterable<string>, otherwise: '.' | ','): '.' | ',' {
  let dots = 0;
  let commas = 0;
  for (const value of values) {
    const tail = /([.,])\d{1,2}\D*$/.exec(value);
    if (tail?.[1] === '.') dots++;
    else if (tail?.[1] === ',') commas++;
  }
  if (dots === commas) return otherwise;
  return dots > commas ? '.' : ',';
}

/** How an organisation writes amounts and days; where a gift has its own currency, that of the gift. */
export interface Formats {
  /** ISO 4217. */
  currency: string;
  /** BCP 47, as `en-US`. */
  locale: string;
}

/** `123456` with `USD`, `en-US` as `$1,234.56`. */
export function formatMoney(cents: Cents, { currency, locale }: Formats): string {
  const key = `${locale}|${currency}`;
  let format = formats.get(key);
  if (format === undefined) {
    format = new Intl.NumberFormat(locale, { style: 'currency', currency });
    formats.set(key, format);
  }
  return format.format(cents / 100);
}

/** An amount as one would type it, `1234.56`: `parseAmount` reads the same cents from it, whatever the decimal mark. */
export const typedMoney = (cents: Cents): string => (cents / 100).toFixed(2);

const formats = new Map<string, Intl.NumberFormat>();

/** Adds amounts exactly; throws a RangeError when the sum would leave the safe integers. */
export function sumCents(amounts: Iterable<Cents>): Cents {
  let sum = 0;
  for (const amount of amounts) sum += amount;
  if (!Number.isSafeInteger(sum)) throw new RangeError('The sum is larger than can be kept exactly.');
  return sum;
}

/**
 * Divides `total` cents by `weights` with the largest remainder, so that the parts add up to the total.
 * Equal remainders go to the earlier part. Throws a RangeError when the weights are negative or all zero.
 */
export function divide(total: Cents, weights: readonly number[]): Cents[] {
  const weightSum = weights.reduce((sum, weight) => sum + weight, 0);
  if (weights.some((weight) => weight < 0) || !(weightSum > 0))
    throw new RangeError('Shares must be zero or more and not all zero.');
  const exact = weights.map((weight) => (total * weight) / weightSum);
  const parts = exact.map(Math.floor);
  const left = total - parts.reduce((sum, part) => sum + part, 0);
  const order = exact
    .map((value, index) => ({ index, remainder: value - Math.floor(value) }))
    .sort((a, b) => b.remainder - a.remainder || a.index - b.index);
  for (let k = 0; k < left; k++) {
    const index = order[k % order.length]?.index ?? 0;
    parts[index] = (parts[index] ?? 0) + 1;
  }
  return parts;
}
