import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { OFTEN } from '@tallystick/core/feeds';
import {
  changeFeed,
  feedStanding,
  listFeedRuns,
  listFeeds,
  lookAgain,
  rehearseFeed,
  runFeed,
  settleFeedRefund,
} from '@tallystick/contract/feeds';
import type { Feed, FeedRun, FeedStanding } from '@tallystick/contract/feeds';
import { ask, call, keyOf, runningJobs } from '../ui/api.ts';
import { Button, Empty, Heading, Opening, StateWord } from '../ui/controls.tsx';
import { More } from '../ui/More.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { usePages } from '../ui/usePages.ts';
import { useWrite } from '../ui/useWrite.ts';
import { Campaigns } from './Campaigns.tsx';
import { FeedDialog } from './FeedDialog.tsx';

/** What comes from outside sources by itself. */
export default function FeedsPage() {
  const feeds = useQuery(ask(listFeeds));
  if (!feeds.data) return <Opening error={feeds.error} />;
  const { items } = feeds.data;
  if (items.length === 0)
    return (
      <>
        <Heading title="What comes by itself" />
        <Empty title="No outside source is set up">
          Whoever runs Tallystick can set the address of a giving portal (PORTAL_URL and PORTAL_SECRET).
        </Empty>
      </>
    );
  return items.map((feed) => <OneFeed key={feed.id} feed={feed} />);
}

/** The work on a feed as it goes on: whether any does, and how the last ended, by which what it wrote is asked anew. */
function useWork(): { busy: boolean; ended: string } {
  const { data: jobs = [] } = useQuery(runningJobs);
  const ours = jobs.filter(({ link }) => link === '/intake/feeds');
  return {
    busy: ours.some(({ finishedAt }) => finishedAt === null),
    ended: ours.map(({ id, state }) => `${id}${state}`).join(' '),
  };
}

function OneFeed({ feed }: { feed: Feed }) {
  const { moment } = useFormats();
  const [setting, setSetting] = useState(false);
  const mayRun = useMay(runFeed);
  const mayChange = useMay(changeFeed);
  const { busy, ended } = useWork();
  const params = { id: feed.id };
  const begin = useWrite((endpoint: typeof runFeed | typeof rehearseFeed) => call(endpoint, { params }), {
    then: () => void toast.success('It has begun; the log says what comes of it'),
  });
  const idle = busy || begin.isPending || feed.address === null;
  const hour = `${String(feed.atHour).padStart(2, '0')}:00`;
  return (
    <>
      <Heading
        title={feed.name}
        facts={
          <>
            Runs {OFTEN[feed.often]}
            {feed.often === 'day' ? `, at ${hour}` : ''}.{' '}
            {feed.last ? `Last run ${moment(feed.last.beganAt)}.` : 'It never ran yet.'}{' '}
            {feed.address === null && 'Its address is not set up, so it cannot run. '}
            <Link className="text-slate underline" to="/intake">
              All intakes
            </Link>
          </>
        }
      >
        {mayChange && <Button onClick={() => setSetting(true)}>Settings</Button>}
        {mayRun && (
          <Button disabled={idle} onClick={() => begin.mutate(rehearseFeed)}>
            Rehearse
          </Button>
        )}
        {mayRun && (
          <Button look="main" disabled={idle} onClick={() => begin.mutate(runFeed)}>
            {busy ? 'At work …' : 'Take what came'}
          </Button>
        )}
      </Heading>
      <div className="overflow-auto pb-8">
        <Standing feed={feed} ended={ended} />
        <Campaigns feed={feed} ended={ended} />
        <Log feed={feed} ended={ended} />
      </div>
      {setting && <FeedDialog feed={feed} onClose={() => setSetting(false)} />}
    </>
  );
}

/** Where every gift that came stands, so that the sum can be held against what the source says. */
function Standing({ feed, ended }: { feed: Feed; ended: string }) {
  const { money, count } = useFormats();
  const mayLook = useMay(lookAgain);
  const params = { id: feed.id };
  const standing = useQuery({
    queryKey: [...keyOf(feedStanding, { params }), ended],
    queryFn: ({ signal }) => call(feedStanding, { params, signal }),
    placeholderData: keepPreviousData,
  });
  const again = useWrite(() => call(lookAgain, { params }), {
    say: ({ rows }) => `${rows} ${rows === 1 ? 'row waits' : 'rows wait'} to be looked at`,
  });
  if (!standing.data) return <Opening error={standing.error} />;
  const { came, recorded, waiting, leftOut } = standing.data;
  const part = (words: string, { gifts, cents }: FeedStanding['came'], act?: ReactNode) => (
    <div className="min-w-44">
      <dt className="text-[13px] text-faded">{words}</dt>
      <dd>
        <span className="font-serif text-xl">{money(cents)}</span>
        <span className="block text-[13px]">
          {count(gifts)} {gifts === 1 ? 'gift' : 'gifts'} {act}
        </span>
      </dd>
    </div>
  );
  return (
    <>
      <dl className="flex flex-wrap items-start gap-x-8 gap-y-3 px-5 py-4">
        {part('Came in all', came)}
        {part('In the books', recorded)}
        {part(
          'To be looked at',
          waiting,
          waiting.gifts > 0 && (
            <Link className="ml-2 text-slate underline" to={`/intake/${feed.waitingId ?? ''}`}>
              Look at them
            </Link>
          ),
        )}
        {part(
          'Left out',
          leftOut,
          leftOut.gifts > 0 && mayLook && (
            <button
              type="button"
              className="ml-2 text-slate underline"
              disabled={again.isPending}
              onClick={() => again.mutate(undefined)}
            >
              Look at them again
            </button>
          ),
        )}
      </dl>
      <ToLookAt feed={feed} {...standing.data} />
    </>
  );
}

