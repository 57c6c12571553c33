import { useMutation } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { parseDate } from '@tallystick/core/dates';
import { divide, parseGiftAmount } from '@tallystick/core/money';
import { makeRecurring } from '@tallystick/contract/pledges';
import { call, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { NO_CODING, CodingSelects, codingOf, unusedFund, useFirstFund } from '../ui/CodingSelects.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { ScheduleFields, scheduleOf } from './PlanFields.tsx';
import type { TypedSchedule } from './PlanFields.tsx';

const METHODS = { card: 'Card, by the till', bank: 'Bank transfer', cheque: 'Check', cash: 'Cash', other: 'Other' };

/** Records a recurring gift. Cards are taken at the till; only its token for the card comes here. */
export function RecurringDialog(props: { who?: Picked | null; onClose: () => void; onMade: (id: number) => void }) {
  const { organization, cardProcessor } = useHere();
  const { money } = useFormats();
  const { funds } = useChoices();
  const firstFund = useFirstFund();
  const [who, setWho] = useState<Picked | null>(props.who ?? null);
  const [amount, setAmount] = useState('');
  const [schedule, setSchedule] = useState<TypedSchedule>({
    start: organization.today,
    every: 'month',
    lastDay: false,
  });
  const [until, setUntil] = useState('');
  const [method, setMethod] = useState<keyof typeof METHODS>('card');
  const [card, setCard] = useState('');
  const [parts, setParts] = useState([{ ...NO_CODING, weight: '1' }]);
  const [note, setNote] = useState('');
  const [problems, setProblems] = useState<Record<string, string>>({});
  const key = useRef(crypto.randomUUID());
  const save = useMutation({
    mutationFn: async () => {
      const cents = parseGiftAmount(amount);
      const when = scheduleOf(schedule);
      const end = until === '' ? null : parseDate(until);
      const found: Record<string, string> = {};
      if (!who) found['supporterId'] = 'Choose who gives: type a name and press Enter.';
      if (!cents.ok) found['cents'] = cents.reason;
      if (!when) found['schedule.start'] = 'Write the first day as 2026-12-01.';
      if (end && !end.ok) found['until'] = end.reason;
      if (parts.some((part) => !/^[1-9]\d{0,3}$/.test(part.weight)))
        found['parts'] = 'Shares are whole numbers from 1.';
      setProblems(found);
      if (!who || !cents.ok || !when || Object.keys(found).length > 0) return null;
      return call(makeRecurring, {
        key: key.current,
        body: {
          supporterId: who.id,
          cents: cents.cents,
          schedule: when,
          until: end?.ok ? end.date : null,
          method,
          card: method === 'card' ? card : '',
          cardLabel: method === 'card' && card !== '' ? `Card ${card.slice(-4)}` : '',
          parts: parts.map((part) => ({ ...codingOf({ ...part, fundId: fundOf(part) }), weight: Number(part.weight) })),
          note,
        },
      });
    },
    onSuccess: (made) => {
      if (!made) return;
      toast.success(`${made.number} recorded; it is a gift each time money comes`);
      props.onMade(made.id);
    },
    onError: (error) =>
      setProblems({ form: (error as Error).message, ...(error instanceof Refused ? error.fields : {}) }),
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    save.mutate();
  };
  const fundOf = (part: (typeof parts)[number]): string => part.fundId || firstFund;
  const nameOf = (part: (typeof parts)[number]): string =>
    funds.find((fund) => String(fund.id) === fundOf(part))?.name ?? '';
  const each = parseGiftAmount(amount);
  const weights = parts.map((part) => Number(part.weight));
  const amounts = each.ok && weights.every((weight) => weight > 0) ? divide(each.cents, weights) : null;
  const put = (place: number, part: Partial<(typeof parts)[number]>): void =>
    setParts((old) => old.map((one, index) => (index === place ? { ...one, ...part } : one)));
  return (
    <Dialog open onClose={props.onClose} title="Record a recurring gift" medium>
      <form onSubmit={submit} className="space-y-2.5" noValidate>
        <div className="grid grid-cols-[1fr_9rem] gap-3">
          <Field label="From" error={problems['supporterId']}>
            {(attributes) => <SupporterPicker {...attributes} value={who} onPick={setWho} autoFocus={who === null} />}
          </Field>
          <Field label="Each time" error={problems['cents']}>
            {(attributes) => (
              <Input
                {...attributes}
                className="text-right font-serif text-lg"
                placeholder="0.00"
                value={amount}
                onChange={(event) => setAmount(event.target.value)}
              />
            )}
          </Field>
        </div>
        <div className="grid grid-cols-4 gap-3">
          <ScheduleFields
            value={schedule}
            onChange={(part) => setSchedule((old) => ({ ...old, ...part }))}
            error={problems['schedule.start']}
          />
          <Field label="Until" error={problems['until']}>
            {(attributes) => <DateField {...attributes} placeholder="open-ended" value={until} onChange={setUntil} />}
          </Field>
        </div>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Paid by">
            {(attributes) => (
              <Choice
                {...attributes}
                value={method}
                onChange={(picked) => setMethod(picked as keyof typeof METHODS)}
                options={Object.entries(METHODS).map(([name, word]) => ({ value: name, label: word }))}
              />
            )}
          </Field>
          {method === 'card' && (
            <Field
              label="Card token of the till"
              error={problems['card']}
              hint={
                cardProcessor ? (
                  <>
                    Taken{' '}
                    <a className="text-slate underline" href={cardProcessor} target="_blank" rel="noreferrer">
                      at the till
                    </a>
                    ; card numbers never come here.
                  </>
                ) : (
                  'Card numbers never come here.'
                )
              }
            >
              {(attributes) => (
                <Input
                  {...attributes}
                  placeholder="good-1234"
                  value={card}
                  onChange={(event) => setCard(event.target.value)}
                />
              )}
            </Field>
          )}
        </div>
        {parts.length > 1 && (
          <p className="text-[13px] text-faded">
            By these shares, of each payment:{' '}
            {parts.map((part, place) => `${amounts ? money(amounts[place] ?? 0) : '?'} to ${nameOf(part)}`).join(', ')}.
          </p>
        )}
        {parts.map((part, place) => (
          <div
            key={place}
            className={`grid gap-2 ${parts.length > 1 ? 'grid-cols-[5rem_1fr_1fr_1fr_1.75rem]' : 'grid-cols-3'}`}
          >
            {parts.length > 1 && (
              <Input
                aria-label={`Share, part ${place + 1}`}
                className="text-right"
                value={part.weight}
                onChange={(event) => put(place, { weight: event.target.value })}
              />
            )}
            <CodingSelects
              value={{ ...part, fundId: fundOf(part) }}
              onChange={(places) => put(place, places)}
              errors={problems}
              {...(parts.length > 1 ? { bare: `part ${place + 1}` } : {})}
            />
            {parts.length > 1 && (
              <IconButton
                label={`Remove part ${place + 1}`}
                onClick={() => setParts((old) => old.filter((_, index) => index !== place))}
              >
                <X size={14} />
              </IconButton>
            )}
          </div>
        ))}
        <Button
          look="quiet"
          className="h-7 px-2"
          onClick={() =>
            setParts((old) => [...old, { ...NO_CODING, fundId: unusedFund(funds, old.map(fundOf)), weight: '1' }])
          }
        >
          Share it with another fund
        </Button>
        {problems['parts'] && <p className="text-[13px] text-madder">▲ {problems['parts']}</p>}
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
          <Button look="main" type="submit" disabled={save.isPending}>
            Record recurring gift
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
