import { useQuery } from '@tanstack/react-query';
import { INTAKE_FIELDS } from '@tallystick/core/intake';
import type { IntakeColumn, ToldReading } from '@tallystick/core/intake';
import { listFields } from '@tallystick/contract/fields';
import type { Intake, IntakeSetting } from '@tallystick/contract/intake';
import { ask } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { Fold } from '../ui/Fold.tsx';
import type { SetSetting } from './useSetting.ts';

export const ORDERS = { mdy: 'month first', dmy: 'day first' } as const;

/** Where each column of the file goes and how its amounts and dates are read. Every change is saved and previewed at once. */
export function ColumnsEditor(props: {
  intake: Intake;
  setting: IntakeSetting;
  set: SetSetting;
  /** The order of dates in numbers as the column says itself. */
  found: 'mdy' | 'dmy' | null;
  /** The encodings that it may be in, with words that tell them apart. */
  readings: readonly ToldReading[];
  readOnly: boolean;
}) {
  const { intake, setting, set, found, readings, readOnly } = props;
  const { funds } = useChoices();
  const own = useQuery(ask(listFields));
  const placed = setting.columns.filter((field) => field !== null).length;
  const choose = (at: number, field: string): void => {
    const next = field === '' ? null : (field as IntakeColumn);
    // What loses its place to another is not left out knowingly.
    const loses = next !== null && setting.columns.some((column, index) => column === next && index !== at);
    set({
      leaveRest: setting.leaveRest && !loses,
      columns: intake.headings.map((_, index) =>
        index === at ? next : setting.columns[index] === next ? null : (setting.columns[index] ?? null),
      ),
    });
  };
  return (
    <Fold
      open
      className="border-b border-rule px-5 py-2"
      line={`How the file is read: ${placed} of ${intake.headings.length} columns have a place`}
    >
      <fieldset disabled={readOnly} className="mt-2">
        <legend className="sr-only">Columns</legend>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] gap-x-3 gap-y-1.5">
          {intake.headings.map((heading, index) => (
            <label key={index} className="block min-w-0">
              <span className="block truncate text-[13px] text-faded" title={heading}>
                {heading || `column ${index + 1}`}
              </span>
              <Choice
                value={setting.columns[index] ?? ''}
                onChange={(picked) => choose(index, picked)}
                options={[
                  { value: '', label: setting.leaveRest ? 'leave out' : 'no place yet' },
                  ...Object.entries(INTAKE_FIELDS).map(([field, { label }]) => ({ value: field, label: label })),
                  ...(own.data?.items.map((field) => ({
                    value: `field:${field.id}`,
                    label: `${field.name}${field.about === 'gift' ? ' (of the gift)' : ''}`,
                  })) ?? []),
                ]}
              />
            </label>
          ))}
        </div>
        <div className="mt-2 flex flex-wrap gap-3">
          <label>
            <span className="block text-[13px] text-faded">Its first row is</span>
            <Choice
              value={setting.headed === null ? '' : setting.headed ? 'headings' : 'row'}
              onChange={(picked) => set({ headed: picked === '' ? null : picked === 'headings' })}
              options={[
                ...(setting.headed === null ? [{ value: '', label: 'not said yet' }] : []),
                { value: 'headings', label: 'headings' },
                { value: 'row', label: 'a row like the others' },
              ]}
            />
          </label>
          {readings.length > 1 && (
            <label>
              <span className="block text-[13px] text-faded">Its letters are read as</span>
              <Choice
                value={setting.encoding ?? ''}
                onChange={(picked) => set({ encoding: picked === '' ? null : picked })}
                options={[
                  ...(setting.encoding === null ? [{ value: '', label: 'not said yet' }] : []),
                  ...readings.map(({ encoding, words }) => ({
                    value: encoding,
                    label: `${words.slice(0, 2).join(', ')} (${encoding})`,
                  })),
                ]}
              />
            </label>
          )}
          <label>
            <span className="block text-[13px] text-faded">Amounts are written</span>
            <Choice
              value={setting.decimal}
              onChange={(picked) => set({ decimal: picked === ',' ? ',' : '.' })}
              options={[
                { value: '.', label: '1,250.00' },
                { value: ',', label: '1.250,00' },
              ]}
            />
          </label>
          <label>
            <span className="block text-[13px] text-faded">Dates such as 3/4/2026 are</span>
            <Choice
              value={setting.dateOrder ?? ''}
              onChange={(picked) => set({ dateOrder: picked === '' ? null : (picked as 'mdy' | 'dmy') })}
              options={[
                { value: '', label: found === null ? 'not said yet' : `as they say: ${ORDERS[found]}` },
                { value: 'mdy', label: ORDERS.mdy },
                { value: 'dmy', label: ORDERS.dmy },
              ]}
            />
          </label>
          <label>
            <span className="block text-[13px] text-faded">Gifts without a fund go to</span>
            <Choice
              value={setting.fundId}
              onChange={(picked) => set({ fundId: Number(picked) })}
              options={funds.filter((fund) => !fund.closed).map((fund) => ({ value: fund.id, label: fund.name }))}
            />
          </label>
        </div>
      </fieldset>
    </Fold>
  );
}
