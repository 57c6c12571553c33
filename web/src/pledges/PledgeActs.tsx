import { z } from 'zod';
import { parseGiftAmount, typedMoney } from '@tallystick/core/money';
import { PLEDGE_KINDS, PLEDGE_STAGES } from '@tallystick/core/pledges';
import type { PledgeStage } from '@tallystick/core/pledges';
import { changePledge, reschedulePledge, stagePledge, writeOffPledge } from '@tallystick/contract/pledges';
import type { Pledge } from '@tallystick/contract/pledges';
import { call } from '../ui/api.ts';
import { typedCoding } from '../ui/CodingSelects.tsx';
import {
  AmountField,
  chosenId,
  ChoiceField,
  CodingFields,
  DayField,
  EntryDialog,
  oneOf,
  orNone,
  readInto,
  said,
  TextField,
  TickField,
  typedDay,
  typedGiftAmount,
  useEntry,
} from '../ui/form/index.ts';
import { useFormats, useHere } from '../ui/organization.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import { freshPlan, planOf } from './plan.ts';
import type { TypedPlan } from './plan.ts';
import { PlanFields } from './PlanFields.tsx';

const UNPLANNED = {
  code: 'custom',
  path: ['plan'] as PropertyKey[],
  message: 'Say how the rest is to be paid.',
} as const;

interface ActProps {
  pledge: Pledge;
  onClose: () => void;
}

/** Changes what was promised, or how much of it; what was paid or written off stays. */
export function ChangePledge({ pledge, onClose }: ActProps) {
  const { money } = useFormats();
  const { today } = useHere().organization;
  const { paid, writtenOff, pledged } = pledge.standing;
  const settled = paid + writtenOff;
  const oddDay = useOddDay(() => entry.go(), pledge.pledgedOn);
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          cents: typedGiftAmount,
          pledgedOn: typedDay,
          fundId: chosenId,
          campaignId: chosenId,
          appealId: chosenId,
          note: z.string(),
          anew: z.boolean(),
          plan: z.custom<TypedPlan>(),
        })
        .transform(({ anew, plan, ...change }, context) => {
          const rest = change.cents - settled;
          const made = anew && rest > 0 ? planOf(plan, rest) : null;
          if (anew && rest > 0 && !made) context.addIssue(UNPLANNED);
          return { ...change, version: pledge.version, fundId: change.fundId ?? 0, plan: made as never };
        }),
      changePledge.body,
    ),
    initial: {
      ...{ cents: typedMoney(pledged), pledgedOn: pledge.pledgedOn as string, ...typedCoding(pledge) },
      ...{ note: pledge.note, anew: false, plan: freshPlan(today) },
    },
    ask: ({ pledgedOn }) => oddDay.faultAt('pledgedOn', pledgedOn),
    send: (body) => call(changePledge, { params: { id: pledge.id }, body }),
    say: () => `${pledge.number} changed`,
    then: onClose,
  });
  const { anew, plan } = entry.typed;
  const read = parseGiftAmount(entry.typed.cents);
  const more = read.ok ? read.cents - pledged : 0;
  const rest = read.ok ? read.cents - settled : 0;
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Change ${pledge.number}`}
      size="medium"
      word="Save"
      answers={oddDay.answer}
    >
      <div className="grid grid-cols-2 gap-3">
        <AmountField entry={entry} name="cents" label="Amount" />
        <DayField entry={entry} name="pledgedOn" label="Promised on" />
      </div>
      <div className="grid grid-cols-3 gap-3">
        <CodingFields entry={entry} />
        <TextField entry={entry} name="note" label="Note" className="col-span-3" />
      </div>
      {more !== 0 && !anew && (
        <p className="text-faded" aria-label="What the difference does">
          {more > 0
            ? `${money(more)} more, on the last installment that is open.`
            : `${money(-more)} less, off the last installments that are open.`}
        </p>
      )}
      <TickField entry={entry} name="anew" label={`Lay ${rest > 0 ? money(rest) : 'what is left'} out anew`} />
      {anew && rest > 0 && (
        <PlanFields
          value={plan}
          onChange={(part) => entry.put({ plan: { ...plan, ...part } })}
          cents={rest}
          fault={entry.fault('plan')}
        />
      )}
    </EntryDialog>
  );
}

export function Reschedule({ pledge, onClose }: ActProps) {
  const { money } = useFormats();
  const { today } = useHere().organization;
  const { balance } = pledge.standing;
  const entry = useEntry({
    schema: readInto(
      z.object({ plan: z.custom<TypedPlan>() }).transform(({ plan }, context) => {
        const made = planOf(plan, balance);
        if (!made) context.addIssue(UNPLANNED);
        return { version: pledge.version, plan: made as never };
      }),
      reschedulePledge.body,
    ),
    initial: { plan: freshPlan(today) },
    send: (body) => call(reschedulePledge, { params: { id: pledge.id }, body }),
    say: () => `${pledge.number}: the rest is laid out anew`,
    then: onClose,
  });
  const { plan } = entry.typed;
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Reschedule ${money(balance)} of ${pledge.number}`}
      size="medium"
      word="Reschedule"
    >
      <p className="text-faded">What was paid or written off stays as it is; only what is open is laid out anew.</p>
      <PlanFields
        value={plan}
        onChange={(part) => entry.put({ plan: { ...plan, ...part } })}
        cents={balance}
        fault={entry.fault('plan')}
      />
    </EntryDialog>
  );
}

