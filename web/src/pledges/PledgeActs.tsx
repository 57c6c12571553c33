import { useState } from 'react';
import type { ReactNode } from 'react';
import { parseDate } from '@tallystick/core/dates';
import { parseGiftAmount, typedMoney } from '@tallystick/core/money';
import { PLEDGE_KINDS, PLEDGE_STAGES } from '@tallystick/core/pledges';
import type { PledgeStage } from '@tallystick/core/pledges';
import { changePledge, reschedulePledge, stagePledge, writeOffPledge } from '@tallystick/contract/pledges';
import type { Pledge } from '@tallystick/contract/pledges';
import { call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { CodingSelects, codingOf, typedCoding } from '../ui/CodingSelects.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { freshPlan, PlanFields, planOf } from './PlanFields.tsx';

/** Changes what was promised, or how much of it; what was paid or written off stays. */
export function ChangePledge({ pledge, onClose }: { pledge: Pledge; onClose: () => void }) {
  const { money } = useFormats();
  const { organization } = useHere();
  const { paid, writtenOff, pledged } = pledge.standing;
  const [amount, setAmount] = useState(typedMoney(pledged));
  const [on, setOn] = useState(pledge.pledgedOn);
  const [coding, setCoding] = useState(() => typedCoding(pledge));
  const [note, setNote] = useState(pledge.note);
  const [anew, setAnew] = useState(false);
  const [plan, setPlan] = useState(() => freshPlan(organization.today));
  const read = parseGiftAmount(amount);
  const more = read.ok ? read.cents - pledged : 0;
  const rest = read.ok ? read.cents - paid - writtenOff : 0;
  const oddDay = useOddDay(() => save.mutate(undefined), pledge.pledgedOn);
  const save = useWrite(
    async () => {
      const day = parseDate(on);
      if (!read.ok) throw new Error(read.reason);
      if (!day.ok) throw new Error(day.reason);
      oddDay.refuse(day.date);
      const made = anew && rest > 0 ? planOf(plan, rest) : null;
      if (anew && rest > 0 && !made) throw new Error('Say how the rest is to be paid.');
      return call(changePledge, {
        params: { id: pledge.id },
        body: {
          ...{ version: pledge.version, cents: read.cents, pledgedOn: day.date, ...codingOf(coding), note },
          plan: made as never,
        },
      });
    },
    { say: () => `${pledge.number} changed`, then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={`Change ${pledge.number}`} medium>
      <div className="grid grid-cols-[1fr_1fr] gap-3">
        <Field label="Amount">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              value={amount}
              onChange={(event) => setAmount(event.target.value)}
            />
          )}
        </Field>
        <Field label="Promised on">{(attributes) => <DateField {...attributes} value={on} onChange={setOn} />}</Field>
      </div>
      <div className="mt-3 grid grid-cols-3 gap-3">
        <CodingSelects value={coding} onChange={setCoding} />
        <Field label="Note" className="col-span-3">
          {(attributes) => <Input {...attributes} value={note} onChange={(event) => setNote(event.target.value)} />}
        </Field>
      </div>
      {more !== 0 && !anew && (
        <p className="mt-2 text-faded" aria-label="What the difference does">
          {more > 0
            ? `${money(more)} more, on the last installment that is open.`
            : `${money(-more)} less, off the last installments that are open.`}
        </p>
      )}
      <div className="my-2">
        <Checkbox
          label={`Lay ${rest > 0 ? money(rest) : 'what is left'} out anew`}
          checked={anew}
          onChange={(on) => setAnew(on)}
        />
      </div>
      {anew && rest > 0 && (
        <PlanFields value={plan} onChange={(part) => setPlan((old) => ({ ...old, ...part }))} cents={rest} />
      )}
      <Buttons onClose={onClose} word="Save" busy={save.isPending} onGo={() => save.mutate(undefined)}>
        {oddDay.answer}
      </Buttons>
    </Dialog>
  );
}

