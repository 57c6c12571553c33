import type { DataSource } from 'typeorm';
import { decimalMarkOfColumn } from '@tallystick/core/money';
import { looksLikeRow, matchHeadings, orderIn, questionsOf, readRow } from '@tallystick/core/intake';
import type { Candidate, IntakeQuestion, OrderFound, RowProblem, ToldReading } from '@tallystick/core/intake';
import { counted } from '@tallystick/core/words';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { MOST_COLUMNS } from '@tallystick/contract/intake';
import { bookingDays, newBatch } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { doHeavy, heavyWork } from '../platform/pool.ts';
import { maybe, stamp, table, text, whole, long, outside, setUp } from '../platform/tables.ts';
import { fieldsIn, lockClosedThrough } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { countsOf, isGood, judged, knownOf, needsLook, referencesOf } from './judge.ts';
import type { JudgedRow } from './judge.ts';
import { AMONG_ROWS, cellsReader, encodingIn, headingsIn, readingsOf, settingOf, toldReadings } from './cells.ts';
import { decoded } from './parse.ts';
import type { ParsedFile } from './parse.ts';
import { writeRows } from './write-rows.ts';
import type { RowOf } from '../platform/tables.ts';
import { eraseIntakeRows } from './erase.ts';
import { isFinal, standingRevision } from '../platform/changes.ts';
import { z } from 'zod';
import { jobKind } from '../platform/job-queue.ts';

const postJob = jobKind('post-intake', { name: 'intake', atOnce: 1 }, z.object({ id: z.number() }));

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    intake: true;
    upload: true;
  }
}
isFinal('upload', 'a file was uploaded; nothing of it is in the records until it is brought in');

export const IntakeTable = table('intake', setUp('intake', 'Intake'), {
  name: text(190),
  at: stamp,
  actor: text(120),
  state: text<'open' | 'posted'>(12),
  encoding: text(40),
  readings: maybe(long),
  separator_char: text(1),
  headings: long,
  row_total: whole,
  setting: long,
});
export type IntakeRecord = RowOf<typeof IntakeTable>;
outside('intake_row', 'the file itself, as it came; bringing it in is the change', eraseIntakeRows);

/** Every row of a file with what becomes of it, and what is open. */
interface Judged {
  rows: JudgedRow[];
  questions: IntakeQuestion[];
  readings: ToldReading[];
  dates: OrderFound;
}

/** Whom a row may belong to: of an undecided one all, of a new one who has its very name. */
function candidatesOf(match: JudgedRow['match']): readonly Candidate[] {
  if (match?.kind === 'undecided') return match.candidates;
  return match?.kind === 'new' && match.alike ? [match.alike] : [];
}

