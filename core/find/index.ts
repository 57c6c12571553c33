import { grown } from '../facts/index.ts';
import { streetForms } from '../contact/index.ts';
import { digitsOf, fold, forgiven, otherNames, slips, sounds, wordsOf } from '../names/index.ts';
import { NameOrder } from './name-order.ts';
import { Postings } from './postings.ts';
import type { SupporterKind } from '../supporters/index.ts';

/** Something else than the name that leads to a supporter, and what it is. */
export interface Detail {
  by: 'nickname' | 'former name' | 'street' | 'contact' | 'merged record';
  text: string;
}

/** What a supporter can be found by; `kind` narrows a search. */
export interface Findable {
  id: number;
  kind: SupporterKind;
  name: string;
  /** Nicknames and former names. */
  otherNames?: readonly Detail[];
  emails: readonly string[];
  phones: readonly string[];
  /** Other words that lead here: streets, the people who stand for an organization. */
  details?: readonly Detail[];
}

export interface FindQuery {
  text: string;
  kind?: SupporterKind | undefined;
  /** How many of the best to pass over, and how many to give after those. */
  from: number;
  limit: number;
}

/**
 * The ids asked for, best first, and how many match in all; `alike` of those match only by sound, by a short form
 * of a first name, or with a slip of typing, and come last.
 */
export interface Found {
  ids: number[];
  total: number;
  alike: number;
}

/** With fewer than this found by what was typed, what is like it is looked for too. */
const FEW = 5;
/** What a word is worth by how it was matched; one that is only alike never makes up for one that is there. */
const GAIN = { name: 48, nameBegins: 46, other: 45, otherBegins: 44, shortForm: 3, sound: 2, slip: 1 } as const;

/** Where in a number stands how many words matched, what the last one gained (a byte) and the score (two bytes). */
const [WORDS, GAINED, SCORE] = [24, 16, 0xffff];

/** Takes who has a word that is asked for, or like it, and what that is worth. */
type Take = (slots: readonly number[], gain: number) => void;
type Candidates = (word: string, take: Take) => void;

/**
 * An index in memory that finds supporters by the beginnings of the words of their names in any order, by number
 * (`S-10482`), by e-mail, street, and the last digits, four or more, of that number or a telephone number. Nobody who matches is left out,
 * however many do. Where few do, names that sound alike, short forms and slips of typing are found after them.
 */
export class FindIndex {
  private readonly named = new Postings();
  private readonly others = new Postings();
  private readonly bySound = new Map<string, Set<string>>();
  private readonly slots = new Map<number, number>();
  private readonly tokens: { named: string[]; others: string[] }[] = [];
  private readonly ids: number[] = [];
  private readonly names: string[] = [];
  private readonly kinds: SupporterKind[] = [];
  private readonly byName = new NameOrder(
    (slot) => this.names[slot] as string,
    (slot) => this.ids[slot] as number,
  );
  /** For each slot while a query runs: how many of its words matched so far, what the last one gained, and the score. */
  private matched = new Uint32Array(16);

  get size(): number {
    return this.slots.size;
  }

  /** Adds a supporter or puts new words in the place of its old ones. */
  put(entry: Findable): void {
    const slot = this.slots.get(entry.id) ?? this.ids.length;
    this.remove(entry.id);
    this.slots.set(entry.id, slot);
    const tokens = tokensFor(entry);
    this.tokens[slot] = tokens;
    this.ids[slot] = entry.id;
    this.names[slot] = fold(entry.name);
    this.byName.changed(slot);
    this.kinds[slot] = entry.kind;
    if (slot >= this.matched.length) this.matched = grown(this.matched, this.matched.length * 2);
    for (const token of tokens.named) {
      if (this.named.slots(token).length === 0) this.hear(token);
      this.named.add(token, slot);
    }
    for (const token of tokens.others) this.others.add(token, slot);
  }

  remove(id: number): void {
    const slot = this.slots.get(id);
    if (slot === undefined) return;
    const { named, others } = this.tokens[slot] ?? { named: [], others: [] };
    for (const token of named) this.named.remove(token, slot);
    for (const token of others) this.others.remove(token, slot);
    this.tokens[slot] = { named: [], others: [] };
    this.slots.delete(id);
  }

