import type { Zone } from '@tallystick/core/dates';
import { FLAG, MARKS, NO_DAY } from '@tallystick/core/facts';
import type { ListName, ListRow, PersonRow } from '@tallystick/core/facts';
import { METHOD_CODES } from '@tallystick/core/gifts';
import { plainWords } from '@tallystick/core/letters';
import type { LetterNode } from '@tallystick/core/letters';
import { SUPPORTER_KINDS } from '@tallystick/core/supporters';
import type { SupporterKind } from '@tallystick/core/supporters';

/*
 * Where each list of facts comes from: its SQL and how a row is read. `of` narrows the SQL to some supporters by the
 * column that names them; rows come in the order of supporters, and what belongs together stands together. Every read
 * of some supporters goes by the index on that column.
 */

export type Cell = string | number | null | undefined;
export type Cells = readonly (string | number | null)[];

/** Narrows to the supporters that are read: `''` where all are, else `word column IN (?)`. */
type Narrow = (column: string, word?: 'WHERE' | 'AND') => string;
interface Source<Row> {
  sql: (of: Narrow) => string;
  /** The row without its first cell, which names the supporter; null for one that counts nowhere. */
  read: (row: Cells, zone: Zone) => Row | null;
}

const dayOf = (column: string): string => `TO_DAYS(${column}) - 719528`;
const minuteOf = (column: string): string => `TIMESTAMPDIFF(MINUTE, '1970-01-01', ${column})`;
const day = (cell: Cell): number => (cell === null || cell === undefined ? NO_DAY : Number(cell));
const number = (cell: Cell): number => Number(cell ?? 0);
const inZone = (cell: Cell, zone: Zone): number => zone.dayOf(Number(cell));
const word = (cell: Cell): string => String(cell ?? '');

/** What a note says; nothing for one that cannot be read, so that an odd row takes no list away. */
function saysOf(json: string): string {
  try {
    return plainWords(JSON.parse(json) as LetterNode);
  } catch {
    return '';
  }
}

const METHODS = new Map<Cell, number>(METHOD_CODES.map((method, code) => [method, code]));
/** A gift or a part of one. Millions are read, so each is made in one go. */
const given = (row: Cells) => ({
  day: row[1] as number,
  cents: number(row[2]),
  fund: row[3] as number,
  campaign: row[4] as number,
  appeal: row[5] as number,
  method: METHODS.get(row[6]) ?? -1,
  gift: row[7] as number,
  source: row[8] as number,
  batch: row[9] as number,
  marks: row[10] as number,
});
/** What a part of a gift shares with the whole. */
const OF_GIFT = `COALESCE(source_code_id, 0), COALESCE(batch_id, 0),
      IF(acknowledged_on IS NULL, 0, ${MARKS.thanked}) + IF(recurring_id IS NULL, 0, ${MARKS.recurring})`;
const way = (row: Cells, at: number) => ({
  label: word(row[at]),
  preferred: number(row[at + 1]),
  from: day(row[at + 2]),
  to: day(row[at + 3]),
  bad: day(row[at + 4]),
});
const WAY = `label, preferred, ${dayOf('valid_from')}, ${dayOf('valid_to')}, ${dayOf('bad_on')}`;
const where = (row: Cells, at: number) => ({
  fund: number(row[at]),
  campaign: number(row[at + 1]),
  appeal: number(row[at + 2]),
});

/** SQL: whether a delivery is an e-mail to a segment that reached whom it was for. */
const REACHED = `(source_kind = 'mailing' AND channel = 'email' AND state = 'sent')`;

