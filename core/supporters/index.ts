/** The kinds of supporter, each with its word, its word for many, and its code in facts. */
export const SUPPORTER_KINDS = {
  person: { word: 'Person', many: 'People', code: 0 },
  household: { word: 'Household', many: 'Households', code: 1 },
  organization: { word: 'Organization', many: 'Organizations', code: 2 },
} as const;
export type SupporterKind = keyof typeof SUPPORTER_KINDS;
export const KIND_NAMES = Object.keys(SUPPORTER_KINDS) as [SupporterKind, ...SupporterKind[]];

/** What an organization may be. */
export const ORGANIZATION_KINDS = ['company', 'foundation', 'fund sponsor', 'school', 'town', 'club', 'other'] as const;

/** The kind of a code that facts hold. */
export const kindOfCode = (code: number): SupporterKind =>
  KIND_NAMES.find((kind) => SUPPORTER_KINDS[kind].code === code) ?? 'person';

/** `S-10482`: the number that people read is the row's own id with a letter. */
export const supporterNumber = (id: number): string => `S-${id}`;

/** The id in `S-10482`, `s10482` or `10482`, or null. */
export function supporterIdOf(text: string): number | null {
  const digits = /^\s*(?:s-?)?(\d{1,9})\s*$/i.exec(text)?.[1];
  return digits === undefined ? null : Number(digits);
}
