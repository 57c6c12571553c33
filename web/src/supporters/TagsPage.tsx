import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { createGroup, deleteGroup, deleteTag, mergeTag, renameTag, updateGroup } from '@tallystick/contract/tags';
import { call } from '../ui/api.ts';
import { Button, Empty, Heading } from '../ui/controls.tsx';
import { ChoiceField, EntryDialog, EntryForm, Fault, said, TextField, useEntry } from '../ui/form/index.ts';
import { wordsOf } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';

interface Label {
  id: number;
  name: string;
  count: number;
}
interface Asking {
  what: 'rename' | 'merge' | 'delete';
  kind: 'tag' | 'group';
  label: Label;
}

const wordOf = (what: Asking['what']): string => what.replace(/^./, (letter) => letter.toUpperCase());

/** Tags and groups as things of their own, with how many have each. */
export default function TagsPage() {
  const { tags, groups } = useChoices();
  const mayEdit = useMay(renameTag);
  const [asking, setAsking] = useState<Asking | null>(null);
  const table = (kind: Asking['kind'], labels: readonly Label[]) => (
    <ShortTable<Label>
      name={kind}
      label={kind === 'tag' ? 'Tags' : 'Groups'}
      rows={labels}
      columns={[
        { ...wordsOf('name', 'Name', 160, (label) => label.name), grow: true },
        {
          ...{ id: 'count', title: 'Supporters', width: 96, align: 'right', by: (label) => label.count },
          cell: (label) => (
            <Link
              className="text-slate hover:underline"
              aria-label={`${label.count.toLocaleString()} with ${label.name}`}
              to={`/supporters?${kind}=${label.id}`}
            >
              {label.count.toLocaleString()}
            </Link>
          ),
        },
        {
          ...{ id: 'acts', title: '', width: kind === 'tag' ? 230 : 160, align: 'right' },
          cell: (label) =>
            mayEdit &&
            (['rename', ...(kind === 'tag' ? ['merge'] : []), 'delete'] as Asking['what'][]).map((what) => (
              <Button
                key={what}
                look="quiet"
                className="h-7 px-2"
                aria-label={`${wordOf(what)} ${label.name}`}
                onClick={() => setAsking({ what, kind, label })}
              >
                {wordOf(what)}
              </Button>
            )),
        },
      ]}
    />
  );
  return (
    <div className="overflow-auto">
      <Heading title="Tags and groups" facts={`${tags.length} tags, ${groups.length} groups`}>
        <Link className="text-slate hover:underline" to="/supporters">
          Back to supporters
        </Link>
      </Heading>
      <div className="grid grid-cols-2 gap-6 p-5">
        <section aria-label="Tags">
          <h2 className="mb-1 text-lg">Tags</h2>
          {tags.length === 0 ? (
            <Empty title="No tag yet">A tag is made when it is first put on someone.</Empty>
          ) : (
            table('tag', tags)
          )}
        </section>
        <section aria-label="Groups">
          <h2 className="mb-1 text-lg">Groups</h2>
          {groups.length === 0 ? (
            <Empty title="No group yet">A group is a list of supporters kept by hand.</Empty>
          ) : (
            table('group', groups)
          )}
          {mayEdit && <NewGroup />}
        </section>
      </div>
      {asking && <AskDialog asking={asking} tags={tags} onClose={() => setAsking(null)} />}
    </div>
  );
}

function NewGroup() {
  const entry = useEntry({
    schema: z.object({ name: said('Write its name.') }),
    initial: { name: '' },
    send: (body) => call(createGroup, { body }),
    say: (): string => `${entry.typed.name} is made`,
    then: () => entry.anew(),
  });
  return (
    <EntryForm entry={entry} className="mt-3 flex items-end gap-2 space-y-0">
      <TextField entry={entry} name="name" label="Name of the new group" className="flex-1" />
      <Button type="submit" busy={entry.busy}>
        Make group
      </Button>
      <Fault>{entry.trouble}</Fault>
    </EntryForm>
  );
}

function AskDialog({ asking, tags, onClose }: { asking: Asking; tags: readonly Label[]; onClose: () => void }) {
  const { what, kind, label } = asking;
  const { count, counted } = useFormats();
  const others = tags.filter((tag) => tag.id !== label.id);
  const params = { id: label.id };
  const entry = useEntry({
    schema: z.object({ name: said('Write its name.'), into: z.string().transform(Number) }),
    initial: { name: label.name, into: String(others[0]?.id ?? 0) },
    send: async ({ name, into }) => {
      if (what === 'merge') {
        const { moved, had } = await call(mergeTag, { params, body: { intoId: into } });
        return `${counted(moved, 'supporter')} moved, ${count(had)} had both`;
      }
      if (what === 'rename') await call(kind === 'tag' ? renameTag : updateGroup, { params, body: { name } });
      else await call(kind === 'tag' ? deleteTag : deleteGroup, { params, query: { records: label.count } });
      return what === 'rename' ? `Now called ${name}` : `Deleted ${label.name}`;
    },
    say: (words) => words,
    then: onClose,
  });
  const into = others.find((tag) => String(tag.id) === entry.typed.into);
  const words = {
    rename: 'Rename',
    merge: `Merge ${label.name} into ${into?.name ?? ''}`,
    delete: `Delete ${label.name}`,
  }[what];
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`${what.replace(/^./, (letter) => letter.toUpperCase())} the ${kind} ${label.name}`}
      word={words}
      look={what === 'delete' ? 'danger' : 'main'}
    >
      {what === 'rename' && <TextField entry={entry} name="name" label="Name" autoFocus />}
      {what === 'merge' && (
        <ChoiceField
          entry={entry}
          name="into"
          label="Into"
          hint={`${counted(label.count, 'supporter gets', 'supporters get')} it, and ${label.name} is gone. Undo brings it back.`}
          autoFocus
          options={others.map((tag) => ({ value: tag.id, label: `${tag.name} (${tag.count})` }))}
        />
      )}
      {what === 'delete' && (
        <p>
          {counted(label.count, 'supporter loses', 'supporters lose')} it; the supporters stay. Undo brings it back.
        </p>
      )}
    </EntryDialog>
  );
}
