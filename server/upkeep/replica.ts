import type { SupporterKind } from '@tallystick/core/supporters';
import { faultsOf, homeFaults, isBare, withArea } from '@tallystick/core/upkeep';
import type { Fault, Finding, Looked, When } from '@tallystick/core/upkeep';
import { gather } from '../platform/follower.ts';
import type { Cells, FollowerDb, Replica } from '../platform/follower.ts';

export type UpkeepQuestion =
  | { ask: 'counts' }
  | { ask: 'faults'; finding: Finding; /** With telephones: the area code put before them. */ value: string };
export interface UpkeepAnswers {
  counts: {
    records: number;
    /** How many faults of each finding each supporter has. */
    many: [Finding, [supporterId: number, faults: number][]][];
    /** Who is addressed by texts written by hand, and who is but a name: whether those are faults is found elsewhere. */
    byHand: number[];
    bare: number[];
    /** The area code that most telephones begin with; empty where there is none. */
    area: string;
  };
  faults: Fault[];
}

const PEOPLE_SQL = `SELECT id, kind, prefix, first, middle, last, suffix, nickname, former_last, organization, birthday,
  household_id, primary_id, addressing IS NOT NULL FROM supporter WHERE state = 'active'`;
const WAY = 'id, label, preferred, valid_from, valid_to, bad_on';
const DETAILS = {
  emails: `SELECT supporter_id, ${WAY}, address, bad_reason FROM email`,
  phones: `SELECT supporter_id, ${WAY}, number FROM phone`,
  addresses: `SELECT supporter_id, ${WAY}, street, city, region, postal, country, season_from, season_to FROM address`,
  deceased: `SELECT supporter_id FROM wish WHERE kind = 'deceased'`,
} as const;
type Detail = keyof typeof DETAILS;
const KINDS = Object.keys(DETAILS) as Detail[];
type Details = Record<Detail, Map<number, Cells[]>>;
const TIES_SQL = `SELECT a.household_id, a.id, b.id FROM relation r JOIN supporter a ON a.id = r.supporter_id
  JOIN supporter b ON b.id = r.other_id AND b.household_id = a.household_id WHERE (r.until IS NULL OR r.until >= `;

interface Person extends Looked {
  primaryId: number | null;
  byHand: boolean;
}

/** Keeps what is unclean about every record and home, of all who are not in the trash. */
export class UpkeepReplica implements Replica {
  private readonly faults = new Map<number, Fault[]>();
  private readonly byHand = new Set<number>();
  private readonly bare = new Set<number>();
  private readonly here = new Set<number>();
  /** How many telephones begin with each area code; it only proposes one, so those of changed records are left in. */
  private readonly areas = new Map<string, number>();

  constructor(private readonly when: When) {}

  async load(db: FollowerDb): Promise<void> {
    const details = none();
    for (const kind of KINDS) await db.stream(DETAILS[kind], (row) => gather(details[kind], row));
    const homes = new Homes();
    await db.stream(PEOPLE_SQL, (row) => {
      const person = personIn(row, details);
      this.put(person);
      homes.add(person);
    });
    await db.stream(`${TIES_SQL}'${this.when.today}')`, (row) => homes.tie(row));
    this.putHomes(homes);
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    // A home is as those are who live in it; whoever moved out touched the home that they left.
    const housed = await db.rows(
      'SELECT DISTINCT household_id FROM supporter WHERE id IN (?) AND household_id IS NOT NULL',
      [ids],
    );
    const home = [...new Set([...ids, ...housed.map((row) => Number(row[0]))])];
    // supporter_household (household_id)
    const members = await db.rows('SELECT id FROM supporter WHERE household_id IN (?)', [home]);
    const people = await db.rows(`${PEOPLE_SQL} AND id IN (?)`, [
      [...new Set([...home, ...members.map((row) => Number(row[0]))])],
    ]);
    const all = [0, ...people.map((row) => Number(row[0]))];
    const details = none();
    const [ties, ...found] = await Promise.all([
      db.rows(`${TIES_SQL}?) AND a.household_id IN (?)`, [this.when.today, home]),
      ...KINDS.map((kind) =>
        db.rows(`${DETAILS[kind]} ${kind === 'deceased' ? 'AND' : 'WHERE'} supporter_id IN (?)`, [all]),
      ),
    ]);
    for (const [at, kind] of KINDS.entries()) for (const row of found[at] ?? []) gather(details[kind], row);
    for (const id of [...home, ...all]) this.remove(id);
    const homes = new Homes();
    for (const row of people) {
      const person = personIn(row, details);
      this.put(person);
      homes.add(person);
    }
    for (const row of ties) homes.tie(row);
    this.putHomes(homes);
  }

  private remove(id: number): void {
    for (const set of [this.faults, this.byHand, this.bare, this.here]) set.delete(id);
  }

