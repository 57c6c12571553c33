import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { CREDIT_KINDS, PAYMENT_METHODS } from '@tallystick/core/gifts';
import { recurringNumber } from '@tallystick/core/recurring';
import { listFields } from '@tallystick/contract/fields';
import { correctGift, editGift, getGift, moveToBatch, putToPledge, takeOffPledge } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { receiptPdf, voidReceipt } from '@tallystick/contract/thanks';
import { ask, call, linkTo } from '../ui/api.ts';
import { Button, StateWord, Trouble } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ChangeNote, MoveToBatch, PutToPledge } from './AssignDialogs.tsx';
import { CorrectDialog } from './CorrectDialog.tsx';
import { changeGift } from './asking.ts';
import { RecordTitle } from '../ui/RecordTitle.tsx';

const TAKEN_BACK = { refunded: 'Refunded', void: 'Void', returned: 'Check returned', kept: '' };

/** One gift, in the peek and on its own page. */
export function GiftView({ id }: { id: number }) {
  const { money, date, moment, field: show } = useFormats();
  const [doing, setDoing] = useState<'correct' | 'pledge' | 'batch' | 'note' | null>(null);
  const mayEnter = useMay(editGift);
  const mayCorrect = useMay(correctGift);
  const mayPut = useMay(putToPledge);
  const mayMove = useMay(moveToBatch);
  const takeOff = useWrite((pledgeId: number) => call(takeOffPledge, { params: { id }, body: { pledgeId } }), {
    say: (made) => `${money(made.cents)} taken off the pledge; Undo brings it back`,
  });
  const { data: gift, error } = useQuery(ask(getGift, { params: { id } }));
  const own = useQuery(ask(listFields));
  if (error) return <Trouble error={error} />;
  if (!gift) return <p className="p-5 text-faded">Opening …</p>;
  const { details, tribute } = gift;
  const free = gift.cents - gift.pays.reduce((sum, paid) => sum + paid.cents, 0);
  const lines: [string, ReactNode][] = [
    ['Date', date(gift.date) + (gift.bookedOn === gift.date ? '' : `, in the books ${date(gift.bookedOn)}`)],
    ...(gift.split
      ? []
      : ([
          ['Fund', gift.fund],
          ['Campaign', gift.campaign || 'none'],
          ['Appeal', gift.appeal || 'none'],
        ] as [string, string][])),
    ['Payment method', PAYMENT_METHODS[gift.method] + (gift.cheque ? `, number ${gift.cheque}` : '')],
  ];
  const maybe = (name: string, value: ReactNode): void => void (value && lines.push([name, value]));
  if (details?.kind === 'stock') {
    maybe('Stock', `${details.shares} shares of ${details.symbol} at a mean price of ${details.meanPrice}`);
    maybe(
      'Sale',
      details.soldOn
        ? `sold ${date(details.soldOn)}${details.proceedsCents === null ? '' : ` for ${money(details.proceedsCents)}`}, fees ${money(details.feeCents)}`
        : 'not sold yet',
    );
  }
  if (details?.kind === 'in_kind') {
    maybe('Given', details.description);
    maybe('The amount is', details.estimateBy === 'donor' ? 'the donor’s estimate' : 'our estimate');
  }
  if (gift.benefitCents > 0) {
    maybe('Goods and services', `${gift.benefit || 'received'}, ${money(gift.benefitCents)}`);
    maybe('Deductible', money(gift.deductibleCents));
  }
  if (gift.feeCents > 0)
    maybe('Processor fee', `${money(gift.feeCents)}, so ${money(gift.cents - gift.feeCents)} comes to the bank`);
  if (tribute) {
    maybe(
      tribute.kind === 'memory' ? 'In memory of' : 'In honor of',
      tribute.ofId ? <To id={tribute.ofId} name={tribute.ofName} /> : tribute.name,
    );
    maybe(
      'To be notified',
      (tribute.notifyName || tribute.notify) &&
        `${[tribute.notifyName, tribute.notify].filter(Boolean).join(', ')} (${tribute.withAmount ? 'with' : 'without'} the amount)`,
    );
  }
  maybe('Source code', gift.source);
  maybe('Outside reference', gift.reference);
  maybe('Note', gift.note);
  maybe(
    'Batch',
    gift.batch && (
      <Link className="text-slate hover:underline" to={`/gifts?batch=${gift.batchId ?? ''}`}>
        {gift.batch}
      </Link>
    ),
  );
  maybe(
    'Recurring gift',
    gift.recurringId && (
      <Link className="text-slate hover:underline" to={`/gifts/recurring?peek=${gift.recurringId}`}>
        {recurringNumber(gift.recurringId)}
      </Link>
    ),
  );
  for (const field of own.data?.items ?? []) maybe(field.name, show(field, gift.fields[field.id]));
  return (
    <article className="px-5 py-4" aria-label={`Gift ${gift.number}`}>
      <div className="flex items-start gap-2">
        <RecordTitle className="flex-1 text-2xl">
          {money(gift.cents)} <span className="text-base font-normal text-faded">{gift.number}</span>
        </RecordTitle>
        {mayEnter && gift.state === 'kept' && <Button onClick={() => changeGift(gift)}>Change</Button>}
        {mayCorrect && gift.state === 'kept' && <Button onClick={() => setDoing('correct')}>Correct</Button>}
      </div>
      <p className="mt-1">
        from <To id={gift.supporterId} name={gift.supporterName} />
      </p>
      <Answered gift={gift} />
      <dl className="mt-3 grid max-w-xl grid-cols-[10rem_1fr] gap-y-1.5">
        {lines.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-faded">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-2 -ml-3 flex gap-1">
        {mayEnter && gift.state !== 'kept' && (
          <Button look="quiet" className="h-7 px-2" onClick={() => setDoing('note')}>
            Change the note
          </Button>
        )}
        {mayPut && gift.state === 'kept' && free > 0 && (
          <Button look="quiet" className="h-7 px-2" onClick={() => setDoing('pledge')}>
            Put to a pledge
          </Button>
        )}
        {mayMove && !gift.deposited && (
          <Button look="quiet" className="h-7 px-2" onClick={() => setDoing('batch')}>
            Move to another batch
          </Button>
        )}
      </div>
      {gift.split && (
        <Part title="Split">
          {gift.parts.map((part, place) => (
            <Row
              key={place}
              left={[part.fund, part.campaign, part.appeal].filter(Boolean).join(' · ')}
              right={money(part.cents)}
            />
          ))}
        </Part>
      )}
      {gift.credits.length > 0 && (
        <Part title="Soft credits">
          {gift.credits.map((credit) => (
            <Row
              key={`${credit.supporterId}${credit.kind}`}
              left={
                <>
                  <To id={credit.supporterId} name={credit.name} />{' '}
                  <span className="text-faded">{CREDIT_KINDS[credit.kind]}</span>
                </>
              }
              right={money(credit.cents)}
            />
          ))}
        </Part>
      )}
      {gift.pays.length > 0 && (
        <Part title="Pays">
          {gift.pays.map((paid) => (
            <Row
              key={`${paid.pledgeId}${paid.due}`}
              left={
                <>
                  <Link className="text-slate hover:underline" to={`/gifts/pledges?peek=${paid.pledgeId}&show=all`}>
                    {paid.number}
                  </Link>
                  , installment due {date(paid.due)}
                </>
              }
              right={
                <>
                  {money(paid.cents)}
                  {mayPut && (
                    <Button
                      look="quiet"
                      className="ml-2 h-6 px-2"
                      busy={takeOff.isPending}
                      onClick={() => takeOff.mutate(paid.pledgeId)}
                    >
                      Take off
                    </Button>
                  )}
                </>
              }
            />
          ))}
        </Part>
      )}
      {gift.matchedBy && (
        <Part title="Match expected">
          <Row
            left={
              <>
                <Link
                  className="text-slate hover:underline"
                  to={`/gifts/pledges?peek=${gift.matchedBy.pledgeId}&show=all`}
                >
                  {gift.matchedBy.number}
                </Link>{' '}
                by <To {...gift.matchedBy.supporter} />, {money(gift.matchedBy.paid)} received
              </>
            }
            right={money(gift.matchedBy.cents)}
          />
        </Part>
      )}
      {gift.matches && (
        <Part title="Matches">
          <Row
            left={
              <>
                <Link className="text-slate hover:underline" to={`/gifts/${gift.matches.giftId}`}>
                  {gift.matches.number}
                </Link>{' '}
                of <To {...gift.matches.supporter} />
              </>
            }
            right={money(gift.matches.cents)}
          />
        </Part>
      )}
      {gift.corrections.length > 0 && (
        <Part title="Corrections">
          {gift.corrections.map((correction) => (
            <Row
              key={correction.id}
              left={
                <>
                  {saidOf(correction.says)}. {correction.reason}
                  <span className="text-faded">by {correction.by}</span>
                </>
              }
              right={date(correction.bookedOn)}
            />
          ))}
        </Part>
      )}
      <Part title="History">
        {gift.history.map((change) => (
          <Row
            key={change.revision}
            left={
              <>
                {change.summary} <span className="text-faded">by {change.by}</span>
              </>
            }
            right={moment(change.at)}
          />
        ))}
      </Part>
      {gift.settled && gift.state === 'kept' && (
        <p className="mt-3 text-[13px] text-faded">
          {gift.settled} What is wrong with it is corrected, so that what it was is kept.
        </p>
      )}
      {doing === 'correct' && <CorrectDialog gift={gift} onClose={() => setDoing(null)} />}
      {doing === 'pledge' && <PutToPledge gift={gift} onClose={() => setDoing(null)} />}
      {doing === 'note' && <ChangeNote gift={gift} onClose={() => setDoing(null)} />}
      {doing === 'batch' && <MoveToBatch gift={gift} onClose={() => setDoing(null)} />}
    </article>
  );
}

/** `Adjusted: amount from $60.00 to $77.70, fund from A to B`. */
const saidOf = ([word = '', ...what]: readonly string[]): string =>
  what.length === 0 ? word : `${word}: ${what.join(', ')}`;

/** Whether it was thanked, and what its receipt needs. */
function Answered({ gift }: { gift: GiftWhole }) {
  const { date, money } = useFormats();
  const mayVoid = useMay(voidReceipt);
  const voiding = useWrite(
    (reason: string) => call(voidReceipt, { params: { id: gift.receiptId ?? 0 }, body: { reason } }),
    { say: (done) => `Receipt ${done.number} is void` },
  );
  const last = gift.corrections.at(-1);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
      {gift.state !== 'kept' && <StateWord tone="wrong">{TAKEN_BACK[gift.state]}</StateWord>}
      {gift.acknowledgedOn === null ? (
        gift.cents > 0 && <StateWord tone="look">Not thanked yet</StateWord>
      ) : (
        <StateWord tone="settled">
          Thanked {date(gift.acknowledgedOn)}
          {gift.receiptId !== null && (
            <>
              , receipt{' '}
              <a
                className="underline"
                href={linkTo(receiptPdf, { id: gift.receiptId })}
                target="_blank"
                rel="noreferrer"
              >
                {gift.receiptNumber}
              </a>
            </>
          )}
        </StateWord>
      )}
      {gift.refundingCents > 0 && (
        <StateWord tone="look">The till is asked to give {money(gift.refundingCents)} back</StateWord>
      )}
      {gift.receiptId !== null && gift.receiptNeeds !== '' && (
        <>
          <StateWord tone="wrong">
            {gift.receiptNeeds === 'void'
              ? 'The receipt is to be voided'
              : 'The receipt is to be voided and issued anew'}
          </StateWord>
          {mayVoid && (
            <Button
              className="h-7 px-2"
              busy={voiding.isPending}
              onClick={() => voiding.mutate(last ? last.reason : 'Corrected')}
            >
              Void receipt {gift.receiptNumber}
            </Button>
          )}
        </>
      )}
    </div>
  );
}

const To = ({ id, name }: { id: number; name: string }) => (
  <Link className="font-serif text-[15px] text-slate hover:underline" to={`/supporters/${id}`}>
    {name}
  </Link>
);

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-4 max-w-2xl">
      <h2 className="border-b border-rule pb-0.5 text-[13px] font-medium text-faded">{title}</h2>
      {children}
    </section>
  );
}

export const Row = ({ left, right }: { left: ReactNode; right: ReactNode }) => (
  <div className="flex items-baseline justify-between gap-4 border-b border-rule py-1">
    <span className="min-w-0">{left}</span>
    <span className="shrink-0 whitespace-nowrap tabular-nums">{right}</span>
  </div>
);
