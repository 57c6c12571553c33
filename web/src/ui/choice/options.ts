import { fold } from '@tallystick/core/names';

/** One thing that can be chosen. */
export interface Option {
  value: string | number;
  label: string;
  /** Its code and other words by which it is found, shown beside it. */
  also?: string;
  /** Words by which it is found too, not shown. */
  words?: string;
  /** No longer in use: found and marked, and last. */
  closed?: boolean;
}

/** Options that are nothing but their words. */
export const optionsOfNames = (names: readonly string[]): Option[] =>
  names.map((name) => ({ value: name, label: name }));

/** More than so many are typed for, fewer are looked over. */
export const A_HANDFUL = 12;
/** As many as a list shows at once; the rest is found by typing. */
export const MOST_SHOWN = 100;

const textOf = ({ label, also = '', words = '' }: Option): string => fold(`${label} ${also} ${words}`);

/** How well an option answers: 0 begins with what was typed, 1 has a word that does, 2 has it somewhere; null not at all. */
function rank(text: string, words: readonly string[]): number | null {
  if (!words.every((word) => text.includes(word))) return null;
  const [first = ''] = words;
  if (text.startsWith(first)) return 0;
  return text.includes(` ${first}`) ? 1 : 2;
}

/**
 * The options that have every word typed, in any part of their label, code or synonyms. Before anything is typed those
 * chosen lately come first; closed ones come last. Options that answer equally well keep their order.
 */
export function found(options: readonly Option[], query: string, lately: readonly string[] = []): Option[] {
  const words = fold(query).split(' ').filter(Boolean);
  const place = (option: Option): number => {
    const at = words.length > 0 ? -1 : lately.indexOf(String(option.value));
    return at < 0 ? lately.length : at;
  };
  return options
    .map((option, index) => ({ option, index, rank: rank(textOf(option), words) }))
    .filter((one): one is typeof one & { rank: number } => one.rank !== null)
    .sort(
      (a, b) =>
        Number(a.option.closed ?? false) - Number(b.option.closed ?? false) ||
        a.rank - b.rank ||
        place(a.option) - place(b.option) ||
        a.index - b.index,
    )
    .map(({ option }) => option);
}

const MOST_LATELY = 5;
/** The values chosen lately, the last first, after another choice. */
export const afterChoosing = (lately: readonly string[], value: string): string[] =>
  [value, ...lately.filter((one) => one !== value)].slice(0, MOST_LATELY);
