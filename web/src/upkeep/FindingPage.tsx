import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { FINDINGS } from '@tallystick/core/upkeep';
import type { Finding } from '@tallystick/core/upkeep';
import { FindingName, listFaults, mendFaults, muteFinding } from '@tallystick/contract/upkeep';
import type { Found } from '@tallystick/contract/upkeep';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { SupporterRecord } from '../supporters/index.ts';
import { call, keyOf } from '../ui/api.ts';
import { Button, Empty, Input } from '../ui/controls.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import type { Column } from '../ui/table/columns.ts';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { useWrite } from '../ui/useWrite.ts';
import { TaskForMany } from './TaskForMany.tsx';
import type { TaskSet } from './TaskForMany.tsx';

const idOf = (row: Found): number => row.id;

/** The records of a finding, what is there beside what is proposed, and the remedy for those that are chosen. */
export default function FindingPage() {
  const finding = FindingName.safeParse(useParams()['finding']);
  if (!finding.success)
    return (
      <Empty title="There is no such finding">
        <Link className="text-slate underline" to="/upkeep">
          Everything that is looked for
        </Link>
      </Empty>
    );
  return <OneFinding key={finding.data} finding={finding.data} />;
}

function OneFinding({ finding }: { finding: Finding }) {
  const url = useListUrl();
  const { count, counted } = useFormats();
  const mayMend = useMay(mendFaults);
  const { label, says, remedy, does, asks, task } = FINDINGS[finding];
  const muted = url.get('muted') === 'yes' ? ('yes' as const) : ('no' as const);
  const [value, setValue] = useState('');
  const [asking, setAsking] = useState(false);
  const params = { finding };
  const query = { muted, value };
  const list = usePages<Found, ResponseOf<typeof listFaults>>(keyOf(listFaults, { params, query }), (place, signal) =>
    call(listFaults, { params, query: { ...query, ...place }, signal }),
  );
  const facts = list.first;
  const total = { count: list.total, cents: 0 };
  const {
    selection,
    chosen,
    count: picked,
    everyone,
    except,
    clear,
  } = useRowSelection('row', list.rows, idOf, null, {
    whole: total,
    begin: remedy === 'write' && finding !== 'empty' && muted === 'no' ? 'all' : 'none',
  });
  const mend = useWrite(
    (set: TaskSet | null) =>
      call(mendFaults, { params, body: { rows: everyone ? null : chosen.map(idOf), except, value, task: set } }),
    {
      then: ({ mended, left, jobId }) => {
        setAsking(false);
        if (jobId !== null) toast.success(`Working on ${count(picked)}; see below`);
        else
          toast.success(
            `${counted(mended ?? 0, 'row')} done${left > 0 ? `; ${count(left)} left, since nothing is proposed or it changed meanwhile` : ''}`,
          );
      },
    },
  );
  const ids = [...new Set(chosen.map(({ supporterId }) => supporterId))];
  const mute = useWrite(() => call(muteFinding, { params, body: { ids, muted: muted === 'no' } }), {
    say: () => (muted === 'no' ? `Right as they are: ${count(ids.length)}` : `Told of again: ${count(ids.length)}`),
    then: clear,
  });
  const columns = useMemo(
    (): Column<Found>[] => [
      {
        ...{ id: 'name', title: 'Supporter', width: 220, footer: counted(list.total, 'row') },
        cell: ({ supporterId, name }) => (
          <Link className="font-serif text-[15px] hover:underline" tabIndex={-1} to={`/supporters/${supporterId}`}>
            {name}
          </Link>
        ),
      },
      { ...{ id: 'number', title: 'Number', width: 84 }, cell: ({ number }) => number },
      { ...{ id: 'was', title: 'What is there', width: 330 }, cell: ({ was }) => was },
      {
        ...{ id: 'becomes', title: 'What is proposed', width: 330, grow: true },
        cell: ({ becomes, supporterId }) =>
          remedy === 'settle' ? (
            <>
              <span className="text-moss">{becomes} </span>
              <Link className="text-slate hover:underline" tabIndex={-1} to={`/upkeep/died?id=${supporterId}`}>
                Decide one by one …
              </Link>
            </>
          ) : becomes === null ? (
            <span className="text-faded">{task ?? 'to be looked at'}</span>
          ) : (
            <span className="text-moss">{becomes}</span>
          ),
      },
    ],
    [counted, list.total, remedy, task],
  );
  const supporterOf = (row: number): number => list.rows.find(({ id }) => id === row)?.supporterId ?? 0;
  const proposed = facts?.proposed ?? 0;
  const word = remedy === 'task' ? `${does} …` : does;
  const mendable = muted === 'no' && (remedy === 'task' || proposed > 0);
  return (
    <ListPage
      title={label}
      facts={`${says} ${muted === 'yes' ? `${counted(list.total, 'row')} right as they are.` : proposed > 0 && proposed < list.total ? `For ${count(proposed)} of ${count(list.total)} something is proposed.` : ''}`}
      acts={
        <>
          <Link className="text-slate hover:underline" to="/upkeep">
            Upkeep
          </Link>
          <Link
            className="text-slate hover:underline"
            replace
            to={muted === 'yes' ? '?' : '?muted=yes'}
            onClick={clear}
          >
            {muted === 'yes' ? 'What is to be looked at' : 'What is right as it is'}
          </Link>
        </>
      }
      name={`finding ${finding}`}
      label={label}
      columns={columns}
      list={list}
      {...(mayMend ? { selection } : {})}
      hrefOf={(row) => `/supporters/${supporterOf(row)}`}
      peek={(row) => <SupporterRecord id={supporterOf(row)} />}
      filters={
        mayMend && (
          <div role="toolbar" aria-label="What is done with the rows" className="flex flex-wrap items-center gap-2">
            <span className="font-medium whitespace-nowrap">{counted(picked, 'row')}:</span>
            {asks && mendable && (
              <label className="flex items-center gap-1.5 text-[13px] text-faded">
                {asks}
                <Input
                  className="w-16"
                  inputMode="numeric"
                  maxLength={3}
                  value={value}
                  placeholder={facts?.usual ?? ''}
                  onChange={(event) => setValue(event.target.value.replace(/\D/g, ''))}
                />
              </label>
            )}
            {mendable && (
              <Button
                look="main"
                busy={mend.isPending}
                disabled={picked === 0}
                onClick={() => (remedy === 'task' ? setAsking(true) : mend.mutate(null))}
              >
                {word}
              </Button>
            )}
            {remedy !== 'task' && task === undefined && mendable && proposed < list.total && (
              <span className="text-[13px] text-faded">rows for which nothing is proposed stay</span>
            )}
            <Button
              busy={mute.isPending}
              disabled={picked === 0 || everyone}
              title={everyone ? 'Choose rows one by one' : undefined}
              onClick={() => mute.mutate(undefined)}
            >
              {muted === 'no' ? 'Right as they are' : 'Tell of them again'}
            </Button>
          </div>
        )
      }
      empty={
        <Empty title={muted === 'yes' ? 'Nothing was said to be right as it is' : 'Nothing left here'}>
          What turns up is told as soon as it is there.
        </Empty>
      }
    >
      {asking && (
        <TaskForMany
          title={task ?? ''}
          many={counted(picked, 'record')}
          onSet={(set) => mend.mutateAsync(set)}
          onClose={() => setAsking(false)}
        />
      )}
    </ListPage>
  );
}
