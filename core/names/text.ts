/** Lower case without accents: what names are compared and found by. */
export function fold(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/ø/gi, 'o')
    .replace(/ł/gi, 'l')
    .toLowerCase()
    .replace(/[’'`]/g, '')
    .replace(/\s+/g, ' ')
    .trim();
}

/** The words of a text that a person may type to find it: folded, split at anything but letters and digits. */
export function wordsOf(text: string): string[] {
  return fold(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
}

/** An e-mail address in the form it is compared by, or null when it cannot be one (RFC 5321 lengths). */
export function normalEmail(text: string): string | null {
  const address = text.normalize('NFKC').trim().toLowerCase();
  if (address.length > 254 || !/^[^\s@<>(),;:"\\[\]]{1,64}@[^\s@<>(),;:"\\[\]]+\.[^\s@.]{2,}$/.test(address))
    return null;
  if (address.includes('..') || address.startsWith('.') || address.includes('.@')) return null;
  return address;
}

/** The digits of a telephone number, which is what it is found by. */
export function digitsOf(text: string): string {
  return text.normalize('NFKC').replace(/\D+/g, '');
}
