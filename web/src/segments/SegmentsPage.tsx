import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { createSegment, exportSegment, listSegments } from '@tallystick/contract/segments';
import { ask, linkTo } from '../ui/api.ts';
import { Button, Empty, Heading, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';

export default function SegmentsPage() {
  const navigate = useNavigate();
  const { count } = useFormats();
  const mayEdit = useMay(createSegment);
  const { data, error } = useQuery(ask(listSegments));
  if (error && !data) return <Trouble error={error} />;
  return (
    <>
      <Heading title="Segments" facts="Counted from the facts as you look; never out of date">
        {mayEdit && (
          <Button look="main" onClick={() => void navigate('/segments/new')}>
            <Plus size={15} /> New segment
          </Button>
        )}
      </Heading>
      {data?.items.length === 0 ? (
        <Empty title="No segments yet">
          A segment is a question about your supporters that stays answered. Make the first.
        </Empty>
      ) : (
        <ListTable
          label="Segments"
          headings={['Name', 'Supporters', '']}
          rightAligned={[1]}
          rows={(data?.items ?? []).map((segment) => ({
            id: segment.id,
            cells: [
              <Link className="font-serif text-[15px] hover:underline" to={`/segments/${segment.id}`}>
                {segment.name}
              </Link>,
              count(segment.count),
              <a className="text-slate hover:underline" href={linkTo(exportSegment, { id: segment.id })}>
                Export CSV
              </a>,
            ],
          }))}
        />
      )}
    </>
  );
}
