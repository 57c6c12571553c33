import type { Kept } from '../fields/index.ts';
import { displayName } from '../names/index.ts';
import { kindOfCode } from '../supporters/index.ts';
import { bytesOf, grown, put, putOne } from './columns.ts';
import type { Entries } from './columns.ts';
import { FLAG, LIST_NAMES, lists, personColumns } from './declared.ts';
import type { ListName, ListRow, PersonRow } from './declared.ts';
import type { Ragged } from './ragged.ts';

/** What facts know of one supporter; what is left out is nothing, and no list. */
export type SupporterFacts = { id: number; sortName?: string } & Partial<PersonRow> & {
    lists?: { [L in ListName]?: readonly ListRow<L>[] };
    fields?: readonly (readonly [field: number, value: Kept])[];
    /** Values of custom fields of their gifts. */
    giftFields?: readonly (readonly [field: number, value: Kept])[];
  };

/** A list of which only the name is known, as it runs. */
export type AnyList = Pick<Ragged, 'start' | 'count' | 'columns' | 'owners' | 'whose'> & {
  push(owner: number, row: AnyRow): void;
  replace(owner: number, rows: readonly AnyRow[]): void;
};
type AnyRow = Readonly<Record<string, string | number>>;

const NOTHING = Object.fromEntries(
  Object.entries(personColumns()).map(([name, { words }]) => [name, words ? '' : 0]),
) as PersonRow;

/**
 * The columns that questions about many supporters are answered from. A supporter has a slot, given out in the
 * order of first sight and never moved; `ids[slot]` is its id. A supporter that is gone keeps its slot with the
 * `trashed` flag, so that its gifts still count in financial totals while no list shows it.
 */
export class Facts {
  ids = new Uint32Array(16);
  readonly sortNames: string[] = [];
  size = 0;
  /** What is known once of each supporter, by slot. */
  readonly people = personColumns();
  private readonly columns: Entries = Object.entries(this.people);
  readonly lists = lists();
  readonly gifts = this.lists.gifts;
  readonly splits = this.lists.splits;
  readonly credits = this.lists.credits;
  /** For each custom field the values of the slots that have one. */
  readonly fields = new Map<number, Map<number, Kept>>();
  /** For each custom field of gifts the values that each slot's gifts have. */
  readonly giftFields = new Map<number, Map<number, Kept[]>>();
  /** For each household the slots that belong to it, its own among them. */
  private readonly homes = new Map<number, Set<number>>();
  private slots = new Int32Array(16).fill(-1);

  /** The slot of a supporter id, or -1. */
  slotOf(id: number): number {
    return this.slots[id] ?? -1;
  }

  /** Whether the supporter in a slot is in the trash or gone. */
  isGone(slot: number): boolean {
    return ((this.people.flags.values[slot] as number) & FLAG.trashed) !== 0;
  }

  /** Whether nothing but the money of the supporter in a slot is left. */
  isErased(slot: number): boolean {
    return ((this.people.flags.values[slot] as number) & FLAG.erased) !== 0;
  }

  /** Puts what is known once of a supporter in its slot, adding one where there is none yet. */
  addSupporter(id: number, row: Partial<PersonRow>, sortName = ''): number {
    let slot = this.slotOf(id);
    if (slot < 0) {
      slot = this.size++;
      if (slot >= this.ids.length) this.growSupporters();
      if (id >= this.slots.length) {
        const bigger = new Int32Array(Math.max(id + 1, this.slots.length * 2)).fill(-1);
        bigger.set(this.slots);
        this.slots = bigger;
      }
      this.slots[id] = slot;
      this.ids[slot] = id;
      for (const name of LIST_NAMES) this.lists[name].replace(slot, []);
    } else this.leaveHome(slot);
    const whole = { ...NOTHING, ...row };
    put(this.columns, slot, whole);
    this.sortNames[slot] = sortName;
    this.enterHome(slot, whole.household);
    return slot;
  }

  /** Puts some of what is known once of a supporter right. */
  update(slot: number, row: Partial<PersonRow>): void {
    for (const name in row)
      putOne(this.people[name as keyof PersonRow], slot, row[name as keyof PersonRow] as string | number);
  }

  /** The slots of a household, its own record's among them; a supporter without one is alone. */
  homeOf(slot: number): Iterable<number> {
    const home = this.people.household.values[slot] ?? 0;
    return home === 0 ? [slot] : (this.homes.get(home) ?? [slot]);
  }

