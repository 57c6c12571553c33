import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lazy, Suspense, useId, useState } from 'react';
import type { KeyboardEvent } from 'react';
import { addDays, formatDate, orderOf, typedDate } from '@tallystick/core/dates';
import { classes } from '../classes.ts';
import { Input } from '../controls.tsx';
import { useHere } from '../organization.tsx';

const Calendar = lazy(() => import('./Calendar.tsx'));

export interface DateFieldProps {
  /** An ISO date; empty for none; what was typed where that is no date, so that its form can say so. */
  value: string;
  onChange: (value: string) => void;
  /**
   * Tells of nothing but whole days, and of those only when the box is left or Enter is pressed: for filters, where a
   * half-typed year would ask for nothing.
   */
  settled?: boolean;
  id?: string | undefined;
  'aria-label'?: string | undefined;
  'aria-invalid'?: boolean | undefined;
  'aria-describedby'?: string | undefined;
  className?: string | undefined;
  placeholder?: string | undefined;
  disabled?: boolean | undefined;
  autoFocus?: boolean | undefined;
}

const DAYS: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, PageUp: 7, PageDown: -7 };

/**
 * A day, typed as people type it (`3/14`, `mar 14`, `today`, `+30`, `eom`) or picked from a calendar (Alt+Down), with
 * what it was understood as beside it. The arrows move it by a day, Page Up and Page Down by a week.
 */
export function DateField(props: DateFieldProps) {
  const { value, onChange, settled = false, className, ...rest } = props;
  const { today, locale } = useHere().organization;
  const order = orderOf(locale);
  const understoodId = useId();
  /** What is typed and not yet settled, and what the form knows of it; null shows what the form has. */
  const [typed, setTyped] = useState<{ text: string; told: string } | null>(null);
  const [open, setOpen] = useState(false);
  const written = (date: string): string => {
    const text = formatDate(date, { locale }, 'short');
    const back = typedDate(text, today, order);
    return back.ok && back.date === date ? text : date;
  };
  const shown = typed !== null && typed.told === value ? typed.text : isDay(value) ? written(value) : value;
  const read = shown.trim() === '' ? null : typedDate(shown, today, order);
  const day = read?.ok ? read.date : null;
  const wrong = read !== null && !read.ok;

  const type = (text: string): void => {
    const now = text.trim() === '' ? null : typedDate(text, today, order);
    const told = settled ? value : now === null ? '' : now.ok ? now.date : text;
    setTyped({ text, told });
    if (!settled) onChange(told);
  };
  const settle = (): void => {
    if (typed === null || wrong) return;
    setTyped(null);
    if (settled && (day ?? '') !== value) onChange(day ?? '');
  };
  const put = (date: string): void => {
    setTyped(null);
    onChange(date);
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === 'ArrowDown' && event.altKey) {
      event.preventDefault();
      setOpen(true);
    } else if (DAYS[event.key] !== undefined && day !== null && !event.altKey) {
      event.preventDefault();
      put(addDays(day, DAYS[event.key] ?? 0));
    } else if (event.key === 'Enter') settle();
    else if (event.key === 'Escape' && settled && typed !== null) {
      event.stopPropagation();
      setTyped(null);
    }
  };
  const understood = wrong ? read.reason : day === null ? '' : weekdayOf(day, locale);
  const said = typed === null && (settled || wrong) ? '' : understood;
  return (
    <span className={classes('relative inline-block w-full', className)}>
      <span className="relative block">
        <Input
          {...rest}
          aria-invalid={wrong || rest['aria-invalid'] === true}
          aria-describedby={[understoodId, rest['aria-describedby']].filter(Boolean).join(' ')}
          className="pr-8"
          placeholder={rest.placeholder ?? (settled ? 'any day' : '')}
          autoComplete="off"
          value={shown}
          onChange={(event) => type(event.target.value)}
          onBlur={settle}
          onKeyDown={onKey}
        />
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            type="button"
            tabIndex={-1}
            disabled={rest.disabled}
            aria-label="Calendar"
            className="absolute top-1 right-1 grid size-6 place-items-center rounded text-faded hover:bg-hover hover:text-ink"
          >
            <CalendarDays size={14} />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={4}
              aria-label="Calendar"
              className="z-[60] rounded border border-rule bg-sheet p-2 text-ink"
            >
              <Suspense fallback={<p className="h-64 w-60 text-faded">Reading …</p>}>
                <Calendar
                  day={day}
                  today={today}
                  locale={locale}
                  onPick={(date) => {
                    put(date);
                    setOpen(false);
                  }}
                />
              </Suspense>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
      <span
        id={understoodId}
        aria-live="polite"
        className={classes(
          'block text-[12px] leading-4 whitespace-nowrap',
          wrong ? 'text-madder' : 'text-faded',
          settled && 'absolute top-full left-0 z-20 rounded border border-rule bg-sheet px-1.5 py-0.5',
          said === '' && 'hidden',
        )}
      >
        {said}
      </span>
    </span>
  );
}

const isDay = (text: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(text);

/** `Sat, Mar 14, 2026`: what a typed day was understood as. */
const weekdayOf = (date: string, locale: string): string =>
  `${weekday(locale).format(new Date(`${date}T00:00:00Z`))}, ${formatDate(date, { locale })}`;

const weekdays = new Map<string, Intl.DateTimeFormat>();
function weekday(locale: string): Intl.DateTimeFormat {
  const made = weekdays.get(locale) ?? new Intl.DateTimeFormat(locale, { weekday: 'short', timeZone: 'UTC' });
  weekdays.set(locale, made);
  return made;
}
