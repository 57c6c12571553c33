import { useMutation, useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import {
  badRowsCsv,
  deleteIntake,
  getIntake,
  postIntake,
  previewIntake,
  rehearseIntake,
  VERDICTS,
} from '@tallystick/contract/intake';
import type { Intake } from '@tallystick/contract/intake';
import { pluralOf } from '@tallystick/core/words';
import { ask, call, keyOf, linkTo, messageOf, runningJobs } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, Opening, StateWord, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { useUndo } from '../ui/useUndo.ts';
import { useWrite } from '../ui/useWrite.ts';
import { TabPanel, Tabs } from '../ui/tabs.tsx';
import { ColumnsEditor, usePlaces } from './ColumnsEditor.tsx';
import { HowRead } from './HowRead.tsx';
import { Posted } from './Posted.tsx';
import { Questions } from './Questions.tsx';
import { RecipeLine } from './Recipes.tsx';
import { PARTS, rowColumns, VERDICT_WORDS } from './rowColumns.tsx';
import type { Part } from './rowColumns.tsx';
import { useSetting } from './useSetting.ts';

type Verdict = (typeof VERDICTS)[number];
type Shown = Verdict | keyof typeof MORE_SHOWN | '';

const MORE_SHOWN = { look: 'To look at', changes: 'Change a record', differs: 'Ours is kept' } as const;

export default function IntakePage() {
  const { id } = useParams();
  const intake = useQuery(ask(getIntake, { params: { id: Number(id) } }));
  if (!intake.data) return <Opening error={intake.error} />;
  return <OneIntake intake={intake.data} />;
}

/** The rows that are read are what columns show their samples of. */
const AT_ONCE = 500;

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
    (place, signal) =>
      call(previewIntake, {
        params: { id: intake.id },
        query: { ...(verdict ? { verdict } : {}), ...place, limit: AT_ONCE },
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
  const rehearse = useMutation({
    mutationFn: () => call(rehearseIntake, { params: { id: intake.id } }),
    onError: (error) => toast.error(messageOf(error)),
  });
  const rehearsed = jobs.findLast((job) => job.link === `/intake/${intake.id}` && job.title.startsWith('Rehearsing'));
  const { undo, busy: undoing } = useUndo();
  const good = (counts?.new ?? 0) + (counts?.known ?? 0);
  const [setting, set] = useSetting(intake);
  const posted = intake.state === 'posted';
  const show = (one: keyof typeof MORE_SHOWN): void => {
    setTab('rows');
    url.set({ verdict: one });
  };
  const open = list.first?.questions ?? [];
  const says = list.first?.dates.says;
  const decides = !posted && mayBring;
  const decide = useMemo(() => (decides ? { setting, set } : null), [decides, setting, set]);
  const { labelOf } = usePlaces();
  const asked = url.get('part');
  const part = asked in PARTS ? (asked as Part) : null;
  const columns = useMemo(() => rowColumns(intake, decide, labelOf, part), [intake, decide, labelOf, part]);
  const [chosen, setTab] = useState<Tab | null>(null);
  // It begins with what has to be done first, and stays where it began.
  const [begins] = useState<Tab>(
    intake.setting.leaveRest || intake.setting.columns.some((column) => column !== null) ? 'rows' : 'columns',
  );
  const tab = chosen ?? begins;
  const remarks = list.first?.remarks ?? [];
  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  return (
    <>
      <Heading title={intake.name} facts={`${formats.counted(intake.rows, 'row')}, ${FORMATS[intake.format](intake)}`}>
        {counts && counts.bad + counts.undecided > 0 && (
          <Button onClick={() => window.open(linkTo(badRowsCsv, { id: intake.id }))}>
            <Download size={14} /> {formats.counted(counts.bad + counts.undecided, 'row')} left out, as CSV
          </Button>
        )}
        {posted && mayBring && intake.revision !== null && (
          <Button look="danger" busy={undoing} onClick={() => intake.revision !== null && undo(intake.revision)}>
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
            disabled={good === 0 || open.length > 0 || rehearse.isPending || running}
            onClick={() => rehearse.mutate()}
          >
            Rehearse
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
      {posted && <Posted intake={intake} />}
      {!posted && counts && (
        <p className="border-b border-rule bg-sheet px-5 py-2" data-testid="intake-summary">
          <strong className="font-medium">{formats.count(counts.newSupporters)}</strong>{' '}
          {pluralOf(counts.newSupporters, 'new supporter')},{' '}
          <strong className="font-medium">{formats.count(counts.gifts)}</strong> {pluralOf(counts.gifts, 'gift')} of{' '}
          <strong className="font-serif">{formats.money(counts.cents)}</strong>.{' '}
          {counts.changes > 0 && (
            <ShowRows
              words={`${formats.counted(counts.changes, 'row changes', 'rows change')} a record`}
              on={() => show('changes')}
            />
          )}{' '}
          {counts.differs > 0 && (
            <ShowRows
              words={`${formats.counted(counts.differs, 'row says', 'rows say')} something else than a record, which stays`}
              on={() => show('differs')}
            />
          )}
          <RecipeLine {...{ intake, setting }} set={mayBring ? set : null} />
          {rehearsed?.message && <span className="block">{rehearsed.message}</span>}
          {remarks.length > 0 && <span className="block text-faded">{remarks.join(' ')}</span>}
          {says && open.length === 0 && <span className="block text-faded">Dates: {says}</span>}
          {counts.look > 0 && (
            <span className="block">
              <StateWord tone="look">{formats.counted(counts.look, 'row deserves', 'rows deserve')} a look.</StateWord>{' '}
              Something in them may not be what it seems: a marked cell says why, and so does the row when it is opened.{' '}
              <button type="button" className="text-slate hover:underline" onClick={() => show('look')}>
                Look at {counts.look === 1 ? 'it' : 'them'}
              </button>
            </span>
          )}
        </p>
      )}
      {!posted && <Questions questions={open} readings={list.first?.readings ?? []} set={mayBring ? set : null} />}
      <Tabs
        label="Parts of the intake"
        value={tab}
        onChange={setTab}
        tabs={{
          rows: `Rows (${formats.count(intake.rows)})`,
          columns: `Columns (${formats.count(intake.headings.length)})`,
          how: 'How it is read',
        }}
      >
        <TabPanel value="columns" className="contents">
          <ColumnsEditor {...{ intake, setting, set }} rows={list.rows} readOnly={posted || !mayBring} />
        </TabPanel>
        <TabPanel value="how" className="contents">
          <HowRead
            {...{ intake, setting, set }}
            found={list.first?.dates.order ?? null}
            readings={list.first?.readings ?? []}
            readOnly={posted || !mayBring}
          />
        </TabPanel>
        <TabPanel value="rows" className="contents">
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
              <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
                <div role="group" aria-label="Show" className="flex gap-1">
                  <Filter
                    name="All"
                    many={intake.rows}
                    active={verdict === ''}
                    onChoose={() => url.set({ verdict: null })}
                  />
                  {VERDICTS.map((one) => (
                    <Filter
                      key={one}
                      name={VERDICT_WORDS[one][0]}
                      many={counts?.[one] ?? 0}
                      active={verdict === one}
                      onChoose={() => url.set({ verdict: one })}
                    />
                  ))}
                  {(Object.keys(MORE_SHOWN) as (keyof typeof MORE_SHOWN)[]).map((one) =>
                    (counts?.[one] ?? 0) > 0 || verdict === one ? (
                      <Filter
                        key={one}
                        name={MORE_SHOWN[one]}
                        many={counts?.[one] ?? 0}
                        active={verdict === one}
                        onChoose={() => url.set({ verdict: one })}
                      />
                    ) : null,
                  )}
                </div>
                <Choice
                  aria-label="Part of the rows"
                  className="w-36"
                  value={part ?? ''}
                  onChange={(picked) => url.set({ part: picked || null })}
                  options={[
                    { value: '', label: 'All parts' },
                    ...Object.entries(PARTS).map(([value, { word }]) => ({ value, label: word })),
                  ]}
                />
              </div>
            }
            empty={<Empty title="No such rows">Choose another kind above.</Empty>}
          />
        </TabPanel>
      </Tabs>
    </>
  );
}

type Tab = 'rows' | 'columns' | 'how';

/** What kind of file it is, in words. */
const FORMATS: Record<Intake['format'], (intake: Intake) => string> = {
  text: ({ encoding, separator }) => `${encoding}, separated by ${separator === '\t' ? 'tabs' : `“${separator}”`}`,
  workbook: () => 'a workbook',
  cards: () => 'cards',
  objects: () => 'a JSON object for each row',
};

function ShowRows({ words, on }: { words: string; on: () => void }) {
  return (
    <button type="button" className="text-slate hover:underline" onClick={on}>
      {words}.
    </button>
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
