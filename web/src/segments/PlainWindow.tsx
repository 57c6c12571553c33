import { describeWindow, NAMED_WINDOWS, namedPlace } from '@tallystick/core/dates';
import type { Unit, Window } from '@tallystick/core/dates';
import { Choice } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { SpanField } from '../ui/dates/SpanField.tsx';
import { useHere } from '../ui/organization.tsx';
import { Told } from './Told.tsx';

/** Windows that are told more of than their name. */
const TOLD = {
  between: 'between two dates',
  since: 'since a date',
  until: 'up to a date',
  last: 'the last …',
} as const;
type Told = keyof typeof TOLD;

const UNITS: readonly Unit[] = ['day', 'week', 'month', 'year'];
/** The last so many days as the other units are written, and back. */
const asLast = (window: Window) =>
  window.kind === 'last-days' ? { many: window.days, unit: 'day' as Unit } : window.kind === 'last' ? window : null;
const lastOf = (many: number, unit: Unit): Window =>
  unit === 'day' ? { kind: 'last-days', days: many } : { kind: 'last', many, unit };

/** A window: one of the named ones by any part of its name, or told by its dates or its length. */
export function PlainWindow(props: {
  window: Window;
  onChange: (window: Window) => void;
  label?: string;
  /** Stands for no window at all, where that may be. */
  none?: string;
  onNone?: () => void;
  isNone?: boolean;
  /** Other windows that are offered before these, with the one that it is now. */
  other?: { value: string | null; options: readonly Option[]; onPick: (value: string) => void };
}) {
  const { window, onChange, label = 'Window' } = props;
  const { organization } = useHere();
  const { today } = organization;
  const { other } = props;
  const place = namedPlace(window);
  const last = asLast(window);
  const told: Told | null = place >= 0 ? null : last ? 'last' : window.kind in TOLD ? (window.kind as Told) : null;
  const value = props.isNone ? '' : other?.value ? other.value : place >= 0 ? String(place) : (told ?? 'other');
  const choose = (picked: string): void => {
    if (picked === '') return props.onNone?.();
    if (other?.options.some((one) => String(one.value) === picked)) return other.onPick(picked);
    const begun: Record<Told, Window> = {
      between: { kind: 'between', from: today, to: today },
      since: { kind: 'since', from: today },
      until: { kind: 'until', to: today },
      last: { kind: 'last', many: 6, unit: 'month' },
    };
    const next = NAMED_WINDOWS[Number(picked)]?.[1] ?? begun[picked as Told];
    if (next) onChange(next);
  };
  return (
    <>
      <Choice
        aria-label={label}
        className="w-auto min-w-48"
        value={value}
        onChange={choose}
        remember="window"
        options={[
          ...(props.none === undefined ? [] : [{ value: '', label: props.none }]),
          ...(other?.options ?? []),
          ...NAMED_WINDOWS.map(([words], index) => ({ value: index, label: words })),
          ...Object.entries(TOLD).map(([kind, words]) => ({ value: kind, label: words })),
          ...(value === 'other' ? [{ value: 'other', label: describeWindow(window, organization, organization) }] : []),
        ]}
      />
      {!props.isNone && window.kind === 'between' && (
        <SpanField
          label={`${label}: between`}
          value={window}
          onChange={({ from, to }) => from && to && onChange({ ...window, from, to })}
        />
      )}
      {!props.isNone && (window.kind === 'since' || window.kind === 'until') && (
        <DateField
          settled
          className="w-36"
          aria-label={`${label}: ${TOLD[window.kind]}`}
          value={window.kind === 'since' ? window.from : window.to}
          onChange={(day) =>
            day !== '' && onChange(window.kind === 'since' ? { ...window, from: day } : { ...window, to: day })
          }
        />
      )}
      {!props.isNone && told === 'last' && last && (
        <>
          <Told
            className="w-16 text-right"
            inputMode="numeric"
            label={`${label}: how many`}
            value={last.many}
            read={(text) => (/^[1-9]\d{0,3}$/.test(text.trim()) && Number(text) <= 2000 ? Number(text) : undefined)}
            write={String}
            onChange={(many) => onChange(lastOf(many, last.unit))}
          />
          <Choice
            aria-label={`${label}: of what`}
            className="w-auto min-w-24"
            value={last.unit}
            onChange={(unit) => onChange(lastOf(last.many, unit as Unit))}
            options={UNITS.map((unit) => ({ value: unit, label: `${unit}s` }))}
          />
        </>
      )}
    </>
  );
}
