import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { listGifts } from '@tallystick/contract/gifts';
import { listIntakes } from '@tallystick/contract/intake';
import { createTask, listTasks } from '@tallystick/contract/notes';
import { listMailings } from '@tallystick/contract/outreach';
import { listRecurring, listReminders } from '@tallystick/contract/pledges';
import { listSheets } from '@tallystick/contract/sheets';
import { listRuns, listUnthanked } from '@tallystick/contract/thanks';
import { addDays } from '@tallystick/core/dates';
import { TaskDialog, TaskLine } from '../supporters/index.ts';
import { ask } from '../ui/api.ts';
import { Button, Heading, StateWord } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { TallyStick } from '../ui/TallyStick.tsx';
import { useWidth } from '../ui/useWidth.ts';

/** What waits to be done, and the last weeks' gifts with their answers. */
export default function TodayPage() {
  const { organization, user } = useHere();
  const { money, count, longDate } = useFormats();
  const thanks = useQuery(ask(listUnthanked, { query: { limit: 1 } }));
  const intakes = useQuery(ask(listIntakes));
  const mailings = useQuery(ask(listMailings));
  const runs = useQuery(ask(listRuns));
  const from = addDays(organization.today, -6);
  const week = useQuery(ask(listGifts, { query: { from, limit: 1 } }));

  const late = useQuery(ask(listReminders, { query: { days: 0 } }));
  const failing = useQuery(ask(listRecurring, { query: { show: 'failing' } }));
  const receipts = useQuery(ask(listGifts, { query: { kind: 'receipt', limit: 1 } }));
  const sheets = useQuery(ask(listSheets));
  const mine = (sheets.data?.items ?? []).filter((sheet) => sheet.state === 'open' && sheet.mine);
  const overdue = late.data?.sum ?? { count: 0, cents: 0 };
  const toCall = failing.data?.items.length ?? 0;
  const toVoid = receipts.data?.total ?? 0;

  const open = intakes.data?.items.filter((intake) => intake.state === 'open') ?? [];
  const drafts = mailings.data?.items.filter((mailing) => mailing.state === 'draft') ?? [];
  const lost = (mailings.data?.items ?? []).filter((mailing) => mailing.counts.notReached > 0);
  const lostReceipts = (runs.data?.items ?? []).reduce((sum, run) => sum + run.notReached, 0);
  return (
    <>
      <Heading title="Today" facts={`${longDate(organization.today)} at ${organization.name}, for ${user.name}`} />
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.6fr)] gap-8 px-5 py-5">
        <section aria-labelledby="waits">
          <h2 id="waits" className="border-b border-rule pb-1 text-lg">
            What waits
          </h2>
          <ul className="divide-y divide-rule">
            {thanks.data && thanks.data.sum.count > 0 && (
              <Wait to="/thanks" figure={count(thanks.data.sum.count)}>
                gifts to thank, {money(thanks.data.sum.cents)}
              </Wait>
            )}
            {overdue.count > 0 && (
              <Wait to="/gifts/pledges?reminders=1" figure={count(overdue.count)}>
                {overdue.count === 1 ? 'installment' : 'installments'} overdue or due today, {money(overdue.cents)}
              </Wait>
            )}
            {toCall > 0 && (
              <Wait to="/gifts/recurring?show=failing" figure={count(toCall)}>
                recurring {toCall === 1 ? 'gift that fails' : 'gifts that fail'}
              </Wait>
            )}
            {toVoid > 0 && (
              <Wait to="/gifts?kind=receipt" figure={count(toVoid)}>
                {toVoid === 1 ? 'receipt' : 'receipts'} to void after a correction
              </Wait>
            )}
            {mine.map((sheet) => (
              <Wait key={sheet.id} to={`/gifts/sheets/${sheet.id}`} figure={count(sheet.rows)}>
                rows in your sheet {sheet.name}
              </Wait>
            ))}
            {open.map((intake) => (
              <Wait key={intake.id} to={`/intake/${intake.id}`} figure={count(intake.rows)}>
                rows of {intake.name} to look at
              </Wait>
            ))}
            {drafts.map((mailing) => (
              <Wait key={mailing.id} to={`/outreach/${mailing.id}`} figure="1">
                e-mail begun: {mailing.name}
              </Wait>
            ))}
            {lost.map((mailing) => (
              <Wait key={mailing.id} to={`/outreach/${mailing.id}?show=not`} figure={count(mailing.counts.notReached)}>
                not reached by {mailing.name}
              </Wait>
            ))}
            {lostReceipts > 0 && (
              <Wait to="/thanks/issued" figure={count(lostReceipts)}>
                receipts not reached
              </Wait>
            )}
          </ul>
          <MyTasks />
          {thanks.data?.sum.count === 0 &&
            open.length + drafts.length + lost.length + lostReceipts + overdue.count + toCall + toVoid + mine.length ===
              0 && (
              <p className="py-3">
                <StateWord tone="settled">Nothing waits. Everyone is thanked.</StateWord>
              </p>
            )}
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
        </section>
      </div>
    </>
  );
}

/** What the person signed in has to do, and what nobody has taken yet. */
function MyTasks() {
  const [adding, setAdding] = useState(false);
  const mayEnter = useMay(createTask);
  const { data } = useQuery(ask(listTasks, { query: { owner: 'me' } }));
  return (
    <section aria-labelledby="tasks" className="mt-5">
      <div className="flex items-center justify-between border-b border-rule pb-1">
        <h2 id="tasks" className="text-lg">
          To do
        </h2>
        {mayEnter && (
          <Button look="quiet" className="h-7" onClick={() => setAdding(true)}>
            Set a task
          </Button>
        )}
      </div>
      <ul>
        {data?.items.slice(0, 12).map((task) => (
          <TaskLine key={task.id} task={task} withAbout />
        ))}
        {data?.items.length === 0 && <li className="py-2 text-faded">Nothing to do.</li>}
      </ul>
      {adding && <TaskDialog about={null} onClose={() => setAdding(false)} />}
    </section>
  );
}

function Wait({ to, figure, children }: { to: string; figure: string; children: ReactNode }) {
  return (
    <li>
      <Link to={to} className="flex items-baseline gap-3 py-2 hover:bg-hover">
        <span className="w-12 text-right font-serif text-xl text-hazel">{figure}</span>
        <span>{children}</span>
      </Link>
    </li>
  );
}

/** The newest gifts on one stick: what is cut above and not below is still to be thanked. */
function Lately() {
  const [box, width] = useWidth();
  const { data } = useQuery(ask(listGifts, { query: { limit: 120 } }));
  const gifts = (data?.items ?? []).map((gift) => ({
    id: gift.id,
    date: gift.date,
    cents: gift.cents,
    answeredOn: gift.acknowledgedOn,
  }));
  return <div ref={box}>{width > 0 && gifts.length > 0 && <TallyStick gifts={gifts} width={width} fit />}</div>;
}
