import { Link } from 'react-router';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { CustomField } from '@tallystick/contract/fields';
import type { Gift } from '@tallystick/contract/gifts';
import type { Column } from '../ui/table/columns.ts';
import { StateWord } from '../ui/controls.tsx';
import type { Formats } from '../ui/organization.tsx';

/** The columns that every list of gifts has. */
export function giftColumns<G extends Gift>(
  { money, date, field: show }: Formats,
  sum: { count: string; cents: number },
  fields: readonly CustomField[] = [],
): Column<G>[] {
  return [
    {
      id: 'who',
      title: 'From',
      width: 220,
      footer: sum.count,
      cell: (gift) => (
        <Link to={`/supporters/${gift.supporterId}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
          {gift.supporterName}
        </Link>
      ),
    },
    { id: 'date', title: 'Date', width: 124, align: 'right', sort: 'date', cell: (gift) => date(gift.date) },
    {
      id: 'amount',
      title: 'Amount',
      width: 144,
      align: 'right',
      sort: 'amount',
      footer: money(sum.cents),
      cell: (gift) => money(gift.cents),
    },
    { id: 'fund', title: 'Fund', width: 180, cell: (gift) => gift.fund },
    { id: 'appeal', title: 'Appeal', width: 190, cell: (gift) => gift.appeal },
    { id: 'campaign', title: 'Campaign', width: 170, hidden: true, cell: (gift) => gift.campaign },
    {
      id: 'method',
      title: 'Paid by',
      width: 116,
      cell: (gift) => PAYMENT_METHODS[gift.method] + (gift.cheque ? ` ${gift.cheque}` : ''),
    },
    { id: 'number', title: 'Number', width: 88, cell: (gift) => <span className="text-faded">{gift.number}</span> },
    { id: 'reference', title: 'Reference', width: 110, hidden: true, cell: (gift) => gift.reference },
    {
      id: 'thanked',
      title: 'Thanked',
      width: 132,
      cell: (gift) =>
        gift.acknowledgedOn === null ? (
          <StateWord tone="look">not yet</StateWord>
        ) : (
          <StateWord tone="settled">{gift.receiptNumber ?? date(gift.acknowledgedOn)}</StateWord>
        ),
    },
    ...fields
      .filter((field) => field.about === 'gift')
      .map((field): Column<G> => ({
        id: `field:${field.id}`,
        title: field.name,
        width: 130,
        hidden: true,
        cell: (gift) => show(field, gift.fields[field.id]),
      })),
  ];
}
