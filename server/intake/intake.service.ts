import { isDeepStrictEqual } from 'node:util';
import type { DataSource } from 'typeorm';
import { formatMoney } from '@tallystick/core/money';
import { besideOf, madeFault, ofFile, totalsAsked, WHY_LEFT_OUT } from '@tallystick/core/intake';
import type { Candidate, IntakeQuestion, RowProblem } from '@tallystick/core/intake';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { MOST_COLUMNS } from '@tallystick/contract/intake';
import { z } from 'zod';
import { bookingDays, newBatch } from '../gifts/index.ts';
import { isFinal, lastRevision, standingRevision } from '../platform/changes.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { one, sqlOn } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import type { Sql } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import { jobKind } from '../platform/job-queue.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { elseWritten } from '../platform/since.ts';
import { doHeavy, heavyWork } from '../platform/pool.ts';
import { lockClosedThrough } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { comparedOf } from '../supporters/index.ts';
import type { Alike } from '../supporters/index.ts';
import { AMONG_ROWS, encodingIn, readingsOf, settingOf } from './cells.ts';
import { columnOf } from './columns.ts';
import { guessed, keepFile } from './guess.ts';
import { IntakeTable } from './intake.entity.ts';
import type { IntakeRecord } from './intake.entity.ts';
import { changesRecord, countsOf, isGood, keepsOurs, needsLook } from './fates.ts';
import { Judgement } from './judge.ts';
import type { JudgedRow } from './fates.ts';
import type { ParsedFile } from './parse.ts';
import { headingsOf, laidOut, laidOutAgain, linesOf, rowSettingOf } from './reading.ts';
import type { Line } from './reading.ts';
import type { LaidOut } from './reading.ts';
import type { Recipes } from './recipes.ts';
import { written } from './report.ts';
import { writeRows } from './write-rows.ts';

const LINE = { name: 'intake', atOnce: 1 };
const postJob = jobKind('post-intake', LINE, z.object({ id: z.number() }));
const rehearseJob = jobKind('rehearse-intake', LINE, z.object({ id: z.number() }));

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    intake: true;
    upload: true;
  }
}
isFinal('upload', 'a file was uploaded; nothing of it is in the records until it is brought in');

/** Is told how many rows of how many are done. */
type Progress = (done: number, total: number) => Promise<void>;
const UNTOLD: Progress = () => Promise.resolve();

