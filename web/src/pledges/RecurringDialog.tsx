import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { parseDate } from '@tallystick/core/dates';
import { divide, parseGiftAmount } from '@tallystick/core/money';
import { makeRecurring } from '@tallystick/contract/pledges';
import { call } from '../ui/api.ts';
import { optionsOf } from '../ui/choice/index.tsx';
import { NO_CODING, CodingSelects, codingOf, unusedFund, useFirstFund } from '../ui/CodingSelects.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import {
  AmountField,
  ChoiceField,
  DayField,
  EntryDialog,
  Fault,
  oneOf,
  orNone,
  picked,
  readInto,
  TextField,
  typedDay,
  typedGiftAmount,
  useEntry,
  useFundFirst,
  WhoField,
} from '../ui/form/index.ts';
import { useFormats, useHere } from '../ui/organization.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { scheduleOf } from './plan.ts';
import type { TypedSchedule } from './plan.ts';
import { ScheduleFields } from './PlanFields.tsx';

const METHODS = { card: 'Card, by the till', bank: 'Bank transfer', cheque: 'Check', cash: 'Cash', other: 'Other' };
type Method = keyof typeof METHODS;

const schema = readInto(
  z
    .object({
      supporterId: picked('Choose who gives: type a name and press Enter.'),
      cents: typedGiftAmount,
      schedule: z.custom<TypedSchedule>(),
      until: orNone(typedDay, null),
      method: oneOf<Method>(),
      card: z.string(),
      parts: z.array(
        z.object({ fundId: z.string(), campaignId: z.string(), appealId: z.string(), weight: z.string() }),
      ),
      note: z.string(),
    })
    .transform(({ schedule, card, parts, ...gift }, context) => {
      const when = scheduleOf(schedule);
      const first = parseDate(schedule.start);
      if (!first.ok) context.addIssue({ code: 'custom', path: ['schedule', 'start'], message: first.reason });
      if (parts.some((part) => !/^[1-9]\d{0,3}$/.test(part.weight)))
        context.addIssue({ code: 'custom', path: ['parts'], message: 'Shares are whole numbers from 1.' });
      const byCard = gift.method === 'card' && card !== '';
      return {
        ...gift,
        schedule: when as never,
        card: byCard ? card : '',
        cardLabel: byCard ? `Card ${card.slice(-4)}` : '',
        parts: parts.map((part) => ({ ...codingOf(part), weight: Number(part.weight) })),
      };
    }),
  makeRecurring.body,
);

/** Records a recurring gift. Cards are taken at the till; only its token for the card comes here. */
export function RecurringDialog(props: { who?: Picked | null; onClose: () => void; onMade: (id: number) => void }) {
  const { who = null, onClose } = props;
  const { organization, cardProcessor } = useHere();
  const { money } = useFormats();
  const { funds } = useChoices();
  const firstFund = useFirstFund();
  const key = useRef(crypto.randomUUID());
  const [initial] = useState(() => ({
    ...{ supporterId: who, cents: '', until: '', method: 'card' as Method, card: '', note: '' },
    schedule: { start: organization.today, every: 'month', lastDay: false } as TypedSchedule,
    parts: [{ ...NO_CODING, fundId: firstFund, weight: '1' }],
  }));
  const entry = useEntry({
    schema,
    initial,
    keep: `recurring ${who?.id ?? ''}`,
    send: (body) => call(makeRecurring, { key: key.current, body }),
    say: (made) => `${made.number} recorded; it is a gift each time money comes`,
    then: (made) => props.onMade(made.id),
  });
  const { schedule, method } = entry.typed;
  const { parts } = entry.typed;
  useFundFirst(entry, 'parts.0.fundId');
  const nameOf = (fundId: string): string => funds.find((fund) => String(fund.id) === fundId)?.name ?? '';
  const each = parseGiftAmount(entry.typed.cents);
  const weights = parts.map((part) => Number(part.weight));
  const amounts = each.ok && weights.every((weight) => weight > 0) ? divide(each.cents, weights) : null;
  const put = (place: number, part: Partial<(typeof parts)[number]>): void =>
    entry.put({ parts: parts.map((one, index) => (index === place ? { ...one, ...part } : one)) });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title="Record a recurring gift"
      size="medium"
      word="Record recurring gift"
    >
      <div className="grid grid-cols-[1fr_9rem] gap-3">
        <WhoField entry={entry} name="supporterId" label="From" autoFocus={who === null} />
        <AmountField entry={entry} name="cents" label="Each time" main autoFocus={who !== null} />
      </div>
      <div className="grid grid-cols-4 gap-3">
        <ScheduleFields
          value={schedule}
          onChange={(part) => entry.put({ schedule: { ...schedule, ...part } })}
          fault={entry.fault('schedule.start')}
        />
        <DayField entry={entry} name="until" label="Until" placeholder="open-ended" />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <ChoiceField entry={entry} name="method" label="Paid by" options={optionsOf(METHODS)} />
        {method === 'card' && (
          <TextField
            entry={entry}
            name="card"
            label="Card token of the till"
            placeholder="good-1234"
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
          />
        )}
      </div>
      {parts.length > 1 && (
        <p className="text-[13px] text-faded">
          By these shares, of each payment:{' '}
          {parts
            .map((part, place) => `${amounts ? money(amounts[place] ?? 0) : '?'} to ${nameOf(part.fundId)}`)
            .join(', ')}
          .
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
            value={part}
            onChange={(places) => put(place, places)}
            {...(parts.length > 1 ? { bare: `part ${place + 1}` } : {})}
          />
          {parts.length > 1 && (
            <IconButton
              label={`Remove part ${place + 1}`}
              onClick={() => entry.put({ parts: parts.filter((_, index) => index !== place) })}
            >
              <X size={14} />
            </IconButton>
          )}
        </div>
      ))}
      <Button
        look="quiet"
        className="h-7 px-2"
        onClick={() => {
          const fundId = unusedFund(
            funds,
            parts.map((part) => part.fundId),
          );
          entry.put({ parts: [...parts, { ...NO_CODING, fundId, weight: '1' }] });
        }}
      >
        Share it with another fund
      </Button>
      <Fault name="parts">{entry.fault('parts')}</Fault>
      <TextField entry={entry} name="note" label="Note" />
    </EntryDialog>
  );
}
