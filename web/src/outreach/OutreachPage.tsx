import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { createMailing, listMailings } from '@tallystick/contract/outreach';
import type { Mailing } from '@tallystick/contract/outreach';
import { ask } from '../ui/api.ts';
import { Button, Empty } from '../ui/controls.tsx';
import { ListPage, wholeList } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { MailingState } from './MailingState.tsx';

export default function OutreachPage() {
  const navigate = useNavigate();
  const { count } = useFormats();
  const mayWrite = useMay(createMailing);
  const list = wholeList(useQuery(ask(listMailings)));
  const columns = useMemo((): Column<Mailing>[] => {
    const number = (value: number): string => (value === 0 ? '–' : count(value));
    return [
      {
        ...{ id: 'name', title: 'Name', width: 320, grow: true, by: (mailing) => mailing.name },
        cell: (mailing) => (
          <Link className="font-serif text-[15px] hover:underline" to={`/outreach/${mailing.id}`}>
            {mailing.name}
          </Link>
        ),
      },
      {
        ...{ id: 'segment', title: 'Segment', width: 260, by: (mailing) => mailing.segmentName },
        cell: (mailing) => mailing.segmentName || <span className="text-faded">none yet</span>,
      },
      {
        ...{ id: 'state', title: 'State', width: 140, by: (mailing) => mailing.state },
        cell: (mailing) => <MailingState state={mailing.state} stopped={mailing.stopped} />,
      },
      figures('reached', 'Reached', 110, (mailing) => mailing.counts.reached, number),
      figures('opened', 'Opened', 100, (mailing) => mailing.counts.opened, number),
      figures('notReached', 'Not reached', 110, (mailing) => mailing.counts.notReached, number),
      figures('held', 'Held back', 110, (mailing) => mailing.counts.held, number),
    ];
  }, [count]);
  return (
    <ListPage
      title="Outreach"
      facts="E-mails to segments"
      acts={
        mayWrite && (
          <Button look="main" onClick={() => void navigate('/outreach/new')}>
            <Plus size={15} /> New e-mail
          </Button>
        )
      }
      name="mailings"
      label="E-mails"
      columns={columns}
      list={list}
      empty={
        <Empty title="Nothing written yet">
          Write an e-mail with merge fields and send it to a segment; who is held back, and why, is shown before
          anything goes.
        </Empty>
      }
    />
  );
}
