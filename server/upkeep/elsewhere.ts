import { displayName } from '@tallystick/core/names';
import type { Fault, Finding } from '@tallystick/core/upkeep';
import { counted } from '@tallystick/core/words';
import { waitingTo } from '../outreach/index.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { declaredTables } from '../platform/tables.ts';
import { pledgesOf } from '../pledges/index.ts';
import { recurringOf } from '../recurring/index.ts';
import { valuesOffList } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { Addressing, DECEASED, namesOf, openTasksOf, outlived, PEOPLE } from '../supporters/index.ts';
import type { Tags } from '../supporters/index.ts';

/* What is unclean and not seen from records and homes alone: it is asked of the areas that know. */

/** Findings that are asked elsewhere; the others are kept by the replica. */
export const ELSEWHERE = ['salutation', 'deceased', 'empty', 'tag', 'field'] as const satisfies readonly Finding[];
export type AskedElsewhere = (typeof ELSEWHERE)[number];
export const isElsewhere = (finding: Finding): finding is AskedElsewhere =>
  (ELSEWHERE as readonly Finding[]).includes(finding);

export class Elsewhere {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly tags: Tags,
  ) {}

  /** The faults of a finding; of `candidates` alone where it is about those. */
  async faults(finding: AskedElsewhere, candidates: { byHand: number[]; bare: number[] }): Promise<Fault[]> {
    switch (finding) {
      case 'salutation':
        return this.salutations(candidates.byHand);
      case 'empty':
        return this.empty(candidates.bare);
      case 'deceased':
        return this.deceased();
      case 'tag':
        return (await this.tags.usedOnce()).map(({ id, supporterId, tagId, name }) => ({
          ...{ finding, supporterId, table: 'supporter_tag', row: id, was: name, becomes: 'no tag' },
          ...{ from: { tag_id: tagId }, to: {} },
        }));
      case 'field':
        return this.fields();
    }
  }

  private async salutations(ids: readonly number[]): Promise<Fault[]> {
    const found = await outlived(new Addressing(this.sql, this.settings), this.sql, ids);
    return found.map(({ id, was, becomes, from, to }) => ({
      ...{ finding: 'salutation', supporterId: id, table: 'supporter', row: id, was, becomes },
      ...{ from: { addressing: from }, to: { addressing: to } },
    }));
  }

  private async empty(bare: readonly number[]): Promise<Fault[]> {
    const hung = await withAnything(this.sql, bare);
    const empty = bare.filter((id) => !hung.has(id));
    const names = await namesOf(this.sql, empty);
    return names.map((row) => ({
      ...{ finding: 'empty', supporterId: row.id, table: 'supporter', row: row.id, was: displayName(row) },
      ...{ becomes: 'in the trash', from: { state: 'active' }, to: { state: 'trash' } },
    }));
  }

  private async fields(): Promise<Fault[]> {
    const found = await valuesOffList(this.sql, await this.settings.formats());
    return found.map(({ id, supporterId, field, value, shown, near }) => ({
      ...{ finding: 'field', supporterId, table: 'supporter_field', row: id, was: `${field}: ${shown}` },
      ...{ becomes: near === null ? null : `${field}: ${near.shown}`, from: { value } },
      to: near === null ? null : { value: near.value },
    }));
  }

  /** Who died, and with whom something is planned all the same. */
  private async deceased(): Promise<Fault[]> {
    const { today } = await this.settings.calendar();
    const rows = await this.sql.rows<{ id: number }>(
      `SELECT DISTINCT d.supporter_id AS id FROM ${DECEASED} d JOIN ${PEOPLE} p ON p.id = d.supporter_id AND p.state = 'active' ORDER BY 1`,
    );
    const found: Fault[] = [];
    for (const slice of chunks(
      rows.map(({ id }) => id),
      2000,
    )) {
      const [recurring, pledges, tasks, waiting] = await Promise.all([
        recurringOf(this.sql, slice, today),
        pledgesOf(this.sql, slice),
        openTasksOf(this.sql, slice),
        waitingTo(this.sql, slice),
      ]);
      const many = (list: readonly { supporter_id: number | null }[], id: number): number =>
        list.filter((one) => one.supporter_id === id).length;
      const open = pledges.filter((one) => one.open > 0);
      for (const id of slice) {
        const parts: [number, string][] = [
          [many(recurring, id), 'recurring gift'],
          [many(open, id), 'open pledge'],
          [many(tasks, id), 'open task'],
          [waiting.get(id) ?? 0, 'waiting message'],
        ];
        const was = parts.flatMap(([count, word]) => (count > 0 ? [counted(count, word)] : [])).join(', ');
        // Pledges stay open, and messages are held back by themselves.
        const ends = [
          many(recurring, id) > 0 ? 'recurring gifts end' : '',
          many(tasks, id) > 0 ? 'tasks are deleted' : '',
        ].filter(Boolean);
        if (was !== '')
          found.push({
            ...{ finding: 'deceased', supporterId: id, table: 'supporter', row: id, was },
            ...{ becomes: ends.length > 0 ? ends.join(', ') : null, from: {}, to: ends.length > 0 ? {} : null },
          });
      }
    }
    return found;
  }
}

/** What says nothing of a person: it is kept of the record, not of them. */
const SAYS_NOTHING = ['muted_finding', 'not_same'];

/** Those of some records on which anything hangs: any row of any table that names them. */
export async function withAnything(sql: Sql, ids: readonly number[]): Promise<Set<number>> {
  const found = new Set<number>();
  const columns = declaredTables().flatMap(({ name, rule }) =>
    SAYS_NOTHING.includes(name)
      ? []
      : [rule.owner === 'supporter_id' ? rule.owner : undefined, rule.also, rule.alsoWhenChanged].flatMap((column) =>
          column === undefined ? [] : [{ name, column }],
        ),
  );
  let left = ids;
  for (const { name, column } of columns) {
    for (const slice of chunks(left, 2000))
      // A database index on each of these columns serves.
      for (const { id } of await sql.rows<{ id: number }>(
        `SELECT DISTINCT ${column} AS id FROM ${name} WHERE ${column} IN (?)`,
        [slice],
      ))
        found.add(id);
    // Most have gifts, and are asked about no further.
    left = left.filter((id) => !found.has(id));
  }
  return found;
}
