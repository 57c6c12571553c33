import { Link } from 'react-router';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { fieldIn, INTAKE_FIELDS } from '@tallystick/core/intake';
import type { IntakeColumn, IntakeGroup } from '@tallystick/core/intake';
import { StateWord } from '../ui/controls.tsx';
import type { Column } from '../ui/table/columns.ts';
import { Decide } from './Decide.tsx';
import { RowDialog } from './RowDialog.tsx';
import type { SetSetting } from './useSetting.ts';

type Verdict = IntakeRow['verdict'];

export const VERDICT_WORDS: Record<Verdict, [string, 'settled' | 'wrong' | 'look' | 'plain']> = {
  new: ['New', 'settled'],
  known: ['Known', 'settled'],
  bad: ['Cannot be read', 'wrong'],
  undecided: ['Undecided', 'look'],
  already: ['Already here', 'plain'],
  skipped: ['Left out', 'plain'],
};

/** What of the rows is looked at, by the groups of places. */
export const PARTS = {
  people: { word: 'People', groups: ['Supporter', 'Wishes', 'Tags and notes'] },
  contact: { word: 'Contact', groups: ['Contact'] },
  gifts: { word: 'Gifts', groups: ['Gift'] },
  ties: { word: 'Ties', groups: ['Ties'] },
} as const satisfies Record<string, { word: string; groups: readonly IntakeGroup[] }>;
export type Part = keyof typeof PARTS;
const groupOf = (column: IntakeColumn): IntakeGroup => {
  const found = fieldIn(column);
  return found ? INTAKE_FIELDS[found.field].group : 'Supporter';
};
const isOf = (part: Part | null, column: IntakeColumn | null): boolean =>
  part === null || (column !== null && (PARTS[part].groups as readonly IntakeGroup[]).includes(groupOf(column)));

/** The columns of the list of rows: what becomes of each and why, what it changes, and what stands in the file. */
export function rowColumns(
  intake: Intake,
  decide: { setting: IntakeSetting; set: SetSetting } | null,
  labelOf: (column: IntakeColumn) => string,
  part: Part | null,
): Column<IntakeRow>[] {
  return [
    { id: 'row', title: 'File row', width: 76, align: 'right', cell: (row) => row.row },
    {
      id: 'verdict',
      title: 'Becomes',
      width: 144,
      cell: (row) => <StateWord tone={VERDICT_WORDS[row.verdict][1]}>{VERDICT_WORDS[row.verdict][0]}</StateWord>,
    },
    {
      id: 'says',
      title: 'Because',
      width: 300,
      cell: (row) =>
        row.supporterId !== null ? (
          <Link className="text-slate hover:underline" to={`/supporters/${row.supporterId}`} title={row.says}>
            {row.says}
          </Link>
        ) : (
          <span title={row.says} className={row.verdict === 'bad' ? 'text-madder' : ''}>
            {row.says}
          </span>
        ),
    },
    {
      id: 'changes',
      title: 'Changes of the record',
      width: 300,
      cell: (row) => <Changes {...{ row, labelOf, part }} />,
    },
    ...(decide
      ? [
          {
            ...{ id: 'choice', title: 'You choose', width: 150 },
            cell: (row: IntakeRow) => (
              <span className="flex gap-3">
                <Decide row={row} {...decide} />
                <RowDialog {...{ intake, row, labelOf }} {...decide} />
              </span>
            ),
          },
        ]
      : []),
    ...intake.headings.flatMap((heading, index): Column<IntakeRow>[] => {
      const field = intake.setting.columns[index] ?? null;
      if (!isOf(part, field)) return [];
      const column: Column<IntakeRow> = {
        id: `c${index}`,
        title: heading,
        width: 120,
        ...(field?.startsWith('amount') ? { align: 'right' as const } : {}),
        cell: (row) => <FileCell {...{ row, index, field }} />,
      };
      return [column];
    }),
  ];
}

/** A cell of the file as it is read: what is wrong with it, or what it was before its clean-up, is said with it. */
function FileCell({ row, index, field }: { row: IntakeRow; index: number; field: IntakeColumn | null }) {
  const cell = row.cells[index] ?? '';
  const read = row.read[String(index)];
  const said = [...row.problems, ...row.warnings].find((one) => field !== null && one.field === field);
  if (said) return <mark title={said.reason}>{(read ?? cell) || 'empty'}</mark>;
  if (read === undefined) return cell;
  return (
    <span title={`In the file: ${cell || 'empty'}`} className="underline decoration-dotted underline-offset-2">
      {read || 'nothing'}
    </span>
  );
}

/** What a row says otherwise than the record: old and new, and where ours is kept. */
function Changes(props: { row: IntakeRow; labelOf: (column: IntakeColumn) => string; part: Part | null }) {
  const { labelOf } = props;
  const changes = props.row.changes.filter(({ field }) => isOf(props.part, field));
  if (changes.length === 0) return null;
  const words = changes.map(({ field, before, after, kept, conflict }) => {
    const since = conflict ? ', changed here since' : '';
    return kept
      ? `${labelOf(field)}: ours is kept (${before || 'empty'}${since}), the file says ${after || 'nothing'}`
      : `${labelOf(field)}: ${before || 'empty'}${since} → ${after || 'empty'}`;
  });
  return (
    <span title={words.join('\n')}>
      {changes.map(({ field, before, after, kept, conflict }, at) => (
        <span key={at} className={conflict ? 'text-madder' : kept ? 'text-faded' : ''}>
          {at > 0 && '; '}
          {conflict && '▲ '}
          {labelOf(field)}:{' '}
          {kept ? <s>{after || 'empty'}</s> : before === '' ? `+ ${after}` : `${before} → ${after || 'empty'}`}
        </span>
      ))}
    </span>
  );
}
