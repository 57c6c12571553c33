import { digitsOf, fold, wordsOf } from '../names/index.ts';

/** What a supporter can be found by. */
export interface Findable {
  id: number;
  name: string;
  emails: readonly string[];
  phones: readonly string[];
}

/**
 * An index in memory that finds supporters by the beginnings of the words of their name in any order, by number
 * (`S-10482`), by e-mail (whole or its parts) and by the last digits of a telephone number.
 */
export class FindIndex {
  private readonly postings = new Map<string, number[]>();
  private readonly tokensOf = new Map<number, string[]>();
  private readonly names = new Map<number, string>();
  /** Every token, sorted; new ones wait in `fresh` until they are merged. */
  private sorted: string[] = [];
  private fresh: string[] = [];

  get size(): number {
    return this.names.size;
  }

  /** Adds a supporter or puts new words in the place of its old ones. */
  put(entry: Findable): void {
    this.remove(entry.id);
    const tokens = [...new Set(tokensFor(entry))];
    this.tokensOf.set(entry.id, tokens);
    this.names.set(entry.id, fold(entry.name));
    for (const token of tokens) {
      const list = this.postings.get(token);
      if (list) list.push(entry.id);
      else {
        this.postings.set(token, [entry.id]);
        this.fresh.push(token);
      }
    }
  }

  remove(id: number): void {
    for (const token of this.tokensOf.get(id) ?? []) {
      const list = this.postings.get(token);
      const at = list?.indexOf(id) ?? -1;
      if (list && at >= 0) list.splice(at, 1);
    }
    this.tokensOf.delete(id);
    this.names.delete(id);
  }

  /**
   * The ids that match every word of `query`, best first, at most `limit`: whole words before beginnings, then by
   * name. An empty query finds nothing.
   */
  find(query: string, limit: number): number[] {
    const words = queryWords(query);
    if (words.length === 0) return [];
    let scores: Map<number, number> | null = null;
    for (const alternatives of words) {
      const found = new Map<number, number>();
      for (const word of alternatives) this.collect(word, scores, found);
      scores = found;
      if (scores.size === 0) return [];
    }
    const name = (id: number): string => this.names.get(id) ?? '';
    return bestOf(
      [...(scores ?? [])],
      limit,
      (a, b) => b[1] - a[1] || (name(a[0]) < name(b[0]) ? -1 : 1) || a[0] - b[0],
    ).map(([id]) => id);
  }

  private collect(word: string, within: Map<number, number> | null, into: Map<number, number>): void {
    for (const token of this.beginningWith(word)) {
      const score = token === word ? 2 : 1;
      for (const id of this.postings.get(token) ?? []) {
        if (within !== null && !within.has(id)) continue;
        const total = (within?.get(id) ?? 0) + score;
        if (total > (into.get(id) ?? 0)) into.set(id, total);
      }
      if (into.size > MOST_CANDIDATES) return;
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

/** A single letter can begin a fifth of all names; ranking stops being useful long before that. */
const MOST_CANDIDATES = 5000;

function bestOf<T>(items: T[], limit: number, order: (a: T, b: T) => number): T[] {
  return items.sort(order).slice(0, limit);
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
