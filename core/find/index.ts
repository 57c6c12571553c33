import { digitsOf, fold, wordsOf } from '../names/index.ts';
import type { SupporterKind } from '../names/index.ts';

/** What a supporter can be found by; `kind` narrows a search. */
export interface Findable {
  id: number;
  kind: SupporterKind;
  name: string;
  emails: readonly string[];
  phones: readonly string[];
}

export interface FindQuery {
  text: string;
  kind?: SupporterKind | undefined;
  /** How many of the best to pass over, and how many to give after those. */
  from: number;
  limit: number;
}

/** The ids asked for, best first, and how many match in all. */
export interface Found {
  ids: number[];
  total: number;
}

/**
 * An index in memory that finds supporters by the beginnings of the words of their name in any order, by number
 * (`S-10482`), by e-mail (whole or its parts) and by the last digits of a telephone number. Nobody who matches is
 * left out, however many do.
 */
export class FindIndex {
  private readonly postings = new Map<string, number[]>();
  private readonly slots = new Map<number, number>();
  private readonly tokens: string[][] = [];
  private readonly ids: number[] = [];
  private readonly names: string[] = [];
  private readonly kinds: SupporterKind[] = [];
  /** Every token, sorted; new ones wait in `fresh` until they are merged. */
  private sorted: string[] = [];
  private fresh: string[] = [];
  /** For each slot while a query runs: how many of its words matched so far, and how well. */
  private matched = new Uint8Array(16);
  private score = new Uint8Array(16);
  private gained = new Uint8Array(16);

  get size(): number {
    return this.slots.size;
  }

  /** Adds a supporter or puts new words in the place of its old ones. */
  put(entry: Findable): void {
    const slot = this.slots.get(entry.id) ?? this.ids.length;
    this.remove(entry.id);
    this.slots.set(entry.id, slot);
    const tokens = [...new Set(tokensFor(entry))];
    this.tokens[slot] = tokens;
    this.ids[slot] = entry.id;
    this.names[slot] = fold(entry.name);
    this.kinds[slot] = entry.kind;
    if (slot >= this.matched.length) this.grow();
    for (const token of tokens) {
      const list = this.postings.get(token);
      if (list) list.push(slot);
      else {
        this.postings.set(token, [slot]);
        this.fresh.push(token);
      }
    }
  }

  remove(id: number): void {
    const slot = this.slots.get(id);
    if (slot === undefined) return;
    for (const token of this.tokens[slot] ?? []) {
      const list = this.postings.get(token);
      const at = list?.indexOf(slot) ?? -1;
      if (list && at >= 0) list.splice(at, 1);
    }
    this.tokens[slot] = [];
    this.slots.delete(id);
  }

  /**
   * Who matches every word of the query: whole words before beginnings, then by name. An empty query finds nothing.
   */
  find(query: FindQuery): Found {
    const words = queryWords(query.text).sort((a, b) => (b[0]?.length ?? 0) - (a[0]?.length ?? 0));
    if (words.length === 0) return { ids: [], total: 0 };
    const touched = this.matching(words, 0, query.kind);
    let slots = touched;
    for (let place = 1; place < words.length; place++) slots = this.matching(words, place, query.kind);
    const best = this.best(slots, query.from + query.limit).slice(query.from);
    const answer = { ids: best.map((slot) => this.ids[slot] ?? 0), total: slots.length };
    for (const slot of touched) this.matched[slot] = this.score[slot] = 0;
    return answer;
  }

