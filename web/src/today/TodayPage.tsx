import { useQueries, useQuery } from '@tanstack/react-query';
import { Suspense, use, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { listGifts } from '@tallystick/contract/gifts';
import type { Gift } from '@tallystick/contract/gifts';
import { createTask, listTasks } from '@tallystick/contract/notes';
import { addDays } from '@tallystick/core/dates';
import { Pins } from '../segments/index.ts';
import { TaskDialog, TaskLine } from '../supporters/index.ts';
import { ask, call, keyOf } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { WaitsContext } from '../ui/area.ts';
import { Button, Heading, StateWord } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { TallyStick } from '../ui/charts/TallyStick.tsx';
import { figures } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { ThisYear } from './ThisYear.tsx';
import { FirstSteps } from './FirstSteps.tsx';
import { usePages } from '../ui/usePages.ts';
import { useWidth } from '../ui/useWidth.ts';

/** What waits to be done, and the last weeks' gifts with their answers. */
export default function TodayPage() {
  const { organization, user } = useHere();
  const { money, count, longDate } = useFormats();
  const from = addDays(organization.today, -6);
  const week = useQuery(ask(listGifts, { query: { from, limit: 1 } }));

  return (
    <>
      <Heading title="Today" facts={`${longDate(organization.today)} at ${organization.name}, for ${user.name}`} />
      <div className="grid gap-8 px-5 py-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.6fr)]">
        <section aria-labelledby="waits">
          <FirstSteps />
          <Suspense fallback={null}>
            <Pins />
          </Suspense>
          <h2 id="waits" className="border-b border-rule pb-1 text-lg">
            What waits
          </h2>
          <Waits />
          <MyTasks />
        </section>
        <section aria-labelledby="lately">
          <h2 id="lately" className="border-b border-rule pb-1 text-lg">
            Lately
          </h2>
          {week.data && (
            <p className="py-2">
              <strong className="font-serif text-lg">{money(week.data.sum.cents)}</strong> in{' '}
              {count(week.data.sum.count)} gifts in the last seven days
            </p>
          )}
          <Lately />
          <ThisYear />
          <Newest />
        </section>
      </div>
    </>
  );
}

/** What waits in every area, as each says of itself. */
function Waits() {
  const here = useHere();
  const formats = useFormats();
  const waits = use(WaitsContext);
  const answers = useQueries({ queries: waits.map(({ question }) => question(here)) });
  const lines = waits
    .flatMap(({ lines: of }, place) => {
      const answer = answers[place];
      return answer?.isSuccess ? of(answer.data, formats, here) : [];
    })
    .filter(({ figure }) => figure > 0);
  return (
    <>
      <ul className="divide-y divide-rule">
        {lines.map(({ to, figure, words }) => (
          <li key={`${to} ${words}`}>
            <Link to={to} className="flex items-baseline gap-3 py-2 hover:bg-hover">
              <span className="w-12 text-right font-serif text-xl text-hazel">{formats.count(figure)}</span>
              <span>{words}</span>
            </Link>
          </li>
        ))}
      </ul>
      {lines.length === 0 && answers.every((answer) => answer.isSuccess) && (
        <p className="py-3">
          <StateWord tone="settled">Nothing waits. Everyone is thanked.</StateWord>
        </p>
      )}
    </>
  );
}

/** How many tasks are shown at first, and with each step more. */
const [FIRST, MORE] = [12, 100];

/** What the person signed in has to do, and what nobody has taken yet. */
function MyTasks() {
  const [adding, setAdding] = useState(false);
  const mayEnter = useMay(createTask);
  const list = usePages(keyOf(listTasks, { query: { owner: 'me' } }), (place, signal) =>
    call(listTasks, { query: { owner: 'me', ...place, limit: place.cursor ? MORE : FIRST }, signal }),
  );
  return (
    <section aria-labelledby="tasks" className="mt-5">
      <div className="flex items-center justify-between border-b border-rule pb-1">
        <h2 id="tasks" className="text-lg">
          To do
        </h2>
        <span className="flex items-center gap-2">
          <Link to="/tasks" className="text-slate hover:underline">
            Everybody’s
          </Link>
          {mayEnter && (
            <Button look="quiet" className="h-7" onClick={() => setAdding(true)}>
              Set a task
            </Button>
          )}
        </span>
      </div>
      <ul>
        {list.rows.map((task) => (
          <TaskLine key={task.id} task={task} withAbout />
        ))}
        {list.first && list.total === 0 && <li className="py-2 text-faded">Nothing to do.</li>}
        <li className="py-1 empty:hidden">
          <More list={list} step={MORE} />
        </li>
      </ul>
      {adding && <TaskDialog about={null} onClose={() => setAdding(false)} />}
    </section>
  );
}

/** So many of the newest gifts are on the stick, and the first few of them in words. */
const LATELY = ask(listGifts, { query: { limit: 120 } });
const NEWEST = 6;

/** The newest gifts on one stick: what is cut above and not below is still to be thanked. */
function Lately() {
  const navigate = useNavigate();
  const [box, width] = useWidth();
  const { data } = useQuery(LATELY);
  return (
    <div ref={box}>
      {width > 0 && data && data.items.length > 0 && (
        <TallyStick gifts={data.items} width={width} fit onOpen={(id) => void navigate(`/gifts/${id}`)} />
      )}
    </div>
  );
}

function Newest() {
  const { money, date } = useFormats();
  const { data } = useQuery(LATELY);
  const columns: Column<Gift>[] = [
    {
      ...{ id: 'from', title: 'From', width: 200, grow: true },
      cell: (gift) => (
        <Link className="font-serif text-[15px] hover:underline" to={`/gifts/${gift.id}`}>
          {gift.supporterName}
        </Link>
      ),
    },
    { id: 'date', title: 'Date', width: 116, align: 'right', cell: (gift) => date(gift.date) },
    figures('amount', 'Amount', 110, (gift) => gift.cents, money),
    {
      ...{ id: 'thanked', title: 'Thanked', width: 130 },
      cell: (gift) =>
        gift.acknowledgedOn === null ? <StateWord tone="look">not yet</StateWord> : date(gift.acknowledgedOn),
    },
    { id: 'fund', title: 'Fund', width: 160, cell: (gift) => gift.fund },
  ];
  if (!data || data.items.length === 0) return null;
  return (
    <section aria-labelledby="newest" className="mt-6">
      <h2 id="newest" className="border-b border-rule pb-1 text-lg">
        Newest gifts
      </h2>
      <ShortTable name="newest" label="Newest gifts" columns={columns} rows={data.items.slice(0, NEWEST)} />
    </section>
  );
}
