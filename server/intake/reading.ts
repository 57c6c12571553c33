import {
  carer,
  isDay,
  noneOf,
  ofFile,
  orderIn,
  questionsOf,
  readDetails,
  readRow,
  remarksOn,
  withMade,
  type DraftGift,
  type DraftRow,
  type IntakeColumn,
  type IntakeQuestion,
  type OrderFound,
  type RowDetails,
  type RowProblem,
  type RowSetting,
  type ToldReading,
} from '@tallystick/core/intake';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { chunks, one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { othersTurn } from '../platform/turns.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { tieKinds } from '../supporters/index.ts';
import { AMONG_ROWS, cellsReader, firstRowOf, headingsIn, settingOf, toldReadings } from './cells.ts';
import type { IntakeRecord } from './intake.entity.ts';

/* How the rows of a file are read: its cells, their clean-up, and what they say. Nothing here knows who is here. */

/** What a row brings whatever its record says. */
export type Brings = Pick<RowDetails, 'outside' | 'gifts' | 'tags' | 'groups' | 'remarks' | 'call' | 'back'>;
const NOTHING: Brings = {
  ...{ outside: '', gifts: noneOf(), tags: noneOf(), groups: noneOf(), remarks: noneOf(), call: null, back: null },
};
const bringsIn = ({ outside, gifts, tags, groups, remarks, call, back }: RowDetails): Brings =>
  outside === '' && call === null && back === null && [gifts, tags, groups, remarks].every(({ length }) => length === 0)
    ? NOTHING
    : { outside, gifts, tags, groups, remarks, call, back };

/** How the rows of a file are read. */
interface HowRead {
  columns: readonly (IntakeColumn | null)[];
  labels: Partial<Record<IntakeColumn, string>>;
  setting: RowSetting;
  /** How many of the columns are the file's own. */
  width: number;
}

/**
 * A row of the file and what it says. What it says besides its draft takes more room than all else, and is wanted only
 * while it is held against a record: it can be put away, and is read again where it is asked for after that.
 */
export class Line {
  readonly draft: DraftRow;
  readonly problems: RowProblem[];
  readonly warnings: RowProblem[];
  readonly brings: Brings;
  private whole: RowDetails | null;

  /** `cells` as they stand in the file, `read` as they are after their clean-up. */
  constructor(
    readonly row: number,
    readonly cells: string[],
    readonly read: string[],
    private readonly how: HowRead,
  ) {
    const { columns, labels, setting, width } = how;
    const { draft, problems, warnings } = readRow(columns, read, setting, width);
    const more = readDetails(draft, columns, read, setting, labels);
    draft.labels = labels;
    draft.listed = more.details.back !== null;
    this.draft = draft;
    this.whole = more.details;
    this.brings = bringsIn(more.details);
    // What several gifts share is told once.
    this.problems = unique(more.problems.length === 0 ? problems : [...problems, ...more.problems]);
    this.warnings = more.warnings.length === 0 ? warnings : [...warnings, ...more.warnings];
  }

  get details(): RowDetails {
    const { columns, labels, setting } = this.how;
    return (this.whole ??= readDetails(this.draft, columns, this.read, setting, labels).details);
  }

  putAway(): void {
    this.whole = null;
  }
}

/** The gifts that a row brings. */
export const giftsIn = ({
  draft: { gift },
  brings: { gifts },
}: Pick<Line, 'draft' | 'brings'>): readonly DraftGift[] => (gift === null ? gifts : [gift, ...gifts]);

/** What is open about how a file is read. */
export interface LaidOut {
  setting: IntakeSetting;
  headings: string[];
  lines: { row: number; cells: string[] }[];
  questions: IntakeQuestion[];
  readings: ToldReading[];
  dates: OrderFound;
  remarks: string[];
}

/** What stands above the columns of a file. */
export async function headingsOf(row: IntakeRecord, sql: Sql): Promise<string[]> {
  if (row.headings !== AMONG_ROWS) return headingsIn(row, null);
  const first = await one<{ cells: string }>(
    sql,
    'SELECT cells FROM intake_row WHERE intake_id = ? AND row_no >= ? ORDER BY row_no LIMIT 1',
    [row.id, settingOf(row).startRow],
  );
  return headingsIn(row, first?.cells ?? AMONG_ROWS);
}

/** The rows of a file as they are read now, and what is open about that. */
export async function laidOut(intake: IntakeRecord, sql: Sql): Promise<LaidOut> {
  const setting = settingOf(intake);
  const stored = await sql.rows<{ row_no: number; cells: string }>(
    'SELECT row_no, cells FROM intake_row WHERE intake_id = ? AND row_no >= ? ORDER BY row_no',
    [intake.id, firstRowOf(setting)],
  );
  const headings = await headingsOf(intake, sql);
  const readings = toldReadings(intake, stored);
  return lookedOver(intake, { setting, headings, readings, lines: cellsOf(intake, headings, stored) });
}

/** Rows with their cells as they are kept, what was changed in them, and what is made of them. */
function cellsOf(
  intake: IntakeRecord,
  headings: readonly string[],
  stored: readonly { row_no: number; cells: string }[],
): LaidOut['lines'] {
  const setting = settingOf(intake);
  const read = cellsReader(intake);
  const edited = editsIn(setting);
  const width = ofFile(headings, setting).length;
  return stored.map(({ row_no: row, cells: text }) => {
    const cells = read(text);
    for (const [at, value] of edited.get(row) ?? []) {
      if (at >= width) continue;
      while (cells.length < at) cells.push('');
      cells[at] = value;
    }
    return { row, cells: withMade(setting.made, cells, width, setting.columns) };
  });
}

/** What is open, and odd, about all rows together. */
function lookedOver(intake: IntakeRecord, laid: Pick<LaidOut, 'setting' | 'headings' | 'readings' | 'lines'>): LaidOut {
  const { setting, headings, readings } = laid;
  const rows = laid.lines.map(({ cells }) => cells);
  const above = setting.startRow - 1;
  const found: string[] = JSON.parse(intake.remarks);
  return {
    ...{ ...laid, dates: orderIn(rows, setting) },
    questions: questionsOf(headings, rows, { ...setting, readings }),
    remarks: [
      ...(above > 0 ? [`What stands above row ${setting.startRow} is left out.`] : []),
      ...found,
      ...remarksOn(headings, rows),
    ],
  };
}

/** The same file after cells of some rows were changed, which alone are read again; `changed` are their places. */
export async function laidOutAgain(
  intake: IntakeRecord,
  before: LaidOut,
  sql: Sql,
): Promise<{ laid: LaidOut; changed: number[] }> {
  const setting = settingOf(intake);
  const [was, now] = [before.setting.edits, setting.edits];
  const cells = Object.keys({ ...was, ...now }).filter((cell) => was[cell] !== now[cell]);
  const rows = new Set(cells.map((cell) => Number(cell.split(':')[0])));
  const changed = before.lines.flatMap(({ row }, at) => (rows.has(row) ? [at] : []));
  const stored: { row_no: number; cells: string }[] = [];
  for (const some of chunks([...rows]))
    stored.push(
      ...(await sql.rows<{ row_no: number; cells: string }>(
        'SELECT row_no, cells FROM intake_row WHERE intake_id = ? AND row_no IN (?)',
        [intake.id, some],
      )),
    );
  const fresh = new Map(cellsOf(intake, before.headings, stored).map((line) => [line.row, line]));
  const lines = before.lines.map((line) => fresh.get(line.row) ?? line);
  const { headings, readings } = before;
  const had = new Map(changed.map((at) => [before.lines[at]?.row ?? 0, before.lines[at]?.cells ?? []]));
  /** Whether a cell says as little of its column as before: it has a place, holds no day, and was and is not empty. */
  const bearsOnItself = (cell: string): boolean => {
    const [row = 0, at = 0] = cell.split(':').map(Number);
    const column = setting.columns[at];
    const texts = [had.get(row)?.[at] ?? '', fresh.get(row)?.cells[at] ?? ''];
    return column != null && !isDay(column) && texts.every((text) => text.trim() !== '');
  };
  const laid =
    setting.made.length === 0 && cells.every(bearsOnItself)
      ? { ...before, setting, lines }
      : lookedOver(intake, { setting, headings, readings, lines });
  return { laid, changed };
}

/** What cells were changed to, by row. */
function editsIn({ edits }: IntakeSetting): Map<number, [column: number, value: string][]> {
  const found = new Map<number, [number, string][]>();
  for (const [key, value] of Object.entries(edits)) {
    const [row = 0, column = 0] = key.split(':').map(Number);
    found.set(row, [...(found.get(row) ?? []), [column, value]]);
  }
  return found;
}

/** What rows are read by besides the setting of the file. */
export async function rowSettingOf(
  { setting, dates }: Pick<LaidOut, 'setting' | 'dates'>,
  sql: Sql,
  settings: Settings,
): Promise<RowSetting> {
  const { funds, campaigns, appeals } = await settings.choices();
  const fund = funds.find((one) => one.id === setting.fundId);
  if (!fund || fund.closed)
    throw new Problem(400, 'fund-closed', 'The fund chosen for gifts without one is closed; choose another.');
  const { today } = await settings.calendar();
  const [own, ownOfGifts, ties] = await Promise.all([fieldsIn(sql, 'supporter'), fieldsIn(sql, 'gift'), tieKinds(sql)]);
  const { country: home, currency, time_zone: zone } = await settings.organization();
  return {
    ...{ decimal: setting.decimal, dateOrder: dates.order, currency, today, zone, home },
    ...{ fund, method: 'card', funds, campaigns, appeals, own, ownOfGifts, ties },
  };
}

/** So many rows are read before others get their turn. */
export const AT_ONCE = 500;

/** Reads every row, some at a time. */
export async function* linesOf(
  { setting, headings, lines }: Pick<LaidOut, 'setting' | 'headings' | 'lines'>,
  rowSetting: RowSetting,
): AsyncGenerator<Line[]> {
  const { columns, cells: careFor } = carer(setting.care, setting.columns, setting.same);
  const how = { columns, labels: labelsIn(setting), setting: rowSetting, width: ofFile(headings, setting).length };
  let read: Line[] = [];
  for (const { row, cells } of lines) {
    read.push(new Line(row, cells, careFor(cells), how));
    if (read.length < AT_ONCE) continue;
    yield read;
    read = [];
    await othersTurn();
  }
  yield read;
}

const unique = (all: RowProblem[]): RowProblem[] =>
  all.length < 2
    ? all
    : all.filter(
        (one, at) => all.findIndex(({ field, reason }) => field === one.field && reason === one.reason) === at,
      );

/** The label of each column that a way stands in. */
const labelsIn = ({ columns, care }: IntakeSetting): Partial<Record<IntakeColumn, string>> =>
  Object.fromEntries(
    columns.flatMap((column, at) => {
      const label = care[String(at)]?.label;
      return column !== null && label ? [[column, label]] : [];
    }),
  );
