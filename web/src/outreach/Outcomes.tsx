import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import type { z } from 'zod';
import { listDeliveries, NOT_REACHED, retryDelivery } from '@tallystick/contract/outreach';
import type { DeliveryRow as DeliverySchema } from '@tallystick/contract/outreach';
import { DeliveryState } from '../ui/DeliveryState.tsx';
import { ask, call, messageOf } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';

type Row = z.infer<typeof DeliverySchema>;
const GROUPS: Record<string, [string, readonly string[]]> = {
  reached: ['Reached', ['sent']],
  not: ['Not reached', NOT_REACHED],
  held: ['Held back', ['held']],
  waiting: ['Waiting', ['queued', 'sending']],
};

/** What became of each message: reached, not reached, held back. */
export function Outcomes({ mailingId }: { mailingId: number }) {
  const url = useListUrl();
  const { moment, counted } = useFormats();
  const maySend = useMay(retryDelivery);
  const { data, error, isPending } = useQuery(ask(listDeliveries, { params: { id: mailingId } }));
  const retry = useMutation({
    mutationFn: (id: number) => call(retryDelivery, { params: { id } }),
    onError: (failed) => toast.error(messageOf(failed)),
  });
  const group = GROUPS[url.get('show')];
  const rows = useMemo(
    () => (data?.items ?? []).filter((row) => !group || group[1].includes(row.state)),
    [data, group],
  );
  const columns = useMemo(
    (): Column<Row>[] => [
      {
        id: 'who',
        title: 'Supporter',
        width: 230,
        footer: counted(rows.length, 'message'),
        cell: (row) => (
          <Link tabIndex={-1} to={`/supporters/${row.supporterId}`} className="font-serif text-[15px] hover:underline">
            {row.name}
          </Link>
        ),
      },
      { id: 'address', title: 'To', width: 240, cell: (row) => row.address },
      {
        id: 'state',
        title: 'Became',
        width: 170,
        cell: (row) => <DeliveryState state={row.state} opened={row.openedAt} />,
      },
      { id: 'detail', title: 'Detail', width: 280, cell: (row) => <span title={row.detail}>{row.detail}</span> },
      { id: 'at', title: 'When', width: 190, cell: (row) => moment(row.at) },
      {
        id: 'again',
        title: 'Again',
        width: 110,
        cell: (row) =>
          maySend && GROUPS['not']?.[1].includes(row.state) ? (
            <Button look="quiet" className="h-6 px-1" onClick={() => retry.mutate(row.id)}>
              Send again
            </Button>
          ) : null,
      },
    ],
    [rows.length, counted, moment, maySend, retry],
  );
  if (error && !data) return <Trouble error={error} />;
  return (
    <DataTable
      name="deliveries"
      label="Messages"
      columns={columns}
      rows={rows}
      idOf={(row) => row.id}
      total={rows.length}
      loading={isPending}
      toolbar={
        <Choice
          aria-label="Show"
          className="w-auto min-w-44"
          value={url.get('show')}
          onChange={(picked) => url.set({ show: picked })}
          options={[
            { value: '', label: 'All messages' },
            ...Object.entries(GROUPS).map(([key, [name]]) => ({ value: key, label: name })),
          ]}
        />
      }
      empty={<Empty title="None of these">Choose another list above.</Empty>}
    />
  );
}
