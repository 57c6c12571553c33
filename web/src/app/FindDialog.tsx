import { Command } from 'cmdk';
import { Dialog as RadixDialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useFormats } from '../ui/organization.tsx';
import { useFoundSupporters } from '../ui/useFoundSupporters.ts';

const PLACES = [
  ['Today', '/'],
  ['Supporters', '/supporters'],
  ['Gifts', '/gifts'],
  ['Segments', '/segments'],
  ['Outreach', '/outreach'],
  ['Thanks', '/thanks'],
  ['Receipts issued', '/thanks/issued'],
  ['Letters', '/thanks/letters'],
  ['Intake', '/intake'],
  ['All changes', '/changes'],
] as const;

const ITEM = 'flex cursor-pointer items-center gap-3 px-4 py-1.5 data-[selected=true]:bg-hover';

/** Find anything: supporters by name, number, e-mail or telephone as one types, and places of the app. */
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

function Finder({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const { money } = useFormats();
  const { rows: supporters, fresh, settled } = useFoundSupporters(text, 12);
  const go = (path: string): void => {
    onClose();
    void navigate(path);
  };
  const places = PLACES.filter(([name]) => name.toLowerCase().includes(text.trim().toLowerCase()));
  return (
    <Command
      shouldFilter={false}
      label="Find anything"
      onKeyDown={(event) => {
        // Enter means what is typed, not what was found for a part of it.
        if (event.key !== 'Enter' || fresh || text.trim() === '') return;
        event.preventDefault();
        void settled().then(([first]) => first && go(`/supporters/${first.id}`));
      }}
    >
      <Command.Input
        autoFocus
        value={text}
        onValueChange={setText}
        placeholder="Name, number, e-mail, last digits of a telephone …"
        className="h-12 w-full border-b border-rule bg-sheet px-4 text-base outline-none placeholder:text-faded"
      />
      <Command.List className="max-h-[60vh] overflow-auto py-1">
        {supporters.length > 0 && (
          <Command.Group
            heading="Supporters"
            className="[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faded"
          >
            {supporters.map((row) => (
              <Command.Item
                key={row.id}
                value={`s${row.id}`}
                onSelect={() => go(`/supporters/${row.id}`)}
                className={ITEM}
              >
                <span className="font-serif">{row.name}</span>
                <span className="text-faded">{row.number}</span>
                <span className="truncate text-faded">{[row.city, row.email].filter(Boolean).join(' · ')}</span>
                <span className="ml-auto text-faded">{money(row.giving.lifetime)}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {fresh && text.trim() !== '' && supporters.length === 0 && (
          <p className="px-4 py-2 text-faded">No supporter has “{text}” in name, number, e-mail or telephone.</p>
        )}
        {places.length > 0 && (
          <Command.Group
            heading="Go to"
            className="[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faded"
          >
            {places.map(([name, path]) => (
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
