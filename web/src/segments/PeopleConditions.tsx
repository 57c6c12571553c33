import { useQuery } from '@tanstack/react-query';
import { manyOf, readField, kept, typed, typedField } from '@tallystick/core/fields';
import { WISH_NAMES, WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import { listFields } from '@tallystick/contract/fields';
import type { CustomField } from '@tallystick/contract/fields';
import type { Condition } from '@tallystick/contract/segments';
import { ask } from '../ui/api.ts';
import { Choice, optionsOfNames, Several } from '../ui/choice/index.tsx';
import { Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { KIND_NAMES } from '@tallystick/core/supporters';

type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;
interface Editing<K extends Condition['kind']> {
  condition: Of<K>;
  onChange: (condition: Condition) => void;
}
type Test = Of<'field'>['test'];

/** The custom fields of supporters or of gifts. */
export function useOwnFields(about: CustomField['about']): readonly CustomField[] {
  const { data } = useQuery(ask(listFields));
  return (data?.items ?? []).filter((field) => field.about === about);
}

export function Kinds({ condition, onChange }: Editing<'kind'>) {
  return (
    <Several
      label="Kinds"
      options={optionsOfNames(KIND_NAMES)}
      value={condition.kinds}
      onChange={(chosen) => onChange({ ...condition, kinds: KIND_NAMES.filter((kind) => chosen.includes(kind)) })}
    />
  );
}

export function WishSelect({ condition, onChange }: Editing<'wish'>) {
  return (
    <Choice
      aria-label="Wish"
      className="w-auto min-w-56"
      value={condition.wish}
      onChange={(picked) => onChange({ ...condition, wish: picked as Wish })}
      options={WISH_NAMES.map((wish) => ({ value: wish, label: WISHES[wish].word }))}
    />
  );
}

export function PeopleGroupSelect({ condition, onChange }: Editing<'in-group'>) {
  const { groups } = useChoices();
  return (
    <Choice
      aria-label="Group of people"
      className="w-auto min-w-56"
      value={condition.group}
      onChange={(picked) => onChange({ ...condition, group: Number(picked) })}
      options={[
        ...(groups.length === 0 ? [{ value: 0, label: 'no group yet' }] : []),
        ...groups.map((group) => ({ value: group.id, label: `${group.name} (${group.count})` })),
      ]}
    />
  );
}

/** The questions that fit the values of a kind of field, each with the test it begins as. */
const QUESTIONS: Record<CustomField['kind'], readonly (readonly [string, Test])[]> = {
  text: [
    ['is filled in', { is: 'filled' }],
    ['contains', { is: 'contains', text: '' }],
  ],
  number: [
    ['is filled in', { is: 'filled' }],
    ['is between', { is: 'between', atLeast: null, atMost: null }],
  ],
  money: [
    ['is filled in', { is: 'filled' }],
    ['is between', { is: 'between', atLeast: null, atMost: null }],
  ],
  date: [
    ['is filled in', { is: 'filled' }],
    ['is between', { is: 'dates', from: null, to: null }],
  ],
  yesno: [
    ['is filled in', { is: 'filled' }],
    ['is', { is: 'any-of', values: ['1'] }],
  ],
  one: [
    ['is filled in', { is: 'filled' }],
    ['is any of', { is: 'any-of', values: [] }],
  ],
  many: [
    ['is filled in', { is: 'filled' }],
    ['has any of', { is: 'any-of', values: [] }],
  ],
};

export function FieldTestEditor({ condition, onChange }: Editing<'field' | 'gift-field'>) {
  const fields = useOwnFields(condition.kind === 'field' ? 'supporter' : 'gift');
  const field = fields.find((one) => one.id === condition.field);
  const test = (next: Test): void => onChange({ ...condition, test: next });
  return (
    <>
      <Choice
        aria-label="Field"
        className="w-auto min-w-44"
        value={condition.field}
        onChange={(picked) => onChange({ ...condition, field: Number(picked), test: { is: 'filled' } })}
        options={[
          ...(fields.length === 0 ? [{ value: 0, label: 'no field yet' }] : []),
          ...fields.map((one) => ({ value: one.id, label: one.name })),
        ]}
      />
      {field && (
        <>
          <Choice
            aria-label="Question"
            className="w-auto min-w-32"
            value={condition.test.is}
            onChange={(picked) =>
              test(QUESTIONS[field.kind].find(([, one]) => one.is === picked)?.[1] ?? { is: 'filled' })
            }
            options={QUESTIONS[field.kind].map(([words, one]) => ({ value: one.is, label: words }))}
          />
          <TestValue field={field} test={condition.test} onChange={test} />
        </>
      )}
    </>
  );
}

function TestValue({ field, test, onChange }: { field: CustomField; test: Test; onChange: (test: Test) => void }) {
  /** Reads a bound as the field reads its values, so that money is typed as money. */
  const bound = (text: string): number | null => {
    const read = readField(field, typed(text));
    return read.ok && read.value !== '' ? Number(read.value) : null;
  };
  const number = (value: number | null, label: string, put: (value: number | null) => void) => (
    <Input
      className="w-24 text-right"
      aria-label={label}
      placeholder="any"
      defaultValue={value === null ? '' : typedField(field, kept(String(value)))}
      onChange={(event) => put(bound(event.target.value))}
    />
  );
  const date = (value: string | null, label: string, put: (value: string | null) => void) => (
    <DateField settled className="w-36" aria-label={label} value={value ?? ''} onChange={(day) => put(day || null)} />
  );
  switch (test.is) {
    case 'filled':
      return null;
    case 'contains':
      return (
        <Input
          className="w-48"
          aria-label="Text"
          value={test.text}
          onChange={(event) => onChange({ ...test, text: event.target.value })}
        />
      );
    case 'between':
      return (
        <>
          {number(test.atLeast, 'At least', (atLeast) => onChange({ ...test, atLeast }))} and
          {number(test.atMost, 'At most', (atMost) => onChange({ ...test, atMost }))}
        </>
      );
    case 'dates':
      return (
        <>
          {date(test.from, 'From', (from) => onChange({ ...test, from }))} and
          {date(test.to, 'To', (to) => onChange({ ...test, to }))}
        </>
      );
    case 'any-of': {
      const options = field.kind === 'yesno' ? ['1', '0'] : field.choices;
      const nameOf = (one: string): string =>
        field.kind === 'yesno' ? (one === '1' ? 'yes' : 'no') : (manyOf(one)[0] ?? one);
      return (
        <Several
          label={field.name}
          options={options.map((one) => ({ value: one, label: nameOf(one) }))}
          value={test.values}
          onChange={(values) => onChange({ ...test, values })}
        />
      );
    }
  }
}
