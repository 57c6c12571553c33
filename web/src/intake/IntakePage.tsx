import { useMutation, useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { undoChange } from '@tallystick/contract/changes';
import { badRowsCsv, deleteIntake, getIntake, postIntake, previewIntake, VERDICTS } from '@tallystick/contract/intake';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { pluralOf } from '@tallystick/core/words';
import { ask, call, keyOf, linkTo, messageOf, runningJobs } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Button, Empty, Heading, Opening, StateWord, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { useWrite } from '../ui/useWrite.ts';
import { ColumnsEditor } from './ColumnsEditor.tsx';
import { Questions } from './Questions.tsx';
import { Decide } from './Decide.tsx';
import { useSetting } from './useSetting.ts';
import type { SetSetting } from './useSetting.ts';

type Verdict = (typeof VERDICTS)[number];
type Shown = Verdict | 'look' | '';

const VERDICT_WORDS: Record<Verdict, [string, 'settled' | 'wrong' | 'look' | 'plain']> = {
  new: ['New', 'settled'],
  known: ['Known', 'settled'],
  bad: ['Cannot be read', 'wrong'],
  undecided: ['Undecided', 'look'],
  already: ['Already here', 'plain'],
  skipped: ['Left out', 'plain'],
};

export default function IntakePage() {
  const { id } = useParams();
  const intake = useQuery(ask(getIntake, { params: { id: Number(id) } }));
  if (!intake.data) return <Opening error={intake.error} />;
  return <OneIntake intake={intake.data} />;
}

function OneIntake({ intake }: { intake: Intake }) {
  const url = useListUrl();
  const formats = useFormats();
  const mayBring = useMay(postIntake);
  const navigate = useNavigate();
  const mayDelete = useMay(deleteIntake);
  const away = useWrite((id: number) => call(deleteIntake, { params: { id } }), {
    say: () => 'The file is thrown away; nothing of it was in the records',
    then: () => void navigate('/intake'),
  });
  const verdict = url.get('verdict') as Shown;
  const list = usePages(
    [...keyOf(previewIntake, { params: { id: intake.id } }), intake.version, verdict],
    (cursor, signal) =>
      call(previewIntake, {
        params: { id: intake.id },
        query: { limit: 500, ...(verdict ? { verdict } : {}), ...(cursor ? { cursor } : {}) },
        signal,
      }),
  );
  const counts = list.first?.counts;
  const { data: jobs = [] } = useQuery(runningJobs);
  const running = jobs.some((job) => job.link === `/intake/${intake.id}` && job.finishedAt === null);
  const post = useMutation({
    mutationFn: () => call(postIntake, { params: { id: intake.id } }),
    onError: (error) => toast.error(messageOf(error)),
  });
  const undo = useMutation({
    mutationFn: (revision: number) => call(undoChange, { params: { revision } }),
    onSuccess: ({ rows }) => {
      toast.success(`Undone: ${formats.counted(rows, 'row')} of the records as before`);
    },
    onError: (error) => toast.error(messageOf(error), { duration: 12_000 }),
  });
  const good = (counts?.new ?? 0) + (counts?.known ?? 0);
  const [setting, set] = useSetting(intake);
  const posted = intake.state === 'posted';
  const open = list.first?.questions ?? [];
  const says = list.first?.dates.says;
  const toDecide = (counts?.undecided ?? 0) + (counts?.look ?? 0) + Object.keys(setting.picks).length > 0;
  const decides = !posted && mayBring && toDecide;
  const decide = useMemo(() => (decides ? { setting, set } : null), [decides, setting, set]);
  const columns = useMemo(() => columnsOf(intake, decide), [intake, decide]);
  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  return (
    <>
      <Heading
        title={intake.name}
        facts={`${formats.counted(intake.rows, 'row')}, ${intake.encoding}, separated by ${intake.separator === '\t' ? 'tabs' : `“${intake.separator}”`}`}
      >
        {counts && counts.bad + counts.undecided > 0 && (
          <Button onClick={() => window.open(linkTo(badRowsCsv, { id: intake.id }))}>
            <Download size={14} /> {formats.counted(counts.bad + counts.undecided, 'row')} left out, as CSV
          </Button>
        )}
        {posted && mayBring && intake.revision !== null && (
          <Button
            look="danger"
            busy={undo.isPending}
            onClick={() => intake.revision !== null && undo.mutate(intake.revision)}
          >
            Undo this intake
          </Button>
        )}
        {!posted && mayDelete && (
          <Button look="danger" disabled={away.isPending || running} onClick={() => away.mutate(intake.id)}>
            Throw the file away
          </Button>
        )}
        {!posted && mayBring && (
          <Button
            look="main"
            disabled={good === 0 || open.length > 0 || post.isPending || running}
            onClick={() => post.mutate()}
          >
            Bring in {formats.counted(good, 'row')}
          </Button>
        )}
      </Heading>
      {posted && (
        <p className="border-b border-rule bg-sheet px-5 py-2">
          <StateWord tone="settled">Brought in.</StateWord> Rows that were brought in now show as already here.
          Supporters who were known keep their details as they were; their gifts were added.
        </p>
      )}
      {!posted && counts && (
        <p className="border-b border-rule bg-sheet px-5 py-2" data-testid="intake-summary">
          <strong className="font-medium">{formats.count(counts.newSupporters)}</strong>{' '}
          {pluralOf(counts.newSupporters, 'new supporter')},{' '}
          <strong className="font-medium">{formats.count(counts.gifts)}</strong> {pluralOf(counts.gifts, 'gift')} of{' '}
          <strong className="font-serif">{formats.money(counts.cents)}</strong>. Supporters who are known keep their
          details as they are; their gifts are added.
          {says && open.length === 0 && <span className="block text-faded">Dates: {says}</span>}
          {counts.look > 0 && (
            <span className="block">
              <StateWord tone="look">{formats.counted(counts.look, 'row deserves', 'rows deserve')} a look.</StateWord>{' '}
              A date of long ago, an e-mail address that is kept otherwise than it is written, a letter that came to
              harm, or a name that is here already.{' '}
              <button type="button" className="text-slate hover:underline" onClick={() => url.set({ verdict: 'look' })}>
                Look at {counts.look === 1 ? 'it' : 'them'}
              </button>
            </span>
          )}
        </p>
      )}
      {!posted && <Questions questions={open} readings={list.first?.readings ?? []} set={mayBring ? set : null} />}
      {!posted && (
        <ColumnsEditor
          {...{ intake, setting, set }}
          found={list.first?.dates.order ?? null}
          readings={list.first?.readings ?? []}
          readOnly={!mayBring}
        />
      )}
      <DataTable
        name={`intake-${intake.id}`}
        label="Rows of the file"
        columns={columns}
        rows={list.rows}
        idOf={(row) => row.row}
        total={list.total}
        onMore={list.onMore}
        loading={list.isPending}
        toolbar={
          <div role="group" aria-label="Show" className="flex gap-1">
            <Filter name="All" many={intake.rows} active={verdict === ''} onChoose={() => url.set({ verdict: null })} />
            {VERDICTS.map((one) => (
              <Filter
                key={one}
                name={VERDICT_WORDS[one][0]}
                many={counts?.[one] ?? 0}
                active={verdict === one}
                onChoose={() => url.set({ verdict: one })}
              />
            ))}
            {(counts?.look ?? 0) > 0 && (
              <Filter
                name="To look at"
                many={counts?.look ?? 0}
                active={verdict === 'look'}
                onChoose={() => url.set({ verdict: 'look' })}
              />
            )}
          </div>
        }
        empty={<Empty title="No such rows">Choose another kind above.</Empty>}
      />
    </>
  );
}

function Filter(props: { name: string; many: number; active: boolean; onChoose: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={props.active}
      onClick={props.onChoose}
      className={`rounded border px-2 py-0.5 text-[13px] ${props.active ? 'border-slate bg-chosen' : 'border-rule bg-sheet hover:bg-hover'}`}
    >
      {props.name} <span className="text-faded">{props.many}</span>
    </button>
  );
}

function columnsOf(intake: Intake, decide: { setting: IntakeSetting; set: SetSetting } | null): Column<IntakeRow>[] {
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
      width: 330,
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
    ...(decide
      ? [{ id: 'choice', title: 'You choose', width: 120, cell: (row: IntakeRow) => <Decide row={row} {...decide} /> }]
      : []),
    ...intake.headings.map((heading, index): Column<IntakeRow> => {
      const field = intake.setting.columns[index] ?? null;
      return {
        id: `c${index}`,
        title: heading,
        width: 120,
        ...(field === 'amount' ? { align: 'right' as const } : {}),
        cell: (row) => {
          const said = [...row.problems, ...row.warnings].find((one) => field !== null && one.field === field);
          return said ? <mark title={said.reason}>{row.cells[index] || 'empty'}</mark> : (row.cells[index] ?? '');
        },
      };
    }),
  ];
}