  /** The household that a supporter shares a home with; 0 for none, as of who is in the trash, or whose household is. */
  sharedHome(slot: number): number {
    const home = this.people.household.values[slot] ?? 0;
    const record = this.slotOf(home);
    return this.isGone(slot) || (record >= 0 && this.isGone(record)) ? 0 : home;
  }

  /** Those who share a home with a supporter, who is one of them; none of them is in the trash but who is alone. */
  sharersOf(slot: number): number[] {
    if (this.sharedHome(slot) === 0) return [slot];
    return [...this.homeOf(slot)].filter((one) => !this.isGone(one));
  }

  /** The name of the supporter in a slot as it is shown; empty for one that there is not, or of whom only money is left. */
  nameOf(slot: number): string {
    if (slot < 0 || this.isErased(slot)) return '';
    const { kind, prefix, first, middle, last, suffix, organization } = this.people;
    return displayName({
      ...{ kind: kindOfCode(kind.values[slot] as number), prefix: prefix.at(slot), first: first.at(slot) },
      ...{ middle: middle.at(slot), last: last.at(slot), suffix: suffix.at(slot), organization: organization.at(slot) },
    });
  }

  setField(slot: number, field: number, value: Kept): void {
    const values = this.fields.get(field);
    if (values) values.set(slot, value);
    else this.fields.set(field, new Map([[slot, value]]));
  }

  addGiftField(slot: number, field: number, value: Kept): void {
    const bySlot = this.giftFields.get(field) ?? new Map<number, Kept[]>();
    this.giftFields.set(field, bySlot);
    const values = bySlot.get(slot);
    if (values) values.push(value);
    else bySlot.set(slot, [value]);
  }

  /** Puts what is now true of one supporter in the place of what was. */
  replace({ id, sortName, lists: its = {}, fields = [], giftFields = [], ...row }: SupporterFacts): number {
    const slot = this.addSupporter(id, row, sortName);
    // Gifts stand in the order of their days, as they are loaded.
    const gifts = its.gifts?.toSorted((a, b) => a.day - b.day) ?? [];
    for (const name of LIST_NAMES) this.listOf(name).replace(slot, name === 'gifts' ? gifts : (its[name] ?? []));
    this.forgetFields(slot);
    for (const [field, value] of fields) this.setField(slot, field, value);
    for (const [field, value] of giftFields) this.addGiftField(slot, field, value);
    return slot;
  }

  /** A list whose name is known only as it runs. */
  listOf(name: ListName): AnyList {
    return this.lists[name];
  }

  /** Takes a supporter whose row no longer exists out of every answer, gifts included. */
  remove(id: number): void {
    const slot = this.slotOf(id);
    if (slot < 0) return;
    this.leaveHome(slot);
    this.update(slot, { flags: FLAG.trashed | FLAG.erased, household: 0 });
    for (const name of LIST_NAMES) this.lists[name].replace(slot, []);
    this.forgetFields(slot);
  }

  /** Gives back the room that loading took more than it needed. */
  trim(): void {
    for (const name of LIST_NAMES) this.lists[name].trim();
  }

  /** About how many bytes everything takes. */
  get bytes(): number {
    const own = this.ids.byteLength + this.slots.byteLength + this.sortNames.length * 60;
    const sparse = [...this.fields.values(), ...this.giftFields.values()].reduce((sum, one) => sum + one.size * 80, 0);
    return LIST_NAMES.reduce((sum, name) => sum + this.lists[name].bytes, own + sparse + bytesOf(this.people));
  }

  private forgetFields(slot: number): void {
    for (const values of this.fields.values()) values.delete(slot);
    for (const values of this.giftFields.values()) values.delete(slot);
  }

  private leaveHome(slot: number): void {
    const before = this.people.household.values[slot] ?? 0;
    if (before !== 0) this.homes.get(before)?.delete(slot);
  }

  private enterHome(slot: number, household: number): void {
    if (household === 0) return;
    const home = this.homes.get(household);
    if (home) home.add(slot);
    else this.homes.set(household, new Set([slot]));
  }

  private growSupporters(): void {
    const size = this.ids.length * 2;
    this.ids = grown(this.ids, size);
    for (const column of Object.values(this.people)) column.grow(size);
  }
}
