import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import {
  countSegment,
  createSegment,
  deleteSegment,
  explainSegment,
  getSegment,
  previewSegment,
  updateSegment,
} from '@tallystick/contract/segments';
import type { Group, Segment } from '@tallystick/contract/segments';
import { ExportDialog, SupporterRecord, supporterColumns } from '../supporters/index.ts';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import { ask, call, keyOf } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, Input, Opening, StateWord, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { EntryForm, Fault, readInto, said, useEntry } from '../ui/form/index.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { useTitle } from '../ui/useTitle.ts';
import { useWrite } from '../ui/useWrite.ts';
import { About, Keep } from './AboutSegment.tsx';
import { EMPTY_GROUP } from './conditions.ts';
import { GroupEditor } from './GroupEditor.tsx';

export default function SegmentPage() {
  const { id = 'new' } = useParams();
  const existing = useQuery({ ...ask(getSegment, { params: { id: Number(id) } }), enabled: id !== 'new' });
  if (id !== 'new' && !existing.data) return <Opening error={existing.error} />;
  return <Editor key={id} segment={existing.data ?? null} />;
}

const typedSegment = readInto(
  z.object({
    name: said('Name the segment.'),
    conditions: z.custom<Group>(),
    credit: z.custom<Segment['credit']>(),
    folder: z.string(),
    note: z.string(),
    shared: z.boolean(),
  }),
  createSegment.body,
);

function Editor({ segment }: { segment: Segment | null }) {
  const url = useListUrl();
  const navigate = useNavigate();
  const formats = useFormats();
  const mayEdit = useMay(updateSegment);
  const mayDelete = useMay(deleteSegment);
  const away = useWrite((id: number) => call(deleteSegment, { params: { id } }), {
    say: () => 'Segment deleted; Undo brings it back',
    then: () => {
      entry.letGo();
      void navigate('/segments');
    },
  });
  const [exporting, setExporting] = useState(false);
  const entry = useEntry({
    schema: typedSegment,
    initial: {
      ...{ name: segment?.name ?? '', conditions: segment?.conditions ?? EMPTY_GROUP },
      ...{ credit: segment?.credit ?? 'legal', shared: segment?.shared ?? true },
      ...{ folder: segment?.folder ?? '', note: segment?.note ?? '' },
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
  const list = usePages(keyOf(previewSegment, { body: asked }), (cursor, signal) =>
    call(previewSegment, { body: { ...asked, limit: 200, ...(cursor ? { cursor } : {}) }, signal }),
  );
  const columns = useMemo(
    () =>
      supporterColumns(formats, formats.counted(list.total, 'supporter')).map(({ sort: _sort, ...column }) => column),
    [formats, list.total],
  );
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
          {segment && (
            <Button onClick={() => setExporting(true)}>
              <Download size={14} /> Export …
            </Button>
          )}
          {segment && mayEdit && (
            <Button onClick={() => void navigate(`/outreach/new?segment=${segment.id}`)}>Write to them</Button>
          )}
          {segment && mayDelete && (
            <Button look="danger" busy={away.isPending} onClick={() => away.mutate(segment.id)}>
              Delete
            </Button>
          )}
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
      {segment && exporting && (
        <ExportDialog
          selection={{ kind: 'list', filter: { segment: segment.id, trashed: 'no' }, except: [] }}
          people={`everyone in ${segment.name}`}
          onClose={() => setExporting(false)}
        />
      )}
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
          <About typed={entry.typed} put={entry.put} mayEdit={mayEdit} />
          <Keep asked={asked} segment={segment} name={name} />
        </div>
      </div>
      {counted.error && <Trouble error={counted.error} />}
      <PeekLayout
        ids={list.rows.map((row) => row.id)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/supporters/${id}`}
        peek={(id) => <SupporterRecord id={id} />}
        list={
          <DataTable
            name="segment"
            label="Supporters in the segment"
            columns={columns}
            rows={list.rows}
            idOf={(row) => row.id}
            total={list.total}
            onMore={list.onMore}
            openId={url.peek}
            onPeek={(row) => url.set({ peek: String(row.id) })}
            hrefOf={(row) => `/supporters/${row.id}`}
            loading={list.isPending}
            empty={<Empty title="Nobody matches">Take a condition away, or ask above why someone is not in.</Empty>}
          />
        }
      />
    </>
  );
}

/** Who is left out, which is never silent. */
function LeftOut({ trashed }: { trashed: number }) {
  const { counted } = useFormats();
  return (
    <span data-testid="left-out">
      {trashed === 0 ? (
        'Nobody is left out unsaid: '
      ) : (
        <>
          {counted(trashed, 'record')} in the{' '}
          <Link className="underline" to="/supporters?trashed=yes">
            trash
          </Link>{' '}
          would match and {trashed === 1 ? 'is' : 'are'} left out;{' '}
        </>
      )}
      the deceased and those with wishes are in, and are held back when something is sent.
    </span>
  );
}

/** Why one supporter is or is not in: each condition with the value that it saw. */
function Why({ asked }: { asked: { conditions: Group; credit: Segment['credit'] } }) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const { data } = useQuery({
    ...ask(explainSegment, { body: { ...asked, supporterId: picked?.id ?? 0 } }),
    enabled: picked !== null,
  });
  return (
    <section aria-label="Why" className="rounded border border-rule bg-sheet px-3 py-2">
      <h2 className="text-base">Why is someone in or not?</h2>
      <div className="mt-1">
        <SupporterPicker label="Supporter to explain" value={picked} onPick={setPicked} />
      </div>
      {picked && data && (
        <div className="mt-2" aria-live="polite">
          <p className="font-medium">
            {picked.name} is {data.matches ? 'in' : 'not in'}
          </p>
          <ul>
            {data.lines.slice(1).map((line, index) => (
              <li key={index} style={{ paddingLeft: (line.depth - 1) * 14 }}>
                <StateWord tone={line.matches ? 'settled' : 'wrong'}>{line.matches ? 'yes' : 'no'}</StateWord>{' '}
                {line.sentence}
                {line.saw && <span className="text-faded">: {line.saw}</span>}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