/** Every row of a file with what becomes of it, and what is open. */
interface Judged extends LaidOut {
  judgement: Judgement;
  rows: readonly JudgedRow[];
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
  private keptBecause: (sql: Sql, id: number) => Promise<string | null> = () => Promise.resolve(null);

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly jobs: Jobs,
    private readonly recipes: Recipes,
    private readonly alike: Alike,
  ) {
    this.sql = sqlOn(source);
    const run = (rehearsed: boolean) => (job: RunningJob<{ id: number }>) =>
      this.bringIn(job.actor, job.payload.id, rehearsed, (done, total) => job.progress(done, total));
    jobs.handle(postJob, run(false));
    jobs.handle(rehearseJob, run(true));
  }

  /** Asks before an intake is thrown away why it must be kept; null where it need not be. */
  askBeforeThrownAway(why: (sql: Sql, id: number) => Promise<string | null>): void {
    this.keptBecause = why;
  }

  /** Every intake by its name, the newest first. */
  names() {
    return this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM intake ORDER BY id DESC');
  }

  private async row(id: number, sql: Sql = this.sql): Promise<IntakeRecord> {
    const row = await one<IntakeRecord>(sql, 'SELECT * FROM intake WHERE id = ?', [id]);
    if (!row) throw notFound('This intake');
    return row;
  }

  private async view(row: IntakeRecord) {
    const headings = await headingsOf(row, this.sql);
    return {
      headings,
      id: row.id,
      version: row.version,
      name: row.name,
      at: instant(row.at),
      by: row.actor,
      state: row.state,
      encoding: encodingIn(row) ?? row.encoding,
      separator: row.separator_char,
      format: row.format,
      rows: row.row_total - (row.headings === AMONG_ROWS && settingOf(row).headed ? 1 : 0),
      setting: settingOf(row),
      recipe: await this.recipes.of(row, ofFile(headings, settingOf(row))),
      report: row.report,
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

  /**
   * Takes a file in: reads it in a thread of its own, guesses where its columns go, and keeps its rows as they are. Asks
   * (409) which sheet of a workbook is meant where several hold something.
   */
  async upload(actor: Actor, name: string, bytes: Buffer, sheet: string | null = null) {
    const file = await doHeavy(PARSE, { bytes: new Uint8Array(bytes), sheet }).catch(unreadable);
    if (file.sheets.length > 0) throw whichSheet(file.sheets);
    const { setting, recipeId } = await guessed(file, this.sql, this.settings, this.recipes);
    if (setting.columns.length > MOST_COLUMNS)
      throw new Problem(
        400,
        'too-many-columns',
        `The file has ${setting.columns.length} columns; ${MOST_COLUMNS} are read at most. Nothing was kept.`,
      );
    const { result } = await this.changes.write(actor, { kind: 'upload', summary: `Uploaded ${name}` }, (tx) =>
      keepFile(tx, { name, file, setting, recipeId }),
    );
    return this.get(result);
  }

  change(
    actor: Actor,
    id: number,
    { version, setting, recipeId }: { version: number; setting: IntakeSetting; recipeId?: number | undefined },
  ) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Changed how a file is read' }, async (tx) => {
      const row = await tx.expect(IntakeTable, id, version, 'This intake');
      const { encoding, made } = setting;
      const width = made.length === 0 ? 0 : ofFile(await headingsOf(row, tx.sql), settingOf(row)).length;
      const fault = madeFault(made, width);
      if (fault !== null) throw new Problem(400, 'invalid', fault);
      if (encoding !== null && !readingsOf(row).includes(encoding))
        throw new Problem(400, 'invalid', `The file cannot be in ${encoding}.`);
      if (row['state'] === 'posted')
        throw new Problem(409, 'posted', 'This file was brought in; undo that first to read it differently.');
      const moved = setting.startRow === settingOf(row).startRow ? null : await tableRows(tx.sql, id, setting.startRow);
      if (moved === 0) throw new Problem(400, 'invalid', `The file has no row ${setting.startRow}.`);
      await tx.update(IntakeTable, id, {
        ...{ setting: JSON.stringify(setting), row_total: moved ?? row.row_total },
        ...(recipeId === undefined ? {} : { recipe_id: recipeId }),
      });
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
      const why = await this.keptBecause(tx.sql, id);
      if (why !== null) throw new Problem(409, 'came-by-itself', why);
      await tx.removeAll(IntakeTable, [id]);
    });
  }

  /** What would become of every row of the file as things stand now, and what must be said before; so `many` judged at a time. */
  async judge(id: number, sql: Sql = this.sql, many?: number): Promise<Judged> {
    const laid = await laidOut(await this.row(id, sql), sql);
    const rowSetting = await rowSettingOf(laid, sql, this.settings);
    const rules = { ...laid.setting, today: rowSetting.today, ties: rowSetting.ties ?? [], alike: this.alike };
    const judgement = await Judgement.of(sql, linesOf(laid, rowSetting), rules, many);
    return { ...laid, judgement, rows: judgement.rows };
  }

  /** The file that was judged last, as of a revision and a day. One alone is kept: a large one takes much room. */
  private last: { id: number; revision: number; today: string; judged: Judged } | null = null;
  /** One file is judged at a time, so that two who look at one do not both begin. */
  private judging: Promise<unknown> = Promise.resolve();

  /** As `judge`; what was judged is kept, and after a choice for a row only what that touches is judged again. */
  private judgedNow(id: number): Promise<Judged> {
    const judged = this.judging.then(() => this.judgedAgain(id));
    this.judging = judged.catch(() => undefined);
    return judged;
  }

  /** The file as it was judged last, where that still holds within a transaction. */
  private async stillJudged(id: number, sql: Sql): Promise<Judged | null> {
    await this.judging;
    const [revision, { today }] = [await lastRevision(sql), await this.settings.calendar()];
    const { last } = this;
    return last?.id === id && last.revision === revision && last.today === today ? last.judged : null;
  }

  private async judgedAgain(id: number): Promise<Judged> {
    const [revision, { today }] = [await lastRevision(this.sql), await this.settings.calendar()];
    const { last } = this;
    if (last?.id === id && last.today === today) {
      if (last.revision === revision) return last.judged;
      const row = await this.row(id);
      const setting = settingOf(row);
      const { picks, expects: _expects, edits, ...reading } = setting;
      const { picks: _before, expects: _expected, edits: edited, ...before } = last.judged.setting;
      if (isDeepStrictEqual(reading, before) && !(await elseWritten(this.sql, last.revision, IntakeTable.name, id))) {
        const same = isDeepStrictEqual(edits, edited);
        // Where this fails nothing half judged is kept.
        this.last = null;
        const again = same ? { ...last.judged, setting } : await this.reread(row, last.judged);
        if (again) {
          await again.judgement.choose(this.sql, picks);
          this.last = { ...last, revision, judged: again };
          return again;
        }
      }
    }
    this.last = null;
    const judged = await this.judge(id);
    const next = { id, revision, today, judged };
    this.last = next;
    setTimeout(() => {
      if (this.last === next) this.last = null;
    }, KEPT_MS).unref();
    return judged;
  }

  /** A file as it was judged, after cells of some of its rows were changed; null where that bears on how all are read. */
  private async reread(row: IntakeRecord, before: Judged): Promise<Judged | null> {
    const { laid, changed } = await laidOutAgain(row, before, this.sql);
    if (laid.dates.order !== before.dates.order) return null;
    const { setting, headings } = laid;
    const rowSetting = await rowSettingOf(laid, this.sql, this.settings);
    const lines: Line[] = [];
    const again = { setting, headings, lines: changed.flatMap((at) => laid.lines[at] ?? []) };
    for await (const some of linesOf(again, rowSetting)) lines.push(...some);
    await before.judgement.reread(
      this.sql,
      new Map(changed.flatMap((at, nth) => (lines[nth] ? [[at, lines[nth]]] : []))),
    );
    return { ...laid, judgement: before.judgement, rows: before.judgement.rows };
  }

  async preview(id: number, query: { verdict?: string | undefined; limit: number; cursor?: string | undefined }) {
    const { rows, judgement, setting, readings, dates, remarks, ...judged } = await this.judgedNow(id);
    const questions = [...judged.questions, ...(await this.totals(setting, judgement.counts))];
    const { verdict } = query;
    const kept = !verdict ? rows : rows.filter(SHOWN[verdict] ?? ((row) => row.verdict === verdict));
    const from = Number(query.cursor ?? 0) || 0;
    const page = kept.slice(from, from + query.limit);
    return {
      items: page.map((one) => {
        const { verdict, problems, warnings, match, changes } = one;
        const { row, cells, read } = one.line;
        const says = [one.says, ...judgement.namedElsewhere(one)].join(one.says.endsWith('.') ? ' ' : '. ');
        return {
          ...{ row, cells, verdict, says, problems, warnings },
          read: Object.fromEntries(
            cells.flatMap((cell, at) => (read[at] === undefined || read[at] === cell ? [] : [[String(at), read[at]]])),
          ),
          changes:
            match?.kind === 'new'
              ? []
              : changes.map(({ act, conflict = false, ...change }) => ({ ...change, conflict, kept: act === null })),
          supporterId: match?.kind === 'known' ? match.id : null,
          candidates: candidatesOf(match).map((each) => ({ ...each, reasons: [...each.reasons] })),
        };
      }),
      next: from + page.length < kept.length ? String(from + page.length) : null,
      total: kept.length,
      counts: judgement.counts,
      ...{ questions, readings, dates, remarks },
    };
  }

  private async totals({ expects }: IntakeSetting, counts: ReturnType<typeof countsOf>): Promise<IntakeQuestion[]> {
    const formats = await this.settings.formats();
    return totalsAsked(expects, counts, (cents) => formatMoney(cents, formats));
  }

  /** A row beside a supporter whose it may be. */
  async beside(id: number, row: number, supporterId: number) {
    const found = (await this.judgedNow(id)).rows.find(({ line }) => line.row === row);
    if (!found) throw notFound(`Row ${row}`);
    const [here] = await comparedOf(this.sql, [supporterId]);
    if (here?.state !== 'active') throw notFound(`Supporter ${supporterNumber(supporterId)}`);
    return { id: here.id, number: supporterNumber(here.id), name: here.name, parts: besideOf(found.line.draft, here) };
  }

  /** What each column holds. */
  async columns(id: number) {
    const { headings, rows, setting } = await this.judgedNow(id);
    return { items: headings.map((heading, at) => columnOf(heading, at, setting.columns[at] ?? null, rows)) };
  }

  /** The rows that are not brought in, in the columns of the file, each with why: to be mended and brought in again. */
  async leftOut(id: number): Promise<{ headings: string[]; rows: string[][] }> {
    const { headings: above, setting, ...judged } = await this.judgedNow(id);
    const headings = ofFile(above, setting);
    const rows = judged.rows.filter((row) => row.verdict === 'bad' || row.verdict === 'undecided');
    const told = ({ field, reason }: RowProblem): string => {
      const heading = field === null ? '' : (above[setting.columns.indexOf(field)] ?? field);
      return heading === '' ? reason : `${heading}: ${reason}`;
    };
    return {
      headings: [...headings, WHY_LEFT_OUT],
      rows: rows.map(({ line: { row, cells }, problems, says }) => [
        ...headings.map((_, at) => cells[at] ?? ''),
        // What stands beyond the columns is not lost.
        [`Row ${row}.`, ...(problems.map(told).join(' ') || says).split('\n'), ...cells.slice(above.length)].join(' '),
      ]),
    };
  }

  async begin(actor: Actor, id: number, rehearsed = false): Promise<number> {
    const intake = await this.row(id);
    if (intake.state === 'posted') throw new Problem(409, 'posted', 'This file was already brought in.');
    refuseOpen((await laidOut(intake, this.sql)).questions);
    return this.jobs.add(actor, rehearsed ? rehearseJob : postJob, {
      title: `${rehearsed ? 'Rehearsing' : 'Bringing in'} ${intake.name}`,
      payload: { id },
      total: intake.row_total,
      link: `/intake/${id}`,
    });
  }

  /**
   * Brings the good rows in, all in one change set; rehearsed, all of it is taken back. A job that runs again finds the
   * intake posted and writes nothing. `progress` is told how many rows of how many are done.
   */
  async bringIn(actor: Actor, id: number, rehearsed = false, progress: Progress = UNTOLD): Promise<string> {
    const { name } = await this.row(id);
    let brought = 0;
    const reason = { kind: 'intake' as const, summary: () => `Brought in ${counted(brought, 'row')} of ${name}` };
    const work = async (tx: Transaction): Promise<string> => {
      const done = await this.bringInWithin(tx, actor, id, progress);
      if (!done) return 'It was already brought in; nothing was written again.';
      const { counts, report, leftOut } = done;
      // What follows takes much room itself, and nobody looks at the rows of a file that is brought in.
      if (!rehearsed) this.last = null;
      brought = counts.new + counts.known;
      const says = `${counted(brought, 'row')}, ${counted(counts.newSupporters, 'new supporter')}, ${counted(counts.gifts, 'gift')}; ${leftOut} left out`;
      return rehearsed ? `Rehearsed, nothing was kept: ${says}. ${report}` : says;
    };
    if (rehearsed) return this.changes.rehearse(actor, reason, work);
    return (await this.changes.write(actor, reason, work)).result;
  }

  /** As `bringIn`, within a transaction that does more; null where the intake is not open. */
  async bringInWithin(
    tx: Transaction,
    actor: Actor,
    id: number,
    progress: Progress = UNTOLD,
  ): Promise<{ counts: ReturnType<typeof countsOf>; report: string; leftOut: number } | null> {
    const intake = (await tx.lock(IntakeTable, [id])).get(id);
    if (intake?.state !== 'open') return null;
    const { currency } = await this.settings.organization();
    const { today } = await this.settings.calendar();
    const { rows, questions, setting } = (await this.stillJudged(id, tx.sql)) ?? (await this.judge(id, tx.sql));
    const counts = countsOf(rows);
    refuseOpen([...questions, ...(await this.totals(setting, counts))]);
    const good = rows.filter(isGood);
    if (good.length === 0)
      throw new Problem(409, 'nothing-to-post', 'No row of this file can be brought in as it is read now.');
    const books = {
      ...{ currency, intakeId: id },
      batchId: await newBatch(tx, 'intake', today, intake.name),
      bookedOn: bookingDays(today, await lockClosedThrough(tx.sql)),
    };
    await writeRows(tx, rows, good, books, {
      ...{ actor, today, file: intake.name, source: setting.source },
      chosen: ({ line }) => setting.picks[String(line.row)] !== undefined,
      progress: (done) => progress(done, rows.length),
    });
    const report = written(tx.changes);
    await tx.update(IntakeTable, id, { state: 'posted', report });
    return { counts, report, leftOut: rows.length - good.length };
  }
}

