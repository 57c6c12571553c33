import { useQuery } from '@tanstack/react-query';
import { ArrowDown, ArrowUp, Plus, Star } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { arrangeFavourites, createSegment, favourSegment, listSegments } from '@tallystick/contract/segments';
import type { Segment } from '@tallystick/contract/segments';
import { fold } from '@tallystick/core/names';
import { ask, call } from '../ui/api.ts';
import { Button, Empty, IconButton } from '../ui/controls.tsx';
import { FindInput } from '../ui/FindInput.tsx';
import { ListPage, wholeList } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';
import type { Column } from '../ui/table/columns.ts';
import { BringInDefinition } from './BringInDefinition.tsx';

/** Stands after every favourite. */
const LAST = 1e9;
const placeOf = ({ favourite }: Segment): number => favourite ?? LAST;

export default function SegmentsPage() {
  const navigate = useNavigate();
  const url = useListUrl();
  const q = url.get('q');
  const { count, date } = useFormats();
  const mayEdit = useMay(createSegment);
  const query = useQuery(ask(listSegments));
  const list = wholeList(query);
  const like = useWrite(({ id, on }: { id: number; on: boolean }) =>
    call(favourSegment, { params: { id }, body: { on } }),
  );
  const order = useWrite((ids: number[]) => call(arrangeFavourites, { body: { ids } }));
  const { mutate } = like;
  const { mutate: arrange } = order;
  const items = query.data?.items;
  const rows = useMemo(() => {
    const words = fold(q).split(' ').filter(Boolean);
    const has = ({ name, folder, note, tag }: Segment): boolean => {
      const text = fold([name, folder, note, tag].join(' '));
      return words.every((word) => text.includes(word));
    };
    // Favourites first, in one's own order; the others as they come, by name.
    return (items ?? []).filter(has).sort((a, b) => placeOf(a) - placeOf(b));
  }, [items, q]);
  const columns = useMemo((): Column<Segment>[] => {
    const liked = (items ?? []).filter(({ favourite }) => favourite !== null).sort((a, b) => placeOf(a) - placeOf(b));
    const step = (segment: Segment, by: -1 | 1): void => {
      const ids = liked.map(({ id }) => id);
      const at = ids.indexOf(segment.id);
      const [here, there] = [ids[at], ids[at + by]];
      if (here === undefined || there === undefined) return;
      arrange(ids.map((id) => (id === here ? there : id === there ? here : id)));
    };
    return [
      {
        ...{ id: 'favourite', title: 'Favourite', width: 116, by: placeOf },
        cell: (segment) => (
          <span className="flex items-center">
            <IconButton
              label={
                segment.favourite === null
                  ? `Make ${segment.name} a favourite`
                  : `Take ${segment.name} out of the favourites`
              }
              aria-pressed={segment.favourite !== null}
              onClick={() => mutate({ id: segment.id, on: segment.favourite === null })}
            >
              <Star size={15} className={segment.favourite === null ? 'text-faded' : 'fill-hazel text-hazel'} />
            </IconButton>
            {segment.favourite !== null && liked.length > 1 && (
              <>
                <IconButton
                  label={`Move ${segment.name} up`}
                  disabled={segment.id === liked[0]?.id}
                  onClick={() => step(segment, -1)}
                >
                  <ArrowUp size={13} />
                </IconButton>
                <IconButton
                  label={`Move ${segment.name} down`}
                  disabled={segment.id === liked.at(-1)?.id}
                  onClick={() => step(segment, 1)}
                >
                  <ArrowDown size={13} />
                </IconButton>
              </>
            )}
          </span>
        ),
      },
      {
        ...{ id: 'name', title: 'Name', width: 360, grow: true, by: (segment) => segment.name },
        cell: (segment) => (
          <>
            <Link className="font-serif text-[15px] hover:underline" to={`/segments/${segment.id}`}>
              {segment.name}
            </Link>
            {!segment.shared && <span className="ml-2 text-[12px] text-faded">only I see it</span>}
          </>
        ),
      },
      wordsOf('folder', 'Folder', 110, (segment) => segment.folder),
      figures('supporters', 'Supporters', 100, (segment) => segment.count, count),
      {
        ...{ id: 'trend', title: 'Since', width: 160, align: 'right', by: trendOf },
        cell: (segment) => {
          if (!segment.before) return '';
          const by = trendOf(segment);
          const change = by === 0 ? 'the same' : `${by > 0 ? '+' : '−'}${count(Math.abs(by))}`;
          return <span className="text-faded">{`${change} since ${date(segment.before.day)}`}</span>;
        },
      },
      wordsOf('tag', 'Keeps tag', 110, (segment) => segment.tag),
      {
        ...{ id: 'used', title: 'Last opened', width: 112, align: 'right', by: (segment) => segment.usedOn },
        cell: (segment) => date(segment.usedOn),
      },
      {
        ...{ id: 'made', title: 'Made as', width: 84, align: 'right', by: (segment) => segment.id },
        cell: (segment) => <span className="text-faded">No. {segment.id}</span>,
      },
      wordsOf('note', 'Note', 240, (segment) => segment.note),
    ];
  }, [items, count, date, mutate, arrange]);
  return (
    <ListPage
      title="Segments"
      facts="Counted from the facts as you look; never out of date"
      acts={
        mayEdit && (
          <>
            <BringInDefinition />
            <Button look="main" onClick={() => void navigate('/segments/new')}>
              <Plus size={15} /> New segment
            </Button>
          </>
        )
      }
      filters={
        <FindInput
          className="h-7 w-56"
          label="Find segments"
          placeholder="Any part of name, folder, note …"
          value={q}
          onChange={(q) => url.set({ q })}
        />
      }
      name="segments"
      label="Segments"
      columns={columns}
      list={{ ...list, rows, total: rows.length }}
      empty={
        items?.length ? (
          <Empty title="No segment is called so">Take some of what you typed away.</Empty>
        ) : (
          <Empty title="No segments yet">
            A segment is a question about your supporters that stays answered. Make the first.
          </Empty>
        )
      }
    />
  );
}

/** By how much it grew since an earlier day. */
const trendOf = ({ count, before }: Segment): number => count - (before?.count ?? count);
