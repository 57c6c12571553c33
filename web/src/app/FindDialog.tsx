import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { Dialog as RadixDialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { findAnything } from '@tallystick/contract/find';
import { ask, queries } from '../ui/api.ts';
import { useFormats, useHere } from '../ui/organization.tsx';
import { offered, PLACES } from './areas.ts';

const ITEM = 'flex cursor-pointer items-center gap-3 px-4 py-1.5 data-[selected=true]:bg-hover';

/** Find anything: supporters, gifts and places of the app, as one types. */
export function FindDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <RadixDialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 w-[calc(100vw-2rem)] max-w-2xl -translate-x-1/2 overflow-hidden rounded border border-rule bg-sheet"
        >
          <RadixDialog.Title className="sr-only">Find anything</RadixDialog.Title>
          <Finder onClose={onClose} />
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

const GROUP =
  '[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faded';
const finding = (text: string) => ask(findAnything, { query: { q: text, limit: 10 } });

function Finder({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const { money, date, gifts: gifted } = useFormats();
  const { user } = useHere();
  const asked = text.trim();
  const found = useQuery({ ...finding(asked), enabled: asked !== '', placeholderData: keepPreviousData });
  const fresh = found.isSuccess && !found.isPlaceholderData;
  const { supporters = [], gifts = [], alike = 0, total = 0, amount = null } = asked === '' ? {} : (found.data ?? {});
  const go = (path: string): void => {
    onClose();
    void navigate(path);
  };
  /** Where Enter goes when what it is about is still on its way. */
  const goToFirst = async (): Promise<void> => {
    const answer = await queries.ensureQueryData(finding(asked));
    const [supporter, gift] = [answer.supporters[0], answer.gifts[0]];
    if (gift && !supporter) go(`/gifts/${gift.id}`);
    else if (supporter) go(`/supporters/${supporter.id}`);
  };
  const places = offered(user.role, PLACES).filter(({ name }) => name.toLowerCase().includes(asked.toLowerCase()));
  /** The line that Enter takes: the first, until the arrows move from it. */
  const [at, setAt] = useState('');
  const lines = [
    ...supporters.map((row) => `s${row.id}`),
    ...gifts.map((gift) => `g${gift.id}`),
    ...(amount === null ? [] : ['amount']),
    ...places.map(({ path }) => path),
  ];
  const [shown, setShown] = useState('');
  if (shown !== lines.join()) {
    setShown(lines.join());
    setAt(lines[0] ?? '');
  }
  return (
    <Command
      shouldFilter={false}
      value={at}
      onValueChange={setAt}
      label="Find anything"
      onKeyDown={(event) => {
        // Enter means what is typed, not what was found for a part of it.
        if (event.key !== 'Enter' || fresh || asked === '') return;
        event.preventDefault();
        void goToFirst();
      }}
    >
      <Command.Input
        autoFocus
        value={text}
        onValueChange={setText}
        placeholder="Name, e-mail, street, telephone, gift, receipt, check number, amount …"
        className="h-12 w-full border-b border-rule bg-sheet px-4 text-base outline-none placeholder:text-faded"
      />
      <Command.List className="max-h-[60vh] overflow-auto py-1">
        {supporters.length > 0 && (
          <Command.Group
            heading={alike > 0 ? `Supporters; ${alike} of ${total} only like “${asked}”` : 'Supporters'}
            className={GROUP}
          >
            {supporters.map((row) => (
              <Command.Item
                key={row.id}
                value={`s${row.id}`}
                onSelect={() => go(`/supporters/${row.id}`)}
                className={ITEM}
              >
                <span className="font-serif whitespace-nowrap">{row.name}</span>
                <span className="whitespace-nowrap text-faded">{row.number}</span>
                <span className="min-w-0 flex-1 truncate text-faded">{row.about}</span>
                {row.by !== null && (
                  <span className="max-w-56 shrink-0 truncate text-[12.5px] text-faded" title={`Found by ${row.by}`}>
                    by {row.by}
                  </span>
                )}
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {gifts.length > 0 && (
          <Command.Group heading="Gifts" className={GROUP}>
            {gifts.map((gift) => (
              <Command.Item
                key={gift.id}
                value={`g${gift.id}`}
                onSelect={() => go(`/gifts/${gift.id}`)}
                className={ITEM}
              >
                <span className="tabular-nums">{money(gift.cents)}</span>
                <span className="font-serif">{gift.supporter}</span>
                <span className="text-faded">
                  {gift.number}, {date(gift.date)}
                </span>
                <span className="ml-auto text-faded">{gift.by}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {amount !== null && (
          <Command.Group className={GROUP}>
            <Command.Item
              value="amount"
              onSelect={() => go(`/gifts?atLeast=${amount.cents}&atMost=${amount.cents}`)}
              className={ITEM}
            >
              <span>
                {gifted(amount.gifts)} of {money(amount.cents)}
              </span>
              <span className="ml-auto tabular-nums text-faded">{money(amount.sumCents)} in all</span>
            </Command.Item>
          </Command.Group>
        )}
        {fresh && asked !== '' && supporters.length === 0 && gifts.length === 0 && (
          <p className="px-4 py-2 text-faded">
            Nothing has “{text}” in it: no name, number, e-mail, street, telephone, gift or receipt.
          </p>
        )}
        {places.length > 0 && (
          <Command.Group heading="Go to" className={GROUP}>
            {places.map(({ name, path }) => (
              <Command.Item key={path} value={path} onSelect={() => go(path)} className={ITEM}>
                {name}
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command>
  );
}
