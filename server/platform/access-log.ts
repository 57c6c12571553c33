import type { Actor } from './changes.ts';
import { instant } from './clock.ts';
import type { Clock } from './clock.ts';
import type { Sql } from './db.ts';
import { pageOf } from './page.ts';
import type { Asked } from './page.ts';
import { outside } from './tables.ts';

/** What is noted: who came in or was refused, who took much out, and who changed what others may. */
export type Access = 'sign-in' | 'sign-out' | 'refused' | 'export' | 'list' | 'rights';

outside('access_log', 'who signed in, was refused or took much out; it is only added to');

/**
 * Who did what that is no change of records, when and from where. Rows are only added: the database refuses to change
 * or delete one.
 */
export class AccessLog {
  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
  ) {}

  async note(what: Access, actor: Pick<Actor, 'userId' | 'name'>, address: string, says: string): Promise<void> {
    await this.sql.run('INSERT INTO access_log (at, user_id, actor, what, address, says) VALUES (?, ?, ?, ?, ?, ?)', [
      ...[this.clock.stamp(), actor.userId, actor.name.slice(0, 120), what, address.slice(0, 45), says.slice(0, 300)],
    ]);
  }

  async list(asked: Asked & { what?: Access | undefined }) {
    const page = await pageOf<{ id: number; at: string; actor: string; what: Access; address: string; says: string }>(
      this.sql,
      {
        // access_what (what, id)
        select: `SELECT id, at, actor, what, address, says FROM access_log WHERE ${asked.what ? 'what = ?' : 'TRUE'}`,
        params: asked.what ? [asked.what] : [],
        order: [{ sql: 'id', as: 'id', down: true }],
      },
      asked,
    );
    return { ...page, items: page.items.map(({ actor, at, ...row }) => ({ ...row, at: instant(at), by: actor })) };
  }
}