export function Reschedule({ pledge, onClose }: { pledge: Pledge; onClose: () => void }) {
  const { money } = useFormats();
  const { organization } = useHere();
  const [plan, setPlan] = useState(() => freshPlan(organization.today));
  const { balance } = pledge.standing;
  const save = useWrite(
    async () => {
      const made = planOf(plan, balance);
      if (!made) throw new Error('Say how the rest is to be paid.');
      return call(reschedulePledge, {
        params: { id: pledge.id },
        body: { version: pledge.version, plan: made as never },
      });
    },
    { say: () => `${pledge.number}: the rest is laid out anew`, then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={`Reschedule ${money(balance)} of ${pledge.number}`} medium>
      <p className="mb-2 text-faded">
        What was paid or written off stays as it is; only what is open is laid out anew.
      </p>
      <PlanFields value={plan} onChange={(part) => setPlan((old) => ({ ...old, ...part }))} cents={balance} />
      <Buttons onClose={onClose} word="Reschedule" busy={save.isPending} onGo={() => save.mutate(undefined)} />
    </Dialog>
  );
}

export function WriteOff({ pledge, onClose }: { pledge: Pledge; onClose: () => void }) {
  const { money, date } = useFormats();
  const { organization } = useHere();
  const [amount, setAmount] = useState('');
  const [on, setOn] = useState(organization.today);
  const [installment, setInstallment] = useState('');
  const [reason, setReason] = useState('');
  const oddDay = useOddDay(() => save.mutate(undefined));
  const save = useWrite(
    async () => {
      const cents = amount.trim() === '' ? null : parseGiftAmount(amount);
      const day = parseDate(on);
      if (cents && !cents.ok) throw new Error(cents.reason);
      if (!day.ok) throw new Error(day.reason);
      oddDay.refuse(day.date);
      return call(writeOffPledge, {
        params: { id: pledge.id },
        body: {
          version: pledge.version,
          cents: cents?.cents ?? null,
          installmentId: installment === '' ? null : Number(installment),
          date: day.date,
          reason,
        },
      });
    },
    { say: () => `${pledge.number}: written off; Undo brings it back`, then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={`Write off ${pledge.number}`}>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Amount">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              placeholder={`all of ${money(pledge.standing.balance)}`}
              value={amount}
              onChange={(event) => setAmount(event.target.value)}
            />
          )}
        </Field>
        <Field label="On">{(attributes) => <DateField {...attributes} value={on} onChange={setOn} />}</Field>
        <Field label="Of">
          {(attributes) => (
            <Choice
              {...attributes}
              value={installment}
              onChange={setInstallment}
              options={[
                { value: '', label: 'the last installments first' },
                ...pledge.installments
                  .filter((one) => one.open > 0)
                  .map((one) => ({ value: one.id, label: `the one due ${date(one.due)}, ${money(one.open)} open` })),
              ]}
            />
          )}
        </Field>
        <Field label="Why">
          {(attributes) => <Input {...attributes} value={reason} onChange={(event) => setReason(event.target.value)} />}
        </Field>
      </div>
      <Buttons onClose={onClose} word="Write off" busy={save.isPending} onGo={() => save.mutate(undefined)}>
        {oddDay.answer}
      </Buttons>
    </Dialog>
  );
}

export function Stage({ pledge, onClose }: { pledge: Pledge; onClose: () => void }) {
  const { organization } = useHere();
  const stages: readonly PledgeStage[] = pledge.kind === 'grant' ? ['promised', 'declined'] : ['claimed', 'declined'];
  const [stage, setStage] = useState<PledgeStage>(stages[0] ?? 'promised');
  const [on, setOn] = useState(organization.today);
  const [amount, setAmount] = useState(typedMoney(pledge.standing.pledged));
  const oddDay = useOddDay(() => save.mutate(undefined));
  const save = useWrite(
    async () => {
      const cents = parseGiftAmount(amount);
      const day = parseDate(on);
      if (!cents.ok) throw new Error(cents.reason);
      if (!day.ok) throw new Error(day.reason);
      oddDay.refuse(day.date);
      const differs = stage !== 'declined' && cents.cents !== pledge.standing.pledged;
      return call(stagePledge, {
        params: { id: pledge.id },
        body: { version: pledge.version, stage, on: day.date, ...(differs ? { cents: cents.cents } : {}) },
      });
    },
    { say: () => `${pledge.number}: ${PLEDGE_STAGES[stage].toLowerCase()}`, then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={`${PLEDGE_KINDS[pledge.kind]} ${pledge.number}`}>
      <div className="grid grid-cols-3 gap-3">
        <Field label="It was">
          {(attributes) => (
            <Choice
              {...attributes}
              value={stage}
              onChange={(picked) => setStage(picked as PledgeStage)}
              options={stages.map((one) => ({
                value: one,
                label: one === 'promised' ? 'awarded' : PLEDGE_STAGES[one].toLowerCase(),
              }))}
            />
          )}
        </Field>
        <Field label="On">{(attributes) => <DateField {...attributes} value={on} onChange={setOn} />}</Field>
        <Field label="Amount">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              disabled={stage === 'declined'}
              value={amount}
              onChange={(event) => setAmount(event.target.value)}
            />
          )}
        </Field>
      </div>
      <Buttons onClose={onClose} word="Save" busy={save.isPending} onGo={() => save.mutate(undefined)}>
        {oddDay.answer}
      </Buttons>
    </Dialog>
  );
}

export function Buttons(props: {
  word: string;
  busy: boolean;
  onGo: () => void;
  onClose: () => void;
  children?: ReactNode;
}) {
  return (
    <DialogActions>
      <Button onClick={props.onClose}>Cancel</Button>
      {props.children}
      <Button look="main" disabled={props.busy} onClick={props.onGo}>
        {props.word}
      </Button>
    </DialogActions>
  );
}
