import { useQuery } from '@tanstack/react-query';
import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { kindFor } from '@tallystick/core/fields';
import {
  columnLabel,
  fieldIn,
  INTAKE_COLUMNS,
  INTAKE_FIELDS,
  MOST_MADE,
  ofFile,
  usedIn,
  withoutMade,
} from '@tallystick/core/intake';
import type { Destination, IntakeColumn, MadeColumn } from '@tallystick/core/intake';
import { createField, listFields } from '@tallystick/contract/fields';
import { intakeColumns } from '@tallystick/contract/intake';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { Button, IconButton, StateWord } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { FieldDialog } from '../settings/index.ts';
import { CareDialog } from './CareDialog.tsx';
import { MakeColumn } from './MakeColumn.tsx';
import { SameForAll } from './SameForAll.tsx';
import type { SetSetting } from './useSetting.ts';

/** Every place that a column may go to, found by any word of it, and by what it holds. */
export function usePlaces(): { options: Option[]; labelOf: (column: IntakeColumn) => string } {
  const { data } = useQuery(ask(listFields));
  return useMemo(() => {
    const fields = data?.items ?? [];
    const ours = INTAKE_COLUMNS.map((column): Option => {
      const { field, nth } = fieldIn(column) ?? { field: 'number' as const, nth: 1 };
      const { group, says, also = '', example }: Destination = INTAKE_FIELDS[field];
      const words = `${also} ${group} ${says} ${nth > 1 ? 'second third further' : ''}`;
      return { value: column, label: columnLabel(column, []), also: `${group}: ${example}`, words };
    });
    const isFirst = ({ value }: Option): boolean => !String(value).includes(':');
    return {
      labelOf: (column: IntakeColumn) => columnLabel(column, fields),
      options: [
        ...ours.filter(isFirst),
        ...fields.map(({ id, name, about }) => ({
          ...{ value: `field:${id}`, label: `${name}${about === 'gift' ? ' (of the gift)' : ''}`, also: 'own field' },
        })),
        // What is had a second time is looked for last.
        ...ours.filter((option) => !isFirst(option)),
      ],
    };
  }, [data]);
}

