import { Plus } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { useNavigate } from 'react-router';
import type { SUPPORTER_KINDS } from '@tallystick/contract/supporters';
import { listSupporters } from '@tallystick/contract/supporters';
import { call } from '../ui/api.ts';
import { Button, Empty, Heading, Input, Select, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { useRowSelection } from '../ui/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { supporterColumns } from './columns.tsx';
import { SupporterRecord } from './Record.tsx';
import { SupporterDialog } from './SupporterForm.tsx';

type Sort = 'name' | '-name' | 'number' | '-number';
type Kind = (typeof SUPPORTER_KINDS)[number];

export default function SupportersPage() {
  const url = useListUrl();
  const navigate = useNavigate();
  const formats = useFormats();
  const mayEnter = useMay('entry');
  const q = useDeferredValue(url.get('q'));
  const sort = (url.get('sort') || 'name') as Sort;
  const kind = url.get('kind') as Kind | '';
  const list = usePages(['supporters', q, sort, kind], (cursor, signal) =>
    call(listSupporters, {
      query: { q, sort, ...(kind ? { kind } : {}), limit: 200, ...(cursor ? { cursor } : {}) },
      signal,
    }),
  );
  const columns = useMemo(
    () => supporterColumns(formats, `${formats.count(list.total)} supporters`),
    [formats, list.total],
  );

  const { selected, setSelected } = useRowSelection(
    'supporters',
    list.rows,
    (row) => row.id,
    (row) => row.giving.lifetime,
  );

  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  return (
    <>
      <Heading
        title="Supporters"
        facts={list.isPending ? 'Counting …' : `${formats.count(list.total)} ${q ? `found for “${q}”` : 'on record'}`}
      >
        {mayEnter && (
          <Button look="main" onClick={() => url.set({ add: '1' })}>
            <Plus size={15} /> Add supporter
          </Button>
        )}
      </Heading>
      <PeekLayout
        ids={list.rows.map((row) => row.id)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/supporters/${id}${url.get('section') ? `?section=${url.get('section')}` : ''}`}
        peek={(id) => <SupporterRecord id={id} />}
        list={
          <DataTable
            name="supporters"
            label="Supporters"
            columns={columns}
            rows={list.rows}
            idOf={(row) => row.id}
            total={list.total}
            sort={q ? '' : sort}
            onSort={(next) => url.set({ sort: next })}
            onMore={list.onMore}
            openId={url.peek}
            onPeek={(row) => url.set({ peek: String(row.id) })}
            hrefOf={(row) => `/supporters/${row.id}`}
            selected={selected}
            onSelect={setSelected}
            loading={list.isPending}
            toolbar={
              <>
                <Input
                  className="w-80"
                  aria-label="Find supporters"
                  placeholder="Name, number, e-mail, last digits of a telephone"
                  value={url.get('q')}
                  onChange={(event) => url.set({ q: event.target.value })}
                />
                <Select
                  className="w-40"
                  aria-label="Kind"
                  value={kind}
                  onChange={(event) => url.set({ kind: event.target.value })}
                >
                  <option value="">All kinds</option>
                  <option value="person">People</option>
                  <option value="household">Households</option>
                  <option value="organization">Organizations</option>
                </Select>
              </>
            }
            empty={
              q ? (
                <Empty title={`Nobody found for “${q}”`}>
                  The beginnings of name words are enough, in any order; so are a number, an e-mail or the last digits
                  of a telephone.
                </Empty>
              ) : (
                <Empty title="No supporters yet">Add the first, or bring in a file of people under Intake.</Empty>
              )
            }
          />
        }
      />
      <SupporterDialog
        open={url.get('add') === '1'}
        supporter={null}
        onClose={() => url.set({ add: null })}
        onDone={(id) => void navigate(`/supporters/${id}`)}
      />
    </>
  );
}
