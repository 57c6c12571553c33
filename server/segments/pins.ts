import type { ReadyAct } from '@tallystick/contract/common';
import * as contract from '@tallystick/contract/pins';
import type { Actor } from '../platform/actor.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { Problem } from '../platform/problem.ts';
import { outside } from '../platform/tables.ts';
import type { Segments } from './segments.service.ts';

outside('pin', 'what each user pinned to Today');

interface PinRow extends Omit<contract.Pin, 'segmentId' | 'name' | 'count'> {
  segment_id: number;
}
/** So many pins somebody may have. */
const MOST = 500;

/** What each user pinned to Today: a segment, or a ready act on it. */
export class Pins {
  constructor(
    private readonly sql: Sql,
    private readonly segments: Segments,
  ) {}

  /** Somebody's pins in their order; those of segments that they do not see any more are left out. */
  async list(actor: Actor): Promise<contract.Pin[]> {
    const rows = await this.sql.rows<PinRow>(
      'SELECT id, segment_id, act, section, place FROM pin WHERE user_id = ? ORDER BY place, id',
      [actor.userId],
    );
    const counts = await this.segments.counts(
      actor,
      rows.map((row) => row.segment_id),
    );
    return rows.flatMap(({ segment_id, ...pin }) => {
      const segment = counts.get(segment_id);
      return segment ? [{ ...pin, segmentId: segment_id, ...segment }] : [];
    });
  }

  async add(actor: Actor, { segmentId, act, section }: { segmentId: number; act: ReadyAct; section: string }) {
    const userId = ownerOf(actor);
    await this.segments.requireSeen(actor, segmentId);
    const known = await one<{ id: number }>(
      this.sql,
      'SELECT id FROM pin WHERE user_id = ? AND segment_id = ? AND act = ?',
      [userId, segmentId, act],
    );
    if (known) return { id: known.id };
    const last = await one<{ place: number | null; many: number }>(
      this.sql,
      'SELECT MAX(place) AS place, COUNT(*) AS many FROM pin WHERE user_id = ?',
      [userId],
    );
    if ((last?.many ?? 0) >= MOST) throw new Problem(409, 'too-many', `Nobody has more than ${MOST} pins.`);
    const { insertId } = await this.sql.run(
      `INSERT INTO pin (user_id, segment_id, act, section, place) VALUES (?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)`,
      [userId, segmentId, act, section, (last?.place ?? 0) + 1],
    );
    return { id: insertId };
  }

  /** Puts somebody's own pins under sections and in order. */
  async arrange(actor: Actor, items: readonly Pick<contract.Pin, 'id' | 'section' | 'place'>[]) {
    const userId = ownerOf(actor);
    const ids = items.toSorted((a, b) => a.place - b.place).map(({ id }) => id);
    for (const section of new Set(items.map((one) => one.section)))
      await this.sql.run('UPDATE pin SET section = ?, place = FIELD(id, ?) WHERE user_id = ? AND id IN (?)', [
        ...[section, ids, userId],
        items.filter((one) => one.section === section).map(({ id }) => id),
      ]);
    return { items: items.length };
  }

  async remove(actor: Actor, id: number) {
    const { affectedRows } = await this.sql.run('DELETE FROM pin WHERE id = ? AND user_id = ?', [id, ownerOf(actor)]);
    return { removed: affectedRows };
  }

  serve(http: Http): void {
    http.on(contract.listPins, async ({ actor }) => ({ items: await this.list(actor) }));
    http.on(contract.addPin, ({ actor, body }) => this.add(actor, body));
    http.on(contract.arrangePins, ({ actor, body }) => this.arrange(actor, body.items));
    http.on(contract.removePin, ({ actor, params }) => this.remove(actor, params.id));
  }
}

/** Whose pins they are; a program that has no Today has none. */
function ownerOf({ userId }: Actor): number {
  if (userId === null) throw new Problem(409, 'no-user', 'Pins belong to somebody who signs in.');
  return userId;
}
