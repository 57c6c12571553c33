import { useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import { X } from 'lucide-react';
import { parseDate } from '@tallystick/core/dates';
import { parseAmount, parseGiftAmount } from '@tallystick/core/money';
import { PLEDGE_KINDS } from '@tallystick/core/pledges';
import type { PledgeKind } from '@tallystick/core/pledges';
import { makePledge } from '@tallystick/contract/pledges';
import { call, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { NO_CODING, CodingSelects, codingOf, useFirstFund } from '../ui/CodingSelects.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import { freshPlan, PlanFields, planOf } from './PlanFields.tsx';

/** Records a pledge, a grant or an expected match. */
export function PledgeDialog(props: { who?: Picked | null; onClose: () => void; onMade: (id: number) => void }) {
  const { organization } = useHere();
  const { today } = organization;
  const firstFund = useFirstFund();
  const [who, setWho] = useState<Picked | null>(props.who ?? null);
  const [kind, setKind] = useState<PledgeKind>('pledge');
  const [stage, setStage] = useState<'promised' | 'asked'>('promised');
  const [amount, setAmount] = useState('');
  const [asked, setAsked] = useState('');
  const [pledgedOn, setPledgedOn] = useState(today);
  const [places, setPlaces] = useState(NO_CODING);
  const [plan, setPlan] = useState(() => freshPlan(today));
  const [reports, setReports] = useState<{ due: string; title: string }[]>([]);
  const [note, setNote] = useState('');
  const [problems, setProblems] = useState<Record<string, string>>({});
  const key = useRef(crypto.randomUUID());
  const cents = parseGiftAmount(amount);
  const given = places.fundId === '' ? { ...places, fundId: firstFund } : places;
  const oddDay = useOddDay(() => save.mutate());
  const save = useMutation({
    mutationFn: async () => {
      const found: Record<string, string> = {};
      const day = parseDate(pledgedOn);
      const made = cents.ok ? planOf(plan, cents.cents) : null;
      const askedFor = asked.trim() === '' ? null : parseAmount(asked);
      if (!who) found['supporterId'] = 'Choose who promises: type a name and press Enter.';
      if (!cents.ok) found['cents'] = cents.reason;
      if (!day.ok) found['pledgedOn'] = day.reason;
      if (cents.ok && !made) found['plan'] = 'Say how it is to be paid.';
      if (askedFor && !askedFor.ok) found['askedCents'] = askedFor.reason;
      const odd = day.ok && Object.keys(found).length === 0 ? oddDay.ask(day.date) : null;
      if (odd !== null) found['pledgedOn'] = odd;
      setProblems(found);
      if (!who || !cents.ok || !day.ok || !made || Object.keys(found).length > 0) return null;
      const grant = kind === 'grant';
      return call(makePledge, {
        key: key.current,
        body: {
          supporterId: who.id,
          kind,
          stage: grant ? stage : 'promised',
          cents: cents.cents,
          pledgedOn: day.date,
          ...codingOf(given),
          plan: made as never,
          note,
          appliedOn: grant && stage === 'asked' ? day.date : null,
          askedCents: askedFor?.ok ? askedFor.cents : null,
          reports: grant ? reports.filter((report) => report.title !== '') : [],
        },
      });
    },
    onSuccess: (made) => {
      if (!made) return;
      toast.success(`${made.number} recorded`);
      props.onMade(made.id);
    },
    onError: (error) =>
      setProblems({ form: (error as Error).message, ...(error instanceof Refused ? error.fields : {}) }),
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <Dialog open onClose={props.onClose} title="Record a promise" medium>
      <form onSubmit={submit} className="space-y-2.5" noValidate>
        <div className="grid grid-cols-[9rem_1fr_8rem_9rem] gap-3">
          <Field label="Kind">
            {(attributes) => (
              <Choice
                {...attributes}
                value={kind}
                onChange={(picked) => setKind(picked as PledgeKind)}
                options={Object.entries(PLEDGE_KINDS).map(([name, word]) => ({ value: name, label: word }))}
              />
            )}
          </Field>
          <Field
            label={kind === 'match' ? 'Employer' : kind === 'grant' ? 'Funder' : 'By'}
            error={problems['supporterId']}
          >
            {(attributes) => <SupporterPicker {...attributes} value={who} onPick={setWho} autoFocus={who === null} />}
          </Field>
          <Field label="Amount" error={problems['cents']}>
            {(attributes) => (
              <Input
                {...attributes}
                className="text-right font-serif text-lg"
                placeholder="0.00"
                autoFocus={who !== null}
                value={amount}
                onChange={(event) => setAmount(event.target.value)}
              />
            )}
          </Field>
          <Field
            label={kind === 'grant' && stage === 'asked' ? 'Applied on' : 'Promised on'}
            error={problems['pledgedOn']}
          >
            {(attributes) => <DateField {...attributes} value={pledgedOn} onChange={setPledgedOn} />}
          </Field>
        </div>
        {kind === 'grant' && (
          <div className="grid grid-cols-[9rem_9rem_1fr] items-start gap-3">
            <Field label="It is">
              {(attributes) => (
                <Choice
                  {...attributes}
                  value={stage}
                  onChange={(picked) => setStage(picked as 'promised' | 'asked')}
                  options={[
                    { value: 'promised', label: 'awarded' },
                    { value: 'asked', label: 'applied for' },
                  ]}
                />
              )}
            </Field>
            <Field label="Asked for" error={problems['askedCents']}>
              {(attributes) => (
                <Input
                  {...attributes}
                  className="text-right"
                  value={asked}
                  onChange={(event) => setAsked(event.target.value)}
                />
              )}
            </Field>
            <div>
              <span className="mb-0.5 block text-[13px] text-faded">Reports due</span>
              {reports.map((report, place) => (
                <div key={place} className="mb-1 flex gap-2">
                  <DateField
                    className="w-36"
                    aria-label={`Report ${place + 1} due`}
                    value={report.due}
                    onChange={(day) =>
                      setReports((old) => old.map((one, index) => (index === place ? { ...one, due: day } : one)))
                    }
                  />
                  <Input
                    aria-label={`Report ${place + 1}`}
                    value={report.title}
                    onChange={(event) =>
                      setReports((old) =>
                        old.map((one, index) => (index === place ? { ...one, title: event.target.value } : one)),
                      )
                    }
                  />
                  <IconButton
                    label={`Remove report ${place + 1}`}
                    onClick={() => setReports((old) => old.filter((_, index) => index !== place))}
                  >
                    <X size={14} />
                  </IconButton>
                </div>
              ))}
              <Button
                look="quiet"
                className="h-7 px-2"
                onClick={() => setReports((old) => [...old, { due: today, title: 'Report on the grant' }])}
              >
                Add a report
              </Button>
            </div>
          </div>
        )}
        <div className="grid grid-cols-3 gap-3">
          <CodingSelects value={given} onChange={setPlaces} errors={problems} />
        </div>
        <PlanFields
          value={plan}
          onChange={(part) => setPlan((old) => ({ ...old, ...part }))}
          cents={cents.ok ? cents.cents : null}
        />
        {problems['plan'] && <p className="text-[13px] text-madder">▲ {problems['plan']}</p>}
        <Field label="Note">
          {(attributes) => <Input {...attributes} value={note} onChange={(event) => setNote(event.target.value)} />}
        </Field>
        {problems['form'] && (
          <p role="alert" className="text-madder">
            ▲ {problems['form']}
          </p>
        )}
        <DialogActions>
          <Button onClick={props.onClose}>Cancel</Button>
          {oddDay.answer}
          <Button look="main" type="submit" disabled={save.isPending}>
            Record {PLEDGE_KINDS[kind].toLowerCase()}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
