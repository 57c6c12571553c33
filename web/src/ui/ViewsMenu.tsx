import { useQuery } from '@tanstack/react-query';
import { Bookmark, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { z } from 'zod';
import { createView, deleteView, listViews } from '@tallystick/contract/views';
import { ask, call } from './api.ts';
import type { ColumnChoice } from './table/columns.ts';
import { NO_CHOICE } from './table/columns.ts';
import { Button, IconButton, Input } from './controls.tsx';
import { EntryForm, Fault, said, useEntry } from './form/index.ts';
import { useMay, useMayTouch } from './organization.tsx';
import { useWrite } from './useWrite.ts';

/** Saved views of a list: its filters, order, groups and columns under a name, for everyone. */
export function ViewsMenu(props: {
  list: string;
  choice: ColumnChoice;
  onChoice: (next: (old: ColumnChoice) => ColumnChoice) => void;
}) {
  const [params, setParams] = useSearchParams();
  const [open, setOpen] = useState(false);
  const maySave = useMay(createView);
  const mayDelete = useMayTouch(deleteView);
  const views = useQuery(ask(listViews, { query: { list: props.list } }));
  const current = params.get('view') ?? '';
  const remove = useWrite((id: number) => call(deleteView, { params: { id } }));
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet" className="px-2">
          <Bookmark size={14} /> {current || 'Views'}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Views"
          className="z-50 w-80 rounded border border-rule bg-sheet p-2"
        >
          <ul className="max-h-64 overflow-auto">
            {views.data?.items.map((view) => (
              <li key={view.id} className="flex items-center">
                <button
                  type="button"
                  className="min-w-0 flex-1 truncate rounded px-2 py-1 text-left hover:bg-hover"
                  onClick={() => {
                    const { search, ...choice } = view.setting;
                    props.onChoice(() => ({ ...NO_CHOICE, ...choice }));
                    setParams(withView(new URLSearchParams(search), view.name));
                    setOpen(false);
                  }}
                >
                  {view.name} <span className="text-[13px] text-faded">by {view.author}</span>
                </button>
                {mayDelete(view.ownerId) && (
                  <IconButton label={`Delete the view ${view.name}`} onClick={() => remove.mutate(view.id)}>
                    <Trash2 size={13} />
                  </IconButton>
                )}
              </li>
            ))}
            {views.data?.items.length === 0 && <li className="px-2 py-1 text-faded">No view is saved yet.</li>}
          </ul>
          {maySave && (
            <SaveView
              list={props.list}
              choice={props.choice}
              onSaved={(name) => {
                setParams((old) => withView(old, name), { replace: true });
                setOpen(false);
              }}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const typedView = z.object({ name: said('Name the view.') });

/** Keeps the list as it is now under a name. */
function SaveView(props: { list: string; choice: ColumnChoice; onSaved: (name: string) => void }) {
  const [params] = useSearchParams();
  const entry = useEntry({
    schema: typedView,
    initial: { name: '' },
    send: async ({ name }) => {
      const search = new URLSearchParams(params);
      for (const key of ['peek', 'section', 'view', 'add']) search.delete(key);
      await call(createView, {
        body: { list: props.list, name, setting: { search: search.toString(), ...props.choice } },
      });
      return name;
    },
    say: (name) => `Saved the view ${name}`,
    then: props.onSaved,
  });
  return (
    <EntryForm entry={entry} className="mt-2 border-t border-rule pt-2">
      <div className="flex gap-2" data-field="name">
        <Input
          aria-label="Name of the view"
          aria-invalid={entry.fault('name') !== undefined}
          placeholder="Save this list as"
          value={entry.typed.name}
          onChange={(event) => entry.put({ name: event.target.value })}
        />
        <Button type="submit" busy={entry.busy}>
          Save
        </Button>
      </div>
      <Fault>{entry.fault('name') ?? entry.trouble}</Fault>
    </EntryForm>
  );
}

function withView(params: URLSearchParams, name: string): URLSearchParams {
  const next = new URLSearchParams(params);
  next.set('view', name);
  return next;
}
