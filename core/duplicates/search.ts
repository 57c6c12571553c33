import { Under } from '../lists/index.ts';
import { keysOf } from './blocks.ts';
import { agreementOf, FIELDS, LEVELS, levelOf } from './levels.ts';
import type { Agreement } from './levels.ts';
import { groupsOf } from './groups.ts';
import type { AlikeGroup } from './groups.ts';
import { chances, firstModel, fitted } from './model.ts';
import type { Model, Rarity } from './model.ts';
import { commonName, profileOf } from './profile.ts';
import type { Known, Profile } from './profile.ts';
import { agreeIn } from './reasons.ts';
import type { ReasonField } from './reasons.ts';
import { ruleKeys } from './rule.ts';
import type { RulePart } from './rule.ts';
import type { Pair } from './pair.ts';

/** From which chance on a pair is one of those that look alike. */
export const ALIKE = 0.85;
/** Pairs below this are not kept. */
const KEPT = 0.3;
/** A key that so many share tells nobody from the others. */
const MOST_SHARING = 150;
/** A group by rule of more than so many says nothing of any of them. */
const MOST_IN_GROUP = 50;
/** So many pairs are looked at to learn how records agree. */
const PAIRS_SEEN = 300_000;

/** How often values are met. */
class Frequencies {
  private readonly counts = new Map<string, number>();
  private squares = 0;
  private total = 0;

  count(value: string, by: 1 | -1): void {
    if (value === '') return;
    const before = this.counts.get(value) ?? 0;
    const after = before + by;
    if (after <= 0) this.counts.delete(value);
    else this.counts.set(value, after);
    this.squares += after * after - before * before;
    this.total += by;
  }

  /** How likely somebody else who is drawn has a value that one is known to have. */
  share(value: string): number {
    const others = Math.max(0.5, (this.counts.get(value) ?? 0) - 1);
    return others / (this.total + FEW);
  }

  /** How likely two who are drawn have the same. */
  get usual(): number {
    return (this.squares + 1) / (this.total + FEW) ** 2;
  }
}
/** So many others are supposed to be about, so that a handful of records does not make every name common. */
const FEW = 50;

/** Keeps records by what they are compared under, finds the pairs that look alike, and keeps those up to date. */
export class AlikeIndex {
  private readonly profiles = new Map<number, Profile>();
  private readonly blocks = new Under<number>();
  private readonly surnames = new Under<string>();
  private readonly firsts = new Frequencies();
  private readonly lasts = new Frequencies();
  private readonly kept = new Map<number, Map<number, number>>();
  private readonly work: Agreement = new Uint8Array(FIELDS.length);
  private fit: Model | null = null;
  /** The records that are still to be compared, the last first; null where no search was begun. */
  private open: number[] | null = null;
  private readonly waiting = new Set<number>();
  private searched = 0;
  /** How many pairs were compared since the search began. */
  compared = 0;

  get size(): number {
    return this.profiles.size;
  }
  /** The model that a search was fitted to; before one, what is supposed of as many records. */
  get model(): Model {
    return this.fit ?? firstModel(this.profiles.size);
  }
  /** How far a search has come: of how many records how many were compared; null before any was begun. */
  get progress(): { done: number; of: number } | null {
    return this.open === null ? null : { done: this.searched, of: this.searched + this.open.length };
  }

  /** Adds a record or puts it in the place of what was known of it; pairs of it are found anew once a search was made. */
  put(known: Known): void {
    this.remove(known.id);
    const profile = profileOf(known);
    this.profiles.set(profile.id, profile);
    this.firsts.count(profile.first, 1);
    this.lasts.count(commonName(profile), 1);
    for (const key of keysOf(profile)) this.blocks.put(key, profile.id);
    this.surnames.put(profile.surname, profile.id);
    if (this.open === null) return;
    this.open.push(profile.id);
    this.waiting.add(profile.id);
  }

  remove(id: number): void {
    const profile = this.profiles.get(id);
    if (!profile) return;
    for (const key of keysOf(profile)) this.blocks.take(key, id);
    this.surnames.take(profile.surname, id);
    this.profiles.delete(id);
    this.firsts.count(profile.first, -1);
    this.lasts.count(commonName(profile), -1);
    for (const other of this.kept.get(id)?.keys() ?? []) this.kept.get(other)?.delete(id);
    this.kept.delete(id);
  }

  /** Begins a search of all pairs, where none was made: learns from some of them how records agree. */
  begin(): void {
    if (this.open !== null) return;
    const ids = [...this.profiles.keys()];
    this.learn(ids);
    this.open = ids.reverse();
    for (const id of ids) this.waiting.add(id);
  }

  /** Compares so many records with all that share a key with them; true once there are no more. */
  advance(many: number): boolean {
    if (this.open === null) this.begin();
    for (let done = 0; done < many; done++) {
      const id = this.open?.pop();
      if (id === undefined) return true;
      this.searched++;
      const profile = this.profiles.get(id);
      if (profile && this.waiting.delete(id)) this.compareAll(profile);
    }
    return this.open?.length === 0;
  }

  /** Every pair that was found so far and is at least so likely. */
  *pairs(least = ALIKE): Generator<Pair> {
    for (const [one, others] of this.kept)
      for (const [other, chance] of others) if (one < other && chance >= least) yield { one, other, chance };
  }

