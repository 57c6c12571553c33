import { supporterNumber } from '@tallystick/core/supporters';
import { guard } from '../platform/guards.ts';
import { declaredTables } from '../platform/tables.ts';
import { SupporterTable } from '../supporters/index.ts';

guard({
  holds: 'A number that was merged into another leads to a record that is kept, and to nobody else',
  code: 'merged',
  about: [{ table: SupporterTable, of: 'id', columns: ['state', 'merged_into'], fresh: false }],
  async breaches({ sql, among }) {
    const odd = await sql.rows<{ subject: number }>(
      `SELECT s.id AS subject FROM supporter s LEFT JOIN supporter k ON k.id = s.merged_into
       WHERE ${among('s.id')} AND ((s.state = 'merged') <> (s.merged_into IS NOT NULL) OR k.state = 'merged')
       UNION SELECT k.id FROM supporter s JOIN supporter k ON k.id = s.merged_into WHERE ${among('k.id')} AND k.state = 'merged'`,
    );
    return odd.map(({ subject }) => ({
      subject,
      says: `${supporterNumber(subject)} was merged with others since. Undo those merges first.`,
    }));
  },
});

guard({
  holds: 'Who was merged into another has nothing that belongs to that one',
  code: 'merged',
  about: [{ table: SupporterTable, of: 'id', columns: ['state'], fresh: false }],
  async breaches({ sql, among }) {
    const found: { subject: number; says: string }[] = [];
    for (const { name, rule } of declaredTables()) {
      if (rule.merging !== 'move') continue;
      const left = await sql.rows<{ subject: number }>(
        `SELECT DISTINCT s.id AS subject FROM supporter s JOIN ${name} x ON x.supporter_id = s.id
         WHERE ${among('s.id')} AND s.state = 'merged'`,
      );
      for (const { subject } of left)
        found.push({
          subject,
          says: `${supporterNumber(subject)} got more since (${name.replace(/_/g, ' ')}). Merge it again, as it is now.`,
        });
    }
    return found;
  },
});
