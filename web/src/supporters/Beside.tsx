import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { listNotes } from '@tallystick/contract/notes';
import { listSupporterDeliveries } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { ask } from '../ui/api.ts';
import { useFormats } from '../ui/organization.tsx';
import { DeliveryState } from '../ui/DeliveryState.tsx';
import { Contact } from './RecordSections.tsx';
import { plainOf } from './richText.tsx';

const LATEST = 5;

/** What stands beside the open section of a record where there is room: how to reach them, what was sent, what is noted. */
export function Beside({ supporter, open }: { supporter: Supporter; open: string }) {
  const { id } = supporter;
  const { date, moment } = useFormats();
  const sent = useQuery(ask(listSupporterDeliveries, { params: { id }, query: { limit: LATEST } }));
  const notes = useQuery(ask(listNotes, { params: { id }, query: { limit: LATEST } }));
  const latest = notes.data?.items ?? [];
  return (
    <>
      {open !== 'contact' && (
        <Part title="How to reach them">
          <Contact supporter={supporter} />
        </Part>
      )}
      {open !== 'correspondence' && sent.data && sent.data.items.length > 0 && (
        <Part title="Sent lately">
          <ul>
            {sent.data.items.map((item) => (
              <li key={item.id} className="border-b border-rule py-1">
                <p className="truncate">{item.subject}</p>
                <p className="text-[13px] text-faded">
                  {moment(item.at)} · <DeliveryState state={item.state} />
                </p>
              </li>
            ))}
          </ul>
        </Part>
      )}
      {open !== 'notes' && latest.length > 0 && (
        <Part title="Noted lately">
          <ul>
            {latest.map((note) => (
              <li key={note.id} className="border-b border-rule py-1">
                <p className="line-clamp-2">{plainOf(note.body)}</p>
                <p className="text-[13px] text-faded">
                  {note.kind}, {date(note.date)}
                </p>
              </li>
            ))}
          </ul>
        </Part>
      )}
    </>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="@container">
    <h2 className="mb-1 text-[15px]">{title}</h2>
    {children}
  </section>
);