  private put(person: Person): void {
    this.here.add(person.id);
    this.tell(faultsOf(person, this.when));
    if (person.byHand) this.byHand.add(person.id);
    if (isBare(person)) this.bare.add(person.id);
    for (const { number } of person.phones) {
      const area = /^\D{0,4}(\d{3})\D*\d{3}\D*\d{4}\b/.exec(number.replace(/^\+1/, ''))?.[1];
      if (area !== undefined) this.areas.set(area, (this.areas.get(area) ?? 0) + 1);
    }
  }

  private putHomes(homes: Homes): void {
    for (const home of homes.all()) this.tell(homeFaults(home, this.when));
  }

  private tell(faults: readonly Fault[]): void {
    for (const fault of faults) {
      const list = this.faults.get(fault.supporterId);
      if (list) list.push(fault);
      else this.faults.set(fault.supporterId, [fault]);
    }
  }

  answer(given: unknown): UpkeepAnswers[keyof UpkeepAnswers] {
    const question = given as UpkeepQuestion;
    if (question.ask === 'counts') return this.counts();
    const faults = [...this.faults.values()].flat().filter(({ finding }) => finding === question.finding);
    return question.finding === 'phone-area' && question.value !== ''
      ? faults.map((fault) => withArea(fault, question.value, this.when.home))
      : faults;
  }

  private counts(): UpkeepAnswers['counts'] {
    const many = new Map<Finding, Map<number, number>>();
    for (const [id, faults] of this.faults)
      for (const { finding } of faults) {
        const of = many.get(finding) ?? new Map<number, number>();
        many.set(finding, of.set(id, (of.get(id) ?? 0) + 1));
      }
    const [area] = [...this.areas].sort((a, b) => b[1] - a[1])[0] ?? [''];
    return {
      records: this.here.size,
      many: [...many].map(([finding, of]) => [finding, [...of]]),
      ...{ byHand: [...this.byHand], bare: [...this.bare], area },
    };
  }
}

/** Households with who lives there, as they are read one after another. */
class Homes {
  private readonly homes = new Map<number, Person>();
  private readonly members = new Map<number, Person[]>();
  private readonly ties = new Map<number, [number, number][]>();

  add(person: Person): void {
    if (person.kind === 'household') this.homes.set(person.id, person);
    if (person.householdId === null) return;
    const list = this.members.get(person.householdId);
    if (list) list.push(person);
    else this.members.set(person.householdId, [person]);
  }

  tie(row: Cells): void {
    const [home = 0, one = 0, other = 0] = row.map(Number);
    this.ties.set(home, [...(this.ties.get(home) ?? []), [one, other]]);
  }

  *all() {
    for (const [id, home] of this.homes) {
      const members = this.members.get(id);
      if (members) yield { home, primaryId: home.primaryId, members, tied: this.ties.get(id) ?? [] };
    }
  }
}

const none = (): Details => ({ emails: new Map(), phones: new Map(), addresses: new Map(), deceased: new Map() });

const text = (cell: string | number | null | undefined): string => String(cell ?? '');
const maybe = (cell: string | number | null | undefined): string | null => (cell == null ? null : String(cell));
const wayIn = (cells: Cells) => ({
  ...{ id: Number(cells[1]), label: text(cells[2]), preferred: cells[3] === 1 },
  ...{ validFrom: maybe(cells[4]), validTo: maybe(cells[5]), badOn: maybe(cells[6]) },
});

function personIn(row: Cells, details: Details): Person {
  const id = Number(row[0]);
  const at = (place: number): string => text(row[place]);
  const number = (place: number): number | null => (row[place] == null ? null : Number(row[place]));
  const of = (kind: Detail): readonly Cells[] => details[kind].get(id) ?? [];
  return {
    ...{ id, kind: at(1) as SupporterKind, prefix: at(2), first: at(3), middle: at(4), last: at(5), suffix: at(6) },
    ...{ nickname: at(7), formerLast: at(8), organization: at(9), birthday: at(10) },
    ...{ householdId: number(11), primaryId: number(12), byHand: row[13] === 1, deceased: of('deceased').length > 0 },
    emails: of('emails').map((cells) => ({ ...wayIn(cells), address: text(cells[7]), badReason: text(cells[8]) })),
    phones: of('phones').map((cells) => ({ ...wayIn(cells), number: text(cells[7]) })),
    addresses: of('addresses').map((cells) => ({
      ...{ ...wayIn(cells), street: text(cells[7]), city: text(cells[8]), region: text(cells[9]) },
      ...{ postal: text(cells[10]), country: text(cells[11]) },
      ...{ seasonFrom: maybe(cells[12]), seasonTo: maybe(cells[13]) },
    })),
  };
}
