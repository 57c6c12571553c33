import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { feedCampaigns } from '@tallystick/contract/feeds';
import type { Feed, FeedCampaign } from '@tallystick/contract/feeds';
import { call, keyOf } from '../ui/api.ts';
import { StateWord } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';

/** The campaigns of the source as it knows them now. It is a request to it each time, and so is asked only once here. */
export function useCampaigns(feed: Feed, ended = '') {
  const params = { id: feed.id };
  return useQuery({
    queryKey: [...keyOf(feedCampaigns, { params }), ended],
    queryFn: ({ signal }) => call(feedCampaigns, { params, signal }),
    placeholderData: keepPreviousData,
    enabled: feed.address !== null,
    retry: false,
  });
}

type Row = Omit<FeedCampaign, 'id'> & { id: number };

/** What each campaign came to at the source, beside what it should have been told. */
export function Campaigns({ feed, ended }: { feed: Feed; ended: string }) {
  const { money } = useFormats();
  const campaigns = useCampaigns(feed, ended);
  if (feed.address === null) return null;
  const columns: Column<Row>[] = [
    wordsOf('campaign', 'Campaign there', 260, ({ name }) => name),
    figures('online', 'Given there', 120, ({ onlineCents }) => onlineCents, money),
    figures('offline', 'Given elsewhere', 130, ({ offlineCents }) => offlineCents, money),
    figures('total', 'Total there', 120, ({ onlineCents, offlineCents }) => onlineCents + offlineCents, money),
    figures('goal', 'Goal', 120, ({ goalCents }) => goalCents, money),
    {
      ...{ id: 'told', title: 'Told of gifts given elsewhere', width: 300, grow: true },
      cell: ({ oursCents, offlineCents }) =>
        oursCents === null ? (
          <span className="text-faded">of none</span>
        ) : oursCents === offlineCents ? (
          <StateWord tone="settled">as the books say</StateWord>
        ) : (
          <StateWord tone="look">{`${money(oursCents)} by the books; told by the next run`}</StateWord>
        ),
    },
  ];
  const rows = (campaigns.data?.items ?? []).map((one, at) => ({ ...one, id: at + 1 }));
  return (
    <>
      <h2 className="px-5 pt-4 pb-1 text-lg">Its campaigns</h2>
      {campaigns.error ? (
        <p role="alert" className="px-5 py-1 text-madder">
          ▲ {campaigns.error.message}
        </p>
      ) : campaigns.isPending ? (
        <p className="px-5 py-1 text-faded">Asking {feed.name} …</p>
      ) : (
        <ShortTable name="feed-campaigns" label="Campaigns" columns={columns} rows={rows} />
      )}
    </>
  );
}
