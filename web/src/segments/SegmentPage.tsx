import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import { countSegment, createSegment, getSegment, updateSegment } from '@tallystick/contract/segments';
import type { Group, Segment, View } from '@tallystick/contract/segments';
import { FIRST_VIEW } from '@tallystick/core/segments';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import { ask, call } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Button, Heading, Input, Opening, Trouble } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { EntryForm, Fault, readInto, said, useEntry } from '../ui/form/index.ts';
import { useStored } from '../ui/useStored.ts';
import { useTitle } from '../ui/useTitle.ts';
import { About } from './AboutSegment.tsx';
import { EMPTY_GROUP } from './conditions.ts';
import { GroupEditor } from './GroupEditor.tsx';
import { PinMenu } from './Pins.tsx';
import { SegmentMenu } from './SegmentMenu.tsx';
import { SegmentTable } from './SegmentTable.tsx';
import { useView } from './useView.tsx';
import { LeftOut, Why } from './Why.tsx';

export default function SegmentPage() {
  const { id = 'new' } = useParams();
  const existing = useQuery({ ...ask(getSegment, { params: { id: Number(id) } }), enabled: id !== 'new' });
  if (id !== 'new' && !existing.data) return <Opening error={existing.error} />;
  return <Editor key={id} segment={existing.data ?? null} />;
}

/** What a new segment begins with: nothing, or what a copy or a file brought. */
type Begun = Pick<Segment, 'name' | 'note' | 'folder' | 'credit' | 'conditions' | 'view'>;
const NEW: Begun = {
  ...{ name: '', note: '', folder: '', credit: 'legal', conditions: EMPTY_GROUP, view: FIRST_VIEW as View },
};

const typedSegment = readInto(
  z.object({
    name: said('Name the segment.'),
    conditions: z.custom<Group>(),
    credit: z.custom<Segment['credit']>(),
    folder: z.string(),
    note: z.string(),
    shared: z.boolean(),
    tag: z.string(),
    ownerId: z.number().nullable(),
    view: z.custom<View>(),
  }),
  createSegment.body,
);

function Editor({ segment }: { segment: Segment | null }) {
  const brought = (useLocation().state as { draft?: Begun } | null)?.draft;
  const begun: Begun = segment ?? brought ?? NEW;
  const navigate = useNavigate();
  const formats = useFormats();
  const me = useHere().user.id;
  const mayEdit = useMay(updateSegment);
  const entry = useEntry({
    schema: typedSegment,
    initial: {
      ...{ name: begun.name, note: begun.note, folder: begun.folder, credit: begun.credit },
      ...{ conditions: begun.conditions, view: begun.view },
      ...{ shared: segment?.shared ?? true, tag: segment?.tag ?? '', ownerId: segment ? segment.ownerId : me },
    },
    send: async (body) => {
      if (!segment) return (await call(createSegment, { body })).id;
      await call(updateSegment, { params: { id: segment.id }, body: { ...body, version: segment.version } });
      return segment.id;
    },
    say: () => 'Segment saved',
    then: (id) => {
      entry.anew(entry.typed);
      void navigate(`/segments/${id}`);
    },
  });
  const { name, conditions, credit } = entry.typed;
  const deferred = useDeferredValue(conditions);
  const asked = useMemo(() => ({ conditions: deferred, credit }), [deferred, credit]);
  const counted = useQuery({ ...ask(countSegment, { body: asked }), placeholderData: keepPreviousData });
  const { view, setView, tools } = useView({
    ...{ segment, base: entry.typed.view, mayEdit },
    onBase: (next) => entry.put({ view: next }),
    isOwner: segment === null || (mayEdit && (segment.ownerId === null || segment.ownerId === me)),
  });
  const [folded, setFolded] = useStored('segment-folded', { on: false });
  const { data } = counted;
  useTitle(name || 'New segment');
  return (
    <>
      <EntryForm entry={entry} className="contents space-y-0">
        <Heading
          title={
            <div data-field="name">
              <Input
                aria-label="Name of the segment"
                aria-invalid={entry.fault('name') !== undefined}
                placeholder="Name of the segment"
                className="h-9 w-auto max-w-full min-w-72 border-transparent [field-sizing:content] bg-transparent font-serif text-[20px] hover:border-rule"
                value={name}
                readOnly={!mayEdit}
                onChange={(event) => entry.put({ name: event.target.value })}
              />
            </div>
          }
          facts={
            <span aria-live="polite" data-testid="segment-count">
              {data ? (
                <>
                  <strong className="font-serif text-lg text-ink">{formats.count(data.count)}</strong> of{' '}
                  {formats.count(data.of)} supporters, counted in {data.milliseconds.toFixed(1)} ms
                </>
              ) : (
                'Counting …'
              )}
            </span>
          }
        >
          {segment && mayEdit && (
            <Button onClick={() => void navigate(`/outreach/new?segment=${segment.id}`)}>Write to them</Button>
          )}
          {segment && <PinMenu segmentId={segment.id} name={segment.name} />}
          <SegmentMenu
            {...{ asked, segment, name }}
            onCopy={() => {
              const { note, folder } = entry.typed;
              const draft: Begun = { name: `${name}, copy`.slice(0, 120), note, folder, credit, conditions, view };
              void navigate('/segments/new', { state: { draft } });
            }}
            onGone={entry.letGo}
          />
          {mayEdit && (
            <Button look="main" type="submit" busy={entry.busy}>
              Save segment
            </Button>
          )}
        </Heading>
        <div className="px-5">
          <Fault>{entry.fault('name') ?? entry.trouble}</Fault>
        </div>
      </EntryForm>
      {folded.on ? (
        <p className="border-b border-rule px-5 py-2 text-[13px]" data-testid="segment-sentence">
          <span className="text-faded">Supporters of whom it holds: </span>
          {data?.whole ?? '…'}
        </p>
      ) : (
        <div className="grid grid-cols-[1fr_20rem] gap-4 border-b border-rule px-5 py-3">
          <div className="min-w-0 space-y-1.5">
            <GroupEditor group={conditions} onChange={(next) => entry.put({ conditions: next })} counts={data} />
            <div className="flex flex-wrap items-center gap-2 text-[13px] text-faded">
              <span>Count the giving of</span>
              <Choice
                aria-label="Whose giving counts in this segment"
                className="w-auto min-w-44 text-[13px]"
                value={credit}
                onChange={(next) => entry.put({ credit: next as Segment['credit'] })}
                options={optionsOf(CREDIT_CHOICES)}
              />
              {data && <LeftOut trashed={data.trashed} />}
            </div>
            {data && data.parts.length > 0 && (
              <p className="text-[13px]" data-testid="segment-sentence">
                <span className="text-faded">It reads: supporters of whom it holds: </span>
                {data.whole}.
              </p>
            )}
          </div>
          <div className="space-y-3">
            <Why asked={asked} />
            <About {...{ typed: entry.typed, put: entry.put, mayEdit, asked, segment }} />
          </div>
        </div>
      )}
      {counted.error && <Trouble error={counted.error} />}
      <SegmentTable
        {...{ asked, view }}
        onView={setView}
        tools={
          <>
            {tools}
            <Button look="quiet" aria-pressed={folded.on} onClick={() => setFolded(({ on }) => ({ on: !on }))}>
              {folded.on ? 'Show the conditions' : 'Only the table'}
            </Button>
          </>
        }
      />
    </>
  );
}
