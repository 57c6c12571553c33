import type { DataSource } from 'typeorm';
import { regionName } from '@tallystick/core/regions';
import { counted } from '@tallystick/core/words';
import * as contract from '@tallystick/contract/tags';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { notFound, Problem, nameTaken } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { refused } from './record.ts';
import { GroupTable, SupporterTagTable, TagTable, GroupMemberTable } from './supporter.entity.ts';

/** What a list of names is kept in: the table of names, that of who has them, and the word for one. */
const TAGS = { names: TagTable, holders: SupporterTagTable, column: 'tag_id', word: 'tag' } as const;
const GROUPS = { names: GroupTable, holders: GroupMemberTable, column: 'group_id', word: 'group' } as const;
type Labels = typeof TAGS | typeof GROUPS;

/**
 * Deletes tags that one row alone puts on somebody, with that row; of one that another has by now nothing is deleted.
 * Answers how many.
 */
export async function deleteTagsOnce(
  tx: Transaction,
  rows: readonly { row: number; tagId: number }[],
): Promise<number> {
  // Nobody gets a tag while its name is locked.
  const tags = await tx.lock(
    TagTable,
    rows.map(({ tagId }) => tagId),
  );
  const had = await tx.sql.rows<{ id: number; tag_id: number }>(
    'SELECT id, tag_id FROM supporter_tag WHERE tag_id IN (?) FOR UPDATE', // supporter_tag_tag (tag_id)
    [[0, ...tags.keys()]],
  );
  const once = rows.filter(
    ({ row, tagId }) => tags.has(tagId) && had.every((one) => one.tag_id !== tagId || one.id === row),
  );
  await tx.removeAll(
    SupporterTagTable,
    once.map(({ row }) => row),
  );
  await tx.removeAll(
    TagTable,
    once.map(({ tagId }) => tagId),
  );
  return once.length;
}

/** Tags and groups as things of their own: named, merged, deleted. Who has them is part of the records. */
export class Tags {
  private readonly sql: Sql;
  private readonly holders: ((tagId: number) => Promise<string | null>)[] = [];

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  /** Has a tag stay as long as something keeps it: `why` tells what, in words, or null. */
  keepWhile(why: (tagId: number) => Promise<string | null>): void {
    this.holders.push(why);
  }

  private async refuseKept(id: number): Promise<void> {
    for (const why of this.holders) {
      const because = await why(id);
      if (because !== null) throw new Problem(409, 'in-use', because);
    }
  }

  /** Tags that one active supporter alone has, with the row that says so; those that something keeps are left out. */
  async usedOnce(): Promise<{ id: number; supporterId: number; tagId: number; name: string }[]> {
    // supporter_tag_tag (tag_id)
    const rows = await this.sql.rows<{ id: number; supporterId: number; tagId: number; name: string }>(
      `SELECT x.id, x.supporter_id AS supporterId, t.id AS tagId, t.name
       FROM (SELECT tag_id FROM supporter_tag GROUP BY tag_id HAVING COUNT(*) = 1) one
       JOIN supporter_tag x ON x.tag_id = one.tag_id JOIN tag t ON t.id = x.tag_id
       JOIN supporter s ON s.id = x.supporter_id AND s.state = 'active' ORDER BY t.name`,
    );
    const free = [];
    for (const row of rows) {
      const kept = await Promise.all(this.holders.map((why) => why(row.tagId)));
      if (kept.every((why) => why === null)) free.push(row);
    }
    return free;
  }

  /** Tags with the number of active supporters who have them. */
  async tags() {
    return this.sql.rows<{ id: number; name: string; count: number }>(
      `SELECT t.id, t.name, COUNT(s.id) AS count FROM tag t LEFT JOIN supporter_tag x ON x.tag_id = t.id
       LEFT JOIN supporter s ON s.id = x.supporter_id AND s.state = 'active' GROUP BY t.id ORDER BY t.name`,
    );
  }

  /** Groups with the number of active supporters in them. */
  async groups() {
    return this.sql.rows<{ id: number; name: string; count: number }>(
      `SELECT g.id, g.name, COUNT(s.id) AS count FROM people_group g LEFT JOIN group_member m ON m.group_id = g.id
       LEFT JOIN supporter s ON s.id = m.supporter_id AND s.state = 'active' GROUP BY g.id ORDER BY g.name`,
    );
  }

  /** What forms and conditions choose from of supporters; the states are those of any address. */
  async choices() {
    const [tags, groups, kinds, regions, { country: home }] = await Promise.all([
      this.tags(),
      this.groups(),
      this.sql.rows<{ id: number; name: string; back: string }>(
        'SELECT id, name, back FROM relation_kind ORDER BY name',
      ),
      this.sql.rows<{ region: string; country: string }>(
        `SELECT region, MIN(country) AS country FROM address WHERE region <> '' GROUP BY region ORDER BY region`,
      ),
      this.settings.organization(),
    ]);
    const named = regions.map(({ region, country }) => ({ code: region, name: regionName(region, country || home) }));
    const roles = kinds.flatMap(({ id, name, back }) => [
      { id: id * 2, name },
      ...(back === name ? [] : [{ id: id * 2 + 1, name: back }]),
    ]);
    return { tags, groups, roles, regions: named };
  }