export function WriteOff({ pledge, onClose }: ActProps) {
  const { money, date } = useFormats();
  const { today } = useHere().organization;
  const oddDay = useOddDay(() => entry.go());
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          cents: orNone(typedGiftAmount, null),
          date: typedDay,
          installmentId: chosenId,
          reason: said('Say why.'),
        })
        .transform((typed) => ({ ...typed, version: pledge.version })),
      writeOffPledge.body,
    ),
    initial: { cents: '', date: today as string, installmentId: '', reason: '' },
    ask: (body) => oddDay.faultAt('date', body.date),
    send: (body) => call(writeOffPledge, { params: { id: pledge.id }, body }),
    say: () => `${pledge.number}: written off; Undo brings it back`,
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Write off ${pledge.number}`}
      word="Write off"
      answers={oddDay.answer}
    >
      <div className="grid grid-cols-2 gap-3">
        <AmountField
          entry={entry}
          name="cents"
          label="Amount"
          placeholder={`all of ${money(pledge.standing.balance)}`}
        />
        <DayField entry={entry} name="date" label="On" />
        <ChoiceField
          entry={entry}
          name="installmentId"
          label="Of"
          options={[
            { value: '', label: 'the last installments first' },
            ...pledge.installments
              .filter((one) => one.open > 0)
              .map((one) => ({ value: one.id, label: `the one due ${date(one.due)}, ${money(one.open)} open` })),
          ]}
        />
        <TextField entry={entry} name="reason" label="Why" />
      </div>
    </EntryDialog>
  );
}

export function Stage({ pledge, onClose }: ActProps) {
  const { today } = useHere().organization;
  const { pledged } = pledge.standing;
  const stages: readonly PledgeStage[] = pledge.kind === 'grant' ? ['promised', 'declined'] : ['claimed', 'declined'];
  const oddDay = useOddDay(() => entry.go());
  const entry = useEntry({
    schema: readInto(
      z
        .object({ stage: oneOf<PledgeStage>(), on: typedDay, cents: typedGiftAmount })
        .transform(({ stage, on, cents }) => {
          const differs = stage !== 'declined' && cents !== pledged;
          return { version: pledge.version, stage, on, ...(differs ? { cents } : {}) };
        }),
      stagePledge.body,
    ),
    initial: { stage: stages[0] ?? 'promised', on: today as string, cents: typedMoney(pledged) },
    ask: ({ on }) => oddDay.faultAt('on', on),
    send: (body) => call(stagePledge, { params: { id: pledge.id }, body }),
    say: (): string => `${pledge.number}: ${PLEDGE_STAGES[entry.typed.stage].toLowerCase()}`,
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`${PLEDGE_KINDS[pledge.kind]} ${pledge.number}`}
      word="Save"
      answers={oddDay.answer}
    >
      <div className="grid grid-cols-3 gap-3">
        <ChoiceField
          entry={entry}
          name="stage"
          label="It was"
          options={stages.map((one) => ({
            value: one,
            label: one === 'promised' ? 'awarded' : PLEDGE_STAGES[one].toLowerCase(),
          }))}
        />
        <DayField entry={entry} name="on" label="On" />
        <AmountField entry={entry} name="cents" label="Amount" disabled={entry.typed.stage === 'declined'} />
      </div>
    </EntryDialog>
  );
}
