import { useMutation, useQuery } from '@tanstack/react-query';
import { useRef, useState, useSyncExternalStore } from 'react';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { parseDate } from '@tallystick/core/dates';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { parseGiftAmount } from '@tallystick/core/money';
import { listFields } from '@tallystick/contract/fields';
import { recordGift } from '@tallystick/contract/gifts';
import { call, queries, Refused } from '../ui/api.ts';
import { Button, Field, Input, Select } from '../ui/controls.tsx';
import { FieldInput } from '../ui/FieldInput.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';

let asked: { who: Picked | null } | null = null;
const listeners = new Set<() => void>();
const show = (next: typeof asked): void => {
  asked = next;
  for (const listener of listeners) listener();
};

/** Opens the form for one gift, for a supporter or to find one in it. */
export const openGiftDialog = (who: Picked | null): void => show({ who });

/** The one place where the gift form appears; it is part of the frame of every page. */
export function GiftDialogHost() {
  const open = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => asked,
  );
  return (
    <Dialog open={open !== null} onClose={() => show(null)} title="Record a gift">
      {open && <GiftForm who={open.who} onClose={() => show(null)} />}
    </Dialog>
  );
}

interface Typed {
  amount: string;
  date: string;
  fundId: string;
  campaignId: string;
  appealId: string;
  method: PaymentMethod;
  cheque: string;
  note: string;
}

/** What the last gift went to is offered for the next one. */
const lastChoice: Partial<Typed> = {};

