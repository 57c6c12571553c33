import type { DataSource } from 'typeorm';
import { decimalMarkOfColumn } from '@tallystick/core/money';
import { displayName, sortName } from '@tallystick/core/names';
import { matchHeadings, matchRow, readRow } from '@tallystick/core/intake';
import type { DraftRow, IntakeField, Known, RowMatch, RowProblem } from '@tallystick/core/intake';
import { giftNumber, supporterNumber } from '@tallystick/core/gifts';
import { IntakeSetting } from '@tallystick/contract/intake';
import type { IntakeRow } from '@tallystick/contract/intake';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { startThread } from '../platform/thread.ts';
import { stamp, table, text, whole } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { tagIds } from '../supporters/index.ts';
import type { ParsedFile } from './parse.ts';

export interface IntakeRecord {
  id: number;
  version: number;
  name: string;
  at: string;
  actor: string;
  state: 'open' | 'posted';
  encoding: string;
  separator_char: string;
  headings: string;
  row_total: number;
  setting: string;
}
export const IntakeTable = table<IntakeRecord>(
  'intake',
  {},
  {
    name: text(190),
    at: stamp,
    actor: text(120),
    state: text(12),
    encoding: text(40),
    separator_char: { type: 'char', length: 1 },
    headings: { type: 'mediumtext' },
    row_total: whole,
    setting: { type: 'text' },
  },
);

/** A row of the file with what would become of it. */
export interface JudgedRow {
  row: number;
  cells: string[];
  draft: DraftRow;
  problems: RowProblem[];
  match: RowMatch | null;
  verdict: IntakeRow['verdict'];
  says: string;
}

