import type { DataSource } from 'typeorm';
import * as contract from '@tallystick/contract/views';
import type { ViewSetting } from '@tallystick/contract/views';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { requireOwn } from '../platform/rights.ts';
import { stored } from '../platform/stored.ts';
import { notFound } from '../platform/problem.ts';
import { long, maybe, ref, setUp, table, text } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

export const ViewTable = table('saved_view', setUp('settings', 'Saved view'), {
  list: text(30),
  name: text(80),
  setting: long,
  author: text(120),
  owner_id: maybe(ref),
});
type ViewRecord = RowOf<typeof ViewTable>;

/** A list as nobody arranged it, in place of a setting that cannot be read. */
const PLAIN: ViewSetting = { search: '', order: [], hidden: [], shown: [], widths: {}, names: {} };

/** Lists as people arranged them, shared by everyone. */
export class Views {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  async list(list: string) {
    const rows = await this.sql.rows<ViewRecord>('SELECT * FROM saved_view WHERE list = ? ORDER BY name', [list]);
    return rows.map(({ id, version, name, author, owner_id, setting }) => ({
      id,
      version,
      name,
      author,
      ownerId: owner_id,
      setting: stored(contract.ViewSetting, setting, PLAIN),
    }));
  }

  async save(actor: Actor, list: string, name: string, setting: ViewSetting) {
    return this.changes.write(actor, { kind: 'edit', summary: `Saved the view ${name}` }, async (tx) => {
      // saved_view_name (list, name)
      const known = await one<{ id: number; owner_id: number | null }>(
        tx.sql,
        'SELECT id, owner_id FROM saved_view WHERE list = ? AND name = ? FOR UPDATE',
        [list, name],
      );
      const row = { name, setting: JSON.stringify(setting), author: actor.name, owner_id: actor.userId };
      if (!known) return { id: await tx.insert(ViewTable, { list, ...row }) };
      requireOwn(actor, 'views.change', known.owner_id, `The view “${name}”`);
      await tx.update(ViewTable, known.id, row);
      return { id: known.id };
    });
  }

  async remove(actor: Actor, id: number) {
    const view = await one<ViewRecord>(this.sql, 'SELECT * FROM saved_view WHERE id = ?', [id]);
    if (!view) throw notFound('This view');
    requireOwn(actor, 'views.delete', view.owner_id, `The view “${view.name}”`);
    return this.changes.write(actor, { kind: 'edit', summary: `Deleted the view ${view.name}` }, (tx) =>
      tx.removeAll(ViewTable, [id]),
    );
  }
}

export function serveViews(http: Http, views: Views): void {
  http.on(contract.listViews, async ({ query }) => ({ items: await views.list(query.list) }));
  http.on(contract.createView, async ({ actor, body }) => {
    const { revision, result } = await views.save(actor, body.list, body.name, body.setting);
    return { revision, ...result };
  });
  http.on(contract.deleteView, ({ actor, params }) => views.remove(actor, params.id));
}
