import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { listBatches } from '@tallystick/contract/deposits';
import { giftHints, moveToBatch, noteGift, putToPledge } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { ask, call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { ChoiceField, EntryDialog, readInto, said, TextField, useEntry } from '../ui/form/index.ts';
import { useFormats, useHere } from '../ui/organization.tsx';
import { freshGift } from './draft.ts';
import type { TypedGift } from './draft.ts';
import { PledgeSection } from './GiftSections.tsx';

/** What was answered to a question about the payment. */
interface Answers {
  over?: 'beyond' | 'raise';
  byOther?: true;
}

/** Has a gift that is recorded already pay a pledge: one of the donor's own, or another's by its number. */
export function PutToPledge({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const { money } = useFormats();
  const { today } = useHere().organization;
  const free = gift.cents - gift.pays.reduce((sum, paid) => sum + paid.cents, 0);
  const hints = useQuery(ask(giftHints, { query: { supporterId: gift.supporterId } }));
  const [only, another] = hints.data?.pledges ?? [];
  const sole = only && !another ? String(only.id) : '';
  const [answers, setAnswers] = useState<Answers>({});
  const [question, setQuestion] = useState('');
  const entry = useEntry({
    schema: z.object({ chosen: z.custom<TypedGift>(), other: z.string() }).transform(({ chosen, other }, context) => {
      const own = other.trim() === '';
      const pledgeId = Number(own ? chosen.pledgeId || sole : (/^\s*(?:P-)?(\d{1,12})\s*$/i.exec(other)?.[1] ?? 0));
      if (pledgeId > 0) return { pledgeId, installments: own ? chosen.installments : [] };
      context.addIssue({
        code: 'custom',
        path: ['other'],
        message: 'Choose a pledge, or write the number of another’s, such as P-312.',
      });
      return z.NEVER;
    }),
    initial: { chosen: freshGift(today), other: '' },
    send: async (body, answer: Answers) => {
      const all = { ...answers, ...answer };
      setAnswers(all);
      setQuestion('');
      const made = await call(putToPledge, { params: { id: gift.id }, body: { ...body, ...all } });
      return { cents: made.cents, pledgeId: body.pledgeId };
    },
    say: ({ cents, pledgeId }) => `${money(cents)} of ${gift.number} pays P-${pledgeId}`,
    then: onClose,
    refused: (error) => {
      if (error.code !== 'overpayment' && error.code !== 'other-payer') return null;
      setQuestion(error.code);
      return error.message;
    },
  });
  const { chosen } = entry.typed;
  const forget = (): void => {
    setQuestion('');
    setAnswers({});
  };
  return (
    <EntryDialog
      entry={entry}
      how={{}}
      onClose={onClose}
      title={`Put ${gift.number} to a pledge`}
      size="medium"
      word={question === '' ? 'Put to the pledge' : null}
      answers={
        <>
          {question === 'overpayment' && (
            <>
              <Button onClick={() => entry.go({ over: 'beyond' })}>Leave the rest as a gift</Button>
              <Button onClick={() => entry.go({ over: 'raise' })}>Raise the pledge</Button>
            </>
          )}
          {question === 'other-payer' && <Button onClick={() => entry.go({ byOther: true })}>It pays that</Button>}
        </>
      }
    >
      <p className="text-faded">
        {free === gift.cents ? `All of it, ${money(free)},` : `What pays no pledge yet, ${money(free)},`} goes to the
        oldest open installments unless others are chosen.
      </p>
      {hints.data && hints.data.pledges.length === 0 && <p>{gift.supporterName} has no open pledge.</p>}
      {hints.data && hints.data.pledges.length > 0 && (
        <PledgeSection
          typed={{ ...chosen, pledgeId: chosen.pledgeId || sole }}
          change={(part) => {
            forget();
            entry.put({ chosen: { ...chosen, pledgeId: chosen.pledgeId || sole, ...part } });
          }}
          fault={() => undefined}
          hints={hints.data}
        />
      )}
      <TextField
        entry={{
          ...entry,
          put: (part) => {
            forget();
            entry.put(part);
          },
        }}
        name="other"
        label="Or another’s pledge, by its number"
        placeholder="P-312"
        className="max-w-56"
      />
    </EntryDialog>
  );
}

const NEW = 'new';

/** Moves a gift to another batch that waits, or to a new one. */
export function MoveToBatch({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const { money, date } = useFormats();
  const batches = useQuery(ask(listBatches, { query: { limit: 1000 } }));
  const others = (batches.data?.items ?? []).filter((batch) => batch.id !== gift.batchId);
  const entry = useEntry({
    schema: readInto(
      z
        .object({ to: said('Choose the batch.'), name: z.string() })
        .transform(({ to, name }) => ({ version: gift.version, batchId: to === NEW ? null : Number(to), name })),
      moveToBatch.body,
    ),
    initial: { to: '', name: '' },
    send: (body) => call(moveToBatch, { params: { id: gift.id }, body }),
    say: (made) => `${gift.number} is in B-${made.batchId}`,
    then: onClose,
  });
  const { to } = entry.typed;
  const chosen = others.find((batch) => String(batch.id) === to);
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Move ${gift.number} to another batch`} word="Move">
      <ChoiceField
        entry={entry}
        name="to"
        label="Batch"
        options={[
          { value: '', label: 'Choose …' },
          { value: NEW, label: 'A new batch' },
          ...others.map((batch) => ({
            value: batch.id,
            label: `${batch.number} ${batch.name}, opened ${date(batch.openedOn)}, ${money(batch.cents)}`,
          })),
        ]}
      />
      {to === NEW && <TextField entry={entry} name="name" label="Its name" />}
      {chosen?.state === 'balanced' && (
        <p className="text-faded">{chosen.number} is balanced; it will have to be balanced again.</p>
      )}
    </EntryDialog>
  );
}

/** The note on a gift of which nothing is left; one that is kept has it in its form. */
export function ChangeNote({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const entry = useEntry({
    schema: readInto(
      z.object({ note: z.string() }).transform(({ note }) => ({ note, version: gift.version })),
      noteGift.body,
    ),
    initial: { note: gift.note },
    send: (body) => call(noteGift, { params: { id: gift.id }, body }),
    say: () => `${gift.number} noted`,
    then: onClose,
  });
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Note on ${gift.number}`} word="Save">
      <TextField entry={entry} name="note" label="Note" autoFocus />
    </EntryDialog>
  );
}
