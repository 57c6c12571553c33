import { useQuery } from '@tanstack/react-query';
import { addMonths, fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { Window } from '@tallystick/core/dates';
import { giftTotals } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { BarChart } from '../ui/charts/BarChart.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { changeInWords, monthsOfYear } from './year.ts';

/** Giving month by month of this fiscal year, against the same months of the last. */
export function ThisYear() {
  const { organization } = useHere();
  const { money, shortMoney, date } = useFormats();
  const { today, fiscalYearStart } = organization;
  const year = fiscalYearOf(today, fiscalYearStart);
  const { from } = fiscalYearSpan(year, fiscalYearStart);
  const dayAgo = addMonths(today, -12);
  const toDate: Window = { kind: 'between', from: fiscalYearSpan(year - 1, fiscalYearStart).from, to: dayAgo };
  const now = useQuery(ask(giftTotals, { body: { window: { kind: 'fiscal-year', ago: 0 }, by: 'month' } }));
  const last = useQuery(ask(giftTotals, { body: { window: { kind: 'fiscal-year', ago: 1 }, by: 'month' } }));
  const before = useQuery(ask(giftTotals, { body: { window: toDate } }));
  if (!now.data || !last.data || !before.data || now.data.total.gifts + last.data.total.gifts === 0) return null;
  const cents = now.data.total.cents;
  const then = before.data.total.cents;
  const change = changeInWords(cents, then);
  const month = new Intl.DateTimeFormat(organization.locale, { month: 'short', timeZone: 'UTC' });
  return (
    <section aria-labelledby="year" className="mt-6">
      <h2 id="year" className="border-b border-rule pb-1 text-lg">
        This fiscal year
      </h2>
      <p className="py-2">
        <strong className="font-serif text-lg">{money(cents)}</strong> since {date(from)}; {money(then)} by{' '}
        {date(dayAgo)}
        {change && `, ${change}`}. <span className="text-faded">Dashed: the month a year before.</span>
      </p>
      <BarChart
        label="Giving by month"
        of="Month"
        than="A year before"
        height={140}
        show={money}
        short={shortMoney}
        bars={monthsOfYear(from, now.data.rows, last.data.rows).map((one) => {
          const name = month.format(new Date(`${one.key}-01T00:00:00Z`));
          return {
            ...{ key: one.key, name, value: one.cents, against: one.before },
            says: `${name}: ${money(one.cents)}, a year before ${money(one.before)}`,
          };
        })}
      />
    </section>
  );
}
