import { Link } from 'react-router';
import type { SupporterRow } from '@tallystick/contract/supporters';
import type { Column } from '../ui/columns.ts';
import { StateWord } from '../ui/controls.tsx';

interface Formats {
  money: (cents: number) => string;
  date: (date: string | null) => string;
}

/** The columns of every list of supporters. */
export function supporterColumns({ money, date }: Formats, footer: string): Column<SupporterRow>[] {
  const amount = (
    id: 'lifetime' | 'thisYear' | 'lastYear' | 'largest',
    title: string,
    hidden = false,
  ): Column<SupporterRow> => ({
    id,
    title,
    width: 112,
    align: 'right',
    hidden,
    cell: (row) => (row.giving[id] === 0 ? <span className="text-faded">–</span> : money(row.giving[id])),
  });
  return [
    {
      id: 'name',
      title: 'Name',
      width: 230,
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
    { id: 'kind', title: 'Kind', width: 100, hidden: true, cell: (row) => row.kind },
    { id: 'town', title: 'Town', width: 170, cell: (row) => [row.city, row.region].filter(Boolean).join(', ') },
    { id: 'email', title: 'E-mail', width: 240, cell: (row) => row.email },
    { id: 'phone', title: 'Telephone', width: 144, cell: (row) => row.phone },
    amount('lifetime', 'Lifetime'),
    amount('thisYear', 'This FY'),
    amount('lastYear', 'Last FY'),
    amount('largest', 'Largest', true),
    { id: 'count', title: 'Gifts', width: 64, align: 'right', hidden: true, cell: (row) => row.giving.count },
    { id: 'last', title: 'Last gift', width: 108, align: 'right', cell: (row) => date(row.giving.last) },
    {
      id: 'wishes',
      title: 'Wishes',
      width: 136,
      cell: (row) =>
        row.deceased ? (
          <StateWord tone="wrong">Deceased</StateWord>
        ) : row.noEmail ? (
          <StateWord tone="look">No e-mail</StateWord>
        ) : null,
    },
  ];
}
