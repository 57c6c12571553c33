import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { FINDINGS } from '@tallystick/core/upkeep';
import { listFindings, noteDeath } from '@tallystick/contract/upkeep';
import { ask } from '../ui/api.ts';
import { Empty, Heading, Opening } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { ACTS } from './acts.ts';
import { Trend } from './Trend.tsx';

/** Everything that makes records unclean, with how much there is of it; and the acts that keep records true. */
export default function UpkeepPage() {
  const { count, counted, date } = useFormats();
  const mayAct = useMay(noteDeath);
  const { data, error } = useQuery(ask(listFindings));
  if (!data) return <Opening error={error} />;
  const found = data.items.filter((item) => item.count > 0);
  const clean = data.items.filter((item) => item.count === 0);
  return (
    <>
      <Heading
        title="Upkeep"
        facts={`${counted(data.total, 'thing')} to look at in ${counted(data.records, 'record')}`}
      />
      <div className="overflow-auto pb-8">
        {mayAct && (
          <nav aria-label="What happened" className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-5 py-3">
            <span className="text-[13px] text-faded">What happened:</span>
            {ACTS.map(({ path, name }) => (
              <Link key={path} className="text-slate hover:underline" to={path}>
                {name} …
              </Link>
            ))}
          </nav>
        )}
        {found.length === 0 ? (
          <Empty title="All is clean">What turns up is told here as soon as it is there.</Empty>
        ) : (
          <table className="w-full border-y border-rule text-left [&_td]:border-t [&_td]:border-rule [&_td]:px-3 [&_td]:py-1.5 [&_td]:align-baseline [&_th]:px-3 [&_th]:py-1 [&_th]:text-[13px] [&_th]:font-normal [&_th]:text-faded [&_tr>:first-child]:pl-5">
            <caption className="sr-only">What is unclean</caption>
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col" className="text-right">
                  How many
                </th>
                <th scope="col">
                  {found.some(({ trend }) => trend.length > 1) ? 'Over time' : 'Over time, from tomorrow on'}
                </th>
                <th scope="col">What can be done</th>
              </tr>
            </thead>
            <tbody>
              {found.map(({ finding, count: many, muted, trend }) => (
                <tr key={finding} className="hover:bg-hover">
                  <td>
                    <Link className="font-serif text-[17px] text-ink hover:underline" to={`/upkeep/${finding}`}>
                      {FINDINGS[finding].label}
                    </Link>
                    <span className="block text-[13px] text-faded">{FINDINGS[finding].says}</span>
                  </td>
                  <td className="text-right whitespace-nowrap">
                    <span className="font-serif text-lg text-hazel">{count(many)}</span>
                    {muted > 0 && (
                      <span className="block text-[13px] text-faded">{count(muted)} right as they are</span>
                    )}
                  </td>
                  <td className="w-72 align-middle!">
                    <Trend days={trend} />
                  </td>
                  <td className="whitespace-nowrap text-faded">{FINDINGS[finding].does}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {clean.length > 0 && found.length > 0 && (
          <p className="max-w-4xl px-5 pt-4 text-faded">
            Nothing of:{' '}
            {clean.map(({ finding, muted, trend: [first] }, at) => (
              <span key={finding}>
                {at > 0 && ' · '}
                {muted > 0 ? (
                  <Link className="text-slate hover:underline" to={`/upkeep/${finding}?muted=yes`}>
                    {FINDINGS[finding].label} ({count(muted)} right as they are)
                  </Link>
                ) : (
                  FINDINGS[finding].label
                )}
                {first && first.count > 0 && ` (${count(first.count)} on ${date(first.day)})`}
              </span>
            ))}
            . Gifts without a fund there cannot be: each is recorded to one.
          </p>
        )}
      </div>
    </>
  );
}