export const SOURCES: { [L in ListName]: Source<ListRow<L>> } = {
  gifts: {
    // gift_facts holds every column, in order.
    sql: (
      of,
    ) => `SELECT supporter_id, ${dayOf('date')}, cents, IF(split, 0, fund_id), IF(split, 0, COALESCE(campaign_id, 0)),
      IF(split, 0, COALESCE(appeal_id, 0)), method, id, ${OF_GIFT}
      FROM gift FORCE INDEX (gift_facts) ${of('supporter_id')} ORDER BY supporter_id, date`,
    // A gift of which nothing is left counts nowhere.
    read: (row) => (number(row[2]) > 0 ? given(row) : null),
  },
  splits: {
    sql: (of) => `SELECT x.supporter_id, ${dayOf('g.date')}, x.cents, x.fund_id, COALESCE(x.campaign_id, 0),
      COALESCE(x.appeal_id, 0), g.method, x.gift_id, ${OF_GIFT} FROM gift_split x JOIN gift g ON g.id = x.gift_id
      ${of('x.supporter_id')} ORDER BY x.supporter_id, x.gift_id`,
    read: given,
  },
  credits: {
    sql: (
      of,
    ) => `SELECT supporter_id, ${dayOf('date')}, cents, fund_id, COALESCE(campaign_id, 0), COALESCE(appeal_id, 0),
      method, gift_id, place, of_cents, donor_id, kind FROM soft_credit ${of('supporter_id')} ORDER BY supporter_id`,
    read: (row) => ({
      ...given(row),
      part: number(row[8]),
      of: number(row[9]),
      donor: number(row[10]),
      kind: word(row[11]),
    }),
  },
  tags: {
    sql: (of) => `SELECT supporter_id, tag_id, source FROM supporter_tag ${of('supporter_id')} ORDER BY supporter_id`,
    read: (row) => ({ tag: number(row[1]), source: word(row[2]) }),
  },
  groups: {
    sql: (of) => `SELECT supporter_id, group_id FROM group_member ${of('supporter_id')} ORDER BY supporter_id`,
    read: (row) => ({ group: number(row[1]) }),
  },
  wishes: {
    // Wishes, and the refusals of mailboxes, which weigh the same.
    sql: (of) => `SELECT supporter_id, kind, ${dayOf('since')}, source FROM (
      SELECT supporter_id, kind, since, source FROM wish ${of('supporter_id')} UNION ALL
      SELECT e.supporter_id, 'no_email', r.since, r.source FROM email e JOIN refusal r
        ON r.mailbox = SHA2(LOWER(e.address), 256) AND r.lifted_on IS NULL
        WHERE (e.valid_to IS NULL OR e.valid_to >= r.since) ${of('e.supporter_id', 'AND')}) w ORDER BY supporter_id`,
    read: (row) => ({ kind: word(row[1]), day: day(row[2]), source: word(row[3]) }),
  },
  emails: {
    sql: (of) => `SELECT supporter_id, address, ${WAY} FROM email ${of('supporter_id')} ORDER BY supporter_id, id`,
    read: (row) => ({ address: word(row[1]), ...way(row, 2) }),
  },
  phones: {
    sql: (of) => `SELECT supporter_id, number, ${WAY} FROM phone ${of('supporter_id')} ORDER BY supporter_id, id`,
    read: (row) => ({ number: word(row[1]), ...way(row, 2) }),
  },
  addresses: {
    sql: (of) => `SELECT supporter_id, street, city, region, postal, country, ${WAY}, season_from, season_to
      FROM address ${of('supporter_id')} ORDER BY supporter_id, id`,
    read: (row) => ({
      ...{
        street: word(row[1]),
        city: word(row[2]),
        region: word(row[3]),
        postal: word(row[4]),
        country: word(row[5]),
      },
      ...{ ...way(row, 6), seasonFrom: word(row[11]), seasonTo: word(row[12]) },
    }),
  },
  ties: {
    sql: (of) => `SELECT supporter_id, role, other, ${dayOf('since')}, ${dayOf('until')}, says, id FROM (
      -- A tie whose two words are one (spouse, friend) is the same from both ends.
      SELECT supporter_id, kind_id * 2 + (k.name <> k.back) AS role, other_id AS other, since, until, role AS says, r.id
        FROM relation r JOIN relation_kind k ON k.id = r.kind_id
        ${of('supporter_id')} UNION ALL
      SELECT other_id, kind_id * 2, supporter_id, since, until, role, id FROM relation ${of('other_id')}) t
      ORDER BY supporter_id`,
    read: (row) => ({
      ...{ role: number(row[1]), other: number(row[2]), from: day(row[3]), to: day(row[4]), says: word(row[5]) },
      id: number(row[6]),
    }),
  },
  notes: {
    sql: (of) => `SELECT supporter_id, ${dayOf('date')}, kind, author_id, body, id FROM (
      SELECT supporter_id, date, kind, author_id, body, id FROM note ${of('supporter_id')} UNION ALL
      SELECT p.supporter_id, n.date, n.kind, n.author_id, n.body, n.id FROM note_person p JOIN note n ON n.id = p.note_id
        ${of('p.supporter_id')}) n ORDER BY supporter_id`,
    read: (row) => ({
      ...{ day: day(row[1]), kind: word(row[2]), author: number(row[3]) },
      ...{ text: saysOf(word(row[4])), id: number(row[5]) },
    }),
  },
  tasks: {
    sql: (of) => `SELECT supporter_id, ${dayOf('due')}, ${dayOf('done_on')}, owner_id, title, id FROM task
      WHERE supporter_id IS NOT NULL ${of('supporter_id', 'AND')} ORDER BY supporter_id`,
    read: (row) => ({
      ...{ day: day(row[1]), done: day(row[2]), owner: number(row[3]), title: word(row[4]), id: number(row[5]) },
    }),
  },
  pledges: {
    sql: (
      of,
    ) => `SELECT p.supporter_id, ${dayOf('p.pledged_on')}, p.cents, p.kind, p.stage, p.fund_id, COALESCE(p.campaign_id, 0),
      COALESCE(p.appeal_id, 0), IF(p.stage IN ('promised', 'claimed'), p.cents
        - (SELECT COALESCE(SUM(y.cents), 0) FROM pledge_payment y WHERE y.pledge_id = p.id)
        - (SELECT COALESCE(SUM(w.cents), 0) FROM write_off w WHERE w.pledge_id = p.id), 0), p.id
      FROM pledge p ${of('p.supporter_id')} ORDER BY p.supporter_id`,
    read: (row) => ({
      ...{ day: day(row[1]), cents: number(row[2]), kind: word(row[3]), stage: word(row[4]) },
      ...{ ...where(row, 5), open: number(row[8]), id: number(row[9]) },
    }),
  },
  installments: {
    sql: (of) => `SELECT i.supporter_id, ${dayOf('i.due')}, i.cents, i.cents
        - (SELECT COALESCE(SUM(y.cents), 0) FROM pledge_payment y WHERE y.installment_id = i.id)
        - (SELECT COALESCE(SUM(w.cents), 0) FROM write_off w WHERE w.installment_id = i.id)
      FROM installment i JOIN pledge p ON p.id = i.pledge_id AND p.stage IN ('promised', 'claimed')
      ${of('i.supporter_id')} ORDER BY i.supporter_id`,
    read: (row) => ({ day: day(row[1]), cents: number(row[2]), open: number(row[3]) }),
  },
  recurring: {
    sql: (of) => `SELECT r.supporter_id, ${dayOf('r.start_on')}, (SELECT a.cents FROM recurring_amount a
        WHERE a.recurring_id = r.id ORDER BY a.from_on DESC LIMIT 1), r.every, ${dayOf('r.until_on')},
      COALESCE((SELECT c.state = 'failed' FROM charge c WHERE c.recurring_id = r.id ORDER BY c.due DESC, c.id DESC LIMIT 1), 0)
      FROM recurring r ${of('r.supporter_id')} ORDER BY r.supporter_id`,
    read: (row) => ({
      ...{ day: day(row[1]), cents: number(row[2]), every: word(row[3]), until: day(row[4]), failing: number(row[5]) },
    }),
  },
  receipts: {
    sql: (of) => `SELECT r.supporter_id, ${dayOf('r.issued_on')}, g.cents, r.voided_on IS NOT NULL
      FROM receipt r JOIN gift g ON g.id = r.gift_id ${of('r.supporter_id')} ORDER BY r.supporter_id`,
    read: (row) => ({ day: day(row[1]), cents: number(row[2]), voided: number(row[3]) }),
  },
  sendings: {
    sql: (of) => `SELECT supporter_id, ${minuteOf('at')}, source_kind, source_id, state, channel,
      IF(opened_at IS NULL, NULL, ${minuteOf('opened_at')}), IF(${REACHED}, ROW_NUMBER()
        OVER (PARTITION BY supporter_id, ${REACHED} ORDER BY at DESC, id DESC), 0), id FROM delivery
      ${of('supporter_id')} ORDER BY supporter_id`,
    read: (row, zone) => ({
      ...{
        day: inZone(row[1], zone),
        kind: word(row[2]),
        subject: number(row[3]),
        outcome: word(row[4]),
        channel: word(row[5]),
        opened: row[6] === null ? NO_DAY : inZone(row[6], zone),
        ...{ back: number(row[7]), id: number(row[8]) },
      },
    }),
  },
  changes: {
    // What was undone, and the undoing of it, came to nothing.
    sql: (
      of,
    ) => `SELECT t.supporter_id, ${minuteOf('s.at')}, s.kind, COALESCE(s.user_id, 0), IF(s.kind = 'intake', COALESCE(
        (SELECT r.row_id FROM change_row r WHERE r.revision = s.revision AND r.table_name = 'intake' LIMIT 1), 0), 0)
      FROM change_touch t JOIN change_set s ON s.revision = t.revision AND s.undone_by IS NULL AND s.undoes IS NULL
        AND s.kind NOT IN ('standing', 'opened')
      ${of('t.supporter_id')} ORDER BY t.supporter_id, t.revision`,
    read: (row, zone) => ({
      day: inZone(row[1], zone),
      kind: word(row[2]),
      by: number(row[3]),
      intake: number(row[4]),
    }),
  },
};

