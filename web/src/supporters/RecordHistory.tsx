import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { undoChange } from '@tallystick/contract/changes';
import { listSupporterHistory } from '@tallystick/contract/supporters';
import { call, keyOf } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Trouble } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';

const TOPICS = {
  record: 'Name, wishes, fields',
  contact: 'Contact',
  gifts: 'Gifts and receipts',
  sent: 'What was sent',
  ties: 'Ties, tags, groups',
  notes: 'Notes, tasks, documents',
} as const;
type Topic = keyof typeof TOPICS;

/** Everything that happened to a record, in words, each with Undo. */
export function RecordHistory({ id }: { id: number }) {
  const { moment } = useFormats();
  const { users } = useChoices();
  const mayUndo = useMay(undoChange);
  const [about, setAbout] = useState<Topic | ''>('');
  const [by, setBy] = useState('');
  const history = useInfiniteQuery({
    queryKey: [...keyOf(listSupporterHistory, { params: { id } }), about, by],
    queryFn: ({ pageParam, signal }) =>
      call(listSupporterHistory, {
        params: { id },
        query: {
          limit: 50,
          ...(about ? { about } : {}),
          ...(by ? { by } : {}),
          ...(pageParam ? { cursor: pageParam } : {}),
        },
        signal,
      }),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
  });
  const undo = useWrite((revision: number) => call(undoChange, { params: { revision } }), { say: () => 'Undone' });
  if (history.error) return <Trouble error={history.error} />;
  const items = history.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <div className="mb-2 flex gap-2">
        <Choice
          className="w-auto min-w-52"
          aria-label="What happened"
          value={about}
          onChange={(picked) => setAbout(picked as Topic | '')}
          options={[
            { value: '', label: 'Everything' },
            ...Object.entries(TOPICS).map(([topic, word]) => ({ value: topic, label: word })),
          ]}
        />
        <Choice
          className="w-auto min-w-52"
          aria-label="By whom"
          value={by}
          onChange={setBy}
          options={[
            { value: '', label: 'By anyone' },
            ...users.map((user) => ({ value: user.name, label: user.name })),
          ]}
        />
      </div>
      {items.length === 0 && !history.isPending && (
        <Empty title="Nothing here">
          {about || by
            ? 'Nothing of this kind happened; choose something else above.'
            : 'What happened before the records were loaded is not known.'}
        </Empty>
      )}
      <ol aria-label="History" className="space-y-2.5">
        {items.map((item) => (
          <li key={item.revision} className="flex items-start gap-3 border-b border-rule pb-2">
            <div className="min-w-0 flex-1">
              <p className="text-[13px] text-faded">
                {moment(item.at)} · {item.by} · {item.summary}
                {item.undoneBy !== null && <em> (undone)</em>}
              </p>
              {item.lines.map((line, index) => (
                <p key={index}>{line}</p>
              ))}
            </div>
            {item.undoable && mayUndo && (
              <Button look="quiet" busy={undo.isPending} onClick={() => undo.mutate(item.revision)}>
                Undo
              </Button>
            )}
          </li>
        ))}
      </ol>
      {history.hasNextPage && (
        <Button look="quiet" onClick={() => void history.fetchNextPage()}>
          Show what was before
        </Button>
      )}
    </>
  );
}
