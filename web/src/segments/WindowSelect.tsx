import type { z } from 'zod';
import type { Window as WindowSchema } from '@tallystick/contract/segments';
import { Choice } from '../ui/choice/index.tsx';
import { useHere } from '../ui/organization.tsx';
import { SpanField } from '../ui/dates/SpanField.tsx';

type Window = z.infer<typeof WindowSchema>;

const NAMED: Record<string, [string, Window]> = {
  ever: ['ever', { kind: 'ever' }],
  fy0: ['this fiscal year', { kind: 'fiscal-year', ago: 0 }],
  fy1: ['last fiscal year', { kind: 'fiscal-year', ago: 1 }],
  fy2: ['the fiscal year before last', { kind: 'fiscal-year', ago: 2 }],
  d90: ['the last 90 days', { kind: 'last-days', days: 90 }],
  d365: ['the last 365 days', { kind: 'last-days', days: 365 }],
  d1095: ['the last 3 years', { kind: 'last-days', days: 1095 }],
};

/** A span of dates: one of the named ones, or from and to. */
export function WindowSelect({ window, onChange }: { window: Window; onChange: (window: Window) => void }) {
  const { organization } = useHere();
  const name =
    Object.keys(NAMED).find((key) => JSON.stringify(NAMED[key]?.[1]) === JSON.stringify(window)) ?? 'between';
  const choose = (next: string): void =>
    onChange(NAMED[next]?.[1] ?? { kind: 'between', from: organization.today, to: organization.today });
  return (
    <>
      <Choice
        aria-label="Window"
        className="w-auto min-w-48"
        value={name}
        onChange={choose}
        options={[
          ...Object.entries(NAMED).map(([key, [label]]) => ({ value: key, label: label })),
          { value: 'between', label: 'between two dates' },
        ]}
      />
      {window.kind === 'between' && (
        <SpanField
          label="Between"
          value={window}
          onChange={({ from, to }) => from && to && onChange({ ...window, from, to })}
        />
      )}
      {name === 'between' && window.kind !== 'between' && (
        <span className="text-faded">
          {window.kind === 'last-days' ? `the last ${window.days} days` : 'another fiscal year'}
        </span>
      )}
    </>
  );
}
