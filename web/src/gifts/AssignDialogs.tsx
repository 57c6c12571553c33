import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { listBatches } from '@tallystick/contract/deposits';
import { giftHints, moveToBatch, noteGift, putToPledge } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { ask, call, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { freshGift } from './draft.ts';
import { PledgeSection } from './GiftSections.tsx';

/** Has a gift that is recorded already pay a pledge: one of the donor's own, or another's by its number. */
export function PutToPledge({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const { money } = useFormats();
  const { organization } = useHere();
  const free = gift.cents - gift.pays.reduce((sum, paid) => sum + paid.cents, 0);
  const hints = useQuery(ask(giftHints, { query: { supporterId: gift.supporterId } }));
  const [chosen, setChosen] = useState(() => freshGift(organization.today));
  const [other, setOther] = useState('');
  const [problem, setProblem] = useState<{ code: string; words: string } | null>(null);
  const [only, another] = hints.data?.pledges ?? [];
  const typed = chosen.pledgeId === '' && only && !another ? { ...chosen, pledgeId: String(only.id) } : chosen;
  const named = /^\s*(?:P-)?(\d{1,12})\s*$/i.exec(other)?.[1];
  const pledgeId = Number(other.trim() === '' ? typed.pledgeId : (named ?? 0));
  const save = useMutation({
    mutationFn: (answered: { over?: 'beyond' | 'raise'; byOther?: true }) =>
      call(putToPledge, {
        params: { id: gift.id },
        body: { pledgeId, installments: other.trim() === '' ? typed.installments : [], ...answered },
      }),
    onSuccess: (made) => {
      toast.success(`${money(made.cents)} of ${gift.number} pays P-${pledgeId}`);
      onClose();
    },
    onError: (error) =>
      setProblem({ code: error instanceof Refused ? error.code : '', words: (error as Error).message }),
  });
  const [answers, setAnswers] = useState<{ over?: 'beyond' | 'raise'; byOther?: true }>({});
  const go = (answer: typeof answers = {}): void => {
    const all = { ...answers, ...answer };
    setAnswers(all);
    setProblem(null);
    save.mutate(all);
  };
  const change = (): void => {
    setProblem(null);
    setAnswers({});
  };
  return (
    <Dialog open onClose={onClose} title={`Put ${gift.number} to a pledge`} medium>
      <p className="mb-2 text-faded">
        {free === gift.cents ? `All of it, ${money(free)},` : `What pays no pledge yet, ${money(free)},`} goes to the
        oldest open installments unless others are chosen.
      </p>
      {hints.data && hints.data.pledges.length === 0 && (
        <p className="mb-2">{gift.supporterName} has no open pledge.</p>
      )}
      {hints.data && hints.data.pledges.length > 0 && (
        <PledgeSection
          typed={typed}
          change={(part) => {
            change();
            setChosen({ ...typed, ...part });
          }}
          problems={{}}
          hints={hints.data}
        />
      )}
      <Field label="Or another’s pledge, by its number" className="mt-3 max-w-56">
        {(attributes) => (
          <Input
            {...attributes}
            placeholder="P-312"
            value={other}
            onChange={(event) => {
              change();
              setOther(event.target.value);
            }}
          />
        )}
      </Field>
      {problem && (
        <p role="alert" className="mt-2 text-madder">
          ▲ {problem.words}
        </p>
      )}
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        {problem?.code === 'overpayment' && (
          <>
            <Button onClick={() => go({ over: 'beyond' })}>Leave the rest as a gift</Button>
            <Button onClick={() => go({ over: 'raise' })}>Raise the pledge</Button>
          </>
        )}
        {problem?.code === 'other-payer' && <Button onClick={() => go({ byOther: true })}>It pays that</Button>}
        {(problem === null || !['overpayment', 'other-payer'].includes(problem.code)) && (
          <Button look="main" disabled={save.isPending || !(pledgeId > 0)} onClick={() => go()}>
            Put to the pledge
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

const NEW = 'new';

/** Moves a gift to another batch that waits, or to a new one. */
export function MoveToBatch({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const { money, date } = useFormats();
  const batches = useQuery(ask(listBatches, { query: { limit: 1000 } }));
  const [to, setTo] = useState('');
  const [name, setName] = useState('');
  const others = (batches.data?.items ?? []).filter((batch) => batch.id !== gift.batchId);
  const chosen = others.find((batch) => String(batch.id) === to);
  const save = useWrite(
    () =>
      call(moveToBatch, {
        params: { id: gift.id },
        body: { version: gift.version, batchId: to === NEW ? null : Number(to), name },
      }),
    { say: (made) => `${gift.number} is in B-${made.batchId}`, then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={`Move ${gift.number} to another batch`}>
      <Field label="Batch">
        {(attributes) => (
          <Choice
            {...attributes}
            value={to}
            onChange={setTo}
            options={[
              { value: '', label: 'Choose …' },
              { value: NEW, label: 'A new batch' },
              ...others.map((batch) => ({
                value: batch.id,
                label: `${batch.number} ${batch.name}, opened ${date(batch.openedOn)}, ${money(batch.cents)}`,
              })),
            ]}
          />
        )}
      </Field>
      {to === NEW && (
        <Field label="Its name" className="mt-3">
          {(attributes) => <Input {...attributes} value={name} onChange={(event) => setName(event.target.value)} />}
        </Field>
      )}
      {chosen?.state === 'balanced' && (
        <p className="mt-2 text-faded">{chosen.number} is balanced; it will have to be balanced again.</p>
      )}
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={to === '' || save.isPending} onClick={() => save.mutate(undefined)}>
          Move
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The note on a gift of which nothing is left; one that is kept has it in its form. */
export function ChangeNote({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const [note, setNote] = useState(gift.note);
  const save = useWrite(() => call(noteGift, { params: { id: gift.id }, body: { version: gift.version, note } }), {
    say: () => `${gift.number} noted`,
    then: onClose,
  });
  return (
    <Dialog open onClose={onClose} title={`Note on ${gift.number}`}>
      <Field label="Note">
        {(attributes) => (
          <Input {...attributes} autoFocus value={note} onChange={(event) => setNote(event.target.value)} />
        )}
      </Field>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={save.isPending} onClick={() => save.mutate(undefined)}>
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}
