import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { getOrganization, setOrganization } from '@tallystick/contract/organization';
import { listGifts } from '@tallystick/contract/gifts';
import { listSupporters } from '@tallystick/contract/supporters';
import { listRuns } from '@tallystick/contract/thanks';
import { ask } from '../ui/api.ts';
import { StateWord } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';

/** What a new organization does first, each line gone when it is done; nothing once the first receipt is issued. */
export function FirstSteps() {
  const maySet = useMay(setOrganization);
  const runs = useQuery(ask(listRuns, { query: { limit: 1 } }));
  const begun = runs.data?.total !== 0;
  const enabled = !begun;
  const own = useQuery({ ...ask(getOrganization), enabled });
  const supporters = useQuery({ ...ask(listSupporters, { query: { limit: 1 } }), enabled });
  const gifts = useQuery({ ...ask(listGifts, { query: { limit: 1 } }), enabled });
  const { funds } = useChoices();
  if (begun || !own.data || !supporters.data || !gifts.data) return null;
  const many = gifts.data.sum.count;
  const steps = [
    {
      done: !maySet || (own.data.letterhead !== '' && own.data.signature !== ''),
      to: '/settings/organization',
      words: 'Say what stands at the head of letters, who signs them, and where mail comes from',
    },
    { done: funds.length > 1 || many > 0, to: '/gifts/codes', words: 'Name the funds that gifts go to' },
    {
      done: supporters.data.total > 0,
      to: '/supporters?add=1',
      words: 'Add the first supporter',
      or: { to: '/intake', words: 'or bring in a file of them' },
    },
    { done: many > 0, to: '/gifts', words: 'Record the first gift (press g anywhere)' },
    { done: false, to: '/thanks', words: 'Issue the first receipt' },
  ];
  return (
    <section aria-labelledby="first" className="mb-6">
      <h2 id="first" className="border-b border-rule pb-1 text-lg">
        First steps
      </h2>
      <ol className="divide-y divide-rule">
        {steps.map((step, place) => (
          <li key={step.to} className="flex items-baseline gap-3 py-2">
            <span className="w-6 shrink-0 text-right font-serif text-lg text-hazel">{place + 1}</span>
            {step.done ? (
              <span className="text-faded line-through">{step.words}</span>
            ) : (
              <span>
                <Link className="text-slate hover:underline" to={step.to}>
                  {step.words}
                </Link>
                {step.or && (
                  <>
                    {' '}
                    <Link className="text-slate hover:underline" to={step.or.to}>
                      {step.or.words}
                    </Link>
                  </>
                )}
              </span>
            )}
            {step.done && <StateWord tone="settled">done</StateWord>}
          </li>
        ))}
      </ol>
    </section>
  );
}
