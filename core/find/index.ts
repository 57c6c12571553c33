import { Bits, grown } from '../facts/index.ts';
import { streetForms } from '../contact/index.ts';
import { digitsOf, fold, forgiven, otherNames, slips, sounds, wordsOf } from '../names/index.ts';
import { Matches } from './matches.ts';
import type { Equal } from './matches.ts';
import { Postings } from './postings.ts';
import type { Slots } from './postings.ts';
import { SUPPORTER_KINDS } from '../supporters/index.ts';
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

/** Takes who has a word that is asked for, or like it, and what that is worth. */
type Take = (slots: Slots, gain: number) => void;
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
  private readonly tokens: Tokens[] = [];
  private readonly ids: number[] = [];
  private readonly names: string[] = [];
  private kinds = new Uint8Array(32);
  /** Whose words that are at rest are theirs no longer. */
  private moved = new Bits(32);
  private anyMoved = false;
  /** Slots stand in the order of their names, but for these: who came later, or has another name since. */
  private apart = new Bits(32);
  /** Who has the first word of a query, the second and so on; used again by the next query. */
  private readonly matches: Matches[] = [];

  /** How many can be found. */
  get size(): number {
    return this.tokens.reduce((sum, one) => sum + (one === NOTHING ? 0 : 1), 0);
  }

  /**
   * Gives the first places to supporters who are to be put, in the order of their names: so that who comes first of many
   * is known by their places, near each other, and not by words that lie anywhere. Only for an index that is empty.
   */
  expect(coming: readonly Pick<Findable, 'id' | 'name'>[]): void {
    const named = coming.map(({ id, name }) => ({ id, name: fold(name) }));
    for (const { id, name } of named.sort((a, b) => inNameOrder(a.name, a.id, b.name, b.id))) this.place(id, name);
  }

  /** Puts at rest what was put so far: a run of numbers is kept, and read, better than lists that change. Once. */
  settle(): void {
    this.named.settle();
    this.others.settle();
    for (let slot = 0; slot < this.tokens.length; slot++)
      if (this.tokens[slot] !== NOTHING) this.tokens[slot] = AT_REST;
  }

  /** Gives a supporter a place. */
  private place(id: number, name: string): number {
    const slot = this.ids.length;
    this.slots.set(id, slot);
    this.ids.push(id);
    this.names.push(name);
    this.tokens.push(NOTHING);
    if (slot < this.kinds.length) return slot;
    this.kinds = grown(this.kinds, slot * 2);
    this.moved = this.moved.copy(slot * 2);
    this.apart = this.apart.copy(slot * 2);
    return slot;
  }

  /** Adds a supporter or puts new words in the place of its old ones. */
  put(entry: Findable): void {
    const name = fold(entry.name);
    this.remove(entry.id);
    const had = this.slots.get(entry.id);
    const slot = had ?? this.place(entry.id, name);
    if (had === undefined || this.names[slot] !== name) this.apart.add(slot);
    const tokens = tokensFor(entry);
    this.tokens[slot] = tokens;
    this.names[slot] = name;
    this.kinds[slot] = SUPPORTER_KINDS[entry.kind].code;
    for (const token of tokens.named) {
      if (!this.named.has(token)) this.hear(token);
      this.named.add(token, slot);
    }
    for (const token of tokens.others) this.others.add(token, slot);
  }

  remove(id: number): void {
    const slot = this.slots.get(id);
    if (slot === undefined) return;
    const tokens = this.tokens[slot] ?? NOTHING;
    if (tokens === AT_REST) {
      this.moved.add(slot);
      this.anyMoved = true;
    }
    const { named, others } = tokens;
    for (const token of named) this.named.remove(token, slot);
    for (const token of others) this.others.remove(token, slot);
    this.tokens[slot] = NOTHING;
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
    const having = words.map((forms, at) => this.having(forms, candidates, (this.matches[at] ??= new Matches())));
    const byWorth = this.havingAll(having, query.kind);
    const many = query.from + query.limit;
    const [first, total]: [number[], number] = [[], byWorth.reduce((sum, { slots }) => sum + slots.length, 0)];
    for (const { slots } of byWorth) {
      if (first.length >= many) break;
      for (const slot of best(slots, many - first.length, (a, b) => this.before(a, b))) first.push(slot);
    }
    return { ids: first.slice(query.from).map((slot) => this.ids[slot] ?? 0), total };
  }

  private beginnings(word: string, take: Take): void {
    this.named.eachBeginning(word, (slots, whole) => take(slots, whole ? GAIN.name : GAIN.nameBegins));
    this.others.eachBeginning(word, (slots, whole) => take(slots, whole ? GAIN.other : GAIN.otherBegins));
  }

  private resembling(word: string, take: Take): void {
    if (!isName(word)) return;
    const from = this.named;
    const taken = (token: string, gain: number): void => from.each(token, (slots) => take(slots, gain));
    for (const token of otherNames(word)) taken(token, GAIN.shortForm);
    for (const key of sounds(word))
      for (const token of this.bySound.get(key) ?? [])
        // Two sounds alone say little: 'aug' and 'yuki' share them.
        if (key.length > 2 || token[0] === word[0]) taken(token, GAIN.sound);
    const most = forgiven(word);
    if (most === 0) return;
    from.eachWord((token) => {
      if (Math.abs(token.length - word.length) <= most && slips(word, token, most) <= most) taken(token, GAIN.slip);
    });
  }

  /** Who has one of the forms of a word; of those at rest, who has other words since is only among the others. */
  private having(forms: readonly string[], candidates: Candidates, into: Matches): Matches {
    const taken: { gain: number; slots: Slots }[] = [];
    for (const form of forms) candidates(form, (slots, gain) => slots.length > 0 && taken.push({ gain, slots }));
    const moved = this.anyMoved ? (slot: number): boolean => this.moved.has(slot) : undefined;
    into.begin(this.ids.length);
    for (const { gain, slots } of taken.sort((a, b) => b.gain - a.gain))
      into.take(slots, gain, slots instanceof Uint32Array ? moved : undefined);
    return into;
  }

  /** Who has every word, each of which counts by its best match: those with the most first. */
  private havingAll(having: readonly Matches[], kind: SupporterKind | undefined): Equal[] {
    const [rarest, ...others] = [...having].sort((a, b) => a.many - b.many);
    if (!rarest) return [];
    if (others.length === 0 && kind === undefined) return rarest.byWorth();
    const byWorth = new Map<number, number[]>();
    const code = kind === undefined ? undefined : SUPPORTER_KINDS[kind].code;
    const candidates = rarest.all();
    let [last, equal]: [number, number[]] = [-1, []];
    for (let at = 0; at < candidates.length; at++) {
      const slot = candidates[at] as number;
      if (code !== undefined && this.kinds[slot] !== code) continue;
      let worth = rarest.worthOf(slot);
      for (let place = 0; place < others.length && worth > 0; place++) {
        const more = (others[place] as Matches).worthOf(slot);
        worth = more === 0 ? 0 : worth + more;
      }
      if (worth === 0) continue;
      // Who is worth the same stand together, mostly.
      if (worth !== last) {
        [last, equal] = [worth, byWorth.get(worth) ?? []];
        byWorth.set(worth, equal);
      }
      equal.push(slot);
    }
    return [...byWorth].map(([worth, slots]) => ({ worth, slots })).sort((a, b) => b.worth - a.worth);
  }

  /** Whether one comes before another by name. */
  private before(a: number, b: number): boolean {
    if (!this.apart.has(a) && !this.apart.has(b)) return a < b;
    const [nameA, nameB] = [this.names[a] as string, this.names[b] as string];
    return inNameOrder(nameA, this.ids[a] as number, nameB, this.ids[b] as number) < 0;
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

/** The words of somebody: of nobody, and of one whose words are at rest, they are not kept. */
interface Tokens {
  named: readonly string[];
  others: readonly string[];
}
const NOTHING: Tokens = { named: [], others: [] };
const AT_REST: Tokens = { named: [], others: [] };

const inNameOrder = (nameA: string, idA: number, nameB: string, idB: number): number =>
  nameA === nameB ? idA - idB : nameA < nameB ? -1 : 1;

/** The best `many` slots in order: a sorted list that most candidates fail to enter at its first comparison. */
function best(slots: ArrayLike<number>, many: number, before: (a: number, b: number) => boolean): number[] {
  const order = (a: number, b: number): number => (before(a, b) ? -1 : 1);
  if (slots.length <= many * 4) return Array.from(slots).sort(order).slice(0, many);
  let kept = Array.from({ length: many }, (_, at) => slots[at] as number).sort(order);
  let waiting: number[] = [];
  for (let at = many; at < slots.length; at++) {
    const slot = slots[at] as number;
    if (!before(slot, kept[many - 1] as number)) continue;
    waiting.push(slot);
    if (waiting.length < many) continue;
    kept = [...kept, ...waiting].sort(order).slice(0, many);
    waiting = [];
  }
  return [...kept, ...waiting].sort(order).slice(0, many);
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
