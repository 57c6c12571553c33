import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { recurringNumber } from '@tallystick/core/recurring';
import { listFields } from '@tallystick/contract/fields';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { useFormats } from '../ui/organization.tsx';
import { Facts, ToSupporter } from '../ui/record/index.ts';

/** What a gift says of itself, a line each; what it has not is not named. */
export function GiftFacts({ gift }: { gift: GiftWhole }) {
  const { money, date, field: show } = useFormats();
  const own = useQuery(ask(listFields));
  const { details, tribute } = gift;
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
      tribute.ofId ? <ToSupporter id={tribute.ofId} name={tribute.ofName} /> : tribute.name,
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
      <Link className="text-slate hover:underline" to={`/gifts/recurring/${gift.recurringId}`}>
        {recurringNumber(gift.recurringId)}
      </Link>
    ),
  );
  for (const field of own.data?.items ?? []) maybe(field.name, show(field, gift.fields[field.id]));
  return <Facts facts={lines} />;
}
