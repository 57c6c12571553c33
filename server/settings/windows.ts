import type { DataSource } from 'typeorm';
import type { KeptWindow, Window } from '@tallystick/core/dates';
import { PlainWindow } from '@tallystick/contract/conditions';
import * as contract from '@tallystick/contract/windows';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { nameTaken, notFound } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import { long, setUp, table, text } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';

export const WindowTable = table('kept_window', setUp('settings', 'Window'), {
  name: text(60).says('name'),
  /** As JSON. */
  days: long.says('days'),
});
type WindowRecord = RowOf<typeof WindowTable>;
type Draft = Pick<contract.KeptWindow, 'name' | 'window'>;

/** What cannot be read any more has no days. */
const NEVER: Draft['window'] = { kind: 'between', from: '1900-01-02', to: '1900-01-01' };

/** Every window that is kept by name. */
export async function windowsIn(sql: Sql): Promise<(KeptWindow & { version: number })[]> {
  const rows = await sql.rows<WindowRecord>('SELECT * FROM kept_window ORDER BY name');
  return rows.map(({ id, version, name, days }) => ({
    ...{ id, version, name },
    window: stored(PlainWindow, days, NEVER) as Exclude<Window, { kind: 'kept' }>,
  }));
}

/** Windows of days that are kept by name. */
export class Windows {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    /** Has whoever knows the calendar read it anew. */
    private readonly forget: () => void,
  ) {
    this.sql = sqlOn(source);
  }

  private async write<T>(actor: Actor, summary: string, work: (tx: Transaction) => Promise<T>) {
    const committed = await this.changes.write(actor, { kind: 'edit', summary }, work);
    this.forget();
    return committed;
  }

  /** Nothing else may be called so. */
  private async requireFree(tx: Transaction, name: string, id = 0): Promise<void> {
    const same = await tx.sql.rows('SELECT id FROM kept_window WHERE name = ? AND id <> ?', [name, id]);
    if (same.length > 0) throw nameTaken('name', `There is a window called ${name} already.`);
  }

  add(actor: Actor, { name, window }: Draft) {
    return this.write(actor, `Kept the window ${name}`, async (tx) => {
      await this.requireFree(tx, name);
      return { id: await tx.insert(WindowTable, { name, days: JSON.stringify(window) }) };
    });
  }

  change(actor: Actor, id: number, { version, name, window }: Draft & { version: number }) {
    return this.write(actor, `Changed the window ${name}`, async (tx) => {
      await tx.expect(WindowTable, id, version, 'This window');
      await this.requireFree(tx, name, id);
      await tx.update(WindowTable, id, { name, days: JSON.stringify(window) });
    });
  }

  async remove(actor: Actor, id: number) {
    const [row] = await this.sql.rows<WindowRecord>('SELECT * FROM kept_window WHERE id = ?', [id]);
    if (!row) throw notFound('This window');
    return this.write(actor, `Deleted the window ${row.name}`, (tx) => tx.removeAll(WindowTable, [id]));
  }

  serve(http: Http): void {
    http.on(contract.addWindow, async ({ actor, body }) => {
      const { revision, result } = await this.add(actor, body);
      return { revision, ...result };
    });
    http.on(contract.changeWindow, async ({ actor, params, body }) => {
      const { revision } = await this.change(actor, params.id, body);
      return { revision };
    });
    http.on(contract.deleteWindow, async ({ actor, params }) => {
      const { revision } = await this.remove(actor, params.id);
      return { revision };
    });
  }
}
