import { useQuery } from '@tanstack/react-query';
import { Suspense, lazy } from 'react';
import { useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import type { LetterNode } from '@tallystick/core/letters';
import { createMailing, deleteMailing, getMailing, updateMailing } from '@tallystick/contract/outreach';
import type { Mailing } from '@tallystick/contract/outreach';
import { listSegments } from '@tallystick/contract/segments';
import { ask, call } from '../ui/api.ts';
import { Button, Heading, Opening } from '../ui/controls.tsx';
import { ChoiceField, chosenId, EntryForm, Fault, readInto, said, TextField, useEntry } from '../ui/form/index.ts';
import { ResumeSending } from '../ui/ResumeSending.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { MailingState } from './MailingState.tsx';
import { MailingPreview } from './MailingPreview.tsx';
import { Outcomes } from './Outcomes.tsx';
import { SendPanel } from './SendPanel.tsx';

const LetterEditor = lazy(() => import('../ui/LetterEditor.tsx'));

const FRESH: LetterNode = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Dear ' },
        { type: 'mergeField', attrs: { field: 'salutation', fallback: 'friend' } },
        { type: 'text', text: ',' },
      ],
    },
    { type: 'paragraph' },
  ],
};

export default function MailingPage() {
  const { id = 'new' } = useParams();
  const { data, error } = useQuery({ ...ask(getMailing, { params: { id: Number(id) } }), enabled: id !== 'new' });
  if (id !== 'new' && !data) return <Opening error={error} />;
  if (data && data.state !== 'draft') return <SentMailing mailing={data} />;
  return <Draft key={id} mailing={data ?? null} />;
}

function SentMailing({ mailing }: { mailing: Mailing }) {
  const { count } = useFormats();
  const { reached, opened, waiting, notReached, held } = mailing.counts;
  return (
    <>
      <Heading title={mailing.name} facts={mailing.stopped ? null : <MailingState state={mailing.state} />}>
        {mailing.stopped && <ResumeSending kind="mailing" id={mailing.id} />}
      </Heading>
      <p className="border-b border-rule px-5 py-2">
        “{mailing.subject}” to {mailing.segmentName || 'a segment'}: {count(reached)} reached ({count(opened)} opened),{' '}
        {count(waiting)} waiting, {count(notReached)} not reached, {count(held)} held back
      </p>
      <Outcomes mailingId={mailing.id} />
    </>
  );
}

const typedMailing = readInto(
  z.object({
    name: said('Name the e-mail.'),
    subject: said('Write a subject.'),
    body: z.custom<LetterNode>(),
    segmentId: chosenId,
    appealId: chosenId,
  }),
  createMailing.body,
);

function Draft({ mailing }: { mailing: Mailing | null }) {
  const navigate = useNavigate();
  const url = useListUrl();
  const mayWrite = useMay(updateMailing);
  const mayDelete = useMay(deleteMailing);
  const entry = useEntry({
    schema: typedMailing,
    initial: {
      ...{ name: mailing?.name ?? '', subject: mailing?.subject ?? '', body: mailing?.body ?? FRESH },
      segmentId: String(mailing?.segmentId ?? url.get('segment')),
      appealId: String(mailing?.appealId ?? ''),
    },
    send: async (body) => {
      if (!mailing) return (await call(createMailing, { body })).id;
      await call(updateMailing, { params: { id: mailing.id }, body: { ...body, version: mailing.version } });
      return mailing.id;
    },
    say: () => 'E-mail saved',
    then: (id) => void navigate(`/outreach/${id}`),
  });
  const away = useWrite((id: number) => call(deleteMailing, { params: { id } }), {
    say: () => 'E-mail deleted; Undo brings it back',
    then: () => {
      entry.letGo();
      void navigate('/outreach');
    },
  });
  const { appeals } = useChoices();
  const segments = useQuery(ask(listSegments));
  const { subject, body, segmentId, appealId, name } = entry.typed;
  // What goes out is what was saved: whatever differs from it is not sent yet.
  const changed =
    mailing === null ||
    JSON.stringify([name, subject, body, segmentId, appealId]) !==
      JSON.stringify([
        ...[mailing.name, mailing.subject, mailing.body],
        ...[String(mailing.segmentId ?? ''), String(mailing.appealId ?? '')],
      ]);
  return (
    <>
      <Heading title={mailing?.name ?? 'New e-mail'} facts={<MailingState state="draft" />}>
        {mailing && mayDelete && (
          <Button look="danger" busy={away.isPending} onClick={() => away.mutate(mailing.id)}>
            Delete
          </Button>
        )}
        {mayWrite && (
          <Button look={mailing ? 'plain' : 'main'} busy={entry.busy} onClick={() => entry.go()}>
            Save e-mail
          </Button>
        )}
      </Heading>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-5 overflow-auto px-5 py-4">
        <EntryForm entry={entry} className="space-y-3">
          <div className="grid grid-cols-2 gap-3">
            <TextField entry={entry} name="name" label="Name (only you see it)" />
            <ChoiceField
              entry={entry}
              name="segmentId"
              label="Segment"
              options={[
                { value: '', label: 'Choose who gets it' },
                ...(segments.data?.items.map((segment) => ({
                  value: segment.id,
                  label: `${segment.name} (${segment.count})`,
                })) ?? []),
              ]}
            />
            <TextField entry={entry} name="subject" label="Subject" hint="Fields work here too: {first|friend}" />
            <ChoiceField
              entry={entry}
              name="appealId"
              label="Appeal"
              options={[
                { value: '', label: 'None' },
                ...appeals
                  .filter((appeal) => !appeal.closed)
                  .map((appeal) => ({ value: appeal.id, label: appeal.name })),
              ]}
            />
          </div>
          <Suspense fallback={<p className="text-faded">Opening the editor …</p>}>
            <LetterEditor
              label="Text of the e-mail"
              value={body}
              onChange={(next) => entry.put({ body: next })}
              readOnly={!mayWrite}
            />
          </Suspense>
          <Fault>{entry.trouble}</Fault>
        </EntryForm>
        <div className="space-y-4">
          <MailingPreview subject={subject} body={body} segmentId={segmentId === '' ? null : Number(segmentId)} />
          {mailing && mailing.segmentId !== null && <SendPanel mailing={mailing} unsaved={changed} />}
        </div>
      </div>
    </>
  );
}
