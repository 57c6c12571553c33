import type { SupporterDraft } from '@tallystick/contract/supporters';
import { splitPeople } from '@tallystick/core/fullnames';
import { sortName, supporterParts } from '@tallystick/core/names';
import type { Transaction } from '../platform/transaction.ts';
import { lockSupporter, nameOf, refused } from './record.ts';
import { SupporterTable } from './supporter.entity.ts';
import type { SupporterRecord } from './supporter.entity.ts';

/** Puts a person into a household, or out of theirs; the household they leave gets another primary where needed. */
export async function moveHome(tx: Transaction, personId: number, householdId: number | null): Promise<void> {
  const person = await lockSupporter(tx, personId, 'This supporter');
  const before = person['household_id'];
  if (before === householdId) return;
  if (householdId !== null) {
    if (person['kind'] !== 'person')
      throw refused('members', `${nameOf(person)} is not a person; people share a household.`);
    const household = await lockSupporter(tx, householdId, 'This household');
    if (household['kind'] !== 'household') throw refused('householdId', `${nameOf(household)} is not a household.`);
  }
  await tx.update(SupporterTable, personId, { household_id: householdId });
  if (before !== null) await mendPrimary(tx, before);
  if (householdId !== null) await mendPrimary(tx, householdId);
}

/** Whether a person's household is in the trash: it is not shown, and so not left by saving what was shown. */
export async function homeInTrash(tx: Transaction, personId: number): Promise<boolean> {
  const rows = await tx.sql.rows(
    `SELECT h.id FROM supporter p JOIN supporter h ON h.id = p.household_id WHERE p.id = ? AND h.state = 'trash'`,
    [personId],
  );
  return rows.length > 0;
}

/** Who lives in a household: neither in the trash nor dead; who came first stands first. */
export async function livingIn(tx: Transaction, householdId: number): Promise<SupporterRecord[]> {
  return tx.sql.rows<SupporterRecord>(
    // supporter_household (household_id)
    `SELECT * FROM supporter WHERE household_id = ? AND state = 'active'
     AND id NOT IN (SELECT supporter_id FROM wish WHERE kind = 'deceased') ORDER BY id`,
    [householdId],
  );
}

/**
 * The primary is one of the members: where it is not, the member who came first takes the place. One in the trash
 * stays primary; the first of the others stands in for them on every screen and letter meanwhile.
 */
export async function mendPrimary(tx: Transaction, householdId: number): Promise<void> {
  const members = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM supporter WHERE household_id = ? AND state <> 'erased' ORDER BY state = 'trash', id`,
    [householdId],
  );
  const household = (await tx.lock(SupporterTable, [householdId])).get(householdId);
  const primary = household?.['primary_id'] ?? null;
  if (members.some((member) => member.id === primary)) return;
  await tx.update(SupporterTable, householdId, { primary_id: members[0]?.id ?? null });
}

/** Makes the members of a household who the draft names: people already here, and new ones by their full names. */
export async function syncMembers(
  tx: Transaction,
  householdId: number,
  members: NonNullable<SupporterDraft['members']>,
): Promise<void> {
  // Who is in the trash is not among those shown, and comes back to this home when restored.
  const had = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM supporter WHERE household_id = ? AND state = 'active' FOR UPDATE`,
    [householdId],
  );
  const ids: { id: number; primary: boolean }[] = [];
  for (const member of members) {
    if (member.id === householdId) throw refused('members', 'A household cannot be a member of itself.');
    if (member.id !== null) ids.push({ id: member.id, primary: member.primary });
    else
      for (const [place, id] of (await addPeople(tx, member.name)).entries())
        ids.push({ id, primary: member.primary && place === 0 });
  }
  const keep = new Set(ids.map((one) => one.id));
  for (const { id } of had) if (!keep.has(id)) await moveHome(tx, id, null);
  for (const id of keep) await moveHome(tx, id, householdId);
  const primary = ids.find((one) => one.primary)?.id;
  // Whoever stands in for a primary in the trash was only shown as that.
  const standsIn = primary !== undefined && primary === (await standInFor(tx, householdId));
  if (primary !== undefined && !standsIn) await tx.update(SupporterTable, householdId, { primary_id: primary });
}

/** Who stands in for the primary of a household while they are in the trash; null where they are not. */
async function standInFor(tx: Transaction, householdId: number): Promise<number | null> {
  const [row] = await tx.sql.rows<{ id: number }>(
    `SELECT p.id FROM supporter h JOIN supporter t ON t.id = h.primary_id AND t.state = 'trash' AND t.household_id = h.id
     JOIN supporter p ON p.household_id = h.id AND p.state = 'active' WHERE h.id = ? ORDER BY p.id LIMIT 1`,
    [householdId],
  );
  return row?.id ?? null;
}

/** Adds the people that a text names, such as `Mr. John and Dr. Jane Smith`. */
async function addPeople(tx: Transaction, text: string): Promise<number[]> {
  const people = splitPeople(text).filter((name) => name.first !== '' || name.last !== '');
  if (people.length === 0) throw refused('members', 'A member of the household has no name.');
  return tx.insertAll(
    SupporterTable,
    people.map((name) => {
      const parts = supporterParts({ ...name, kind: 'person' });
      return { ...parts, nickname: name.nickname, former_last: name.formerLast, sort_name: sortName(parts) };
    }),
  );
}
