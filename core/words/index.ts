const rules = new Intl.PluralRules('en');

/**
 * A number with what it counts: `1 gift`, `2,310 gifts`, `0 batches`. `many` is the plural where it is not the word
 * with an s; `locale` groups the digits.
 */
export function counted(count: number, one: string, many = `${one}s`, locale = 'en-US'): string {
  return `${count.toLocaleString(locale)} ${pluralOf(count, one, many)}`;
}

/** The word alone, as it goes with a number: `gift` with 1, `gifts` with any other. */
export const pluralOf = (count: number, one: string, many = `${one}s`): string =>
  rules.select(Math.abs(count)) === 'one' ? one : many;

/** `Ann`, `Ann and Ben`, `Ann, Ben and Cy`. */
export const inAList = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`;