/** What is open is asked, and never guessed at while writing. */
function refuseOpen(questions: readonly IntakeQuestion[]): void {
  if (questions.length > 0)
    throw new Problem(409, 'unanswered', `Say first how it is read: ${questions.map(({ says }) => says).join(' ')}`);
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
    jobs.handle(postJob, (job) => this.post(job));
  }

  /** Every intake by its name, the newest first. */
  names() {
    return this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM intake ORDER BY id DESC');
  }

  private async row(id: number): Promise<IntakeRecord> {
    const row = await one<IntakeRecord>(this.sql, 'SELECT * FROM intake WHERE id = ?', [id]);
    if (!row) throw notFound('This intake');
    return row;
  }

  /** What stands above the columns of a file. */
  private async headings(row: IntakeRecord, sql: Sql = this.sql): Promise<string[]> {
    if (row.headings !== AMONG_ROWS) return headingsIn(row, null);
    const first = await one<{ cells: string }>(sql, 'SELECT cells FROM intake_row WHERE intake_id = ? AND row_no = 1', [
      row.id,
    ]);
    return headingsIn(row, first?.cells ?? AMONG_ROWS);
  }

  private async view(row: IntakeRecord) {
    return {
      id: row.id,
      version: row.version,
      name: row.name,
      at: instant(row.at),
      by: row.actor,
      state: row.state,
      encoding: encodingIn(row) ?? row.encoding,
      separator: row.separator_char,
      headings: await this.headings(row),
      rows: row.row_total + (row.headings === AMONG_ROWS && !settingOf(row).headed ? 1 : 0),
      setting: settingOf(row),
      revision: await standingRevision(this.sql, 'intake', IntakeTable, row.id),
    };
  }

  async list(asked: Asked) {
    const newest = { select: 'SELECT * FROM intake WHERE TRUE', order: [{ sql: 'id', as: 'id', down: true }] } as const;
    const page = await pageOf<IntakeRecord>(this.sql, newest, asked);
    return { ...page, items: await Promise.all(page.items.map((row) => this.view(row))) };
  }

  async get(id: number) {
    return this.view(await this.row(id));
  }

  /** Takes a file in: reads it in a thread of its own, guesses where its columns go, and keeps its rows as they are. */
  async upload(actor: Actor, name: string, bytes: Buffer) {
    const file = await doHeavy(PARSE, new Uint8Array(bytes)).catch(unreadable);
    if (file.headings.length > MOST_COLUMNS)
      throw new Problem(
        400,
        'too-many-columns',
        `The file has ${file.headings.length} columns; ${MOST_COLUMNS} are read at most. Nothing was kept.`,
      );
    const likely = file.readings[0];
    const headings = likely === undefined ? file.headings : file.headings.map((one) => decoded(one, likely).trim());
    const columns = matchHeadings(headings, [
      ...(await fieldsIn(this.sql, 'supporter')),
      ...(await fieldsIn(this.sql, 'gift')),
    ]);
    const headed = !looksLikeRow(headings);
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
      dateOrder: null,
      headed: headed ? true : null,
      ...{ encoding: file.readings.length > 0 ? file.encoding : null, leaveRest: false, picks: {} },
    };
    const { result } = await this.changes.write(actor, { kind: 'upload', summary: `Uploaded ${name}` }, async (tx) => {
      const id = await tx.insert(IntakeTable, {
        name,
        at: tx.at,
        actor: actor.name,
        state: 'open',
        encoding: file.encoding ?? likely ?? '',
        readings: file.readings.length > 0 ? JSON.stringify(file.readings) : null,
        separator_char: file.separator,
        headings: headed ? JSON.stringify(file.headings) : AMONG_ROWS,
        row_total: file.rows.length,
        setting: JSON.stringify(setting),
      });
      let row = headed ? 1 : 0;
      for (const slice of chunks(headed ? file.rows : [file.headings, ...file.rows], 1000))
        await tx.sql.run('INSERT INTO intake_row (intake_id, row_no, cells) VALUES ?', [
          slice.map((cells) => [id, ++row, JSON.stringify(cells)]),
        ]);
      return id;
    });
    return this.get(result);
  }

  change(actor: Actor, id: number, version: number, setting: IntakeSetting) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Changed how a file is read' }, async (tx) => {
      const row = await tx.expect(IntakeTable, id, version, 'This intake');
      const { encoding } = setting;
      if (encoding !== null && !readingsOf(row).includes(encoding))
        throw new Problem(400, 'invalid', `The file cannot be in ${encoding}.`);
      if (row['state'] === 'posted')
        throw new Problem(409, 'posted', 'This file was brought in; undo that first to read it differently.');
      await tx.update(IntakeTable, id, { setting: JSON.stringify(setting) });
    });
  }

  /** Throws a file away that is not brought in. Its rows go with it, so that this is final. */
  remove(actor: Actor, id: number) {
    let name = '';
    return this.changes.write(actor, { kind: 'upload', summary: () => `Threw ${name} away` }, async (tx) => {
      const row = (await tx.lock(IntakeTable, [id])).get(id);
      if (!row) throw notFound('This intake');
      name = row.name;
      if (row.state === 'posted')
        throw new Problem(409, 'posted', 'This file was brought in and stays, so that it can be taken back.');
      await tx.removeAll(IntakeTable, [id]);
    });
  }

  /** The rows of a file as they are read now, and what is open about that. */
  private async laidOut(intake: IntakeRecord, sql: Sql) {
    const setting = settingOf(intake);
    const stored = await sql.rows<{ row_no: number; cells: string }>(
      'SELECT row_no, cells FROM intake_row WHERE intake_id = ? AND row_no > ? ORDER BY row_no',
      // A first row that holds headings is none of the others.
      [intake.id, setting.headed ? 1 : 0],
    );
    const read = cellsReader(intake);
    const cellsOf = stored.map(({ cells }) => read(cells));
    const readings = toldReadings(intake, stored);
    return {
      ...{ setting, readings, dates: orderIn(cellsOf, setting) },
      lines: stored.map(({ row_no: row }, at) => ({ row, cells: cellsOf[at] ?? [] })),
      questions: questionsOf(await this.headings(intake, sql), cellsOf, { ...setting, readings }),
    };
  }

  /** What would become of every row of the file as things stand now, and what must be said before. */
  async judge(id: number, sql: Sql = this.sql): Promise<Judged> {
    const { setting, readings, dates, questions, ...laid } = await this.laidOut(await this.row(id), sql);
    const { funds, campaigns, appeals } = await this.settings.choices();
    const fund = funds.find((one) => one.id === setting.fundId);
    if (!fund || fund.closed)
      throw new Problem(400, 'fund-closed', 'The fund chosen for gifts without one is closed; choose another.');
    const { today } = await this.settings.calendar();
    const [own, ownOfGifts] = await Promise.all([fieldsIn(sql, 'supporter'), fieldsIn(sql, 'gift')]);
    const { country: home, currency } = await this.settings.organization();
    const rowSetting = {
      ...setting,
      ...{ dateOrder: dates.order, currency, today },
      home,
      fund,
      method: 'card' as const,
      funds,
      campaigns,
      appeals,
      own,
      ownOfGifts,
    };
    const lines = laid.lines.map((line) => ({ ...line, ...readRow(setting.columns, line.cells, rowSetting) }));
    const pickOf = (row: number) => setting.picks[String(row)] ?? null;
    const picked = Object.values(setting.picks).filter((pick) => typeof pick === 'number');
    const drafts = lines.map(({ draft }) => draft);
    const [known, references] = await Promise.all([knownOf(sql, drafts, picked), referencesOf(sql, drafts)]);
    const earlier = new Map<string, number>();
    const rows = lines.map((line, index) => judged(line, index, known, references, earlier, lines, pickOf(line.row)));
    return { rows, questions, readings, dates };
  }

  async preview(id: number, query: { verdict?: string | undefined; limit: number; cursor?: string | undefined }) {
    const { rows, questions, readings, dates } = await this.judge(id);
    const { verdict } = query;
    const kept = !verdict ? rows : rows.filter(verdict === 'look' ? needsLook : (row) => row.verdict === verdict);
    const from = Number(query.cursor ?? 0) || 0;
    const page = kept.slice(from, from + query.limit);
    return {
      items: page.map(({ row, cells, verdict, says, problems, warnings, match }) => ({
        row,
        cells,
        verdict,
        says,
        problems,
        warnings,
        supporterId: match?.kind === 'known' ? match.id : null,
        candidates: candidatesOf(match).map((one) => ({ ...one, reasons: [...one.reasons] })),
      })),
      next: from + page.length < kept.length ? String(from + page.length) : null,
      total: kept.length,
      counts: countsOf(rows),
      ...{ questions, readings, dates },
    };
  }

  /** The rows that are not brought in: row, field, reason, and the row as it was. */
  async leftOut(id: number): Promise<{ headings: string[]; rows: (string | number)[][] }> {
    const intake = await this.row(id);
    const headings = await this.headings(intake);
    const setting = settingOf(intake);
    const rows = (await this.judge(id)).rows.filter((row) => row.verdict === 'bad' || row.verdict === 'undecided');
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
    refuseOpen((await this.laidOut(intake, this.sql)).questions);
    return this.jobs.add(actor, postJob, {
      title: `Bringing in ${intake.name}`,
      payload: { id },
      total: intake.row_total,
      link: `/intake/${id}`,
    });
  }

  /** Brings the good rows in, all in one change set. A job that runs again finds the intake posted and writes nothing. */
  private async post(job: RunningJob<{ id: number }>): Promise<string> {
    const { id } = job.payload;
    const intake = await this.row(id);
    const organization = await this.settings.organization();
    const { today } = await this.settings.calendar();
    let counts = countsOf([]);
    const { result } = await this.changes.write(
      job.actor,
      { kind: 'intake', summary: () => `Brought in ${counted(counts.new + counts.known, 'row')} of ${intake.name}` },
      async (tx) => {
        const state = (await tx.lock(IntakeTable, [id])).get(id)?.['state'];
        if (state !== 'open') return 'It was already brought in; nothing was written again.';
        const { rows, questions } = await this.judge(id, tx.sql);
        refuseOpen(questions);
        counts = countsOf(rows);
        const good = rows.filter(isGood);
        if (good.length === 0)
          throw new Problem(409, 'nothing-to-post', 'No row of this file can be brought in as it is read now.');
        const books = {
          ...{ currency: organization.currency, intakeId: id },
          batchId: await newBatch(tx, 'intake', today, intake.name),
          bookedOn: bookingDays(today, await lockClosedThrough(tx.sql)),
        };
        await writeRows(tx, rows, good, books, (done) => job.progress(done, rows.length));
        await tx.update(IntakeTable, id, { state: 'posted' });
        return `${counted(good.length, 'row')}, ${counted(counts.newSupporters, 'new supporter')}, ${counted(counts.gifts, 'gift')}; ${rows.length - good.length} left out`;
      },
    );
    return result;
  }
}

const PARSE = heavyWork<Uint8Array, ParsedFile>(new URL('./parse.work.ts', import.meta.url), 120);

function unreadable(error: unknown): never {
  if (error instanceof Problem) throw error;
  const message = error instanceof Error ? error.message : String(error);
  throw new Problem(400, 'unreadable-file', message || 'The file could not be read.');
}
