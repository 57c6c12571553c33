import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { OFTEN } from '@tallystick/core/feeds';
import type { Often } from '@tallystick/core/feeds';
import { changeFeed } from '@tallystick/contract/feeds';
import type { Feed } from '@tallystick/contract/feeds';
import { listRecipes } from '@tallystick/contract/intake';
import { ask, call } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import {
  ChoiceField,
  chosenId,
  DayField,
  EntryDialog,
  oneOf,
  orNone,
  readInto,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import { useChoices } from '../ui/useChoices.ts';
import { useCampaigns } from './Campaigns.tsx';

const HOURS = Array.from({ length: 24 }, (_, hour) => ({
  value: String(hour),
  label: `${String(hour).padStart(2, '0')}:00`,
}));

/** How often a feed runs, by which recipe what comes is read, and what the source is told. */
export function FeedDialog({ feed, onClose }: { feed: Feed; onClose: () => void }) {
  const recipes = useQuery(ask(listRecipes)).data?.items ?? [];
  const { funds } = useChoices();
  const campaigns = useCampaigns(feed);
  const [tells, setTells] = useState(feed.tells);
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          recipeId: chosenId,
          often: oneOf<Often>(),
          atHour: z.string().transform(Number),
          tellsSince: orNone(typedDay, null),
        })
        .transform((typed) => ({ ...typed, tells, version: feed.version })),
      changeFeed.body,
    ),
    initial: {
      recipeId: feed.recipeId === null ? '' : String(feed.recipeId),
      often: feed.often,
      atHour: String(feed.atHour),
      tellsSince: feed.tellsSince ?? '',
    },
    send: (body) => call(changeFeed, { params: { id: feed.id }, body }),
    say: () => 'Saved',
    then: onClose,
  });
  // What it is told of stays, though it cannot be reached now.
  const there = campaigns.data?.items ?? tells.map(({ campaign }) => ({ id: campaign, name: campaign }));
  const open = funds.filter(({ id, closed }) => !closed || tells.some(({ fundId }) => fundId === id));
  const tell = (campaign: string, fund: string): void =>
    setTells((old) => [
      ...old.filter((one) => one.campaign !== campaign),
      ...(fund === '' ? [] : [{ campaign, fundId: Number(fund) }]),
    ]);
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Settings of ${feed.name}`} word="Save">
      <ChoiceField
        entry={entry}
        name="recipeId"
        label="Recipe that what comes is read by"
        hint="Its translations say which of our funds each campaign is for."
        options={[
          { value: '', label: 'None: as its columns say' },
          ...recipes.map(({ id, name }) => ({ value: String(id), label: name })),
        ]}
      />
      <div className="grid grid-cols-2 gap-3">
        <ChoiceField entry={entry} name="often" label="Runs" options={optionsOf(OFTEN)} />
        {entry.typed.often === 'day' && <ChoiceField entry={entry} name="atHour" label="At" options={HOURS} />}
      </div>
      <fieldset className="space-y-2">
        <legend className="pb-1 font-medium">Tell it of gifts that did not come through it</legend>
        <p className="text-[13px] text-faded">
          Number, amount and day alone, so that its totals are right; never who gave. Refunds and corrections are told,
          too.
        </p>
        {there.map(({ id, name }) => (
          <div key={id} className="grid grid-cols-2 items-center gap-3">
            <span>{name}</span>
            <Choice
              aria-label={`Fund told to ${name}`}
              value={String(tells.find(({ campaign }) => campaign === id)?.fundId ?? '')}
              onChange={(fund) => tell(id, fund)}
              options={[
                { value: '', label: 'of none' },
                ...open.map((fund) => ({ value: String(fund.id), label: `gifts to ${fund.name}` })),
              ]}
            />
          </div>
        ))}
        <DayField entry={entry} name="tellsSince" label="Gifts since" />
      </fieldset>
    </EntryDialog>
  );
}
