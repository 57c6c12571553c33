import { scaleLinear, scaleTime } from 'd3-scale';
import { useFormats } from '../ui/organization.tsx';

const [WIDTH, HEIGHT] = [88, 20];

/** How a count went over the days on which it was counted, and in words what became of it since the first of them. */
export function Trend({ days }: { days: readonly { day: string; count: number }[] }) {
  const { date, count } = useFormats();
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last || days.length < 2) return null;
  const at = (day: string): Date => new Date(`${day}T00:00:00Z`);
  const x = scaleTime([at(first.day), at(last.day)], [1, WIDTH - 1]);
  const y = scaleLinear([0, Math.max(1, ...days.map((one) => one.count))], [HEIGHT - 1, 1]);
  const more = last.count - first.count;
  const words =
    more === 0
      ? `as on ${date(first.day)}`
      : `${count(Math.abs(more))} ${more < 0 ? 'fewer' : 'more'} than on ${date(first.day)}`;
  return (
    <span className="flex items-center gap-2">
      <svg width={WIDTH} height={HEIGHT} aria-hidden className="shrink-0">
        <polyline
          points={days.map((one) => `${x(at(one.day))},${y(one.count)}`).join(' ')}
          className="fill-none stroke-hazel"
          strokeWidth={1.5}
        />
      </svg>
      <span className="truncate text-[13px] text-faded">{words}</span>
    </span>
  );
}