/** Where each column of the file goes, what it holds, and what is done to it first. Every change is saved at once. */
export function ColumnsEditor(props: {
  intake: Intake;
  setting: IntakeSetting;
  set: SetSetting;
  /** Rows of the file, as far as they are here. */
  rows: readonly IntakeRow[];
  readOnly: boolean;
}) {
  const { intake, setting, set, readOnly } = props;
  const { count } = useFormats();
  const { options, labelOf } = usePlaces();
  const facts = useQuery({
    ...ask(intakeColumns, { params: { id: intake.id } }),
    placeholderData: (before: ResponseOf<typeof intakeColumns> | undefined) => before,
  });
  const [caring, setCaring] = useState<number | null>(null);
  const [making, setMaking] = useState(false);
  const [owning, setOwning] = useState<{ at: number; name: string } | null>(null);
  const mayOwn = useMay(createField) && !readOnly;
  const width = ofFile(intake.headings, intake.setting).length;
  const used = usedIn(setting.made, setting.columns, width);
  const make = (made: MadeColumn): void => {
    set({
      made: [...setting.made, made],
      columns: [...intake.headings.map((_, at) => setting.columns[at] ?? null), null],
    });
    setMaking(false);
  };
  const choose = (at: number, column: IntakeColumn | null): void => {
    // What loses its place to another is not left out knowingly.
    const loses = column !== null && setting.columns.some((one, index) => one === column && index !== at);
    set({
      leaveRest: setting.leaveRest && !loses,
      columns: intake.headings.map((_, index) =>
        index === at ? column : setting.columns[index] === column ? null : (setting.columns[index] ?? null),
      ),
    });
  };
  const placed = setting.columns.filter((column) => column !== null).length;
  const missing = missingIn(setting);
  return (
    <section aria-label="Columns" className="min-h-0 flex-1 overflow-auto px-5 pb-6">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
        <span>
          {placed} of {intake.headings.length} columns have a place
        </span>
        {missing !== null && <StateWord tone="look">{missing}</StateWord>}
        {!readOnly && placed < intake.headings.length && !setting.leaveRest && (
          <Button onClick={() => set({ leaveRest: true })}>Leave the others out</Button>
        )}
        {!readOnly && placed > 0 && (
          <Button onClick={() => set({ leaveRest: false, columns: intake.headings.map(() => null) })}>
            Clear all places
          </Button>
        )}
        {!readOnly && setting.made.length < MOST_MADE && (
          <Button onClick={() => setMaking(true)}>Make a column …</Button>
        )}
      </div>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-rule text-left text-[13px] text-faded">
            <th className="py-1 pr-3 font-normal">Column of the file</th>
            <th className="w-[26%] py-1 pr-3 font-normal">What it holds</th>
            <th className="w-28 py-1 pr-3 text-right font-normal">Filled</th>
            <th className="w-28 py-1 pr-3 text-right font-normal">Different</th>
            <th className="w-[27%] py-1 pr-3 font-normal">Goes to</th>
            <th className="w-44 py-1 font-normal">Clean-up</th>
          </tr>
        </thead>
        <tbody>
          {intake.headings.map((heading, at) => {
            const known = facts.data?.items[at];
            const column = setting.columns[at] ?? null;
            const name = heading || `column ${at + 1}`;
            const unread = known?.values.filter(({ reason }) => reason !== null).length ?? 0;
            return (
              <tr key={at} className="border-b border-rule align-middle">
                <th scope="row" className="max-w-60 truncate py-1 pr-3 text-left font-serif font-normal" title={name}>
                  {name}
                  {at >= width && (
                    <span className="font-sans text-[13px] text-faded">
                      {' '}
                      made of {(setting.made[at - width]?.from ?? []).map((one) => intake.headings[one]).join(' and ')}
                      {!readOnly && (
                        <IconButton
                          label={`Take ${name} away`}
                          onClick={() => set(withoutMade(setting, at - width, width))}
                        >
                          <X size={13} />
                        </IconButton>
                      )}
                    </span>
                  )}
                </th>
                <td className="py-1 pr-3">
                  <Samples name={name} samples={known?.samples ?? []} />
                </td>
                <td className="py-1 pr-3 text-right tabular-nums">{known && count(known.filled)}</td>
                <td className="py-1 pr-3 text-right tabular-nums">{known && count(known.distinct)}</td>
                <td className="py-1 pr-3">
                  <Choice
                    aria-label={name}
                    disabled={readOnly}
                    value={column ?? ''}
                    onChange={(picked) => choose(at, picked === '' ? null : (picked as IntakeColumn))}
                    options={[
                      {
                        value: '',
                        label: used.has(at)
                          ? 'in what is made of it'
                          : setting.leaveRest
                            ? 'leave out'
                            : 'no place yet',
                      },
                      ...options,
                    ]}
                    {...(mayOwn ? { onAdd: (typed: string) => setOwning({ at, name: typed }) } : {})}
                  />
                  {known?.likely && !setting.columns.includes(known.likely) && !readOnly && (
                    <button
                      type="button"
                      className="text-[13px] text-slate hover:underline"
                      onClick={() => choose(at, known.likely)}
                    >
                      Looks like: {labelOf(known.likely)}
                    </button>
                  )}
                </td>
                <td className="py-1">
                  {column !== null && (
                    <button
                      type="button"
                      className="text-left text-[13px] text-slate hover:underline"
                      onClick={() => setCaring(at)}
                    >
                      <span className="sr-only">Clean up {name}: </span>
                      {unread > 0 ? (
                        <StateWord tone="wrong">{`${unread} ${unread === 1 ? 'value' : 'values'} not understood`}</StateWord>
                      ) : (
                        careWords(setting.care[String(at)])
                      )}
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {making && (
        <MakeColumn headings={intake.headings} rows={props.rows} onMake={make} onClose={() => setMaking(false)} />
      )}
      {owning && (
        <FieldDialog
          field={null}
          begun={beginning(owning.name, facts.data?.items[owning.at])}
          onMade={(id) => choose(owning.at, `field:${id}`)}
          onClose={() => setOwning(null)}
        />
      )}
      <SameForAll {...{ setting, set, readOnly, options, labelOf }} />
      {caring !== null && facts.data?.items[caring] && (
        <CareDialog
          key={caring}
          name={intake.headings[caring] || `column ${caring + 1}`}
          column={setting.columns[caring] ?? null}
          facts={facts.data.items[caring]}
          care={setting.care[String(caring)] ?? {}}
          readOnly={readOnly}
          onSave={(care) => {
            const { [String(caring)]: _before, ...others } = setting.care;
            set({ care: Object.keys(care).length === 0 ? others : { ...others, [String(caring)]: care } });
            setCaring(null);
          }}
          onClose={() => setCaring(null)}
        />
      )}
    </section>
  );
}

/** A field for a column that has no place, by what the column holds. */
function beginning(name: string, facts: ResponseOf<typeof intakeColumns>['items'][number] | undefined) {
  const { kind, choices } = facts?.more ? { kind: 'text' as const, choices: [] } : kindFor(facts?.values ?? []);
  return { name, kind, choices: choices.join('\n') };
}

const NAMES: readonly (IntakeColumn | null)[] = ['wholeName', 'first', 'last', 'organization', 'email', 'number'];

/** What every file must say and this one does not; null where nothing is missing. */
function missingIn({ columns, same }: IntakeSetting): string | null {
  const has = (column: IntakeColumn): boolean => columns.includes(column) || column in same;
  if (!NAMES.some((column) => column !== null && has(column)))
    return 'Still missing: whom a row is about (a name, a number or an e-mail).';
  if (has('date') && !has('amount')) return 'Still missing: the amount of the gifts.';
  return null;
}

function careWords(care: IntakeSetting['care'][string] | undefined): string {
  const words = [
    care?.label ?? '',
    care?.names ? 'as names are written' : '',
    care?.translate ? 'translated' : '',
    care?.otherwise ? `else ${care.otherwise}` : '',
  ].filter(Boolean);
  return words.length === 0 ? 'as it stands' : words.join(', ');
}

/** Values of a column, one at a time, to be paged through. */
function Samples({ name, samples }: { name: string; samples: readonly string[] }) {
  const [at, setAt] = useState(0);
  if (samples.length === 0) return <span className="text-faded">nothing</span>;
  const go = (by: number) => () => setAt((before) => (before + by + samples.length) % samples.length);
  return (
    <span className="flex items-center gap-0.5">
      <IconButton label={`Value before of ${name}`} onClick={go(-1)} disabled={samples.length < 2}>
        <ChevronLeft size={13} />
      </IconButton>
      <span className="min-w-0 flex-1 truncate" title={samples[at]}>
        {samples[at] ?? samples[0]}
      </span>
      <IconButton label={`Next value of ${name}`} onClick={go(1)} disabled={samples.length < 2}>
        <ChevronRight size={13} />
      </IconButton>
    </span>
  );
}
