import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { createSegment, exportSegment, listSegments } from '@tallystick/contract/segments';
import type { Segment } from '@tallystick/contract/segments';
import { ask, linkTo } from '../ui/api.ts';
import { Button, Empty } from '../ui/controls.tsx';
import { ListPage, wholeList } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';

export default function SegmentsPage() {
  const navigate = useNavigate();
  const { count } = useFormats();
  const mayEdit = useMay(createSegment);
  const list = wholeList(useQuery(ask(listSegments)));
  const columns = useMemo(
    (): Column<Segment>[] => [
      {
        ...{ id: 'name', title: 'Name', width: 360, grow: true, by: (segment) => segment.name },
        cell: (segment) => (
          <Link className="font-serif text-[15px] hover:underline" to={`/segments/${segment.id}`}>
            {segment.name}
          </Link>
        ),
      },
      figures('supporters', 'Supporters', 130, (segment) => segment.count, count),
      {
        ...{ id: 'export', title: 'File', width: 130 },
        cell: (segment) => (
          <a
            className="text-slate hover:underline"
            aria-label={`Export CSV of ${segment.name}`}
            href={linkTo(exportSegment, { id: segment.id })}
          >
            Export CSV
          </a>
        ),
      },
    ],
    [count],
  );
  return (
    <ListPage
      title="Segments"
      facts="Counted from the facts as you look; never out of date"
      acts={
        mayEdit && (
          <Button look="main" onClick={() => void navigate('/segments/new')}>
            <Plus size={15} /> New segment
          </Button>
        )
      }
      name="segments"
      label="Segments"
      columns={columns}
      list={list}
      empty={
        <Empty title="No segments yet">
          A segment is a question about your supporters that stays answered. Make the first.
        </Empty>
      }
    />
  );
}