export class Intakes {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly jobs: Jobs,
  ) {
    this.sql = sqlOn(source);
    jobs.handle('post-intake', (job) => this.post(job));
  }

  private async row(id: number): Promise<IntakeRecord> {
    const row = await one<IntakeRecord>(this.sql, 'SELECT * FROM intake WHERE id = ?', [id]);
    if (!row) throw notFound('This intake');
    return row;
  }

  private async view(row: IntakeRecord) {
    const posted = await one<{ revision: number }>(
      this.sql, // change_row_row (table_name, row_id, revision)
      `SELECT s.revision FROM change_row r JOIN change_set s USING (revision)
       WHERE r.table_name = 'intake' AND r.row_id = ? AND s.kind = 'intake' AND s.undone_by IS NULL ORDER BY s.revision DESC LIMIT 1`,
      [row.id],
    );
    const headings: string[] = JSON.parse(row.headings);
    return {
      id: row.id,
      version: row.version,
      name: row.name,
      at: instant(row.at),
      by: row.actor,
      state: row.state,
      encoding: row.encoding,
      separator: row.separator_char,
      headings,
      rows: row.row_total,
      setting: settingOf(row),
      revision: posted?.revision ?? null,
    };
  }

  async list() {
    const rows = await this.sql.rows<IntakeRecord>('SELECT * FROM intake ORDER BY id DESC LIMIT 100');
    return Promise.all(rows.map((row) => this.view(row)));
  }

  async get(id: number) {
    return this.view(await this.row(id));
  }

  /** Takes a file in: reads it in a thread of its own, guesses where its columns go, and keeps its rows as they are. */
  async upload(actor: Actor, name: string, bytes: Buffer) {
    const file = await inThread(bytes);
    const columns = matchHeadings(file.headings);
    const { funds } = await this.settings.choices();
    // The fund that was set up first is the general one as a rule; the page shows it and it can be changed.
    const [fund] = funds.filter((one) => !one.closed).sort((a, b) => a.id - b.id);
    if (!fund) throw new Problem(400, 'no-fund', 'There is no open fund to put gifts in; add one first.');
    const amounts = columns.indexOf('amount');
    const setting: IntakeSetting = {
      columns,
      fundId: fund.id,
      decimal: decimalMarkOfColumn(
        file.rows.map((row) => row[amounts] ?? ''),
        '.',
      ),
      dateOrder: dateOrderOf(file, columns),
    };
    const { result } = await this.changes.write(actor, { kind: 'upload', summary: `Uploaded ${name}` }, async (tx) => {
      const id = await tx.insert('intake', {
        name,
        at: tx.at,
        actor: actor.name,
        state: 'open',
        encoding: file.encoding,
        separator_char: file.separator,
        headings: JSON.stringify(file.headings),
        row_total: file.rows.length,
        setting: JSON.stringify(setting),
      });
      let row = 1;
      for (const slice of chunks(file.rows, 1000))
        await tx.sql.run('INSERT INTO intake_row (intake_id, row_no, cells) VALUES ?', [
          slice.map((cells) => [id, ++row, JSON.stringify(cells)]),
        ]);
      return id;
    });
    return this.get(result);
  }

  change(actor: Actor, id: number, version: number, setting: IntakeSetting) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Changed how a file is read' }, async (tx) => {
      const row = await tx.expect('intake', id, version, 'This intake');
      if (row['state'] === 'posted')
        throw new Problem(409, 'posted', 'This file was brought in; undo that first to read it differently.');
      await tx.update('intake', id, { setting: JSON.stringify(setting) });
    });
  }

  /** What would become of every row of the file, as things stand now. */
  async judge(id: number, sql: Sql = this.sql): Promise<JudgedRow[]> {
    const intake = await this.row(id);
    const setting = settingOf(intake);
    const { funds, campaigns, appeals } = await this.settings.choices();
    const fund = funds.find((one) => one.id === setting.fundId);
    if (!fund || fund.closed)
      throw new Problem(400, 'fund-closed', 'The fund chosen for gifts without one is closed; choose another.');
    const { today } = await this.settings.calendar();
    const stored = await sql.rows<{ row_no: number; cells: string }>(
      'SELECT row_no, cells FROM intake_row WHERE intake_id = ? ORDER BY row_no',
      [id],
    );
    const rowSetting = { ...setting, today, fund, method: 'card' as const, funds, campaigns, appeals };
    const read = stored.map(({ row_no: row, cells }) => {
      const parsed: string[] = JSON.parse(cells);
      return { row, cells: parsed, ...readRow(setting.columns, parsed, rowSetting) };
    });
    const drafts = read.map(({ draft }) => draft);
    const [known, references] = await Promise.all([knownOf(sql, drafts), referencesOf(sql, drafts)]);
    const earlier = new Map<string, number>();
    return read.map((line, index) => judged(line, index, known, references, earlier, read));
  }

  async preview(id: number, query: { verdict?: string | undefined; limit: number; cursor?: string | undefined }) {
    const rows = await this.judge(id);
    const kept = query.verdict ? rows.filter((row) => row.verdict === query.verdict) : rows;
    const from = Number(query.cursor ?? 0) || 0;
    const page = kept.slice(from, from + query.limit);
    return {
      items: page.map(({ row, cells, verdict, says, problems, match }) => ({
        row,
        cells,
        verdict,
        says,
        problems,
        supporterId: match?.kind === 'known' ? match.id : null,
      })),
      next: from + page.length < kept.length ? String(from + page.length) : null,
      total: kept.length,
      counts: countsOf(rows),
    };
  }

  /** The rows that are not brought in: row, field, reason, and the row as it was. */
  async leftOut(id: number): Promise<{ headings: string[]; rows: (string | number)[][] }> {
    const intake = await this.row(id);
    const headings: string[] = JSON.parse(intake.headings);
    const setting = settingOf(intake);
    const rows = (await this.judge(id)).filter((row) => row.verdict === 'bad' || row.verdict === 'undecided');
    const fieldName = (problem: RowProblem): string =>
      problem.field === null ? '' : (headings[setting.columns.indexOf(problem.field)] ?? problem.field);
    return {
      headings: ['Row', 'Field', 'Reason', ...headings],
      rows: rows.map((row) => [
        row.row,
        row.problems.map(fieldName).filter(Boolean).join('; '),
        row.problems.map((problem) => problem.reason).join(' ') || row.says,
        ...row.cells,
      ]),
    };
  }

  async begin(actor: Actor, id: number): Promise<number> {
    const intake = await this.row(id);
    if (intake.state === 'posted') throw new Problem(409, 'posted', 'This file was already brought in.');
    return this.jobs.add(actor, {
      kind: 'post-intake',
      title: `Bringing in ${intake.name}`,
      payload: { id },
      total: intake.row_total,
      link: `/intake/${id}`,
    });
  }

  /** Brings the good rows in, all in one change set. A job that runs again finds the intake posted and writes nothing. */
  private async post(job: RunningJob): Promise<string> {
    const { id } = job.payload as { id: number };
    const intake = await this.row(id);
    const organization = await this.settings.organization();
    let counts = countsOf([]);
    const { result } = await this.changes.write(
      job.actor,
      { kind: 'intake', summary: () => `Brought in ${counts.new + counts.known} rows of ${intake.name}` },
      async (tx) => {
        const state = (await tx.lock('intake', [id])).get(id)?.['state'];
        if (state !== 'open') return 'It was already brought in; nothing was written again.';
        const rows = await this.judge(id, tx.sql);
        counts = countsOf(rows);
        const good = rows.filter((row) => row.verdict === 'new' || row.verdict === 'known');
        if (good.length === 0)
          throw new Problem(409, 'nothing-to-post', 'No row of this file can be brought in as it is read now.');
        await writeRows(tx, rows, good, organization.currency, id, (done) => job.progress(done, rows.length));
        await tx.update('intake', id, { state: 'posted' });
        return `${good.length} rows, ${counts.newSupporters} new supporters, ${counts.gifts} gifts; ${rows.length - good.length} left out`;
      },
    );
    return result;
  }
}