function GiftForm({ who, onClose }: { who: Picked | null; onClose: () => void }) {
  const { organization } = useHere();
  const { money } = useFormats();
  const choices = useChoices();
  const open = <T extends { closed: boolean }>(list: readonly T[]): T[] => list.filter((one) => !one.closed);
  const [supporter, setSupporter] = useState(who);
  const [typed, setTyped] = useState<Typed>({
    amount: '',
    date: organization.today,
    fundId: '',
    campaignId: '',
    appealId: '',
    method: 'cheque',
    cheque: '',
    note: '',
    ...lastChoice,
  });
  const [own, setOwn] = useState<Record<string, string>>({});
  const fields = useQuery({ queryKey: ['fields'], queryFn: ({ signal }) => call(listFields, { signal }) });
  const [problems, setProblems] = useState<Record<string, string>>({});
  const key = useRef(crypto.randomUUID());
  const set = (name: keyof Typed) => (event: { target: { value: string } }) =>
    setTyped((old) => ({ ...old, [name]: event.target.value }));
  const fundId =
    typed.fundId ||
    String(open(choices.funds).find((fund) => fund.code === 'GEN')?.id ?? open(choices.funds)[0]?.id ?? '');

  const save = useMutation({
    mutationFn: async (another: boolean) => {
      const amount = parseGiftAmount(typed.amount);
      const date = parseDate(typed.date);
      const found: Record<string, string> = {};
      if (!supporter) found['supporterId'] = 'Choose who gave: type a name and press Enter.';
      if (!amount.ok) found['cents'] = amount.reason;
      if (!date.ok) found['date'] = date.reason;
      setProblems(found);
      if (!supporter || !amount.ok || !date.ok) return null;
      const number = (text: string): number | null => (text === '' ? null : Number(text));
      const made = await call(recordGift, {
        key: key.current,
        body: {
          supporterId: supporter.id,
          cents: amount.cents,
          date: date.date,
          fundId: Number(fundId),
          campaignId: number(typed.campaignId),
          appealId: number(typed.appealId),
          method: typed.method,
          cheque: typed.method === 'cheque' ? typed.cheque : '',
          note: typed.note,
          fields: own,
        },
      });
      return { ...made, cents: amount.cents, name: supporter.name, another };
    },
    onSuccess: (made) => {
      if (!made) return;
      toast.success(`${made.number}: ${money(made.cents)} from ${made.name}`);
      Object.assign(lastChoice, {
        fundId,
        campaignId: typed.campaignId,
        appealId: typed.appealId,
        method: typed.method,
        date: typed.date,
      });
      void queries.invalidateQueries();
      if (made.another) openGiftDialog(null);
      else onClose();
      key.current = crypto.randomUUID();
      setTyped((old) => ({ ...old, amount: '', cheque: '', note: '' }));
      setOwn({});
      setSupporter(null);
    },
    onError: (error) =>
      setProblems(
        error instanceof Refused && Object.keys(error.fields).length > 0 ? error.fields : { form: error.message },
      ),
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    save.mutate(false);
  };
  const choose = (
    name: 'fundId' | 'campaignId' | 'appealId',
    label: string,
    list: readonly { id: number; name: string }[],
    none: string | null,
  ) => (
    <Field label={label} error={problems[name]}>
      {(attributes) => (
        <Select {...attributes} value={name === 'fundId' ? fundId : typed[name]} onChange={set(name)}>
          {none !== null && <option value="">{none}</option>}
          {list.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
  const appeals = open(choices.appeals).filter(
    (appeal) => typed.campaignId === '' || appeal.campaignId === Number(typed.campaignId),
  );
  return (
    <form onSubmit={submit} className="space-y-2.5" noValidate>
      <Field label="From" error={problems['supporterId']}>
        {(attributes) => (
          <SupporterPicker {...attributes} value={supporter} onPick={setSupporter} autoFocus={supporter === null} />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Amount" error={problems['cents']}>
          {(attributes) => (
            <Input
              {...attributes}
              inputMode="decimal"
              autoFocus={supporter !== null}
              className="text-right font-serif text-lg"
              placeholder="0.00"
              value={typed.amount}
              onChange={set('amount')}
            />
          )}
        </Field>
        <Field label="Date" error={problems['date']}>
          {(attributes) => (
            <Input {...attributes} value={typed.date} onChange={set('date')} placeholder="2026-03-14 or 3/14/2026" />
          )}
        </Field>
        {choose('fundId', 'Fund', open(choices.funds), null)}
        <Field label="Payment method">
          {(attributes) => (
            <Select {...attributes} value={typed.method} onChange={set('method')}>
              {Object.entries(PAYMENT_METHODS).map(([code, name]) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        {choose('campaignId', 'Campaign', open(choices.campaigns), 'None')}
        {choose('appealId', 'Appeal', appeals, 'None')}
        {typed.method === 'cheque' && (
          <Field label="Check number">
            {(attributes) => <Input {...attributes} value={typed.cheque} onChange={set('cheque')} />}
          </Field>
        )}
        <Field label="Note" className={typed.method === 'cheque' ? '' : 'col-span-2'}>
          {(attributes) => <Input {...attributes} value={typed.note} onChange={set('note')} />}
        </Field>
      </div>
      <div className="grid grid-cols-2 gap-3">
        {fields.data?.items
          .filter((field) => field.about === 'gift')
          .map((field) => (
            <Field key={field.id} label={field.name} error={problems[`fields.${field.id}`]}>
              {({ id, 'aria-invalid': invalid }) => (
                <FieldInput
                  id={id}
                  invalid={invalid}
                  field={field}
                  value={own[field.id] ?? ''}
                  onChange={(value) => setOwn((old) => ({ ...old, [field.id]: value }))}
                />
              )}
            </Field>
          ))}
      </div>
      {problems['form'] && (
        <p role="alert" className="text-madder">
          ▲ {problems['form']}
        </p>
      )}
      <div className="flex items-center justify-end gap-2 border-t border-rule pt-3">
        <Button onClick={onClose}>Cancel</Button>
        <Button disabled={save.isPending} onClick={() => save.mutate(true)}>
          Record, then another
        </Button>
        <Button look="main" type="submit" disabled={save.isPending}>
          Record gift
        </Button>
      </div>
    </form>
  );
}
