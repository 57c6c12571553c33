import { Link } from 'react-router';
import { WISHES } from '@tallystick/core/wishes';
import type { Field } from '@tallystick/core/catalogue';
import { cellTypeOf, standingName } from '@tallystick/core/segments';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { Miniature } from '../ui/charts/Miniature.tsx';
import type { YearGiven } from '../ui/charts/Miniature.tsx';
import { cellShown } from '../ui/table/cells.ts';
import type { Column } from '../ui/table/columns.ts';
import { StateWord } from '../ui/controls.tsx';
import type { Formats } from '../ui/organization.tsx';

type Amount = 'lifetime' | 'thisYear' | 'lastYear' | 'largest' | 'average';
type Sums = Partial<Record<Amount | 'count', number>>;

/** The columns of every list of supporters; the footer has the number of them and the sums that are known. */
export function supporterColumns(
  formats: Formats,
  footer: string,
  fields: ReadonlyMap<string, Field>,
  /** Of the fields those that each row has a cell of, in their order. */
  asked: readonly string[],
  sums: Sums,
  years: ReadonlyMap<number, YearGiven[]>,
): Column<SupporterRow>[] {
  const { money, date } = formats;
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
    { id: 'postal', title: 'ZIP', width: 90, hidden: true, sort: 'field:postal', cell: (row) => row.postal },
    { id: 'email', title: 'E-mail', width: 190, cell: (row) => row.email },
    { id: 'phone', title: 'Telephone', width: 140, hidden: true, cell: (row) => row.phone },
    {
      ...{ id: 'tally', title: 'Tally', width: 140, hidden: true },
      cell: (row) => <Miniature years={years.get(row.id) ?? []} />,
    },
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
    ...[...fields]
      .filter(([name]) => !IN_COLUMNS.includes(name))
      .map(([name, { label, type }]): Column<SupporterRow> => {
        const id = standingName(name);
        const place = asked.indexOf(id);
        const holds = cellTypeOf(type);
        return {
          ...{ id, title: label, width: 130, hidden: true, sort: id },
          ...(holds === 'number' || holds === 'money' ? { align: 'right' } : {}),
          cell: (row) => cellShown(holds, row.cells[place], formats),
        };
      }),
  ];
}

/** Fields of the catalogue that the columns above show. */
const IN_COLUMNS = ['name', 'number', 'kind', 'town', 'state', 'postal'];

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
