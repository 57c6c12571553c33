import { displayName } from '@tallystick/core/names';
import type { Question } from '@tallystick/core/segments';
import * as contract from '@tallystick/contract/segments';
import type { FactsThread } from '../facts/index.ts';
import type { Actor } from '../platform/changes.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { outside } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { everyLed, namesOf } from '../supporters/index.ts';
import type { Segments } from './segments.service.ts';

outside(
  'people_list',
  'a list of numbers that never changes; a segment that names it is the change',
  async (sql, erased) => {
    // What was pasted may hold names and addresses of those who are erased.
    if (erased.length > 0) await sql.run(`UPDATE people_list SET unknown = '' WHERE unknown <> ''`);
  },
);

interface ListRow {
  id: number;
  name: string;
  made_on: string;
  maker: string;
  many: number;
}
const view = ({ id, name, made_on, maker, many }: ListRow): contract.PeopleList => ({
  ...{ id, name, maker, many, madeOn: made_on },
});
const COLUMNS = 'id, name, made_on, maker, many';
/** As many lists as are kept at hand; they never change. */
const MOST_KEPT = 20;
const SOME = 100;

/** Lists of people: pasted, or a segment frozen as it was. */
export class PeopleLists {
  private readonly kept = new Map<number, Uint32Array>();

  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly segments: Segments,
  ) {}

  async list() {
    return (await this.sql.rows<ListRow>(`SELECT ${COLUMNS} FROM people_list ORDER BY id DESC LIMIT 2000`)).map(view);
  }

  async get(id: number) {
    const row = await one<ListRow & { unknown: string }>(
      this.sql,
      `SELECT ${COLUMNS}, unknown FROM people_list WHERE id = ?`,
      [id],
    );
    if (!row) throw notFound('This list of people');
    const report = row.unknown === '' ? null : contract.PastedReport.parse(JSON.parse(row.unknown));
    return { ...view(row), report };
  }

  /** The ids on a list, ascending; null for one that there is not. Who was merged into another is that one. */
  async members(id: number): Promise<Uint32Array | null> {
    const kept = await this.read(id);
    const led = kept ? await everyLed(this.sql) : new Map<number, number>();
    return kept?.some((one) => led.has(one))
      ? Uint32Array.from(new Set([...kept].map((one) => led.get(one) ?? one))).sort()
      : kept;
  }

  private async read(id: number): Promise<Uint32Array | null> {
    const known = this.kept.get(id);
    if (known) return known;
    const row = await one<{ members: Buffer }>(this.sql, 'SELECT members FROM people_list WHERE id = ?', [id]);
    if (!row) return null;
    const ids = new Uint32Array(row.members.length / 4);
    for (let at = 0; at < ids.length; at++) ids[at] = row.members.readUInt32LE(at * 4);
    const [oldest] = this.kept.keys();
    if (this.kept.size >= MOST_KEPT && oldest !== undefined) this.kept.delete(oldest);
    this.kept.set(id, ids);
    return ids;
  }

  async paste(actor: Actor, name: string, text: string) {
    const { ids, ...report } = await this.facts.ask({ ask: 'pasted', text, led: await everyLed(this.sql) });
    if (report.lines === 0) throw new Problem(400, 'invalid', 'Nothing was pasted.');
    const made = await this.keep(actor, name, ids, JSON.stringify(report));
    return { ...made, report };
  }

  async freeze(actor: Actor, name: string, question: Question) {
    return this.keep(actor, name, await this.segments.members(question), '');
  }

  private async keep(actor: Actor, name: string, ids: Uint32Array, unknown: string): Promise<contract.PeopleList> {
    const { today } = await this.settings.calendar();
    const id = await keepPeople(this.sql, { name, today, maker: actor.name, ids, unknown });
    return view({ id, name, made_on: today, maker: actor.name, many: ids.length });
  }

  /** Who left, who came and who stayed, from one to the other. */
  async compare(before: contract.Side, after: contract.Side) {
    const [was, is] = await Promise.all([this.side(before), this.side(after)]);
    const [old, now] = [new Set(was), new Set(is)];
    const some = async (ids: Uint32Array) => {
      const first = [...ids.subarray(0, SOME)];
      const people = (await namesOf(this.sql, first)).map((one) => ({ id: one.id, name: displayName(one) }));
      return { count: ids.length, people };
    };
    return {
      ...{ before: was.length, after: is.length },
      left: await some(was.filter((id) => !now.has(id))),
      came: await some(is.filter((id) => !old.has(id))),
      both: await some(is.filter((id) => old.has(id))),
    };
  }

  private async side(side: contract.Side): Promise<Uint32Array> {
    if ('segment' in side) return this.segments.membersOf(side.segment);
    const ids = await this.members(side.list);
    if (!ids) throw notFound('This list of people');
    return ids;
  }
}

/** Keeps a list of people; answers its id. */
export async function keepPeople(
  sql: Sql,
  list: { name: string; today: string; maker: string; ids: Uint32Array; unknown: string },
): Promise<number> {
  const { name, today, maker, ids, unknown } = list;
  const members = Buffer.alloc(ids.length * 4);
  ids.forEach((id, at) => members.writeUInt32LE(id, at * 4));
  const { insertId } = await sql.run(
    'INSERT INTO people_list (name, made_on, maker, members, many, unknown) VALUES (?, ?, ?, ?, ?, ?)',
    [name, today, maker, members, ids.length, unknown],
  );
  return insertId;
}
