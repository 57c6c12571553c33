import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { getGift, listGifts } from '@tallystick/contract/gifts';
import type { Gift } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { TallyStick } from '../ui/charts/TallyStick.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useWidth } from '../ui/useWidth.ts';

const SHOWN = 200;
const LISTED = 12;

/** What else the donor of a gift gave, beside the gift. */
export function DonorsGifts({ id }: { id: number }) {
  const { money, date, counted } = useFormats();
  const { data: gift } = useQuery(ask(getGift, { params: { id } }));
  const { data } = useQuery({
    ...ask(listGifts, { query: { supporterId: gift?.supporterId ?? 0, limit: SHOWN } }),
    enabled: gift !== undefined,
  });
  if (!gift || !data) return null;
  const others = data.items.filter((one) => one.id !== id);
  return (
    <aside aria-labelledby="others" className="border-rule px-5 py-4 lg:border-l">
      <h2 id="others" className="text-lg">
        What {gift.supporterName} gave
      </h2>
      <p className="text-faded">
        {counted(data.sum.count, 'gift')}, {money(data.sum.cents)}
      </p>
      <Stick gifts={data.items} />
      <ul className="mt-2">
        {others.slice(0, LISTED).map((one) => (
          <li key={one.id} className="grid grid-cols-[7rem_6.5rem_1fr] gap-3 border-b border-rule py-1">
            <Link className="text-slate hover:underline" to={`/gifts/${one.id}`}>
              {date(one.date)}
            </Link>
            <span className="text-right tabular-nums">{money(one.cents)}</span>
            <span className="truncate text-faded">{one.fund}</span>
          </li>
        ))}
      </ul>
      {others.length > LISTED && (
        <Link className="mt-1 inline-block text-slate hover:underline" to={`/supporters/${gift.supporterId}`}>
          All on the record
        </Link>
      )}
    </aside>
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
