import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { CREDIT_KINDS } from '@tallystick/core/gifts';
import { correctGift, editGift, getGift, moveToBatch, putToPledge, takeOffPledge } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { receiptPdf, voidReceipt } from '@tallystick/contract/thanks';
import { ask, call, linkTo } from '../ui/api.ts';
import { Button, Opening, StateWord } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ChangeNote, MoveToBatch, PutToPledge } from './AssignDialogs.tsx';
import { CorrectDialog } from './CorrectDialog.tsx';
import { changeGift } from './asking.ts';
import { Acts, Part, RecordFrame, Row, ToSupporter } from '../ui/record/index.ts';
import { Giving } from './Giving.tsx';
import { GiftFacts } from './GiftFacts.tsx';

const TAKEN_BACK = { refunded: 'Refunded', void: 'Void', returned: 'Check returned', kept: '' };

/** One gift, in the peek and on its own page. */
export function GiftView({ id }: { id: number }) {
  const { money, date, moment } = useFormats();
  const [doing, setDoing] = useState<'correct' | 'pledge' | 'batch' | 'note' | null>(null);
  const mayEnter = useMay(editGift);
  const mayCorrect = useMay(correctGift);
  const mayPut = useMay(putToPledge);
  const mayMove = useMay(moveToBatch);
  const takeOff = useWrite((pledgeId: number) => call(takeOffPledge, { params: { id }, body: { pledgeId } }), {
    say: (made) => `${money(made.cents)} taken off the pledge; Undo brings it back`,
  });
  const { data: gift, error } = useQuery(ask(getGift, { params: { id } }));
  if (!gift) return <Opening error={error} />;
  const free = gift.cents - gift.pays.reduce((sum, paid) => sum + paid.cents, 0);
  return (
    <RecordFrame
      label={`Gift ${gift.number}`}
      title={money(gift.cents)}
      kind={gift.number}
      acts={
        <>
          {mayEnter && gift.state === 'kept' && <Button onClick={() => changeGift(gift)}>Change</Button>}
          {mayCorrect && gift.state === 'kept' && <Button onClick={() => setDoing('correct')}>Correct</Button>}
        </>
      }
      head={
        <>
          <p className="mt-1">
            from <ToSupporter id={gift.supporterId} name={gift.supporterName} />
          </p>
          <Answered gift={gift} />
        </>
      }
      beside={() => <Giving id={gift.supporterId} name={gift.supporterName} without={gift.id} />}
      stacks
    >
      <GiftFacts gift={gift} />
      <Acts
        acts={[
          ...(mayEnter && gift.state !== 'kept' ? [['Change the note', () => setDoing('note')] as const] : []),
          ...(mayPut && gift.state === 'kept' && free > 0
            ? [['Put to a pledge', () => setDoing('pledge')] as const]
            : []),
          ...(mayMove && !gift.deposited ? [['Move to another batch', () => setDoing('batch')] as const] : []),
        ]}
      />
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
                  <ToSupporter id={credit.supporterId} name={credit.name} />{' '}
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
                  <Link className="text-slate hover:underline" to={`/gifts/pledges/${paid.pledgeId}`}>
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
                <Link className="text-slate hover:underline" to={`/gifts/pledges/${gift.matchedBy.pledgeId}`}>
                  {gift.matchedBy.number}
                </Link>{' '}
                by <ToSupporter {...gift.matchedBy.supporter} />, {money(gift.matchedBy.paid)} received
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
                of <ToSupporter {...gift.matches.supporter} />
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
    </RecordFrame>
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