function settingOf(row: IntakeRecord): IntakeSetting {
  return IntakeSetting.parse(JSON.parse(row.setting));
}

function inThread(bytes: Buffer): Promise<ParsedFile> {
  return new Promise((resolve, reject) => {
    const worker = startThread(new URL('./parse.worker.ts', import.meta.url), bytes, 1024);
    worker.once('message', (reply: { ok?: ParsedFile; failed?: string }) => {
      if (reply.ok) resolve(reply.ok);
      else reject(new Problem(400, 'unreadable-file', reply.failed ?? 'The file could not be read.'));
      void worker.terminate();
    });
    worker.once('error', (error) =>
      reject(
        new Problem(
          400,
          'unreadable-file',
          `The file could not be read: ${error instanceof Error ? error.message : String(error)}`,
        ),
      ),
    );
  });
}

/** Day first when a slashed or dashed date of the file can only be so. */
function dateOrderOf(file: ParsedFile, columns: readonly (IntakeField | null)[]): 'mdy' | 'dmy' {
  const at = columns.indexOf('date');
  return file.rows.some((row) => Number(/^(\d{1,2})[/-]\d{1,2}[/-]\d{2,4}/.exec(row[at] ?? '')?.[1] ?? 0) > 12)
    ? 'dmy'
    : 'mdy';
}

