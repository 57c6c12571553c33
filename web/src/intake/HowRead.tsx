import { useState } from 'react';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import { LOOKED_UP_BY, MATCH_FIELDS, POLICY_PARTS } from '@tallystick/core/intake';
import type { MatchField, Policy, PolicyPart, ToldReading } from '@tallystick/core/intake';
import type { Intake, IntakeSetting } from '@tallystick/contract/intake';
import { Choice, Choices, optionsOf } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { Field, Input } from '../ui/controls.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { Recipes } from './Recipes.tsx';
import type { SetSetting } from './useSetting.ts';

export const ORDERS = { mdy: 'month first', dmy: 'day first' } as const;

const POLICY_WORDS: Record<Policy, string> = {
  ours: 'keep ours as it is',
  fill: 'fill in what we lack',
  file: 'take what the file says',
};
const PART_WORDS: Record<PolicyPart, string> = {
  names: 'Names',
  birthday: 'Birthday',
  email: 'E-mail',
  phone: 'Telephone',
  address: 'Address',
  wishes: 'Wishes',
  own: 'Own fields',
};

/** How the file is read, and what becomes of those who are here and of those who are not. */
export function HowRead(props: {
  intake: Intake;
  setting: IntakeSetting;
  set: SetSetting;
  /** The order of dates in numbers as the columns say themselves. */
  found: 'mdy' | 'dmy' | null;
  /** The encodings that it may be in, with words that tell them apart. */
  readings: readonly ToldReading[];
  readOnly: boolean;
}) {
  const { intake, setting, set, found, readings, readOnly } = props;
  const { funds } = useChoices();
  const pick = (
    label: string,
    value: string | number,
    options: readonly Option[],
    onChange: (picked: string) => void,
  ) => (
    <Field label={label} className="w-56">
      {(given) => <Choice {...given} disabled={readOnly} value={value} options={options} onChange={onChange} />}
    </Field>
  );
  const { policies } = setting;
  const setPolicy = (part: PolicyPart, picked: string): void => {
    const { [part]: _before, ...others } = policies;
    set({ policies: picked === '' ? others : { ...others, [part]: picked as Policy } });
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto px-5 pb-6">
      {!readOnly && <Recipes {...{ intake, setting, set }} />}
      <h2 className="mt-5 font-serif text-[17px]">How the file is read</h2>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        <Field
          label="It comes from"
          hint="Numbers elsewhere, and whom you choose for rows, are known by it the next time."
          className="w-72"
        >
          {(given) => (
            <Input
              {...given}
              key={setting.source}
              disabled={readOnly}
              maxLength={60}
              placeholder="Such as the giving portal"
              defaultValue={setting.source}
              onBlur={({ target: { value } }) => {
                if (value.trim() !== setting.source) set({ source: value.trim() });
              }}
            />
          )}
        </Field>
        {intake.format !== 'cards' && intake.format !== 'objects' && (
          <>
            {pick(
              'Its first row is',
              setting.headed === null ? '' : setting.headed ? 'headings' : 'row',
              [
                ...(setting.headed === null ? [{ value: '', label: 'not said yet' }] : []),
                { value: 'headings', label: 'headings' },
                { value: 'row', label: 'a row like the others' },
              ],
              (picked) => set({ headed: picked === '' ? null : picked === 'headings' }),
            )}
            <Field label="The table begins in row" className="w-40">
              {(given) => (
                <Input
                  {...given}
                  key={setting.startRow}
                  type="number"
                  min={1}
                  disabled={readOnly}
                  defaultValue={setting.startRow}
                  onBlur={({ target: { value } }) => {
                    const row = Math.floor(Number(value));
                    if (row < 1 || row === setting.startRow) return;
                    // What is made of columns is made of those of the table.
                    const columns = setting.columns.slice(0, setting.columns.length - setting.made.length);
                    set({ startRow: row, picks: {}, made: [], columns });
                  }}
                />
              )}
            </Field>
          </>
        )}
        {readings.length > 1 &&
          pick(
            'Its letters are read as',
            setting.encoding ?? '',
            [
              ...(setting.encoding === null ? [{ value: '', label: 'not said yet' }] : []),
              ...readings.map(({ encoding, words }) => ({
                value: encoding,
                label: `${words.slice(0, 2).join(', ')} (${encoding})`,
              })),
            ],
            (picked) => set({ encoding: picked === '' ? null : picked }),
          )}
        {pick(
          'Amounts are written',
          setting.decimal,
          [
            { value: '.', label: '1,250.00' },
            { value: ',', label: '1.250,00' },
          ],
          (picked) => set({ decimal: picked === ',' ? ',' : '.' }),
        )}
        {pick(
          'Dates such as 3/4/2026 are',
          setting.dateOrder ?? '',
          [
            { value: '', label: found === null ? 'not said yet' : `as they say: ${ORDERS[found]}` },
            { value: 'mdy', label: ORDERS.mdy },
            { value: 'dmy', label: ORDERS.dmy },
          ],
          (picked) => set({ dateOrder: picked === '' ? null : (picked as 'mdy' | 'dmy') }),
        )}
        {pick(
          'Gifts without a fund go to',
          setting.fundId,
          funds.filter((fund) => !fund.closed).map((fund) => ({ value: fund.id, label: fund.name })),
          (picked) => set({ fundId: Number(picked) }),
        )}
      </div>
      <h2 className="mt-5 font-serif text-[17px]">What it should come to</h2>
      <p className="max-w-[46rem] text-faded">
        As whoever sent it says. Where the rows that would be brought in come to something else, it is asked about
        first.
      </p>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        <Expected
          label="Gifts"
          value={setting.expects.gifts === null ? '' : String(setting.expects.gifts)}
          read={(typed) => (/^\d{1,7}$/.test(typed) ? Number(typed) : null)}
          readOnly={readOnly}
          onChange={(gifts) => set({ expects: { ...setting.expects, gifts } })}
        />
        <Expected
          label="Together"
          value={setting.expects.cents === null ? '' : typedMoney(setting.expects.cents)}
          read={(typed) => {
            const amount = parseAmount(typed);
            return amount.ok ? amount.cents : null;
          }}
          readOnly={readOnly}
          onChange={(cents) => set({ expects: { ...setting.expects, cents } })}
        />
      </div>
      <h2 className="mt-5 font-serif text-[17px]">How rows find their supporters</h2>
      <p className="max-w-[46rem] text-faded">
        First by our number, then by a number elsewhere or what was chosen for them before, then as is said here. Alike
        are a same name (50), a short form of it or a slip in it (35 to 45), and more by an e-mail (50), a telephone
        (30) and an address (30). A person is asked about what is in doubt.
      </p>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        <Field label="These must agree" hint="None: an e-mail with a like name, or likeness." className="w-96">
          {(given) => (
            <Choices
              {...given}
              value={setting.matching.fields}
              onChange={(fields) =>
                set({ matching: { ...setting.matching, fields: lookedUp(fields as MatchField[]) } })
              }
              options={optionsOf(MATCH_FIELDS)}
            />
          )}
        </Field>
        {setting.matching.fields.length === 0 && (
          <Likeness
            label="Surely theirs from"
            value={setting.matching.sure}
            readOnly={readOnly}
            onChange={(sure) =>
              set({ matching: { ...setting.matching, sure, perhaps: Math.min(sure, setting.matching.perhaps) } })
            }
          />
        )}
        <Likeness
          label="Asked about from"
          value={setting.matching.perhaps}
          readOnly={readOnly}
          onChange={(perhaps) =>
            set({ matching: { ...setting.matching, perhaps, sure: Math.max(perhaps, setting.matching.sure) } })
          }
        />
      </div>
      <h2 className="mt-5 font-serif text-[17px]">Whose rows are brought in</h2>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        {pick(
          'Rows of supporters who are here',
          setting.known,
          optionsOf({ use: 'are brought in', skip: 'are left out' }),
          (picked) => set({ known: picked === 'skip' ? 'skip' : 'use' }),
        )}
        {pick(
          'Rows of others',
          setting.strangers,
          optionsOf({ add: 'make new supporters', skip: 'are left out' }),
          (picked) => set({ strangers: picked === 'skip' ? 'skip' : 'add' }),
        )}
      </div>
      <h2 className="mt-5 font-serif text-[17px]">The records of those who are here</h2>
      <p className="max-w-[46rem] text-faded">
        Gifts, tags, groups and notes are added in any case. A wish is only lifted where the file goes before. Where an
        address of the file goes before, ours is kept as a former one.
      </p>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        {pick('For everything', policies.all, optionsOf(POLICY_WORDS), (picked) =>
          set({ policies: { ...policies, all: picked as Policy } }),
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-4 gap-y-2">
        {POLICY_PARTS.map((part) => (
          <span key={part}>
            {pick(
              PART_WORDS[part],
              policies[part] ?? '',
              [{ value: '', label: 'as for everything' }, ...optionsOf(POLICY_WORDS)],
              (picked) => setPolicy(part, picked),
            )}
          </span>
        ))}
      </div>
    </div>
  );
}

/** Records are looked up by one of a few: where none is among what must agree, the last name is. */
const lookedUp = (fields: MatchField[]): MatchField[] =>
  fields.length === 0 || fields.some((field) => LOOKED_UP_BY.includes(field)) ? fields : ['last', ...fields];

/** How alike a row and a record must be, of a hundred. */
function Likeness(props: { label: string; value: number; readOnly: boolean; onChange: (value: number) => void }) {
  return (
    <Expected
      label={props.label}
      value={String(props.value)}
      read={(typed) => (/^\d{1,3}$/.test(typed) && Number(typed) <= 100 ? Number(typed) : null)}
      readOnly={props.readOnly}
      onChange={(value) => value !== null && props.onChange(value)}
    />
  );
}

/** A figure that a file should come to; emptied, it is not looked at. */
function Expected(props: {
  label: string;
  value: string;
  read: (typed: string) => number | null;
  readOnly: boolean;
  onChange: (figure: number | null) => void;
}) {
  const [fault, setFault] = useState<string | undefined>(undefined);
  return (
    <Field label={props.label} error={fault} className="w-40">
      {(given) => (
        <Input
          {...given}
          key={props.value}
          inputMode="decimal"
          disabled={props.readOnly}
          defaultValue={props.value}
          onBlur={({ target: { value } }) => {
            const typed = value.trim();
            if (typed === props.value) return;
            const figure = typed === '' ? null : props.read(typed);
            if (typed !== '' && figure === null) setFault('This is no such figure.');
            else {
              setFault(undefined);
              props.onChange(figure);
            }
          }}
        />
      )}
    </Field>
  );
}