/** What the source says of gifts that the books do not say. */
function ToLookAt({ feed, refunds, otherwise }: { feed: Feed } & Pick<FeedStanding, 'refunds' | 'otherwise'>) {
  const { money } = useFormats();
  const mayRun = useMay(settleFeedRefund);
  const settle = useWrite((refund: string) => call(settleFeedRefund, { params: { id: feed.id, refund } }), {
    say: () => 'It is not noted any more',
  });
  if (refunds.length + otherwise.length === 0) return null;
  const gift = (item: string, giftId: number | null) =>
    giftId === null ? (
      item
    ) : (
      <Link className="text-slate underline" to={`/gifts/${giftId}`}>
        {item}
      </Link>
    );
  return (
    <section className="px-5 pb-2" aria-label="To look at">
      <h2 className="pb-1 text-lg">To look at</h2>
      <ul className="space-y-1">
        {refunds.map(({ refund, item, cents, why, giftId }) => (
          <li key={refund}>
            Refund {refund} of {money(cents)} for {gift(item, giftId)} is not noted yet. {why}{' '}
            {mayRun && (
              <Button
                look="quiet"
                className="h-7 px-2"
                aria-label={`Dealt with refund ${refund} by hand`}
                disabled={settle.isPending}
                onClick={() => settle.mutate(refund)}
              >
                Dealt with by hand
              </Button>
            )}
          </li>
        ))}
        {otherwise.map(({ item, cents, nowCents, giftId }) => (
          <li key={item}>
            {gift(item, giftId)} came as {money(cents)} and came again as {money(nowCents)}; ours is kept.
          </li>
        ))}
      </ul>
    </section>
  );
}

const TONES: Record<FeedRun['state'], 'plain' | 'settled' | 'look' | 'wrong'> = {
  ...{ running: 'look', waiting: 'look', done: 'settled', failed: 'wrong', stopped: 'look', rehearsed: 'plain' },
};
const STATES: Record<FeedRun['state'], string> = {
  ...{ running: 'at work', waiting: 'asking again', done: 'done', failed: 'failed' },
  ...{ stopped: 'stopped', rehearsed: 'rehearsed' },
};

function Log({ feed, ended }: { feed: Feed; ended: string }) {
  const { moment, money, count } = useFormats();
  const params = { id: feed.id };
  const list = usePages([...keyOf(listFeedRuns, { params }), ended], (place, signal) =>
    call(listFeedRuns, { params, query: { ...place, limit: 20 }, signal }),
  );
  const some = (value: number): string => (value === 0 ? '' : count(value));
  const columns: Column<FeedRun>[] = [
    { id: 'began', title: 'Began', width: 200, by: (run) => run.beganAt, cell: (run) => moment(run.beganAt) },
    {
      ...{ id: 'state', title: 'State', width: 112, by: (run) => run.state },
      cell: (run) => <StateWord tone={TONES[run.state]}>{STATES[run.state]}</StateWord>,
    },
    figures('came', 'Came', 64, (run) => run.came, some),
    figures('brought', 'In the books', 100, (run) => run.brought, some),
    figures(
      'cents',
      'Amount',
      110,
      (run) => run.broughtCents,
      (cents) => (cents === 0 ? '' : money(cents)),
    ),
    figures('aside', 'To look at', 88, (run) => run.aside, some),
    figures('refunds', 'Refunds', 76, (run) => run.refunds, some),
    figures('told', 'Told of', 72, (run) => run.told, some),
    {
      ...{ id: 'message', title: 'What came of it', width: 300, grow: true },
      cell: (run) => <span title={run.message}>{run.message}</span>,
    },
    wordsOf('by', 'Begun by', 160, (run) => run.by),
  ];
  return (
    <>
      <h2 className="px-5 pt-4 pb-1 text-lg">Every run</h2>
      <ShortTable name="feed-runs" label="Runs" columns={columns} rows={list.rows} total={list.total} />
      <More list={list} step={20} />
    </>
  );
}