  async addGroup(actor: Actor, name: string, about: string) {
    return this.changes.write(actor, { kind: 'edit', summary: `Made the group ${name}` }, async (tx) => {
      await refuseTaken(tx, GROUPS, name, 0);
      return { id: await tx.insert(GroupTable, { name, about }) };
    });
  }

  async rename(actor: Actor, labels: Labels, id: number, name: string) {
    const before = await this.nameOf(labels, id);
    return this.changes.write(
      actor,
      { kind: 'edit', summary: `Renamed the ${labels.word} ${before} to ${name}` },
      async (tx) => {
        await refuseTaken(tx, labels, name, id);
        await tx.rewrite(labels.names, [id], { name });
      },
    );
  }

  /** Every record with the tag gets the other one; who has both keeps one. The tag is then deleted. */
  async merge(actor: Actor, id: number, intoId: number) {
    if (id === intoId) throw refused('intoId', 'A tag cannot be merged into itself.');
    const [name, into] = await Promise.all([this.nameOf(TAGS, id), this.nameOf(TAGS, intoId)]);
    await this.refuseKept(id);
    return this.changes.write(actor, { kind: 'bulk', summary: `Merged the tag ${name} into ${into}` }, async (tx) => {
      // supporter_tag_tag (tag_id)
      const rows = await tx.sql.rows<{ id: number; supporter_id: number; tag_id: number }>(
        'SELECT id, supporter_id, tag_id FROM supporter_tag WHERE tag_id IN (?) ORDER BY id FOR UPDATE',
        [[id, intoId]],
      );
      const has = new Set(rows.filter((row) => row.tag_id === intoId).map((row) => row.supporter_id));
      const mine = rows.filter((row) => row.tag_id === id);
      const [both, moved] = [
        mine.filter((row) => has.has(row.supporter_id)),
        mine.filter((row) => !has.has(row.supporter_id)),
      ];
      await tx.removeAll(
        SupporterTagTable,
        both.map((row) => row.id),
      );
      await tx.updateAll(
        SupporterTagTable,
        moved.map((row) => row.id),
        { tag_id: intoId },
      );
      await tx.removeAll(TagTable, [id]);
      return { moved: moved.length, had: both.length };
    });
  }

  /** Deletes a tag or group. `records` is how many records the person was told lose it; another number refuses (409). */
  async remove(actor: Actor, labels: Labels, id: number, records: number) {
    const name = await this.nameOf(labels, id);
    if (labels === TAGS) await this.refuseKept(id);
    return this.changes.write(actor, { kind: 'bulk', summary: `Deleted the ${labels.word} ${name}` }, async (tx) => {
      const rows = await tx.sql.rows<{ id: number; shown: number }>(
        `SELECT h.id, s.state = 'active' AS shown FROM ${labels.holders.name} h JOIN supporter s ON s.id = h.supporter_id WHERE h.${labels.column} = ?`,
        [id],
      );
      const losing = rows.filter((row) => row.shown === 1).length;
      if (losing !== records)
        throw new Problem(
          409,
          'in-use',
          `${counted(losing, 'record has', 'records have')} the ${labels.word} ${name} and would lose it.`,
          { details: { records: losing } },
        );
      await tx.removeAll(
        labels.holders,
        rows.map((row) => row.id),
      );
      await tx.removeAll(labels.names, [id]);
    });
  }

  private async nameOf(labels: Labels, id: number): Promise<string> {
    const row = await one<{ name: string }>(this.sql, `SELECT name FROM ${labels.names.name} WHERE id = ?`, [id]);
    if (!row) throw notFound(`This ${labels.word}`);
    return row.name;
  }
}

async function refuseTaken(tx: Transaction, labels: Labels, name: string, id: number): Promise<void> {
  const taken = await tx.sql.rows(`SELECT id FROM ${labels.names.name} WHERE name = ? AND id <> ?`, [name, id]);
  if (taken.length === 0) return;
  throw nameTaken(
    'name',
    `There is a ${labels.word} ${name} already${labels === TAGS ? '; merge the two instead' : ''}.`,
  );
}

export function serveTags(http: Http, tags: Tags): void {
  http.on(contract.renameTag, ({ actor, params, body }) => tags.rename(actor, TAGS, params.id, body.name));
  http.on(contract.mergeTag, async ({ actor, params, body }) => {
    const { revision, result } = await tags.merge(actor, params.id, body.intoId);
    return { revision, ...result };
  });
  http.on(contract.deleteTag, ({ actor, params, query }) => tags.remove(actor, TAGS, params.id, query.records));
  http.on(contract.createGroup, async ({ actor, body }) => {
    const { revision, result } = await tags.addGroup(actor, body.name, body.about);
    return { revision, ...result };
  });
  http.on(contract.updateGroup, ({ actor, params, body }) => tags.rename(actor, GROUPS, params.id, body.name));
  http.on(contract.deleteGroup, ({ actor, params, query }) => tags.remove(actor, GROUPS, params.id, query.records));
}
