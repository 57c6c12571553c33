import { Link } from 'react-router';
import { WISHES } from '@tallystick/core/wishes';
import type { CustomField } from '@tallystick/contract/fields';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { Miniature } from '../ui/charts/Miniature.tsx';
import type { YearGiven } from '../ui/charts/Miniature.tsx';
import type { Column } from '../ui/table/columns.ts';
import { StateWord } from '../ui/controls.tsx';
import type { Formats } from '../ui/organization.tsx';

type Amount = 'lifetime' | 'thisYear' | 'lastYear' | 'largest' | 'average';
type Sums = Partial<Record<Amount | 'count', number>>;

/** The columns of every list of supporters; the footer has the number of them and the sums that are known. */
export function supporterColumns(
  { money, date, field: show }: Formats,
  footer: string,
  fields: readonly CustomField[] = [],
  sums: Sums = {},
  years?: ReadonlyMap<number, YearGiven[]>,
): Column<SupporterRow>[] {
  const amount = (id: Amount, title: string, hidden = false): Column<SupporterRow> => ({
    id,
    title,
    width: 134,
    align: 'right',
    hidden,
    sort: id,
    footer: sums[id] === undefined ? undefined : money(sums[id]),
    cell: (row) => (row.giving[id] === 0 ? <span className="text-faded">–</span> : money(row.giving[id])),
  });
  return [
    {
      id: 'name',
      title: 'Name',
      width: 220,
      sort: 'name',
      footer,
      cell: (row) => (
        <Link to={`/supporters/${row.id}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
          {row.name}
        </Link>
      ),
    },
    {
      id: 'number',
      title: 'Number',
      width: 84,
      sort: 'number',
      cell: (row) => <span className="text-faded">{row.number}</span>,
    },
    { id: 'kind', title: 'Kind', width: 100, hidden: true, sort: 'kind', cell: (row) => row.kind },
    { id: 'street', title: 'Street', width: 170, hidden: true, cell: (row) => row.street },
    { id: 'town', title: 'Town', width: 130, sort: 'town', cell: (row) => row.city },
    { id: 'state', title: 'State', width: 76, sort: 'state', cell: (row) => row.region },
    { id: 'postal', title: 'ZIP', width: 90, hidden: true, cell: (row) => row.postal },
    { id: 'email', title: 'E-mail', width: 190, cell: (row) => row.email },
    { id: 'phone', title: 'Telephone', width: 140, hidden: true, cell: (row) => row.phone },
    ...(years
      ? [
          {
            ...{ id: 'tally', title: 'Tally', width: 140, hidden: true },
            cell: (row: SupporterRow) => <Miniature years={years.get(row.id) ?? []} />,
          },
        ]
      : []),
    amount('lifetime', 'Lifetime'),
    amount('thisYear', 'This FY'),
    amount('lastYear', 'Last FY'),
    amount('largest', 'Largest', true),
    amount('average', 'Average', true),
    {
      id: 'household',
      title: 'Household',
      width: 112,
      align: 'right',
      hidden: true,
      sort: 'household',
      cell: (row) => money(row.giving.household.lifetime),
    },
    {
      id: 'count',
      title: 'Gifts',
      width: 64,
      align: 'right',
      hidden: true,
      sort: 'count',
      footer: sums.count?.toLocaleString(),
      cell: (row) => row.giving.count,
    },
    {
      id: 'first',
      title: 'First gift',
      width: 108,
      align: 'right',
      hidden: true,
      sort: 'first',
      cell: (row) => date(row.giving.first),
    },
    { id: 'last', title: 'Last gift', width: 118, align: 'right', sort: 'last', cell: (row) => date(row.giving.last) },
    { id: 'wishes', title: 'Wishes', width: 170, cell: (row) => <WishWords wishes={row.wishes} /> },
    { id: 'tags', title: 'Tags', width: 180, cell: (row) => row.tags.join(', ') },
    ...fields
      .filter((field) => field.about === 'supporter')
      .map((field): Column<SupporterRow> => ({
        id: `field:${field.id}`,
        title: field.name,
        width: 130,
        hidden: true,
        sort: `field:${field.id}`,
        ...(field.kind === 'number' || field.kind === 'money' ? { align: 'right' as const } : {}),
        cell: (row) => show(field, row.fields[field.id]),
      })),
  ];
}

/** Wishes as plain words; the weightiest stands out. */
export function WishWords({ wishes }: { wishes: SupporterRow['wishes'] }) {
  if (wishes.includes('deceased')) return <StateWord tone="wrong">Deceased</StateWord>;
  const [first, ...rest] = wishes;
  if (!first) return null;
  return (
    <StateWord tone="look">
      {WISHES[first].word}
      {rest.length > 0 && ` and ${rest.length} more`}
    </StateWord>
  );
}
