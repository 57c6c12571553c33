import { layTally } from '@tallystick/core/tally';
import { counted } from '@tallystick/core/words';
import { useFormats, useHere } from '../organization.tsx';

/** What somebody gave in a fiscal year, in cents. */
export interface YearGiven {
  year: number;
  cents: number;
  gifts: number;
  unthanked: number;
}

const [WIDTH, HALF, GAP] = [120, 9, 2];

/** The tally in small: a notch for each of the last fiscal years that they gave in, matched below once all is thanked. */
export function Miniature({ years }: { years: readonly YearGiven[] }) {
  const { organization } = useHere();
  const { money } = useFormats();
  const { today, fiscalYearStart } = organization;
  const { notches, rules } = layTally(
    years.map(({ year, cents, unthanked }) => {
      // A month within the year stands for it: the middle one.
      const month = ((fiscalYearStart + 5) % 12) + 1;
      const date = `${month >= fiscalYearStart && fiscalYearStart > 1 ? year - 1 : year}-${String(month).padStart(2, '0')}-01`;
      return { id: year, date, cents, acknowledgedOn: unthanked === 0 ? date : null };
    }),
    today,
    fiscalYearStart,
    WIDTH,
  );
  const says = years.map(
    ({ year, cents, unthanked }) =>
      `FY${year} ${money(cents)}${unthanked > 0 ? `, ${counted(unthanked, 'gift')} not thanked yet` : ''}`,
  );
  const words = says.length === 0 ? 'nothing in five years' : says.join('; ');
  const below = HALF + GAP;
  return (
    <svg role="img" aria-label={words} width={WIDTH} height={2 * HALF + GAP} className="block">
      <title>{words}</title>
      {[0, below].map((top) => (
        <rect key={top} y={top} width={WIDTH} height={HALF} rx={1.5} fill="var(--stick)" />
      ))}
      {rules.slice(1).map(({ x, label }) => (
        <line key={label} x1={x} x2={x} y2={below + HALF} stroke="var(--stick-edge)" strokeOpacity={0.5} />
      ))}
      {notches.map(({ id, x, width, answered }) => (
        <g key={id}>
          <path d={`M${x} ${HALF}h${width}l${-width / 4} ${-6}h${-width / 2}z`} fill="var(--sheet)" />
          {answered ? (
            <path d={`M${x} ${below}h${width}l${-width / 4} 6h${-width / 2}z`} fill="var(--sheet)" />
          ) : (
            <line x1={x} x2={x + width} y1={below + 3} y2={below + 3} stroke="var(--madder)" strokeWidth={2} />
          )}
        </g>
      ))}
    </svg>
  );
}
