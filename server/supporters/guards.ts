import { reaches } from '@tallystick/core/relations';
import { supporterNumber } from '@tallystick/core/supporters';
import { guard } from '../platform/guards.ts';
import type { Breach } from '../platform/guards.ts';
import { RelationTable } from './relations.ts';
import { SupporterTable } from './supporter.entity.ts';

const ENDS = ['supporter_id', 'other_id', 'kind_id', 'until'] as const;

interface Tie {
  id: number;
  kindId: number;
  fromId: number;
  toId: number;
}
const TIE = 'r.id, r.kind_id AS kindId, r.supporter_id AS fromId, r.other_id AS toId';

guard({
  holds: 'Two are tied by one open tie of a kind',
  code: 'tied-already',
  about: [{ table: RelationTable, of: 'id', columns: ENDS }],
  async breaches({ sql, among }) {
    // relation_supporter (supporter_id), relation_other (other_id); a tie that reads the same both ways is one either way
    const open = `FROM relation r JOIN relation_kind k ON k.id = r.kind_id JOIN relation o ON o.kind_id = r.kind_id AND o.id <> r.id AND o.until IS NULL`;
    const twice = await sql.rows<Tie & { name: string }>(
      `SELECT ${TIE}, k.name ${open} AND o.supporter_id = r.supporter_id AND o.other_id = r.other_id
       WHERE ${among('r.id')} AND r.until IS NULL
       UNION SELECT ${TIE}, k.name ${open} AND o.supporter_id = r.other_id AND o.other_id = r.supporter_id
       WHERE ${among('r.id')} AND r.until IS NULL AND k.name = k.back`,
    );
    return twice.map(({ id, name, fromId, toId }) => ({
      subject: id,
      says: `${supporterNumber(fromId)} is the ${name} of ${supporterNumber(toId)} already, by a tie that is still open. End or delete that first.`,
    }));
  },
});

guard({
  holds: 'Nobody comes before themselves in a line',
  code: 'tied-in-a-circle',
  about: [{ table: RelationTable, of: 'id', columns: ENDS }],
  async breaches({ sql, among }) {
    const asked = await sql.rows<Tie & { name: string }>(
      `SELECT ${TIE}, k.name FROM relation r JOIN relation_kind k ON k.id = r.kind_id AND k.lineal = 1
       WHERE ${among('r.id')} AND r.until IS NULL`,
    );
    if (asked.length === 0) return [];
    const kinds = [...new Set(asked.map((tie) => tie.kindId))];
    const all = await sql.rows<Tie>(`SELECT ${TIE} FROM relation r WHERE r.kind_id IN (?) AND r.until IS NULL`, [
      kinds,
    ]);
    const ofKind = new Map(kinds.map((kind) => [kind, all.filter((tie) => tie.kindId === kind)]));
    return asked.flatMap(({ id, kindId, fromId, toId, name }): Breach[] =>
      reaches(ofKind.get(kindId) ?? [], toId, fromId)
        ? [
            {
              subject: id,
              says: `${supporterNumber(toId)} comes before ${supporterNumber(fromId)} in that line already, so ${supporterNumber(fromId)} cannot be their ${name}.`,
            },
          ]
        : [],
    );
  },
});

guard({
  holds: 'People share a household, whose primary is one of them',
  code: 'household',
  about: [
    { table: SupporterTable, of: 'household_id', columns: ['household_id', 'kind'] },
    { table: SupporterTable, of: 'id', columns: ['primary_id', 'kind'], fresh: false },
  ],
  async breaches({ sql, among }) {
    const odd = await sql.rows<{ subject: number; person: number }>(
      // supporter_household (household_id)
      `SELECT h.id AS subject, p.id AS person FROM supporter h JOIN supporter p ON p.id = h.primary_id
       WHERE ${among('h.id')} AND h.state <> 'erased' AND COALESCE(p.household_id, 0) <> h.id
       UNION SELECT h.id, p.id FROM supporter p JOIN supporter h ON h.id = p.household_id
       WHERE ${among('p.household_id')} AND p.household_id IS NOT NULL AND (h.kind <> 'household' OR p.kind <> 'person')`,
    );
    return odd.map(({ subject, person }) => ({
      subject,
      says: `${supporterNumber(person)} and ${supporterNumber(subject)} would no longer be a person and their household. Undo what was changed of them since first.`,
    }));
  },
});
