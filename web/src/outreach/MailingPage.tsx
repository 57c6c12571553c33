import { useMutation, useQuery } from '@tanstack/react-query';
import { Suspense, lazy, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import type { LetterNode } from '@tallystick/core/letters';
import { createMailing, deleteMailing, getMailing, updateMailing } from '@tallystick/contract/outreach';
import type { Mailing } from '@tallystick/contract/outreach';
import { listSegments } from '@tallystick/contract/segments';
import { ask, call, messageOf } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Heading, Input, Trouble } from '../ui/controls.tsx';
import { ResumeSending } from '../ui/ResumeSending.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';
import { useUnsaved } from '../ui/form/unsaved.ts';
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
  if (error && !data) return <Trouble error={error} />;
  if (id !== 'new' && !data) return <p className="p-5 text-faded">Opening …</p>;
  if (data && data.state !== 'draft') return <SentMailing mailing={data} />;
  return <Draft key={id} mailing={data ?? null} />;
}

function SentMailing({ mailing }: { mailing: Mailing }) {
  const { count } = useFormats();
  const { reached, waiting, notReached, held } = mailing.counts;
  return (
    <>
      <Heading title={mailing.name} facts={mailing.stopped ? null : <MailingState state={mailing.state} />}>
        {mailing.stopped && <ResumeSending kind="mailing" id={mailing.id} />}
      </Heading>
      <p className="border-b border-rule px-5 py-2">
        “{mailing.subject}” to {mailing.segmentName || 'a segment'}: {count(reached)} reached, {count(waiting)} waiting,{' '}
        {count(notReached)} not reached, {count(held)} held back
      </p>
      <Outcomes mailingId={mailing.id} />
    </>
  );
}

function Draft({ mailing }: { mailing: Mailing | null }) {
  const navigate = useNavigate();
  const url = useListUrl();
  const mayWrite = useMay(updateMailing);
  const mayDelete = useMay(deleteMailing);
  const away = useWrite((id: number) => call(deleteMailing, { params: { id } }), {
    say: () => 'E-mail deleted; Undo brings it back',
    then: () => {
      letGo();
      void navigate('/outreach');
    },
  });
  const { appeals } = useChoices();
  const segments = useQuery(ask(listSegments));
  const [first] = useState({
    name: mailing?.name ?? '',
    subject: mailing?.subject ?? '',
    body: mailing?.body ?? FRESH,
    segmentId: mailing?.segmentId ?? (url.get('segment') ? Number(url.get('segment')) : null),
    appealId: mailing?.appealId ?? null,
  });
  const [draft, setDraft] = useState(first);
  const saved = mailing && {
    name: mailing.name,
    subject: mailing.subject,
    body: mailing.body,
    segmentId: mailing.segmentId,
    appealId: mailing.appealId,
  };
  const changed = JSON.stringify(draft) !== JSON.stringify(saved);
  const letGo = useUnsaved(mailing ? changed : JSON.stringify(draft) !== JSON.stringify(first));
  const save = useMutation({
    mutationFn: async () => {
      if (!mailing) return (await call(createMailing, { body: draft })).id;
      await call(updateMailing, { params: { id: mailing.id }, body: { ...draft, version: mailing.version } });
      return mailing.id;
    },
    onSuccess: (id) => {
      letGo();
      toast.success('E-mail saved');
      void navigate(`/outreach/${id}`);
    },
    onError: (error) => toast.error(messageOf(error)),
  });
  const number = (text: string): number | null => (text === '' ? null : Number(text));
  return (
    <>
      <Heading title={mailing?.name ?? 'New e-mail'} facts={<MailingState state="draft" />}>
        {mailing && mayDelete && (
          <Button look="danger" busy={away.isPending} onClick={() => away.mutate(mailing.id)}>
            Delete
          </Button>
        )}
        {mayWrite && (
          <Button
            look={mailing ? 'plain' : 'main'}
            disabled={!changed || draft.name.trim() === '' || draft.subject.trim() === '' || save.isPending}
            onClick={() => save.mutate()}
          >
            Save e-mail
          </Button>
        )}
      </Heading>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-5 overflow-auto px-5 py-4">
        <div className="space-y-3">
          <div className="grid grid-cols-2 gap-3">
            <Field label="Name (only you see it)">
              {(attributes) => (
                <Input
                  {...attributes}
                  value={draft.name}
                  onChange={(event) => setDraft({ ...draft, name: event.target.value })}
                />
              )}
            </Field>
            <Field label="Segment">
              {(attributes) => (
                <Choice
                  {...attributes}
                  value={draft.segmentId ?? ''}
                  onChange={(picked) => setDraft({ ...draft, segmentId: number(picked) })}
                  options={[
                    { value: '', label: 'Choose who gets it' },
                    ...(segments.data?.items.map((segment) => ({
                      value: segment.id,
                      label: `${segment.name} (${segment.count})`,
                    })) ?? []),
                  ]}
                />
              )}
            </Field>
            <Field label="Subject" hint="Fields work here too: {first|friend}">
              {(attributes) => (
                <Input
                  {...attributes}
                  value={draft.subject}
                  onChange={(event) => setDraft({ ...draft, subject: event.target.value })}
                />
              )}
            </Field>
            <Field label="Appeal">
              {(attributes) => (
                <Choice
                  {...attributes}
                  value={draft.appealId ?? ''}
                  onChange={(picked) => setDraft({ ...draft, appealId: number(picked) })}
                  options={[
                    { value: '', label: 'None' },
                    ...appeals
                      .filter((appeal) => !appeal.closed)
                      .map((appeal) => ({ value: appeal.id, label: appeal.name })),
                  ]}
                />
              )}
            </Field>
          </div>
          <Suspense fallback={<p className="text-faded">Opening the editor …</p>}>
            <LetterEditor
              label="Text of the e-mail"
              value={draft.body}
              onChange={(body) => setDraft((old) => ({ ...old, body }))}
              readOnly={!mayWrite}
            />
          </Suspense>
        </div>
        <div className="space-y-4">
          <MailingPreview subject={draft.subject} body={draft.body} segmentId={draft.segmentId} />
          {mailing && mailing.segmentId !== null && <SendPanel mailing={mailing} unsaved={changed} />}
        </div>
      </div>
    </>
  );
}