async function knownOf(sql: Sql, drafts: readonly DraftRow[]): Promise<Known> {
  const numbers = [...new Set(drafts.flatMap((draft) => draft.supporterId ?? []))];
  const emails = [...new Set(drafts.flatMap((draft) => draft.email ?? []))];
  const byNumber = new Map<number, { id: number; name: string }>();
  const byEmail = new Map<string, { id: number; name: string }[]>();
  const columns = 's.id, s.kind, s.prefix, s.first, s.middle, s.last, s.suffix, s.organization';
  type Named = Parameters<typeof displayName>[0] & { id: number };
  const plain = (row: Named) => ({
    id: row.id,
    name: row.kind === 'person' ? [row.first, row.last].filter(Boolean).join(' ') : displayName(row),
  });
  for (const slice of chunks(numbers, 2000))
    for (const row of await sql.rows<Named>(`SELECT ${columns} FROM supporter s WHERE s.trashed = 0 AND s.id IN (?)`, [
      slice,
    ]))
      byNumber.set(row.id, plain(row));
  for (const slice of chunks(emails, 2000)) {
    // email_address (address)
    const rows = await sql.rows<Named & { address: string }>(
      `SELECT DISTINCT ${columns}, LOWER(e.address) AS address FROM email e JOIN supporter s ON s.id = e.supporter_id WHERE s.trashed = 0 AND e.address IN (?)`,
      [slice],
    );
    for (const row of rows) byEmail.set(row.address, [...(byEmail.get(row.address) ?? []), plain(row)]);
  }
  return { byNumber: (number) => byNumber.get(number) ?? null, byEmail: (email) => byEmail.get(email) ?? [] };
}

