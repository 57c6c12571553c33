import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { parseDate } from '@tallystick/core/dates';
import { isBanked, METHOD_CODES, PAYMENT_METHODS, readParts } from '@tallystick/core/gifts';
import type { CorrectionKind, PaymentMethod } from '@tallystick/core/gifts';
import { parseAmount, parseGiftAmount, typedMoney } from '@tallystick/core/money';
import { correctGift } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { call, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { CodingSelects, codingOf, typedCoding } from '../ui/CodingSelects.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';

const KINDS: Record<CorrectionKind, { word: string; about: string }> = {
  adjust: {
    word: 'Adjust',
    about: 'The amount, date, fund, donor or what was got for it was recorded wrong. What it was is kept.',
  },
  refund: { word: 'Refund', about: 'Money goes back to the donor, all of it or a part.' },
  returned: { word: 'Check returned', about: 'The bank sent the check back unpaid; nothing of the gift is left.' },
  void: { word: 'Void', about: 'It should never have been recorded; nothing of it is left.' },
};

/** Corrects a gift that can no longer simply be changed; every past total stays as it was known. */
export function CorrectDialog({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const [kind, setKind] = useState<CorrectionKind>('adjust');
  const [who, setWho] = useState<Picked | null>({ id: gift.supporterId, name: gift.supporterName });
  const [amount, setAmount] = useState(typedMoney(gift.cents));
  const [date, setDate] = useState(gift.date);
  const [method, setMethod] = useState<PaymentMethod>(gift.method);
  const [parts, setParts] = useState(
    gift.parts.map((part) => ({ ...typedCoding(part), amount: gift.parts.length > 1 ? typedMoney(part.cents) : '' })),
  );
  const [worth, setWorth] = useState(gift.benefitCents === 0 ? '' : typedMoney(gift.benefitCents));
  const [got, setGot] = useState(gift.benefit);
  const [reason, setReason] = useState('');
  const [problems, setProblems] = useState<Record<string, string>>({});
  const oddDay = useOddDay(() => save.mutate(), gift.date);
  const save = useMutation({
    mutationFn: async () => {
      const cents = parseGiftAmount(amount);
      const day = parseDate(date);
      const benefit = worth.trim() === '' ? ({ ok: true, cents: 0 } as const) : parseAmount(worth);
      const found: Record<string, string> = {};
      if (reason.trim() === '') found['reason'] = 'Say why.';
      if (!cents.ok) found['cents'] = cents.reason;
      if (!day.ok) found['date'] = day.reason;
      if (!benefit.ok) found['benefit'] = benefit.reason;
      if (!who) found['supporterId'] = 'Choose whose gift it is.';
      const amounts = readParts(
        cents.ok ? cents.cents : 0,
        parts.map((part) => part.amount),
      );
      if (cents.ok && !amounts.ok) found['parts'] = amounts.reason;
      const needed =
        kind === 'adjust' ? found : kind === 'refund' ? pick(found, ['reason', 'cents']) : pick(found, ['reason']);
      const odd = kind === 'adjust' && day.ok && Object.keys(needed).length === 0 ? oddDay.ask(day.date) : null;
      if (odd !== null) needed['date'] = odd;
      setProblems(needed);
      if (Object.keys(needed).length > 0 || !cents.ok) return null;
      const base = { version: gift.version, reason };
      return call(correctGift, {
        params: { id: gift.id },
        body:
          kind === 'adjust'
            ? {
                ...base,
                kind,
                supporterId: who?.id ?? 0,
                cents: cents.cents,
                benefit: { cents: benefit.ok ? benefit.cents : 0, what: got },
                date: day.ok ? day.date : date,
                method,
                parts: parts.map((part, place) => ({
                  ...codingOf(part),
                  cents: amounts.ok ? (amounts.cents[place] ?? 0) : 0,
                })),
              }
            : { ...base, kind, ...(kind === 'refund' ? { cents: cents.cents } : {}) },
      });
    },
    onSuccess: (made) => {
      if (!made) return;
      const next = {
        '': '',
        void: ' Its receipt is to be voided.',
        reissue: ' Its receipt is to be voided and issued anew.',
      };
      toast.success(`${gift.number}: noted.${next[made.receiptNeeds]}`);
      onClose();
    },
    onError: (error) =>
      setProblems({ form: (error as Error).message, ...(error instanceof Refused ? error.fields : {}) }),
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <Dialog open onClose={onClose} title={`Correct ${gift.number}`} medium>
      <form onSubmit={submit} className="space-y-3" noValidate>
        <div role="radiogroup" aria-label="What happened" className="flex gap-1">
          {(Object.keys(KINDS) as CorrectionKind[])
            .filter((one) => one !== 'returned' || gift.method === 'cheque')
            .map((one) => (
              <Button
                key={one}
                role="radio"
                aria-checked={one === kind}
                look={one === kind ? 'main' : 'plain'}
                onClick={() => setKind(one)}
              >
                {KINDS[one].word}
              </Button>
            ))}
        </div>
        <p className="text-faded">{KINDS[kind].about}</p>
        {kind === 'adjust' && (
          <>
            <div className="grid grid-cols-3 gap-3">
              <Field label="From" error={problems['supporterId']} className="col-span-3">
                {({ id }) => <SupporterPicker id={id} value={who} onPick={setWho} />}
              </Field>
              <Field label="Amount" error={problems['cents']}>
                {(attributes) => (
                  <Input
                    {...attributes}
                    className="text-right"
                    value={amount}
                    onChange={(event) => setAmount(event.target.value)}
                  />
                )}
              </Field>
              <Field label="Date" error={problems['date']}>
                {(attributes) => <DateField {...attributes} value={date} onChange={setDate} />}
              </Field>
              <Field label="Payment method">
                {(attributes) => (
                  <Choice
                    {...attributes}
                    value={method}
                    onChange={(picked) => setMethod(picked as PaymentMethod)}
                    options={METHOD_CODES.filter((code) => isBanked(code) || code === gift.method).map((code) => ({
                      value: code,
                      label: PAYMENT_METHODS[code],
                    }))}
                  />
                )}
              </Field>
            </div>
            {parts.map((part, place) => (
              <div
                key={place}
                className={`grid gap-2 ${parts.length > 1 ? 'grid-cols-[6.5rem_1fr_1fr_1fr]' : 'grid-cols-3'}`}
              >
                {parts.length > 1 && (
                  <Input
                    aria-label={`Amount or share, part ${place + 1}`}
                    className="text-right"
                    placeholder="the rest"
                    value={part.amount}
                    onChange={(event) =>
                      setParts((old) =>
                        old.map((one, index) => (index === place ? { ...one, amount: event.target.value } : one)),
                      )
                    }
                  />
                )}
                <CodingSelects
                  value={part}
                  onChange={(places) =>
                    setParts((old) => old.map((one, index) => (index === place ? { ...one, ...places } : one)))
                  }
                  {...(parts.length > 1 ? { bare: `part ${place + 1}` } : {})}
                />
              </div>
            ))}
            {problems['parts'] && <p className="text-madder">▲ {problems['parts']}</p>}
            <div className="grid grid-cols-3 gap-3">
              <Field label="Goods and services, worth" error={problems['benefit']}>
                {(attributes) => (
                  <Input
                    {...attributes}
                    className="text-right"
                    placeholder="none"
                    value={worth}
                    onChange={(event) => setWorth(event.target.value)}
                  />
                )}
              </Field>
              <Field label="What they were" className="col-span-2">
                {(attributes) => <Input {...attributes} value={got} onChange={(event) => setGot(event.target.value)} />}
              </Field>
            </div>
          </>
        )}
        {kind === 'refund' && (
          <Field label="Goes back" error={problems['cents']} className="w-40">
            {(attributes) => (
              <Input
                {...attributes}
                className="text-right"
                value={amount}
                onChange={(event) => setAmount(event.target.value)}
              />
            )}
          </Field>
        )}
        <Field label="Why" error={problems['reason']}>
          {(attributes) => <Input {...attributes} value={reason} onChange={(event) => setReason(event.target.value)} />}
        </Field>
        {problems['form'] && (
          <p role="alert" className="text-madder">
            ▲ {problems['form']}
          </p>
        )}
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          {oddDay.answer}
          <Button look="main" type="submit" disabled={save.isPending}>
            {KINDS[kind].word}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

const pick = (found: Record<string, string>, names: readonly string[]): Record<string, string> =>
  Object.fromEntries(Object.entries(found).filter(([name]) => names.includes(name)));
