import { consequence } from '../platform/consequences.ts';
import { declaredTables } from '../platform/tables.ts';

/**
 * States that what is part of something goes where that goes: the installments of a pledge to whom the pledge belongs.
 * It holds of merges, and when a merge is undone of what was added to it since. Called once all tables are declared.
 */
export function partsGoAlong(): void {
  const parts = declaredTables().flatMap((table) => {
    const { merging } = table.rule;
    return typeof merging === 'object' && 'with' in merging ? [{ table, ...merging }] : [];
  });
  for (const whole of new Set(parts.map((part) => part.with)))
    consequence({
      follows: `What is part of a ${whole} belongs to whom the ${whole} does`,
      from: [{ table: { name: whole }, of: 'id', columns: ['supporter_id'], fresh: false }],
      async write(tx, moved) {
        for (const { table, by, with: of } of parts) {
          if (of !== whole) continue;
          // Each part has an index on what it is part of.
          const rows = await tx.sql.rows<{ id: number; owner: number }>(
            `SELECT p.id, w.supporter_id AS owner FROM ${table.name} p JOIN ${whole} w ON w.id = p.${by}
             WHERE w.id IN (?) AND p.supporter_id <> w.supporter_id`,
            [moved],
          );
          for (const owner of new Set(rows.map((row) => row.owner)))
            await tx.rewrite(
              table,
              rows.filter((row) => row.owner === owner).map((row) => row.id),
              { supporter_id: owner },
            );
        }
      },
    });
}
