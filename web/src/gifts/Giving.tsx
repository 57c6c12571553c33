import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { listGifts } from '@tallystick/contract/gifts';
import type { Gift } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { TallyStick } from '../ui/charts/TallyStick.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useWidth } from '../ui/useWidth.ts';

const SHOWN = 200;
const LISTED = 12;

/** What a supporter gave, beside one of their gifts or promises; `without` is the gift that is in sight anyway. */
export function Giving({ id, name, without }: { id: number; name: string; without?: number }) {
  const { money, date, counted } = useFormats();
  const { data } = useQuery(ask(listGifts, { query: { supporterId: id, limit: SHOWN } }));
  if (!data) return null;
  const others = data.items.filter((one) => one.id !== without);
  return (
    <section aria-labelledby="giving">
      <h2 id="giving" className="text-lg">
        What {name} gave
      </h2>
      <p className="text-faded">
        {counted(data.sum.count, 'gift')}, {money(data.sum.cents)}
      </p>
      <Stick gifts={data.items} />
      <ul className="mt-2">
        {others.slice(0, LISTED).map((one) => (
          <li key={one.id} className="grid grid-cols-[6.5rem_5.5rem_1fr] gap-2.5 border-b border-rule py-1">
            <Link className="text-slate hover:underline" to={`/gifts/${one.id}`}>
              {date(one.date)}
            </Link>
            <span className="text-right tabular-nums">{money(one.cents)}</span>
            <span className="truncate text-faded">{one.fund}</span>
          </li>
        ))}
      </ul>
      {others.length > LISTED && (
        <Link className="mt-1 inline-block text-slate hover:underline" to={`/supporters/${id}`}>
          All on the record
        </Link>
      )}
    </section>
  );
}

function Stick({ gifts }: { gifts: readonly Gift[] }) {
  const navigate = useNavigate();
  const [box, width] = useWidth();
  return (
    <div ref={box} className="mt-2">
      {width > 0 && <TallyStick gifts={gifts} width={width} onOpen={(other) => void navigate(`/gifts/${other}`)} />}
    </div>
  );
}
