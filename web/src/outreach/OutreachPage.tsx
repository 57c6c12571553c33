import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { createMailing, listMailings } from '@tallystick/contract/outreach';
import { ask } from '../ui/api.ts';
import { Button, Empty, Heading, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { MailingState } from './MailingState.tsx';

export default function OutreachPage() {
  const navigate = useNavigate();
  const { count } = useFormats();
  const mayWrite = useMay(createMailing);
  const { data, error } = useQuery(ask(listMailings));
  if (error && !data) return <Trouble error={error} />;
  const number = (value: number) => (value === 0 ? <span className="text-faded">–</span> : count(value));
  return (
    <>
      <Heading title="Outreach" facts="E-mails to segments">
        {mayWrite && (
          <Button look="main" onClick={() => void navigate('/outreach/new')}>
            <Plus size={15} /> New e-mail
          </Button>
        )}
      </Heading>
      {data?.items.length === 0 ? (
        <Empty title="Nothing written yet">
          Write an e-mail with merge fields and send it to a segment; who is held back, and why, is shown before
          anything goes.
        </Empty>
      ) : (
        <ListTable
          label="E-mails"
          headings={['Name', 'Segment', 'State', 'Reached', 'Not reached', 'Held back']}
          rightAligned={[3, 4, 5]}
          rows={(data?.items ?? []).map((mailing) => ({
            id: mailing.id,
            cells: [
              <Link className="font-serif text-[15px] hover:underline" to={`/outreach/${mailing.id}`}>
                {mailing.name}
              </Link>,
              mailing.segmentName || <span className="text-faded">none yet</span>,
              <MailingState state={mailing.state} stopped={mailing.stopped} />,
              number(mailing.counts.reached),
              number(mailing.counts.notReached),
              number(mailing.counts.held),
            ],
          }))}
        />
      )}
    </>
  );
}
