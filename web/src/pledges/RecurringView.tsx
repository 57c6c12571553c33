import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { giftNumber } from '@tallystick/core/gifts';
import { typedMoney } from '@tallystick/core/money';
import { changeRecurring, getRecurring, retryCharge, skipCharge } from '@tallystick/contract/pledges';
import type { Recurring } from '@tallystick/contract/pledges';
import type { BodyInputOf } from '@tallystick/contract/endpoint';
import { Giving } from '../gifts/index.ts';
import { ask, call } from '../ui/api.ts';
import { Button, Opening, StateWord } from '../ui/controls.tsx';
import {
  AmountField,
  DayField,
  EntryDialog,
  orNone,
  readInto,
  said,
  TextField,
  typedDay,
  typedGiftAmount,
  useEntry,
} from '../ui/form/index.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { Acts, Part, RecordFrame, Row, ToSupporter } from '../ui/record/index.ts';

export const RECURRING_TONES = {
  active: 'settled',
  paused: 'plain',
  ended: 'plain',
  failing: 'look',
  'to call': 'wrong',
} as const;
const CHARGE_WORDS: Record<string, string> = {
  due: 'to be charged',
  asking: 'the till is being asked',
  paid: 'paid',
  failed: 'not taken',
  call: 'not taken: call the donor',
  skipped: 'given up',
};

/** One recurring gift: what is expected, what was charged, and what failed. */
export function RecurringView({ id }: { id: number }) {
  const { money, date } = useFormats();
  const mayEnter = useMay(changeRecurring);
  const mayCharge = useMay(retryCharge);
  const [doing, setDoing] = useState<Doing | null>(null);
  const { data: gift, error } = useQuery(ask(getRecurring, { params: { id } }));
  const retry = useWrite((charge: number) => call(retryCharge, { params: { id: charge } }), {
    say: () => 'The till is being asked again',
  });
  const skip = useWrite((charge: number) => call(skipCharge, { params: { id: charge } }), {
    say: () => 'Given up; Undo brings it back',
  });
  if (!gift) return <Opening error={error} />;
  return (
    <RecordFrame
      label={`Recurring gift ${gift.number}`}
      title={money(gift.cents)}
      kind={`${gift.schedule} · ${gift.number}`}
      head={
        <>
          <p className="mt-1">
            from <ToSupporter id={gift.supporterId} name={gift.supporterName} />{' '}
            <span className="text-faded">
              since {date(gift.start)}
              {gift.until && `, until ${date(gift.until)}`}; {gift.cardLabel || gift.method}; {gift.fund}
            </span>
          </p>
          <p className="mt-2 flex flex-wrap items-center gap-3">
            <StateWord tone={RECURRING_TONES[gift.state]}>{gift.state}</StateWord>
            {gift.reason && <span>{gift.reason}</span>}
            {gift.next && (
              <span>
                next {money(gift.next.cents)} on {date(gift.next.due)}
              </span>
            )}
            <span className="text-faded">{money(gift.yearCents)} expected in twelve months</span>
          </p>
          {mayEnter && (
            <Acts
              acts={(Object.keys(DOINGS) as Doing[])
                .filter(
                  (one) => (one === 'resume') === (gift.state === 'paused') || (one !== 'resume' && one !== 'pause'),
                )
                .filter((one) => one !== 'card' || gift.method === 'card')
                .map((one) => [DOINGS[one], () => setDoing(one)] as const)}
            />
          )}
        </>
      }
      beside={() => <Giving id={gift.supporterId} name={gift.supporterName} />}
      stacks
    >
      {gift.amounts.length > 1 && (
        <Part title="Amounts">
          {gift.amounts.map((amount) => (
            <Row key={amount.id} left={`from ${date(amount.from)}`} right={money(amount.cents)} />
          ))}
        </Part>
      )}
      {gift.pauses.length > 0 && (
        <Part title="Pauses">
          {gift.pauses.map((pause) => (
            <Row
              key={pause.id}
              left={`from ${date(pause.from)}`}
              right={pause.until ? `until ${date(pause.until)}` : 'open'}
            />
          ))}
        </Part>
      )}
      {gift.charges.length > 0 && (
        <Part title="Charges">
          {gift.charges.map((charge) => (
            <Row
              key={charge.id}
              left={
                <>
                  {date(charge.due)}: {CHARGE_WORDS[charge.state] ?? charge.state}
                  {charge.giftId !== null && (
                    <>
                      ,{' '}
                      <Link className="text-slate hover:underline" to={`/gifts/${charge.giftId}`}>
                        {giftNumber(charge.giftId)}
                      </Link>
                    </>
                  )}
                  {charge.reason && `. ${charge.reason}`}
                  {charge.nextOn && charge.state === 'failed' && ` Asked again on ${date(charge.nextOn)}.`}
                  {mayCharge && (charge.state === 'failed' || charge.state === 'call') && (
                    <>
                      <Button look="quiet" className="h-6 px-2" onClick={() => retry.mutate(charge.id)}>
                        Ask again now
                      </Button>
                      <Button look="quiet" className="h-6 px-2" onClick={() => skip.mutate(charge.id)}>
                        Give up
                      </Button>
                    </>
                  )}
                </>
              }
              right={money(charge.cents)}
            />
          ))}
        </Part>
      )}
      <Part title="Expected in the next twelve months">
        {gift.expected.map((one) => (
          <Row key={one.due} left={date(one.due)} right={money(one.cents)} />
        ))}
      </Part>
      {gift.note && <p className="mt-3">{gift.note}</p>}
      {doing && <Change gift={gift} doing={doing} onClose={() => setDoing(null)} />}
    </RecordFrame>
  );
}