  /** The slots that match the word at `place` as well as all words before it; each word counts its best match. */
  private matching(words: readonly string[][], place: number, kind: SupporterKind | undefined): number[] {
    const { matched, score, gained } = this;
    const slots: number[] = [];
    for (const word of words[place] ?? [])
      for (const token of this.beginningWith(word)) {
        const gain = token === word ? 2 : 1;
        for (const slot of this.postings.get(token) ?? []) {
          if (matched[slot] === place) {
            if (kind !== undefined && this.kinds[slot] !== kind) continue;
            matched[slot] = place + 1;
            score[slot] = (score[slot] as number) + gain;
            gained[slot] = gain;
            slots.push(slot);
          } else if (matched[slot] === place + 1 && gain > (gained[slot] as number)) {
            score[slot] = (score[slot] as number) + gain - (gained[slot] as number);
            gained[slot] = gain;
          }
        }
      }
    return slots;
  }

  private before(a: number, b: number): boolean {
    const [scoreA, scoreB] = [this.score[a] as number, this.score[b] as number];
    if (scoreA !== scoreB) return scoreA > scoreB;
    const [nameA, nameB] = [this.names[a] as string, this.names[b] as string];
    return nameA === nameB ? (this.ids[a] as number) < (this.ids[b] as number) : nameA < nameB;
  }

  /** The best `many` slots in order: a sorted list that most candidates fail to enter at its first comparison. */
  private best(slots: readonly number[], many: number): number[] {
    const order = (a: number, b: number): number => (this.before(a, b) ? -1 : 1);
    if (slots.length <= many * 4) return [...slots].sort(order).slice(0, many);
    let kept = slots.slice(0, many).sort(order);
    let waiting: number[] = [];
    for (const slot of slots.slice(many)) {
      if (!this.before(slot, kept[many - 1] as number)) continue;
      waiting.push(slot);
      if (waiting.length < many) continue;
      kept = [...kept, ...waiting].sort(order).slice(0, many);
      waiting = [];
    }
    return [...kept, ...waiting].sort(order).slice(0, many);
  }

  private grow(): void {
    const size = this.matched.length * 2;
    for (const name of ['matched', 'score', 'gained'] as const) {
      const bigger = new Uint8Array(size);
      bigger.set(this[name]);
      this[name] = bigger;
    }
  }

  private *beginningWith(prefix: string): Generator<string> {
    this.merge();
    let low = 0;
    let high = this.sorted.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((this.sorted[middle] ?? '') < prefix) low = middle + 1;
      else high = middle;
    }
    for (let at = low; at < this.sorted.length; at++) {
      const token = this.sorted[at] ?? '';
      if (!token.startsWith(prefix)) return;
      yield token;
    }
  }

  private merge(): void {
    if (this.fresh.length === 0) return;
    if (this.sorted.length === 0 || this.fresh.length > 64) {
      this.sorted = this.sorted.concat(this.fresh).sort();
    } else {
      for (const token of this.fresh) {
        let at = this.sorted.findIndex((other) => other >= token);
        if (at < 0) at = this.sorted.length;
        this.sorted.splice(at, 0, token);
      }
    }
    this.fresh = [];
  }
}

/** Telephone tokens are the digits from the last to the first, so that 'last digits' is a beginning. */
const reversed = (digits: string): string => `#${[...digits].reverse().join('')}`;

function tokensFor(entry: Findable): string[] {
  const tokens = [...wordsOf(entry.name), `s${entry.id}`, String(entry.id)];
  for (const email of entry.emails) tokens.push(email.toLowerCase(), ...wordsOf(email));
  for (const phone of entry.phones) {
    const digits = digitsOf(phone);
    if (digits.length >= 4) tokens.push(reversed(digits.slice(-10)));
  }
  return tokens;
}

/** The words of a query, each with the forms it may stand for. */
function queryWords(query: string): string[][] {
  const text = fold(query).slice(0, 200);
  const number = /^s-?(\d+)$/.exec(text);
  if (number) return [[`s${number[1] ?? ''}`]];
  if (text.includes('@')) return [[text]];
  const digits = digitsOf(text);
  if (digits.length >= 4 && /^[\d\s()+./-]+$/.test(text)) return [[digits, reversed(digits.slice(-10))]];
  return wordsOf(text).map((word) => [word]);
}