async function referencesOf(sql: Sql, drafts: readonly DraftRow[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const references = [...new Set(drafts.flatMap((draft) => draft.gift?.reference || []))];
  for (const slice of chunks(references, 2000)) {
    const rows = await sql.rows<{ id: number; reference: string }>(
      'SELECT id, reference FROM gift WHERE reference IN (?)',
      [slice],
    ); // gift_reference
    for (const row of rows) found.set(row.reference.toLowerCase(), `recorded as ${giftNumber(row.id)}`);
  }
  return found;
}

function judged(
  line: { row: number; cells: string[]; draft: DraftRow; problems: RowProblem[] },
  index: number,
  known: Known,
  references: Map<string, string>,
  earlier: Map<string, number>,
  all: readonly { row: number }[],
): JudgedRow {
  if (line.problems.length > 0)
    return { ...line, match: null, verdict: 'bad', says: line.problems.map((problem) => problem.reason).join(' ') };
  const reference = line.draft.gift?.reference.toLowerCase() ?? '';
  const already = reference === '' ? undefined : references.get(reference);
  if (already)
    return {
      ...line,
      match: null,
      verdict: 'already',
      says: `The gift ${line.draft.gift?.reference ?? ''} is ${already}`,
    };
  if (reference !== '') references.set(reference, `in row ${line.row}`);
  const match = matchRow(line.draft, index, known, earlier);
  switch (match.kind) {
    case 'new':
      return { ...line, match, verdict: 'new', says: 'New supporter' };
    case 'earlier':
      return { ...line, match, verdict: 'new', says: `Same new supporter as row ${all[match.row]?.row ?? ''}` };
    case 'known':
      return { ...line, match, verdict: 'known', says: `${match.name} ${supporterNumber(match.id)}, by ${match.by}` };
    case 'undecided':
      return {
        ...line,
        match,
        verdict: 'undecided',
        says: `Shares an e-mail with ${match.candidates.map((one) => `${one.name} ${supporterNumber(one.id)}`).join(', ')}`,
      };
    case 'unknown-number': {
      const reason = 'No supporter has this number; clear it to bring the row in as new.';
      return {
        ...line,
        match: null,
        verdict: 'bad',
        says: reason,
        problems: [{ field: 'number', value: supporterNumber(line.draft.supporterId ?? 0), reason }],
      };
    }
  }
}

export function countsOf(rows: readonly JudgedRow[]) {
  const of = (verdict: IntakeRow['verdict']): number => rows.filter((row) => row.verdict === verdict).length;
  const gifts = rows.flatMap((row) =>
    (row.verdict === 'new' || row.verdict === 'known') && row.draft.gift ? [row.draft.gift.cents] : [],
  );
  return {
    new: of('new'),
    known: of('known'),
    bad: of('bad'),
    undecided: of('undecided'),
    already: of('already'),
    newSupporters: rows.filter((row) => row.match?.kind === 'new').length,
    gifts: gifts.length,
    cents: gifts.reduce((sum, cents) => sum + cents, 0),
  };
}

/** Writes the good rows table by table: new supporters, their contact details, tags, and every gift. */
async function writeRows(
  tx: Transaction,
  all: readonly JudgedRow[],
  good: readonly JudgedRow[],
  currency: string,
  intakeId: number,
  progress: (done: number) => Promise<void>,
): Promise<void> {
  const fresh = good.filter((row) => row.match?.kind === 'new');
  const made = await tx.insertAll(
    'supporter',
    fresh.map(({ draft }) => ({ ...nameOf(draft), sort_name: sortName(nameOf(draft)), no_email: 0, deceased: 0 })),
  );
  await progress(Math.floor(all.length / 3));
  const madeAt = new Map(fresh.map((row, index) => [row, made[index] ?? 0]));
  const ownerOf = (row: JudgedRow): number => {
    if (row.match?.kind === 'known') return row.match.id;
    const first = row.match?.kind === 'earlier' ? all[row.match.row] : row;
    return (first && madeAt.get(first)) ?? 0;
  };
  const way = (row: JudgedRow) => ({ supporter_id: ownerOf(row), label: 'home', preferred: 1 });
  await tx.insertAll(
    'email',
    fresh.filter(({ draft }) => draft.email !== null).map((row) => ({ ...way(row), address: row.draft.email })),
  );
  await tx.insertAll(
    'phone',
    fresh.filter(({ draft }) => draft.phone !== '').map((row) => ({ ...way(row), number: row.draft.phone })),
  );
  await tx.insertAll(
    'address',
    fresh
      .filter(({ draft }) => draft.street + draft.city + draft.region + draft.postal !== '')
      .map((row) => {
        const { street, city, region, postal, country } = row.draft;
        return { ...way(row), street, city, region, postal, country };
      }),
  );
  await progress(Math.floor((all.length * 2) / 3));
  await writeTags(
    tx,
    good.filter(({ draft }) => draft.tag !== '').map((row) => ({ supporterId: ownerOf(row), tag: row.draft.tag })),
  );
  await tx.insertAll(
    'gift',
    good.flatMap((row) => {
      if (!row.draft.gift) return [];
      const { fundId, campaignId, appealId, ...gift } = row.draft.gift;
      return {
        ...gift,
        supporter_id: ownerOf(row),
        fund_id: fundId,
        campaign_id: campaignId,
        appeal_id: appealId,
        currency,
        acknowledged_on: null,
        intake_id: intakeId,
      };
    }),
  );
  await progress(all.length);
}

const nameOf = (draft: DraftRow) => {
  if (displayName(draft.name) !== '' || draft.email === null) return draft.name;
  return { ...draft.name, last: draft.email.split('@')[0] ?? '' };
};

async function writeTags(tx: Transaction, wanted: readonly { supporterId: number; tag: string }[]): Promise<void> {
  const ids = await tagIds(
    tx,
    wanted.map(({ tag }) => tag),
  );
  const pairs = new Map(
    wanted.map(({ supporterId, tag }) => [
      `${supporterId}:${ids.get(tag) ?? 0}`,
      { supporter_id: supporterId, tag_id: ids.get(tag) ?? 0 },
    ]),
  );
  for (const slice of chunks([...pairs.values()])) {
    // supporter_tag_pair (supporter_id, tag_id)
    const has = await tx.sql.rows<{ supporter_id: number; tag_id: number }>(
      'SELECT supporter_id, tag_id FROM supporter_tag WHERE supporter_id IN (?)',
      [slice.map((pair) => pair.supporter_id)],
    );
    const known = new Set(has.map((pair) => `${pair.supporter_id}:${pair.tag_id}`));
    await tx.insertAll(
      'supporter_tag',
      slice
        .filter((pair) => !known.has(`${pair.supporter_id}:${pair.tag_id}`))
        .map((pair) => ({ ...pair, source: 'intake' })),
    );
  }
}