/** What other records say of gifts: bits of `MARKS` by the id of the gift, narrowed by the donors, whoever's the records are. */
export const MARKS_SQL = (of: Narrow): string => {
  const some = of('') === '' ? '' : `AND gift_id IN (SELECT id FROM gift ${of('supporter_id')})`;
  return `
  SELECT gift_id, ${MARKS.receipted} FROM receipt WHERE voided_on IS NULL ${some} UNION ALL
  SELECT gift_id, ${MARKS.tribute} FROM tribute WHERE TRUE ${some} UNION ALL
  SELECT gift_id, ${MARKS.pledge} FROM pledge_payment WHERE TRUE ${some}`;
};

export const FIELDS_SQL = (of: Narrow): string =>
  `SELECT supporter_id, field_id, value FROM supporter_field ${of('supporter_id')}`;
export const GIFT_FIELDS_SQL = (of: Narrow): string =>
  `SELECT supporter_id, field_id, value FROM gift_field ${of('supporter_id')} ORDER BY supporter_id`;

/** The zone whose days things were sent and changed on. */
export const ZONE_SQL = 'SELECT time_zone FROM organization WHERE id = 1';

/** A household's own id stands in its own row, so that it is one of those who share the home. */
export const SUPPORTERS_SQL = (of: Narrow): string => `SELECT id, sort_name, kind,
  ELT(FIELD(state, 'active', 'trash', 'erased', 'merged'), 0, ${FLAG.trashed}, ${FLAG.trashed | FLAG.erased}, ${FLAG.trashed | FLAG.erased}),
  COALESCE(household_id, IF(kind = 'household', id, 0)), prefix, first, middle, last, suffix, nickname, former_last,
  organization, org_kind, birthday FROM supporter ${of('id')}`;

