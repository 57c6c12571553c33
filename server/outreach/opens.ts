import type { Actor, Changes } from '../platform/changes.ts';
import { isFinal } from '../platform/changes.ts';
import type { Clock } from '../platform/clock.ts';
import type { Sql } from '../platform/db.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    opened: true;
  }
}
isFinal('opened', 'e-mails were opened');

const AT_ONCE = 2000;
/** Who tells that e-mails were opened. */
const TELLER: Actor = { userId: null, name: 'Tallystick' };

/**
 * Which e-mails were opened, as far as their pictures were fetched: the first time of each. Noted at once, and told
 * to those who keep in memory what became of messages by one change set now and then, however many were opened.
 */
export class Opens {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly clock: Clock,
  ) {}

  async note(deliveryId: number): Promise<void> {
    await this.sql.run(
      `UPDATE delivery SET opened_at = ?, untold = 1 WHERE id = ? AND opened_at IS NULL AND state IN ('sent', 'unsure')`,
      [this.clock.stamp(), deliveryId],
    );
  }

  async tell(): Promise<void> {
    for (;;) {
      // delivery_untold (untold, id)
      const rows = await this.sql.rows<{ id: number; who: number }>(
        'SELECT id, supporter_id AS who FROM delivery WHERE untold = 1 ORDER BY id LIMIT ?',
        [AT_ONCE],
      );
      if (rows.length === 0) return;
      const summary = rows.length === 1 ? 'An e-mail was opened' : `${rows.length} e-mails were opened`;
      await this.changes.write(TELLER, { kind: 'opened', summary, evenWithoutRows: true }, async (tx) => {
        tx.touch(rows.map(({ who }) => who));
        await tx.sql.run('UPDATE delivery SET untold = 0 WHERE id IN (?)', [rows.map(({ id }) => id)]);
      });
    }
  }
}
