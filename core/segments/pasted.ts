import type { Facts } from '../facts/index.ts';
import { normalEmail, wordsOf } from '../names/index.ts';
import { supporterIdOf } from '../supporters/index.ts';

/** Whom the lines of a pasted list mean. */
export interface Pasted {
  /** The ids of those who were found, ascending, each once. */
  ids: Uint32Array;
  /** Lines that held anything. */
  lines: number;
  /** Lines that meant somebody who was found before. */
  doubled: number;
  /** Lines that nobody answers to; the first of them, and how many there are. */
  unknown: string[];
  unknownTotal: number;
  /** Lines that several answer to, with their ids; the first of them, and how many there are. None of them is taken. */
  ambiguous: { line: string; ids: number[] }[];
  ambiguousTotal: number;
}

/** As many lines as are kept to look at. */
const MOST_KEPT = 1000;
const LONGEST_LINE = 200;
const NUMBER = /^s?-?\s*0*(\d{1,9})(?:\.0+)?$/i;
const PARTS = /[\s"'<>,;()]/;

/**
 * Finds whom a pasted column means: each line a number of ours (`S-10482`, `10482`, `10482.0`), an e-mail (alone or as
 * `Ana Starr <ana@example.org>`), or a whole name, first or last name first. Where a line has several cells, the first
 * that is a number or an e-mail counts. Records in the trash are not found. `led`: whom the
 * numbers of those lead to that were merged into another.
 */
export function readPasted(text: string, facts: Facts, led: ReadonlyMap<number, number> = new Map()): Pasted {
  const found = new Set<number>();
  const result: Omit<Pasted, 'ids'> = {
    ...{ lines: 0, doubled: 0, unknown: [], unknownTotal: 0, ambiguous: [], ambiguousTotal: 0 },
  };
  const index = new Index(facts, led);
  for (const whole of text.split(/\r\n?|\n/)) {
    const line = whole.replace(/[\u00a0\u200b\ufeff]/g, ' ').trim();
    if (line.replace(/[",;'\s]/g, '') === '') continue;
    result.lines++;
    const ids = index.find(line);
    const [first, ...others] = ids;
    if (first === undefined) {
      if (result.unknownTotal++ < MOST_KEPT) result.unknown.push(line.slice(0, LONGEST_LINE));
    } else if (others.length > 0) {
      if (result.ambiguousTotal++ < MOST_KEPT)
        result.ambiguous.push({ line: line.slice(0, LONGEST_LINE), ids: ids.slice(0, 5) });
    } else if (found.has(first)) result.doubled++;
    else found.add(first);
  }
  return { ids: Uint32Array.from(found).sort(), ...result };
}

const bare = (cell: string): string =>
  cell
    .trim()
    .replace(/^["'“”]+|["'“”,;.]+$/g, '')
    .trim();

/** The address in a cell, read from its sign both ways, so that no cell takes longer than it is long. */
function emailIn(cell: string): string | null {
  const at = cell.indexOf('@');
  if (at < 1) return null;
  let [begin, end] = [at, at + 1];
  while (begin > 0 && !PARTS.test(cell.charAt(begin - 1))) begin--;
  while (end < cell.length && !PARTS.test(cell.charAt(end))) end++;
  return begin < at && cell.slice(at, end).includes('.') ? cell.slice(begin, end) : null;
}

/** Who answers to what; e-mails and names are put in order once the first is asked for. */
class Index {
  private emails: Map<string, number[]> | null = null;
  private names: Map<string, number[]> | null = null;

  constructor(
    private readonly facts: Facts,
    private readonly led: ReadonlyMap<number, number>,
  ) {}

  find(line: string): number[] {
    const cells = line.split('\t').map(bare).filter(Boolean);
    for (const cell of cells) {
      const digits = NUMBER.exec(cell)?.[1];
      const id = digits === undefined ? null : supporterIdOf(digits);
      if (id !== null) return this.byNumber(id);
      const email = emailIn(cell);
      if (email !== null) return this.byEmail(email);
    }
    const [first = ''] = cells;
    const names = this.byName(cells.join(' '));
    return names.length > 0 || cells.length === 1 ? names : this.byName(first);
  }

  private byNumber(number: number): number[] {
    const id = this.led.get(number) ?? number;
    const slot = this.facts.slotOf(id);
    return slot >= 0 && !this.facts.isGone(slot) ? [id] : [];
  }

  private byEmail(email: string): number[] {
    this.emails ??= this.everyEmail();
    return this.emails.get(normalEmail(email) ?? '') ?? [];
  }

  private byName(name: string): number[] {
    this.names ??= this.everyName();
    return this.names.get(wordsOf(name).join(' ')) ?? [];
  }

  private everyEmail(): Map<string, number[]> {
    const { start, count, columns } = this.facts.lists.emails;
    const known = new Map<string, number[]>();
    this.everyone((slot, id) => {
      const from = start[slot] as number;
      for (let row = from; row < from + (count[slot] as number); row++)
        put(known, normalEmail(columns.address.at(row)) ?? '', id);
    });
    return known;
  }

  private everyName(): Map<string, number[]> {
    const { first, last, organization, nickname } = this.facts.people;
    const known = new Map<string, number[]>();
    const name = (text: string): string => wordsOf(text).join(' ');
    this.everyone((slot, id) => {
      const [given, family, called] = [first.at(slot), last.at(slot), nickname.at(slot)];
      if (organization.at(slot) !== '') put(known, name(organization.at(slot)), id);
      if (family === '' && given === '') return;
      put(known, name(`${given} ${family}`), id);
      put(known, name(`${family} ${given}`), id);
      if (called !== '') put(known, name(`${called} ${family}`), id);
    });
    return known;
  }

  private everyone(visit: (slot: number, id: number) => void): void {
    for (let slot = 0; slot < this.facts.size; slot++)
      if (!this.facts.isGone(slot)) visit(slot, this.facts.ids[slot] as number);
  }
}

function put(known: Map<string, number[]>, key: string, id: number): void {
  if (key === '') return;
  const ids = known.get(key);
  if (!ids) known.set(key, [id]);
  else if (!ids.includes(id)) ids.push(id);
}