const DOINGS = {
  amount: 'Change the amount',
  pause: 'Pause',
  resume: 'Go on',
  end: 'End it',
  card: 'Another card',
} as const;
type Doing = keyof typeof DOINGS;

/** What is typed for a doing, read into the change that it asks for. */
const changeOf = (doing: Doing, version: number) =>
  readInto(
    z
      .object({ on: z.string(), until: z.string(), text: z.string() })
      .transform((typed, context): BodyInputOf<typeof changeRecurring> => {
        const read = <Value,>(field: 'on' | 'until' | 'text', schema: z.ZodType<Value, string>): Value => {
          const result = schema.safeParse(typed[field]);
          if (result.success) return result.data;
          context.addIssue({ code: 'custom', path: [field], message: result.error.issues[0]?.message ?? '' });
          return z.NEVER;
        };
        switch (doing) {
          case 'amount':
            return { change: 'amount', version, from: read('on', typedDay), cents: read('text', typedGiftAmount) };
          case 'pause':
            return {
              change: 'pause',
              version,
              from: read('on', typedDay),
              until: read('until', orNone(typedDay, null)),
            };
          case 'resume':
          case 'end':
            return { change: doing, version, on: read('on', typedDay) };
          case 'card': {
            const card = read('text', said('Write the token that the till gave.'));
            return { change: 'card', version, card, cardLabel: `Card ${card.slice(-4)}` };
          }
        }
      }),
    changeRecurring.body,
  );

function Change({ gift, doing, onClose }: { gift: Recurring; doing: Doing; onClose: () => void }) {
  const { today } = useHere().organization;
  const entry = useEntry({
    schema: changeOf(doing, gift.version),
    initial: { on: gift.next?.due ?? today, until: '', text: doing === 'amount' ? typedMoney(gift.cents) : '' },
    send: (body) => call(changeRecurring, { params: { id: gift.id }, body }),
    say: () => `${gift.number}: done`,
    then: onClose,
  });
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`${DOINGS[doing]}: ${gift.number}`} word={DOINGS[doing]}>
      <div className="grid grid-cols-2 gap-3">
        {doing !== 'card' && <DayField entry={entry} name="on" label={doing === 'end' ? 'Last day' : 'From'} />}
        {doing === 'pause' && <DayField entry={entry} name="until" label="Until" placeholder="open" />}
        {doing === 'amount' && <AmountField entry={entry} name="text" label="Each time" />}
        {doing === 'card' && <TextField entry={entry} name="text" label="Card token of the till" />}
      </div>
    </EntryDialog>
  );
}
