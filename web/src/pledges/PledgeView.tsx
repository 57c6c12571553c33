import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { typedMoney } from '@tallystick/core/money';
import { PLEDGE_KINDS, PLEDGE_STAGES } from '@tallystick/core/pledges';
import type { Pledge } from '@tallystick/contract/pledges';
import { getPledge, stagePledge, writeOffPledge } from '@tallystick/contract/pledges';
import { Giving, openGiftDialog } from '../gifts/index.ts';
import { ask } from '../ui/api.ts';
import { Opening, StateWord, Button } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { typedCoding } from '../ui/CodingSelects.tsx';
import { ChangePledge, Reschedule, Stage, WriteOff } from './PledgeActs.tsx';
import { figures } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { Acts, Figures, Part, RecordFrame, Row, ToSupporter } from '../ui/record/index.ts';

const TONES = { paid: 'settled', 'written off': 'plain', overdue: 'wrong', due: 'look', 'to come': 'plain' } as const;

/** One pledge as it stands today, or stood on another day. */
export function PledgeView({ id }: { id: number }) {
  const { money, date } = useFormats();
  const { organization } = useHere();
  const mayEnter = useMay(stagePledge);
  const mayDecide = useMay(writeOffPledge);
  const [at, setAt] = useState('');
  const [doing, setDoing] = useState<'change' | 'reschedule' | 'write-off' | 'stage' | null>(null);
  const { data: pledge, error } = useQuery({
    ...ask(getPledge, { params: { id }, query: at === '' ? {} : { at } }),
    placeholderData: (old) => (old?.id === id ? old : undefined),
  });
  if (!pledge) return <Opening error={error} />;
  const { standing } = pledge;
  const live = standing.balance > 0 && pledge.stage !== 'declined';
  const promised = live && pledge.stage !== 'asked';
  const amount = (cents: number): string => (cents > 0 ? money(cents) : '');
  const columns: Column<Pledge['installments'][number]>[] = [
    { id: 'due', title: 'Due', width: 140, by: (one) => one.due, cell: (one) => date(one.due) },
    figures('installment', 'Installment', 110, (one) => one.cents, money),
    figures('paid', 'Paid', 100, (one) => one.paid, amount),
    figures('writtenOff', 'Written off', 100, (one) => one.writtenOff, amount),
    {
      ...{ id: 'state', title: 'State', width: 110, grow: true, by: (one) => one.state },
      cell: (one) => <StateWord tone={TONES[one.state]}>{one.state}</StateWord>,
    },
  ];
  return (
    <RecordFrame
      label={`Pledge ${pledge.number}`}
      title={money(standing.pledged)}
      kind={`${PLEDGE_KINDS[pledge.kind]} ${pledge.number}`}
      acts={
        mayEnter &&
        promised && (
          <Button
            look="main"
            onClick={() =>
              openGiftDialog(
                { id: pledge.supporterId, name: pledge.supporterName },
                { ...typedCoding(pledge), pledgeId: String(pledge.id), amount: typedMoney(standing.next?.cents ?? 0) },
              )
            }
          >
            Record a payment
          </Button>
        )
      }
      head={
        <>
          <p className="mt-1">
            by <ToSupporter id={pledge.supporterId} name={pledge.supporterName} />{' '}
            <span className="text-faded">
              on {date(pledge.pledgedOn)}, {pledge.schedule};{' '}
              {[pledge.fund, pledge.campaign, pledge.appeal].filter(Boolean).join(' · ')}
            </span>
          </p>
          <p className="mt-2 flex flex-wrap items-center gap-3">
            {pledge.kind !== 'pledge' && (
              <StateWord tone={pledge.stage === 'declined' ? 'wrong' : 'look'}>{PLEDGE_STAGES[pledge.stage]}</StateWord>
            )}
            {standing.overdue > 0 && <StateWord tone="wrong">{money(standing.overdue)} overdue</StateWord>}
            {standing.balance === 0 && <StateWord tone="settled">Nothing open</StateWord>}
            {standing.next && (
              <span>
                next {money(standing.next.cents)} due {date(standing.next.due)}
              </span>
            )}
            {pledge.forGift && (
              <span>
                matches{' '}
                <Link className="text-slate hover:underline" to={`/gifts/${pledge.forGift.id}`}>
                  {pledge.forGift.number}
                </Link>{' '}
                of {pledge.forGift.supporterName}
              </span>
            )}
          </p>
          <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-1">
            <Figures
              figures={(
                [
                  ['Pledged', standing.pledged],
                  ['Paid', standing.paid],
                  ['Written off', standing.writtenOff],
                  ['Balance', standing.balance],
                  ['Overdue', standing.overdue],
                ] as const
              ).map(([name, cents]) => ({ name, value: money(cents), large: true }))}
            />
            <label className="ml-auto text-[12px] text-faded" title="By what was recorded by the end of that day.">
              As it stood on
              <DateField settled className="ml-2 w-36" value={at} onChange={setAt} />
            </label>
          </div>
          <Acts
            acts={[
              ...(mayDecide ? [['Change or raise', () => setDoing('change')] as const] : []),
              ...(mayDecide && promised
                ? [
                    ['Reschedule what is left', () => setDoing('reschedule')] as const,
                    ['Write off', () => setDoing('write-off')] as const,
                  ]
                : []),
              ...(mayEnter && pledge.kind !== 'pledge' && standing.paid === 0
                ? [
                    [
                      pledge.kind === 'grant' ? 'Awarded or declined' : 'Claimed or declined',
                      () => setDoing('stage'),
                    ] as const,
                  ]
                : []),
            ]}
          />
        </>
      }
      beside={() => <Giving id={pledge.supporterId} name={pledge.supporterName} />}
      stacks
    >
      <div className="-mx-5 -mt-3">
        <ShortTable name="installments" label="Installments" columns={columns} rows={pledge.installments} />
      </div>
      {pledge.payments.length > 0 && (
        <Part title="Payments">
          {pledge.payments.map((payment, place) => (
            <Row
              key={place}
              left={
                <>
                  <Link className="text-slate hover:underline" to={`/gifts/${payment.giftId}`}>
                    {payment.number}
                  </Link>{' '}
                  of {date(payment.date)}
                  {payment.of !== payment.cents && <span className="text-faded"> (of {money(payment.of)})</span>}
                </>
              }
              right={money(payment.cents)}
            />
          ))}
        </Part>
      )}
      {pledge.writeOffs.length > 0 && (
        <Part title="Written off">
          {pledge.writeOffs.map((one) => (
            <Row
              key={one.id}
              left={`${date(one.date)}, of the installment due ${date(one.due)}: ${one.reason}`}
              right={money(one.cents)}
            />
          ))}
        </Part>
      )}
      {pledge.reports.length > 0 && (
        <Part title="Reports">
          {pledge.reports.map((report) => (
            <Row
              key={report.id}
              left={report.title}
              right={
                report.doneOn ? (
                  <StateWord tone="settled">done {date(report.doneOn)}</StateWord>
                ) : (
                  <StateWord tone={report.due < organization.today ? 'wrong' : 'plain'}>
                    due {date(report.due)}
                  </StateWord>
                )
              }
            />
          ))}
        </Part>
      )}
      {pledge.note && <p className="mt-3">{pledge.note}</p>}
      {doing === 'change' && <ChangePledge pledge={pledge} onClose={() => setDoing(null)} />}
      {doing === 'reschedule' && <Reschedule pledge={pledge} onClose={() => setDoing(null)} />}
      {doing === 'write-off' && <WriteOff pledge={pledge} onClose={() => setDoing(null)} />}
      {doing === 'stage' && <Stage pledge={pledge} onClose={() => setDoing(null)} />}
    </RecordFrame>
  );
}