const PARSE = heavyWork<{ bytes: Uint8Array; sheet: string | null }, ParsedFile>(
  new URL('./parse.work.ts', import.meta.url),
  120,
);

function unreadable(error: unknown): never {
  if (error instanceof Problem) throw error;
  const message = error instanceof Error ? error.message : String(error);
  throw new Problem(400, 'unreadable-file', message || 'The file could not be read.');
}

/** How long what was judged is kept. */
const KEPT_MS = 10 * 60_000;

const SHOWN: Readonly<Record<string, (row: JudgedRow) => boolean>> = {
  ...{ look: needsLook, changes: changesRecord, differs: keepsOurs },
};

/** How many rows the table of a file has from a row on. */
async function tableRows(sql: Sql, id: number, from: number): Promise<number> {
  const [row] = await sql.rows<{ many: number }>(
    'SELECT COUNT(*) AS many FROM intake_row WHERE intake_id = ? AND row_no >= ?',
    [id, from],
  );
  return row?.many ?? 0;
}

const whichSheet = (sheets: { name: string; rows: number }[]): Problem =>
  new Problem(
    409,
    'which-sheet',
    `The workbook has several sheets that hold something; say which: ${sheets.map(({ name, rows }) => `${name} (${counted(rows, 'row')})`).join(', ')}.`,
    { details: sheets },
  );