/** The ids of so many supporters after one. */
export const NEXT_SQL = 'SELECT id FROM supporter WHERE id > ? ORDER BY id LIMIT ?';

/** What is known once of a supporter, but for where they are, which goes by the day, and the bits of wishes. */
export function personOf(row: Cells): Partial<PersonRow> {
  // `1961-03-14`, or `--03-14` where the year is not known.
  const birthday = word(row[14]);
  const month = Number(birthday.slice(-5, -3));
  return {
    kind: SUPPORTER_KINDS[row[2] as SupporterKind]?.code ?? 0,
    flags: number(row[3]),
    household: number(row[4]),
    ...{ prefix: word(row[5]), first: word(row[6]), middle: word(row[7]), last: word(row[8]), suffix: word(row[9]) },
    ...{ nickname: word(row[10]), formerLast: word(row[11]), organization: word(row[12]), orgKind: word(row[13]) },
    birthday: month > 0 ? month * 32 + Number(birthday.slice(-2)) : 0,
    birthYear: birthday.startsWith('-') ? 0 : Number(birthday.slice(0, 4)),
  };
}

/** The whole of a source, and as much as is about some supporters: with the ids as often as it asks for them. */
export const wholeOf = (sql: (of: Narrow) => string): string => sql(() => '');
export function partOf(sql: (of: Narrow) => string, ids: readonly number[]): [sql: string, params: unknown[]] {
  const text = sql((column, keyword = 'WHERE') => `${keyword} ${column} IN (?)`);
  return [text, (text.match(/\?/g) ?? []).map(() => ids)];
}
