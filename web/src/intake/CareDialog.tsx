import { useState } from 'react';
import { WAY_LABELS } from '@tallystick/core/contact';
import { caredFor, fieldIn, INTAKE_FIELDS, valueKey } from '@tallystick/core/intake';
import type { Care, Destination, IntakeColumn } from '@tallystick/core/intake';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { fold } from '@tallystick/core/names';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import type { intakeColumns } from '@tallystick/contract/intake';
import { addGiftCode } from '@tallystick/contract/setup';
import { Checkbox } from '../ui/checks.tsx';
import { Choice, optionsOfNames } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';
import { call } from '../ui/api.ts';

type ColumnFacts = ResponseOf<typeof intakeColumns>['items'][number];

/** What is done to the cells of one column before they are read, shown on its own values. */
export function CareDialog(props: {
  name: string;
  column: IntakeColumn | null;
  facts: ColumnFacts;
  care: Care;
  readOnly: boolean;
  onSave: (care: Care) => void;
  onClose: () => void;
}) {
  const { name, facts, readOnly } = props;
  const [care, setCare] = useState(props.care);
  const field = props.column === null ? null : (fieldIn(props.column)?.field ?? null);
  const place: Destination | null = field === null ? null : INTAKE_FIELDS[field];
  const codes = useCodes(field);
  const addCode = useAddCode(field);
  const isWay = field === 'email' || field === 'phone' || field === 'street';
  const translations = new Map(Object.entries(care.translate ?? {}).map(([value, to]) => [valueKey(value), to]));
  const translate = (value: string, to: string | null): void => {
    const others = Object.entries(care.translate ?? {}).filter(([one]) => valueKey(one) !== valueKey(value));
    const table = Object.fromEntries(to === null ? others : [...others, [value, to]]);
    const { translate: _before, ...rest } = care;
    setCare(Object.keys(table).length === 0 ? rest : { ...rest, translate: table });
  };
  return (
    <Dialog open title={`Clean up “${name}”`} size="wide" onClose={props.onClose}>
      {place && (
        <p className="text-faded">
          {place.says}, such as “{place.example}”.
        </p>
      )}
      <fieldset disabled={readOnly} className="mt-2 flex flex-wrap items-end gap-4">
        {isWay && (
          <Field label="It is their">
            {(given) => (
              <Choice
                {...given}
                value={care.label ?? 'home'}
                onChange={(label) => setCare({ ...care, label })}
                options={optionsOfNames([...WAY_LABELS])}
              />
            )}
          </Field>
        )}
        <Field label="An empty cell stands for">
          {(given) => (
            <Input
              {...given}
              value={care.otherwise ?? ''}
              onChange={({ target: { value } }) => {
                const { otherwise: _before, ...rest } = care;
                setCare(value === '' ? rest : { ...rest, otherwise: value });
              }}
            />
          )}
        </Field>
        {!codes && (
          <Checkbox
            label="Write CAPITALS as names are written"
            checked={care.names ?? false}
            onChange={(names) => setCare({ ...care, names })}
          />
        )}
      </fieldset>
      <div className="mt-3 max-h-[22rem] overflow-auto border border-rule">
        <table className="w-full border-collapse">
          <thead className="sticky top-0 bg-paper">
            <tr className="border-b border-rule text-left text-[13px] text-faded">
              <th className="px-2 py-1 font-normal">In the file</th>
              <th className="w-20 px-2 py-1 text-right font-normal">Rows</th>
              <th className="w-72 px-2 py-1 font-normal">Stands for</th>
              <th className="px-2 py-1 font-normal">Is read as</th>
            </tr>
          </thead>
          <tbody>
            {facts.values.map(({ value, many, reason }) => {
              const to = translations.get(valueKey(value));
              const read = caredFor(value, care);
              return (
                <tr key={value} className="border-b border-rule">
                  <td className="max-w-60 truncate px-2 py-0.5" title={value}>
                    {value}
                  </td>
                  <td className="px-2 py-0.5 text-right tabular-nums">{many}</td>
                  <td className="px-2 py-0.5">
                    {codes ? (
                      <Choice
                        aria-label={`What ${value} stands for`}
                        disabled={readOnly}
                        value={to ?? '\u0000'}
                        onChange={(picked) => translate(value, picked === '\u0000' ? null : picked)}
                        {...(addCode ? { onAdd: (name: string) => addCode(name, () => translate(value, name)) } : {})}
                        options={[{ value: '\u0000', label: 'itself' }, { value: '', label: 'nothing' }, ...codes]}
                      />
                    ) : (
                      <Input
                        aria-label={`What ${value} stands for`}
                        disabled={readOnly}
                        placeholder="itself"
                        value={to ?? ''}
                        onChange={(event) => translate(value, event.target.value === '' ? null : event.target.value)}
                      />
                    )}
                  </td>
                  <td className="max-w-72 px-2 py-0.5">
                    {reason !== null && read === value.trim() ? (
                      <>
                        <span className="text-madder" title={reason}>
                          ▲ {reason}
                        </span>{' '}
                        {addCode && !codes?.some((code) => fold(code.label) === fold(value)) && (
                          <button
                            type="button"
                            className="text-slate hover:underline"
                            onClick={() => addCode(value.trim(), () => translate(value, null))}
                          >
                            Add it as a new {place?.label.toLowerCase()}
                          </button>
                        )}
                      </>
                    ) : (
                      <span className={read === value ? 'text-faded' : ''}>{read || 'nothing'}</span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {facts.more && (
          <p className="px-2 py-1 text-faded">Its {facts.distinct} values are too many to list; these are the first.</p>
        )}
        {facts.values.length === 0 && <p className="px-2 py-1 text-faded">The column is empty.</p>}
      </div>
      <DialogActions>
        <Button onClick={props.onClose}>Cancel</Button>
        {!readOnly && (
          <Button look="main" onClick={() => props.onSave(tidy(care))}>
            Use this
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

/** Care without what comes to nothing. */
const tidy = ({ names, ...care }: Care): Care => ({ ...care, ...(names ? { names } : {}) });

const CODED = { fund: 'funds', campaign: 'campaigns', appeal: 'appeals' } as const;
const isCoded = (field: string | null): field is keyof typeof CODED => field !== null && field in CODED;

/** Adds a fund, campaign or appeal by its name; null where the column holds none of those, or the role may not. */
function useAddCode(field: string | null): ((name: string, then: () => void) => void) | null {
  const may = useMay(addGiftCode);
  const kind = isCoded(field) ? CODED[field] : null;
  const add = useWrite(
    async ({ name, then }: { name: string; then: () => void }) => {
      if (kind) await call(addGiftCode, { params: { kind }, body: { name, code: name.slice(0, 30) } });
      return then;
    },
    { say: () => 'Added; its name is its code until it is given another', then: (then) => then() },
  );
  return may && kind ? (name, then) => add.mutate({ name, then }) : null;
}

/** What a column of codes may hold, open ones alone; null for one of other texts. */
function useCodes(field: string | null): Option[] | null {
  const { funds, campaigns, appeals } = useChoices();
  if (field === 'method') return optionsOfNames(Object.values(PAYMENT_METHODS));
  if (!isCoded(field)) return null;
  return { fund: funds, campaign: campaigns, appeal: appeals }[field]
    .filter(({ closed }) => !closed)
    .map(({ name, code }) => ({ value: name, label: name, also: code }));
}
