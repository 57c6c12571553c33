import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useDeferredValue } from 'react';
import { FREQUENCIES } from '@tallystick/core/schedule';
import type { Frequency } from '@tallystick/core/schedule';
import { counted } from '@tallystick/core/words';
import { previewPlan } from '@tallystick/contract/pledges';
import { ask, messageOf } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { Fault } from '../ui/form/index.ts';
import { useFormats } from '../ui/organization.tsx';
import { planOf } from './plan.ts';
import type { TypedPlan, TypedSchedule } from './plan.ts';

export function ScheduleFields(props: {
  value: TypedSchedule;
  onChange: (value: Partial<TypedSchedule>) => void;
  fault?: string | undefined;
}) {
  const { value, onChange } = props;
  return (
    <>
      <Field name="schedule.start" label="First on" error={props.fault}>
        {(attributes) => <DateField {...attributes} value={value.start} onChange={(day) => onChange({ start: day })} />}
      </Field>
      <Field label="How often">
        {(attributes) => (
          <Choice
            {...attributes}
            value={value.every}
            onChange={(picked) => onChange({ every: picked as Frequency })}
            options={Object.entries(FREQUENCIES).map(([every, { word }]) => ({ value: every, label: word }))}
          />
        )}
      </Field>
      <div className="self-center pt-4">
        <Checkbox
          label="Last day of the month"
          checked={value.lastDay}
          disabled={value.every === 'week' || value.every === 'fortnight'}
          onChange={(on) => onChange({ lastDay: on })}
        />
      </div>
    </>
  );
}

/** A plan with the installments that it makes. */
export function PlanFields(props: {
  value: TypedPlan;
  onChange: (value: Partial<TypedPlan>) => void;
  cents: number | null;
  fault?: string | undefined;
}) {
  const { value, onChange, cents } = props;
  const { money, date } = useFormats();
  const plan = useDeferredValue(cents === null ? null : planOf(value, cents));
  const preview = useQuery({
    ...ask(previewPlan, { body: { cents: cents ?? 0, plan: plan as never } }),
    enabled: plan !== null && cents !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const put = (place: number, row: Partial<TypedPlan['rows'][number]>): void =>
    onChange({ rows: value.rows.map((one, index) => (index === place ? { ...one, ...row } : one)) });
  return (
    <fieldset className="border-t border-rule pt-2">
      <legend className="sr-only">Installments</legend>
      <div className="grid grid-cols-[12rem_1fr_1fr_1fr] gap-3">
        <Field label="To be paid">
          {(attributes) => (
            <Choice
              {...attributes}
              value={value.kind}
              onChange={(picked) => onChange({ kind: picked as TypedPlan['kind'] })}
              options={[
                { value: 'count', label: 'in equal installments' },
                { value: 'each', label: 'so much each time' },
                { value: 'once', label: 'at once' },
                { value: 'rows', label: 'by rows of its own' },
              ]}
            />
          )}
        </Field>
        {(value.kind === 'count' || value.kind === 'each') && <ScheduleFields value={value} onChange={onChange} />}
        {value.kind === 'once' && (
          <Field label="Due on">
            {(attributes) => (
              <DateField {...attributes} value={value.start} onChange={(day) => onChange({ start: day })} />
            )}
          </Field>
        )}
        {value.kind === 'count' && (
          <Field label="How many">
            {(attributes) => (
              <Input
                {...attributes}
                inputMode="numeric"
                value={value.count}
                onChange={(event) => onChange({ count: event.target.value })}
              />
            )}
          </Field>
        )}
        {value.kind === 'each' && (
          <Field label="Each time">
            {(attributes) => (
              <Input {...attributes} value={value.each} onChange={(event) => onChange({ each: event.target.value })} />
            )}
          </Field>
        )}
      </div>
      {value.kind === 'rows' && (
        <div className="mt-2 space-y-1">
          {value.rows.map((row, place) => (
            <div key={place} className="grid grid-cols-[9rem_8rem_1.75rem] gap-2">
              <DateField
                aria-label={`Due, row ${place + 1}`}
                value={row.due}
                onChange={(day) => put(place, { due: day })}
              />
              <Input
                aria-label={`Amount, row ${place + 1}`}
                className="text-right"
                value={row.amount}
                onChange={(event) => put(place, { amount: event.target.value })}
              />
              <IconButton
                label={`Remove row ${place + 1}`}
                disabled={value.rows.length === 1}
                onClick={() => onChange({ rows: value.rows.filter((_, index) => index !== place) })}
              >
                <X size={14} />
              </IconButton>
            </div>
          ))}
          <Button
            look="quiet"
            className="h-7 px-2"
            onClick={() => onChange({ rows: [...value.rows, { due: value.rows.at(-1)?.due ?? '', amount: '' }] })}
          >
            Another row
          </Button>
        </div>
      )}
      <Fault name="plan">{props.fault}</Fault>
      {preview.error ? (
        <p role="alert" className="mt-1 text-madder">
          ▲ {messageOf(preview.error)}
        </p>
      ) : (
        plan !== null &&
        preview.data && (
          <p className="mt-1.5 text-[13px] text-faded" aria-label="What that makes">
            {counted(preview.data.rows.length, 'installment')}:{' '}
            {preview.data.rows
              .slice(0, 4)
              .map((row) => `${money(row.cents)} on ${date(row.due)}`)
              .join(', ')}
            {preview.data.rows.length > 4 &&
              ` … ${money(preview.data.rows.at(-1)?.cents ?? 0)} on ${date(preview.data.rows.at(-1)?.due ?? null)}`}
          </p>
        )
      )}
    </fieldset>
  );
}
