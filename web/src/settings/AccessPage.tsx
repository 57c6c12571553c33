import { useMemo } from 'react';
import { ACCESSES, listAccesses } from '@tallystick/contract/session';
import type { AccessEntry } from '@tallystick/contract/session';
import { call, keyOf } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Empty, StateWord } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { browserName } from './browserName.ts';

type What = AccessEntry['what'];
const WORDS: Record<What, string> = {
  'sign-in': 'Signed in',
  'sign-out': 'Signed out',
  refused: 'Refused',
  export: 'Took a file out',
  list: 'Read a whole list',
  rights: 'Changed rights',
};

/** Who came in, was refused, took much out or changed rights: for administrators, and changed by nobody. */
export default function AccessPage() {
  const { moment } = useFormats();
  const url = useListUrl();
  const what = ACCESSES.find((one) => one === url.get('what'));
  const asked = what ? { what } : {};
  const list = usePages(keyOf(listAccesses, { query: asked }), (place, signal) =>
    call(listAccesses, { query: { ...asked, ...place }, signal }),
  );
  const columns = useMemo(
    (): Column<AccessEntry>[] => [
      { id: 'at', title: 'When', width: 190, cell: (row) => moment(row.at) },
      { id: 'by', title: 'Who', width: 200, cell: (row) => row.by },
      {
        id: 'what',
        title: 'What',
        width: 170,
        cell: (row) =>
          row.what === 'refused' ? <StateWord tone="look">{WORDS[row.what]}</StateWord> : WORDS[row.what],
      },
      { id: 'address', title: 'From', width: 150, cell: (row) => row.address },
      {
        id: 'says',
        title: 'Which',
        width: 480,
        cell: (row) => <span title={row.says}>{row.what === 'sign-in' ? browserName(row.says) : row.says}</span>,
      },
    ],
    [moment],
  );
  return (
    <ListPage
      title="Access log"
      facts="Who signed in, was refused, took files out or changed rights; nobody can change it"
      name="accesses"
      label="Accesses"
      columns={columns}
      list={list}
      filters={
        <Filters
          url={url}
          filters={[
            {
              ...{ kind: 'choice', label: 'Show', name: 'what', always: true },
              options: ACCESSES.map((one) => ({ value: one, label: WORDS[one] })),
            },
          ]}
        />
      }
      empty={<Empty title="None of these">Choose another kind above.</Empty>}
    />
  );
}