  /**
   * Groups of records that agree in all that was chosen, those of the most likely pairs first. `tooLarge`: how many were
   * left out, since so many agree that it says nothing of any of them.
   */
  byRule(
    parts: readonly RulePart[],
    apart: (one: number, other: number) => boolean,
  ): { groups: AlikeGroup[]; tooLarge: number } {
    const sharing = new Map<string, number[]>();
    for (const profile of this.profiles.values())
      for (const key of ruleKeys(profile, parts)) {
        const block = sharing.get(key);
        if (block) block.push(profile.id);
        else sharing.set(key, [profile.id]);
      }
    const pairs: Pair[] = [];
    let tooLarge = 0;
    for (const ids of sharing.values())
      if (ids.length > MOST_IN_GROUP) tooLarge++;
      else
        for (const [at, one] of ids.entries())
          for (const other of ids.slice(at + 1))
            if (!apart(one, other)) pairs.push({ one, other, chance: this.chance(one, other) });
    return { groups: groupsOf(pairs, apart, () => 1), tooLarge };
  }

  /** How likely two records are one, whether they share a key or not; 0 where one is not here or of another kind. */
  chance(one: number, other: number): number {
    const [a, b] = [this.profiles.get(one), this.profiles.get(other)];
    return a && b && a.kind === b.kind ? this.likely(a, b).one : 0;
  }

  /** Whether two of the records agree in something, exactly. */
  someAgree(ids: readonly number[], reason: ReasonField): boolean {
    const all = ids.flatMap((id) => this.profiles.get(id) ?? []);
    return all.some((a, at) =>
      all.slice(at + 1).some((b) => a.kind === b.kind && agreeIn(agreementOf(a, b, this.work), reason)),
    );
  }

  /** The records that one like this may be, the likeliest first; itself is not among them. */
  like(known: Known, most: number, least = KEPT): { id: number; chance: number }[] {
    const profile = profileOf(known);
    const found: { id: number; chance: number }[] = [];
    for (const id of this.sharing(profile)) {
      const other = this.profiles.get(id);
      if (!other || other.id === profile.id) continue;
      const { one } = this.likely(profile, other);
      if (one >= least) found.push({ id, chance: one });
    }
    return found.sort((a, b) => b.chance - a.chance || a.id - b.id).slice(0, most);
  }

  /** Everybody of a name, as `surnameOf` has it. */
  named(surname: string): readonly number[] {
    return this.surnames.of(surname);
  }

  /** Every record with a key of this one, each once. */
  private sharing(profile: Profile): Set<number> {
    const found = new Set<number>();
    for (const key of keysOf(profile)) {
      const block = this.blocks.of(key);
      if (block.length <= MOST_SHARING) for (const id of block) found.add(id);
    }
    found.delete(profile.id);
    return found;
  }

  private compareAll(profile: Profile): void {
    for (const id of this.sharing(profile)) {
      const other = this.profiles.get(id);
      // A pair whose other one is still to be looked at is compared then.
      if (!other || this.waiting.has(id)) continue;
      const { one } = this.likely(profile, other);
      this.compared++;
      if (one < KEPT) continue;
      this.keep(profile.id, id, one);
      this.keep(id, profile.id, one);
    }
  }

  private keep(one: number, other: number, chance: number): void {
    const others = this.kept.get(one);
    if (others) others.set(other, chance);
    else this.kept.set(one, new Map([[other, chance]]));
  }

  private likely(a: Profile, b: Profile): ReturnType<typeof chances> {
    const agreement = agreementOf(a, b, this.work);
    const isSame = (field: 'first' | 'last' | 'name'): boolean => levelOf(agreement, field) === 'same';
    const rarity: Rarity = {
      first: isSame('first') ? this.firsts.share(a.first) : null,
      last: isSame('last') || isSame('name') ? this.lasts.share(commonName(a)) : null,
    };
    return chances(this.model, agreement, rarity);
  }

  /** Fits the model to a sample of the pairs that will be compared: all pairs of every so many-th record. */
  private learn(ids: readonly number[]): void {
    const seen = new Map<number, { agreement: Agreement; many: number }>();
    let pairs = 0;
    let turn = 0;
    // A step that shares no factor with the number of records passes over all of them, in no order of theirs.
    const step = stepFor(ids.length);
    for (let at = 0; turn < ids.length && pairs < PAIRS_SEEN; turn++, at = (at + step) % ids.length) {
      const profile = this.profiles.get(ids[at] ?? 0);
      if (!profile) continue;
      for (const id of this.sharing(profile)) {
        const other = this.profiles.get(id);
        if (!other) continue;
        const agreement = agreementOf(profile, other, this.work);
        const pattern = patternOf(agreement);
        const same = seen.get(pattern);
        if (same) same.many++;
        else seen.set(pattern, { agreement: agreement.slice(), many: 1 });
        pairs++;
      }
    }
    // Each pair is seen from both its ends, where all are.
    const part = (2 * Math.max(1, turn)) / Math.max(1, ids.length);
    const usual = { first: this.firsts.usual, last: this.lasts.usual };
    this.fit = fitted([...seen.values()], { records: ids.length, part, usual });
  }
}

/** One number for each way to agree. */
function patternOf(agreement: Agreement): number {
  let pattern = 0;
  for (let at = 0; at < FIELDS.length; at++) {
    const field = FIELDS[at] ?? 'first';
    pattern = pattern * LEVELS[field].length + (agreement[at] ?? 0);
  }
  return pattern;
}

function stepFor(many: number): number {
  const shared = (a: number, b: number): number => (b === 0 ? a : shared(b, a % b));
  let step = Math.max(1, Math.floor(many * 0.618));
  while (shared(many, step) !== 1) step++;
  return step;
}
