import { useState } from 'react';
import { z } from 'zod';
import { isBanked, METHOD_CODES, PAYMENT_METHODS, readParts } from '@tallystick/core/gifts';
import type { CorrectionKind, PaymentMethod } from '@tallystick/core/gifts';
import { typedMoney } from '@tallystick/core/money';
import { correctGift } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { call } from '../ui/api.ts';
import { CodingSelects, codingOf, typedCoding } from '../ui/CodingSelects.tsx';
import { Input } from '../ui/controls.tsx';
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
  said,
  TextField,
  typedAmount,
  typedDay,
  typedGiftAmount,
  useEntry,
  WhoField,
} from '../ui/form/index.ts';
import { Pick } from '../ui/Pick.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';

const KINDS: Record<CorrectionKind, { word: string; about: string }> = {
  adjust: {
    word: 'Adjust',
    about: 'The amount, date, fund, donor or what was got for it was recorded wrong. What it was is kept.',
  },
  refund: { word: 'Refund', about: 'Money goes back to the donor, all of it or a part.' },
  returned: { word: 'Check returned', about: 'The bank sent the check back unpaid; nothing of the gift is left.' },
  void: { word: 'Void', about: 'It should never have been recorded; nothing of it is left.' },
};

const reason = said('Say why.');
const typedPart = z.object({ fundId: z.string(), campaignId: z.string(), appealId: z.string(), amount: z.string() });

/** What is typed of a correction, read into the request for its kind: each kind needs a part of the form. */
const schemaOf = (kind: CorrectionKind, version: number) => {
  const adjusted = z
    .object({
      reason,
      supporterId: picked('Choose whose gift it is.'),
      cents: typedGiftAmount,
      date: typedDay,
      method: oneOf<PaymentMethod>(),
      parts: z.array(typedPart),
      benefit: orNone(typedAmount, 0),
      got: z.string(),
    })
    .transform(({ parts, benefit, got, ...typed }, context) => {
      const amounts = readParts(
        typed.cents,
        parts.map((part) => part.amount),
      );
      if (!amounts.ok) context.addIssue({ code: 'custom', path: ['parts'], message: amounts.reason });
      const cents = amounts.ok ? amounts.cents : [];
      return {
        ...typed,
        ...{ kind: 'adjust' as const, version, benefit: { cents: benefit, what: got } },
        parts: parts.map((part, place) => ({ ...codingOf(part), cents: cents[place] ?? 0 })),
      };
    });
  const refunded = z
    .object({ reason, cents: typedGiftAmount })
    .transform((typed) => ({ ...typed, kind: 'refund' as const, version }));
  const undone = z.object({ reason }).transform((typed) => ({ ...typed, kind: kind as 'void' | 'returned', version }));
  return readInto(
    (kind === 'adjust' ? adjusted : kind === 'refund' ? refunded : undone) as typeof adjusted,
    correctGift.body,
  );
};

const RECEIPT_NEEDS = {
  '': '',
  void: ' Its receipt is to be voided.',
  reissue: ' Its receipt is to be voided and issued anew.',
};

/** Corrects a gift that can no longer simply be changed; every past total stays as it was known. */
export function CorrectDialog({ gift, onClose }: { gift: GiftWhole; onClose: () => void }) {
  const [kind, setKind] = useState<CorrectionKind>('adjust');
  const split = gift.parts.length > 1;
  const [initial] = useState(() => ({
    ...{
      reason: '',
      supporterId: { id: gift.supporterId, name: gift.supporterName } as { id: number; name: string } | null,
    },
    ...{ cents: typedMoney(gift.cents), date: gift.date as string, method: gift.method },
    parts: gift.parts.map((part) => ({ ...typedCoding(part), amount: split ? typedMoney(part.cents) : '' })),
    ...{ benefit: gift.benefitCents === 0 ? '' : typedMoney(gift.benefitCents), got: gift.benefit },
  }));
  const oddDay = useOddDay(() => entry.go(), gift.date);
  const entry = useEntry({
    schema: schemaOf(kind, gift.version),
    initial,
    ask: (body) => (body.kind === 'adjust' ? oddDay.faultAt('date', body.date) : null),
    send: (body) => call(correctGift, { params: { id: gift.id }, body }),
    say: (made) => `${gift.number}: noted.${RECEIPT_NEEDS[made.receiptNeeds]}`,
    then: onClose,
  });
  const { parts } = entry.typed;
  const put = (place: number, part: Partial<(typeof parts)[number]>): void =>
    entry.put({ parts: parts.map((one, index) => (index === place ? { ...one, ...part } : one)) });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Correct ${gift.number}`}
      size="medium"
      word={KINDS[kind].word}
      answers={oddDay.answer}
    >
      <Pick
        label="What happened"
        value={kind}
        onChange={setKind}
        options={(Object.keys(KINDS) as CorrectionKind[])
          .filter((one) => one !== 'returned' || gift.method === 'cheque')
          .map((one) => ({ value: one, label: KINDS[one].word }))}
      />
      <p className="text-faded">{KINDS[kind].about}</p>
      {kind === 'adjust' && (
        <>
          <div className="grid grid-cols-3 gap-3">
            <WhoField entry={entry} name="supporterId" label="From" className="col-span-3" />
            <AmountField entry={entry} name="cents" label="Amount" />
            <DayField entry={entry} name="date" label="Date" />
            <ChoiceField
              entry={entry}
              name="method"
              label="Payment method"
              options={METHOD_CODES.filter((code) => isBanked(code) || code === gift.method).map((code) => ({
                value: code,
                label: PAYMENT_METHODS[code],
              }))}
            />
          </div>
          {parts.map((part, place) => (
            <div key={place} className={`grid gap-2 ${split ? 'grid-cols-[6.5rem_1fr_1fr_1fr]' : 'grid-cols-3'}`}>
              {split && (
                <Input
                  aria-label={`Amount or share, part ${place + 1}`}
                  className="text-right"
                  placeholder="the rest"
                  value={part.amount}
                  onChange={(event) => put(place, { amount: event.target.value })}
                />
              )}
              <CodingSelects
                value={part}
                onChange={(places) => put(place, places)}
                {...(split ? { bare: `part ${place + 1}` } : {})}
              />
            </div>
          ))}
          <Fault name="parts">{entry.fault('parts')}</Fault>
          <div className="grid grid-cols-3 gap-3">
            <AmountField entry={entry} name="benefit" label="Goods and services, worth" placeholder="none" />
            <TextField entry={entry} name="got" label="What they were" className="col-span-2" />
          </div>
        </>
      )}
      {kind === 'refund' && <AmountField entry={entry} name="cents" label="Goes back" className="w-40" />}
      <TextField entry={entry} name="reason" label="Why" />
    </EntryDialog>
  );
}
