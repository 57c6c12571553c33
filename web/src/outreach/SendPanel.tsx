import { useMutation, useQuery } from '@tanstack/react-query';
import { group } from 'd3-array';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { checkMailing, sendMailing } from '@tallystick/contract/outreach';
import type { Mailing } from '@tallystick/contract/outreach';
import { ask, call, messageOf } from '../ui/api.ts';
import { Button, StateWord } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { SayFirst } from '../ui/SayFirst.tsx';
import { Fold } from '../ui/Fold.tsx';

/** Who gets it and who is held back, with the reasons, and the button that sends to just these. */
export function SendPanel({ mailing, unsaved }: { mailing: Mailing; unsaved: boolean }) {
  const { count, counted } = useFormats();
  const [asking, setAsking] = useState(false);
  const { addressSet } = useHere();
  const maySend = useMay(sendMailing);
  const check = useQuery(ask(checkMailing, { params: { id: mailing.id } }));
  const send = useMutation({
    mutationFn: (expected: number) => call(sendMailing, { params: { id: mailing.id }, body: { expected } }),
    onSuccess: () => setAsking(false),
    onError: (error) => toast.error(messageOf(error), { duration: 10_000 }),
  });
  if (!check.data) return <p className="text-faded">Looking who would get it …</p>;
  const { recipients, held } = check.data;
  const reasons = [...group(held, (one) => one.reason ?? '')];
  return (
    <section aria-label="Sending" className="rounded border border-rule bg-sheet">
      <div className="flex items-center gap-3 px-3 py-2">
        <p>
          <strong className="font-serif text-lg">{count(recipients.length)}</strong> get it, {count(held.length)} are
          held back
        </p>
        {maySend && (
          <Button
            look="main"
            className="ml-auto"
            disabled={unsaved || recipients.length === 0}
            onClick={() => setAsking(true)}
          >
            Send to {count(recipients.length)}
          </Button>
        )}
      </div>
      {!addressSet && (
        <p className="px-3 pb-2 text-[13px]">
          <StateWord tone="look">Links lead to this computer only.</StateWord> It is not set at which address people
          reach Tallystick (PUBLIC_URL), so nobody outside can use the link to get no more e-mail.
        </p>
      )}
      {unsaved && <p className="px-3 pb-2 text-faded">Save first: what is sent is what was saved.</p>}
      {held.length > 0 && (
        <div className="max-h-56 overflow-auto border-t border-rule px-3 py-1.5">
          {reasons.map(([reason, people]) => (
            <Fold
              key={reason}
              line={
                <>
                  <StateWord tone="look">{reason}</StateWord> {count(people.length)}
                </>
              }
            >
              <ul className="mb-1 ml-6 list-disc">
                {people.map((one) => (
                  <li key={one.supporterId}>
                    <Link className="text-slate hover:underline" to={`/supporters/${one.supporterId}`}>
                      {one.name}
                    </Link>{' '}
                    <span className="text-faded">{one.address}</span>
                  </li>
                ))}
              </ul>
            </Fold>
          ))}
        </div>
      )}
      {asking && (
        <SayFirst
          title={`Send “${mailing.name}”?`}
          count={count}
          lines={[
            { figure: recipients.length, words: recipients.length === 1 ? 'e-mail goes now' : 'e-mails go now' },
            { figure: held.length, words: 'are held back and get nothing' },
          ]}
          word={`Send ${counted(recipients.length, 'e-mail')}`}
          busy={send.isPending}
          onGo={() => send.mutate(recipients.length)}
          onClose={() => setAsking(false)}
        >
          <p className="mt-2 text-[13px] text-faded">
            What has gone cannot be called back; what has not gone yet can be stopped in the tray.
          </p>
        </SayFirst>
      )}
    </section>
  );
}
