import { DayPicker } from 'react-day-picker';

const at = (date: string): Date => new Date(`${date}T00:00:00Z`);
const isoOf = (date: Date): string => date.toISOString().slice(0, 10);

/** The first day of the week where a locale is at home: 0 Sunday to 6 Saturday. */
function weekStartOf(locale: string): 0 | 1 | 2 | 3 | 4 | 5 | 6 {
  type WithWeek = Intl.Locale & { getWeekInfo?: () => { firstDay: number }; weekInfo?: { firstDay: number } };
  const known = new Intl.Locale(locale) as WithWeek;
  return (((known.getWeekInfo?.() ?? known.weekInfo)?.firstDay ?? 7) % 7) as 0 | 1 | 2 | 3 | 4 | 5 | 6;
}

/** A month to pick a day from: arrows move by days and weeks, Page Up and Page Down by months, Enter takes it. */
export default function Calendar(props: {
  day: string | null;
  today: string;
  locale: string;
  onPick: (date: string) => void;
}) {
  const { day, today, locale } = props;
  const named = (options: Intl.DateTimeFormatOptions) => (date: Date) =>
    new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' }).format(date);
  return (
    <DayPicker
      mode="single"
      autoFocus
      required
      timeZone="UTC"
      selected={day === null ? undefined : at(day)}
      onSelect={(date: Date | undefined) => date && props.onPick(isoOf(date))}
      defaultMonth={at(day ?? today)}
      today={at(today)}
      weekStartsOn={weekStartOf(locale)}
      showOutsideDays
      startMonth={at('1900-01-01')}
      endMonth={at('2100-12-01')}
      formatters={{
        formatCaption: named({ month: 'long', year: 'numeric' }),
        formatWeekdayName: named({ weekday: 'short' }),
      }}
      classNames={{
        root: 'text-sm',
        months: 'relative',
        month_caption: 'flex h-8 items-center justify-center font-medium',
        nav: 'absolute inset-x-0 top-0 flex h-8 items-center justify-between text-faded',
        button_previous: 'grid size-7 place-items-center rounded hover:bg-hover',
        button_next: 'grid size-7 place-items-center rounded hover:bg-hover',
        chevron: 'size-4 fill-current',
        weekday: 'size-8 text-[12px] font-normal text-faded',
        day: 'p-0 text-center',
        day_button: 'size-8 rounded hover:bg-hover',
        selected: '[&>button]:bg-slate [&>button]:text-on-slate',
        today: '[&>button]:border [&>button]:border-slate',
        outside: 'text-faded',
        disabled: 'opacity-40',
      }}
    />
  );
}
