import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { parseGiftAmount } from '@tallystick/core/money';
import { PLEDGE_KINDS } from '@tallystick/core/pledges';
import type { PledgeKind } from '@tallystick/core/pledges';
import { makePledge } from '@tallystick/contract/pledges';
import { call } from '../ui/api.ts';
import { optionsOf } from '../ui/choice/index.tsx';
import { NO_CODING, useFirstFund } from '../ui/CodingSelects.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import {
  AmountField,
  chosenId,
  ChoiceField,
  CodingFields,
  DayField,
  EntryDialog,
  oneOf,
  orNone,
  picked,
  readInto,
  TextField,
  typedAmount,
  typedDay,
  typedGiftAmount,
  useEntry,
  WhoField,
} from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import { freshPlan, planOf } from './plan.ts';
import type { TypedPlan } from './plan.ts';
import { PlanFields } from './PlanFields.tsx';

const schema = readInto(
  z
    .object({
      supporterId: picked('Choose who promises: type a name and press Enter.'),
      kind: oneOf<PledgeKind>(),
      stage: oneOf<'promised' | 'asked'>(),
      cents: typedGiftAmount,
      askedCents: orNone(typedAmount, null),
      pledgedOn: typedDay,
      fundId: chosenId,
      campaignId: chosenId,
      appealId: chosenId,
      plan: z.custom<TypedPlan>(),
      reports: z.array(z.object({ due: z.string(), title: z.string() })),
      note: z.string(),
    })
    .transform(({ plan, stage, reports, ...promise }, context) => {
      const grant = promise.kind === 'grant';
      const made = planOf(plan, promise.cents);
      if (!made) context.addIssue({ code: 'custom', path: ['plan'], message: 'Say how it is to be paid.' });
      return {
        ...promise,
        fundId: promise.fundId ?? 0,
        plan: made as never,
        stage: grant ? stage : ('promised' as const),
        appliedOn: grant && stage === 'asked' ? promise.pledgedOn : null,
        reports: grant ? reports.filter((report) => report.title !== '') : [],
      };
    }),
  makePledge.body,
);

/** Records a pledge, a grant or an expected match. */
export function PledgeDialog(props: { who?: Picked | null; onClose: () => void; onMade: (id: number) => void }) {
  const { who = null, onClose } = props;
  const { today } = useHere().organization;
  const firstFund = useFirstFund();
  const key = useRef(crypto.randomUUID());
  const oddDay = useOddDay(() => entry.go());
  const [initial] = useState(() => ({
    ...{ supporterId: who, kind: 'pledge' as PledgeKind, stage: 'promised' as 'promised' | 'asked' },
    ...{ cents: '', askedCents: '', pledgedOn: today, ...NO_CODING, fundId: firstFund },
    ...{ plan: freshPlan(today), reports: [] as { due: string; title: string }[], note: '' },
  }));
  const entry = useEntry({
    schema,
    initial,
    keep: `pledge ${who?.id ?? ''}`,
    ask: ({ pledgedOn }) => oddDay.faultAt('pledgedOn', pledgedOn),
    send: (body) => call(makePledge, { key: key.current, body }),
    say: (made) => `${made.number} recorded`,
    then: (made) => props.onMade(made.id),
  });
  const { kind, stage, plan, reports } = entry.typed;
  const cents = parseGiftAmount(entry.typed.cents);
  const putReport = (place: number, part: Partial<(typeof reports)[number]>): void =>
    entry.put({ reports: reports.map((one, index) => (index === place ? { ...one, ...part } : one)) });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title="Record a promise"
      size="medium"
      word={`Record ${PLEDGE_KINDS[kind].toLowerCase()}`}
      answers={oddDay.answer}
    >
      <div className="grid grid-cols-[9rem_1fr_8rem_9rem] gap-3">
        <ChoiceField entry={entry} name="kind" label="Kind" options={optionsOf(PLEDGE_KINDS)} />
        <WhoField
          entry={entry}
          name="supporterId"
          label={kind === 'match' ? 'Employer' : kind === 'grant' ? 'Funder' : 'By'}
          autoFocus={who === null}
        />
        <AmountField entry={entry} name="cents" label="Amount" main autoFocus={who !== null} />
        <DayField
          entry={entry}
          name="pledgedOn"
          label={kind === 'grant' && stage === 'asked' ? 'Applied on' : 'Promised on'}
        />
      </div>
      {kind === 'grant' && (
        <div className="grid grid-cols-[9rem_9rem_1fr] items-start gap-3">
          <ChoiceField
            entry={entry}
            name="stage"
            label="It is"
            options={optionsOf({ promised: 'awarded', asked: 'applied for' })}
          />
          <AmountField entry={entry} name="askedCents" label="Asked for" />
          <div>
            <span className="mb-0.5 block text-[13px] text-faded">Reports due</span>
            {reports.map((report, place) => (
              <div key={place} className="mb-1 flex gap-2">
                <DateField
                  className="w-36"
                  aria-label={`Report ${place + 1} due`}
                  value={report.due}
                  onChange={(due) => putReport(place, { due })}
                />
                <Input
                  aria-label={`Report ${place + 1}`}
                  value={report.title}
                  onChange={(event) => putReport(place, { title: event.target.value })}
                />
                <IconButton
                  label={`Remove report ${place + 1}`}
                  onClick={() => entry.put({ reports: reports.filter((_, index) => index !== place) })}
                >
                  <X size={14} />
                </IconButton>
              </div>
            ))}
            <Button
              look="quiet"
              className="h-7 px-2"
              onClick={() => entry.put({ reports: [...reports, { due: today, title: 'Report on the grant' }] })}
            >
              Add a report
            </Button>
          </div>
        </div>
      )}
      <div className="grid grid-cols-3 gap-3">
        <CodingFields entry={entry} />
      </div>
      <PlanFields
        value={plan}
        onChange={(part) => entry.put({ plan: { ...plan, ...part } })}
        cents={cents.ok ? cents.cents : null}
        fault={entry.fault('plan')}
      />
      <TextField entry={entry} name="note" label="Note" />
    </EntryDialog>
  );
}
