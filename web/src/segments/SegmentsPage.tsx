import { useQuery } from '@tanstack/react-query';
import { Plus, Star } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { createSegment, exportSegment, favourSegment, listSegments } from '@tallystick/contract/segments';
import type { Segment } from '@tallystick/contract/segments';
import { ask, call, linkTo } from '../ui/api.ts';
import { Button, Empty, IconButton } from '../ui/controls.tsx';
import { ListPage, wholeList } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import { useWrite } from '../ui/useWrite.ts';
import type { Column } from '../ui/table/columns.ts';

export default function SegmentsPage() {
  const navigate = useNavigate();
  const { count, date } = useFormats();
  const mayEdit = useMay(createSegment);
  const list = wholeList(useQuery(ask(listSegments)));
  const like = useWrite(({ id, on }: { id: number; on: boolean }) =>
    call(favourSegment, { params: { id }, body: { on } }),
  );
  const { mutate } = like;
  const columns = useMemo(
    (): Column<Segment>[] => [
      {
        ...{ id: 'favourite', title: 'Favourite', width: 90, by: (segment) => (segment.favourite ? 0 : 1) },
        cell: (segment) => (
          <IconButton
            label={
              segment.favourite ? `Take ${segment.name} out of the favourites` : `Make ${segment.name} a favourite`
            }
            aria-pressed={segment.favourite}
            onClick={() => mutate({ id: segment.id, on: !segment.favourite })}
          >
            <Star size={15} className={segment.favourite ? 'fill-hazel text-hazel' : 'text-faded'} />
          </IconButton>
        ),
      },
      {
        ...{ id: 'name', title: 'Name', width: 380, grow: true, by: (segment) => segment.name },
        cell: (segment) => (
          <>
            <Link className="font-serif text-[15px] hover:underline" to={`/segments/${segment.id}`}>
              {segment.name}
            </Link>
            {!segment.shared && <span className="ml-2 text-[12px] text-faded">only I see it</span>}
          </>
        ),
      },
      wordsOf('folder', 'Folder', 130, (segment) => segment.folder),
      figures('supporters', 'Supporters', 120, (segment) => segment.count, count),
      {
        ...{ id: 'trend', title: 'Since', width: 170, align: 'right', by: trendOf },
        cell: (segment) => {
          if (!segment.before) return '';
          const by = trendOf(segment);
          const change = by === 0 ? 'the same' : `${by > 0 ? '+' : '−'}${count(Math.abs(by))}`;
          return <span className="text-faded">{`${change} since ${date(segment.before.day)}`}</span>;
        },
      },
      wordsOf('note', 'Note', 260, (segment) => segment.note),
      {
        ...{ id: 'export', title: 'File', width: 110 },
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
    [count, date, mutate],
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

/** By how much it grew since an earlier day. */
const trendOf = ({ count, before }: Segment): number => count - (before?.count ?? count);