  /**
   * Who matches every word of the query: names before other details, whole words before beginnings, then by name.
   * An empty query finds nothing.
   */
  find(query: FindQuery): Found {
    const words = queryWords(query.text).sort((a, b) => (b[0]?.length ?? 0) - (a[0]?.length ?? 0));
    if (words.length === 0) return { ids: [], total: 0, alike: 0 };
    const strict = this.pass(words, query, (word, take) => this.beginnings(word, take));
    if (strict.total >= FEW || !words.some(([word = '']) => isName(word))) return { ...strict, alike: 0 };
    const loose = this.pass(words, query, (word, take) => {
      this.beginnings(word, take);
      this.resembling(word, take);
    });
    return { ...loose, alike: loose.total - strict.total };
  }

  private pass(words: readonly string[][], query: FindQuery, candidates: Candidates) {
    const touched = this.matching(words, 0, query.kind, candidates);
    let slots = touched;
    for (let place = 1; place < words.length; place++) slots = this.matching(words, place, query.kind, candidates);
    const best = this.best(slots, query.from + query.limit).slice(query.from);
    const answer = { ids: best.map((slot) => this.ids[slot] ?? 0), total: slots.length };
    for (const slot of touched) this.matched[slot] = 0;
    return answer;
  }

  private beginnings(word: string, take: Take): void {
    this.named.eachBeginning(word, (token, slots) => take(slots, token === word ? GAIN.name : GAIN.nameBegins));
    this.others.eachBeginning(word, (token, slots) => take(slots, token === word ? GAIN.other : GAIN.otherBegins));
  }

  private resembling(word: string, take: Take): void {
    if (!isName(word)) return;
    const from = this.named;
    for (const token of otherNames(word)) take(from.slots(token), GAIN.shortForm);
    for (const key of sounds(word))
      for (const token of this.bySound.get(key) ?? [])
        // Two sounds alone say little: 'aug' and 'yuki' share them.
        if (key.length > 2 || token[0] === word[0]) take(from.slots(token), GAIN.sound);
    const most = forgiven(word);
    if (most === 0) return;
    for (const token of from.words())
      if (Math.abs(token.length - word.length) <= most && slips(word, token, most) <= most)
        take(from.slots(token), GAIN.slip);
  }

  /** The slots that match the word at `place` as well as all words before it; each word counts its best match. */
  private matching(
    words: readonly string[][],
    place: number,
    kind: SupporterKind | undefined,
    candidates: Candidates,
  ): number[] {
    const { matched } = this;
    const found: number[] = [];
    const take: Take = (slots, gain) => {
      for (let at = 0; at < slots.length; at++) {
        const slot = slots[at] as number;
        const state = matched[slot] as number;
        const words = state >>> WORDS;
        if (words === place) {
          if (kind !== undefined && this.kinds[slot] !== kind) continue;
          matched[slot] = ((place + 1) << WORDS) | (gain << GAINED) | ((state & SCORE) + gain);
          found.push(slot);
        } else if (words === place + 1) {
          const gained = (state >>> GAINED) & 0xff;
          if (gain > gained) matched[slot] = (words << WORDS) | (gain << GAINED) | ((state & SCORE) + gain - gained);
        }
      }
    };
    for (const word of words[place] ?? []) candidates(word, take);
    return found;
  }

  private before(a: number, b: number): boolean {
    const [scoreA, scoreB] = [(this.matched[a] as number) & SCORE, (this.matched[b] as number) & SCORE];
    return scoreA === scoreB ? this.byName.before(a, b) : scoreA > scoreB;
  }

  /** The best `many` slots in order: a sorted list that most candidates fail to enter at its first comparison. */
  private best(slots: readonly number[], many: number): number[] {
    const order = (a: number, b: number): number => (this.before(a, b) ? -1 : 1);
    if (slots.length <= many * 4) return [...slots].sort(order).slice(0, many);
    let kept = slots.slice(0, many).sort(order);
    let waiting: number[] = [];
    for (let at = many; at < slots.length; at++) {
      const slot = slots[at] as number;
      if (!this.before(slot, kept[many - 1] as number)) continue;
      waiting.push(slot);
      if (waiting.length < many) continue;
      kept = [...kept, ...waiting].sort(order).slice(0, many);
      waiting = [];
    }
    return [...kept, ...waiting].sort(order).slice(0, many);
  }

  private hear(token: string): void {
    if (!isName(token)) return;
    for (const key of sounds(token)) {
      if (key.length < 2) continue;
      const words = this.bySound.get(key);
      if (words) words.add(token);
      else this.bySound.set(key, new Set([token]));
    }
  }
}

/** Words that can be misheard or mistyped: three letters or more, and nothing but letters. */
const isName = (word: string): boolean => /^\p{L}{3,}$/u.test(word);

