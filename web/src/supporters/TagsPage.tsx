import { useState } from 'react';
import { Link } from 'react-router';
import { createGroup, deleteGroup, deleteTag, mergeTag, renameTag, updateGroup } from '@tallystick/contract/tags';
import { call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Field, Heading, Input } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';

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

/** Tags and groups as things of their own, with how many have each. */
export default function TagsPage() {
  const { tags, groups } = useChoices();
  const mayEdit = useMay(renameTag);
  const [asking, setAsking] = useState<Asking | null>(null);
  const [name, setName] = useState('');
  const make = useWrite(() => call(createGroup, { body: { name: name.trim() } }), { then: () => setName('') });
  const table = (kind: Asking['kind'], labels: readonly Label[]) => (
    <ListTable
      label={kind === 'tag' ? 'Tags' : 'Groups'}
      headings={['Name', 'Supporters', '']}
      rightAligned={[1, 2]}
      rows={labels.map((label) => ({
        id: label.id,
        cells: [
          label.name,
          <Link key="count" className="text-slate hover:underline" to={`/supporters?${kind}=${label.id}`}>
            {label.count.toLocaleString()}
          </Link>,
          mayEdit &&
            (['rename', ...(kind === 'tag' ? ['merge'] : []), 'delete'] as Asking['what'][]).map((what) => (
              <Button key={what} look="quiet" className="h-7 px-2" onClick={() => setAsking({ what, kind, label })}>
                {what.replace(/^./, (letter) => letter.toUpperCase())}
              </Button>
            )),
        ],
      }))}
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
          {mayEdit && (
            <form
              className="mt-3 flex gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                if (name.trim()) make.mutate(undefined);
              }}
            >
              <Input
                aria-label="Name of the new group"
                placeholder="Name of a new group"
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <Button type="submit" disabled={name.trim() === ''}>
                Make group
              </Button>
            </form>
          )}
        </section>
      </div>
      {asking && <AskDialog asking={asking} tags={tags} onClose={() => setAsking(null)} />}
    </div>
  );
}

function AskDialog({ asking, tags, onClose }: { asking: Asking; tags: readonly Label[]; onClose: () => void }) {
  const { what, kind, label } = asking;
  const { count, counted } = useFormats();
  const others = tags.filter((tag) => tag.id !== label.id);
  const [name, setName] = useState(label.name);
  const [into, setInto] = useState(others[0]?.id ?? 0);
  const params = { id: label.id };
  const act = useWrite<undefined, string>(
    async () => {
      if (what === 'merge') {
        const { moved, had } = await call(mergeTag, { params, body: { intoId: into } });
        return `${counted(moved, 'supporter')} moved, ${count(had)} had both`;
      }
      if (what === 'rename') await call(kind === 'tag' ? renameTag : updateGroup, { params, body: { name } });
      else await call(kind === 'tag' ? deleteTag : deleteGroup, { params, query: { records: label.count } });
      return what === 'rename' ? `Now called ${name}` : `Deleted ${label.name}`;
    },
    { say: (words) => words, then: onClose },
  );
  const words = {
    rename: 'Rename',
    merge: `Merge ${label.name} into ${others.find((tag) => tag.id === into)?.name ?? ''}`,
    delete: `Delete ${label.name}`,
  }[what];
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${what.replace(/^./, (letter) => letter.toUpperCase())} the ${kind} ${label.name}`}
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate(undefined);
        }}
      >
        {what === 'rename' && (
          <Field label="Name">
            {(attributes) => (
              <Input {...attributes} autoFocus value={name} onChange={(event) => setName(event.target.value)} />
            )}
          </Field>
        )}
        {what === 'merge' && (
          <Field
            label="Into"
            hint={`${counted(label.count, 'supporter gets', 'supporters get')} it, and ${label.name} is gone. Undo brings it back.`}
          >
            {(attributes) => (
              <Choice
                {...attributes}
                autoFocus
                value={into}
                onChange={(picked) => setInto(Number(picked))}
                options={others.map((tag) => ({ value: tag.id, label: `${tag.name} (${tag.count})` }))}
              />
            )}
          </Field>
        )}
        {what === 'delete' && (
          <p>
            {counted(label.count, 'supporter loses', 'supporters lose')} it; the supporters stay. Undo brings it back.
          </p>
        )}
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button look={what === 'delete' ? 'danger' : 'main'} type="submit" disabled={act.isPending}>
            {words}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