/** Numbers are found by their end, too: the digits from the last to the first, so that 'last digits' is a beginning. */
const reversed = (digits: string): string => `#${[...digits].reverse().join('')}`;

function tokensFor(entry: Findable): { named: string[]; others: string[] } {
  const named = new Set([entry.name, ...(entry.otherNames ?? []).map(({ text }) => text)].flatMap(nameTokens));
  const others = numberTokens(entry.id);
  for (const email of entry.emails) others.push(...emailTokens(email));
  for (const detail of entry.details ?? []) others.push(...detailTokens(detail));
  for (const phone of entry.phones) others.push(...phoneTokens(phone));
  return { named: [...named], others: [...new Set(others)].filter((token) => !named.has(token)) };
}

/** A number with its letter is a word that no letter alone begins: whoever types `s` is after a name. */
const numbered = (digits: string): string => `№${digits}`;
const numberTokens = (id: number): string[] => [numbered(String(id)), String(id), reversed(String(id))];

/** Words of a name; one without spaces between its parts (`李小龍`) is found by each of its signs, too. */
const nameTokens = (name: string): string[] =>
  wordsOf(name).flatMap((word) =>
    UNSPACED.test(word) ? [...word].map((_sign, at, signs) => signs.slice(at).join('')) : [word],
  );
const UNSPACED = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u;

const emailTokens = (email: string): string[] => [email.toLowerCase(), ...wordsOf(email)];
/** A street is found by every usual form of its words, `Rd` and `Road`; who was merged by number and name, `S-12 Bo`. */
function detailTokens({ by, text }: Detail): string[] {
  const [number = '', ...name] = text.split(' ');
  if (by === 'merged record')
    return [...numberTokens(Number(number.replace(/^S-/, ''))), ...nameTokens(name.join(' '))];
  return nameTokens(text).flatMap((word) => (by === 'street' ? streetForms(word) : [word]));
}
function phoneTokens(phone: string): string[] {
  const digits = digitsOf(phone.replace(/\s*(ext\.?|x)\s*\d+.*$/i, ''));
  return digits.length >= 4 ? [reversed(digits.slice(-10))] : [];
}

/** Said of a word that no field has. */
export const BY_LIKENESS = 'a likeness';

/**
 * What else than the name led to a supporter, in words: `nickname Bob`, `street 4 Lyra Rd`; null where the name has all
 * that was asked for. What no field has was found by its likeness.
 */
export function foundBy(entry: Findable, query: string): string | null {
  const ways = [
    { by: '', text: '', tokens: nameTokens(entry.name) },
    ...(entry.otherNames ?? []).map((detail) => ({ ...detail, tokens: nameTokens(detail.text) })),
    { by: 'number', text: '', tokens: numberTokens(entry.id) },
    ...entry.emails.map((text) => ({ by: '', text, tokens: emailTokens(text) })),
    ...entry.phones.map((text) => ({ by: 'telephone', text, tokens: phoneTokens(text) })),
    ...(entry.details ?? []).map((detail) => ({ ...detail, tokens: detailTokens(detail) })),
  ];
  const found = queryWords(query).map((forms) => {
    const way = ways.find(({ tokens }) => forms.some((form) => tokens.some((token) => token.startsWith(form))));
    return way === undefined ? BY_LIKENESS : `${way.by} ${way.text}`.trim();
  });
  return [...new Set(found)].filter(Boolean).join(', ') || null;
}

const NUMBER = /(?:^s\s+|(?<![\p{L}\d])s-?)(\d+)(?![\p{L}\d])/gu;

/** The words of a query, each with the forms it may stand for. */
function queryWords(query: string): string[][] {
  const text = fold(query).slice(0, 200);
  // The number of a gift is one word, whose letter is no name that begins with it.
  if (/^g-?\d+$/.test(text)) return [[text.replace('-', '')]];
  if (text.includes('@')) return [[text]];
  const digits = digitsOf(text);
  if (digits.length >= 4 && /^[\d\s()+./-]+$/.test(text)) return [[digits, reversed(digits.slice(-10))]];
  // `S-10482`, alone or beside a name: the number of a supporter, or a word that looks like one.
  const numbers = [...text.matchAll(NUMBER)].map(([, digits = '']) => [numbered(digits), `s${digits}`]);
  // 'Rookwood 0142': a name, and the last digits of a telephone.
  const words = wordsOf(text.replace(NUMBER, ' ')).map((word) =>
    /^\d{4,}$/.test(word) ? [word, reversed(word.slice(-10))] : [word],
  );
  return [...numbers, ...words];
}
