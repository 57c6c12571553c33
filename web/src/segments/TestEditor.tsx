import { useId } from 'react';
import type { Type } from '@tallystick/core/catalogue';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import { TESTS } from '@tallystick/core/segments';
import { Choice, Choices, optionsOf } from '../ui/choice/index.tsx';
import { freshTest } from './conditions.ts';
import type { Test } from './conditions.ts';
import { Told } from './Told.tsx';
import { useOptionsOf } from './useCatalogue.ts';
import { WindowSelect } from './WindowSelect.tsx';

const WORDS: Record<Test['is'], string> = {
  ...{ 'any-of': 'is', contains: 'contains', begins: 'begins with', sounds: 'sounds like', between: 'is', in: 'is' },
  ...{ filled: 'is filled in', empty: 'is empty' },
};

/** What stands where nothing was chosen yet, and after what was. */
const [ANY, OR] = ['any: choose', 'or'];

/** What is asked of a value: which question of those that fit its type, and with what. */
export function TestEditor(props: { label: string; type: Type; test: Test; onChange: (test: Test) => void }) {
  const { label, type, test, onChange } = props;
  const kinds = TESTS[type.is];
  return (
    <>
      {kinds.length > 1 && (
        <Choice
          aria-label={`${label}: question`}
          className="w-auto min-w-16"
          value={test.is}
          onChange={(is) => onChange(freshTest(is as Test['is']))}
          options={optionsOf(Object.fromEntries(kinds.map((is) => [is, WORDS[is]])))}
        />
      )}
      <span data-value className="contents">
        <Asked key={test.is} {...props} />
      </span>
    </>
  );
}

function Asked({
  label,
  type,
  test,
  onChange,
}: {
  label: string;
  type: Type;
  test: Test;
  onChange: (test: Test) => void;
}) {
  const options = useOptionsOf(type);
  switch (test.is) {
    case 'filled':
    case 'empty':
      return null;
    case 'in':
      return <WindowSelect label={label} window={test.window} onChange={(window) => onChange({ ...test, window })} />;
    case 'between':
      return (
        <Between
          name={label}
          number={type.is !== 'money'}
          value={test}
          onChange={(bounds) => onChange({ ...test, ...bounds })}
        />
      );
    default:
      if (type.is === 'yesno')
        return (
          <Choice
            aria-label={label}
            className="w-auto min-w-24"
            value={test.values[0] ?? '1'}
            onChange={(one) => onChange({ ...test, values: [one] })}
            options={[
              { value: '1', label: type.yes },
              { value: '0', label: type.no },
            ]}
          />
        );
      if (options.length > 0 && test.is === 'any-of')
        return (
          <span className="max-w-md">
            <Choices
              aria-label={`${label}: ${test.values.length === 0 ? ANY : OR}`}
              options={options}
              value={test.values}
              onChange={(values) => onChange({ ...test, values })}
              placeholder={test.values.length === 0 ? ANY : OR}
            />
          </span>
        );
      return (
        <Told
          className="w-56"
          label={label}
          placeholder="one, or several with commas"
          value={test.values}
          read={severalIn}
          write={(values) => values.join(', ')}
          onChange={(values) => onChange({ ...test, values })}
        />
      );
  }
}

const severalIn = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

interface Bounds {
  atLeast: number | null;
  atMost: number | null;
}

/** A figure between two bounds, of which either may be left open: money in cents, or a number. */
export function Between(props: { name: string; number: boolean; value: Bounds; onChange: (value: Bounds) => void }) {
  const { name, number, value, onChange } = props;
  const id = useId();
  const read = (text: string): number | null => {
    if (number) return /^-?\d{1,9}(\.\d{1,6})?$/.test(text.trim()) ? Number(text) : null;
    const amount = parseAmount(text);
    return amount.ok ? amount.cents : null;
  };
  const write = (figure: number | null): string =>
    figure === null ? '' : number ? String(figure) : typedMoney(figure);
  const bound = (which: keyof Bounds, word: string) => (
    <>
      <label htmlFor={`${id}${which}`} className="text-faded">
        {word}
      </label>
      <Told
        id={`${id}${which}`}
        className="w-24 text-right"
        inputMode={number ? 'numeric' : 'decimal'}
        label={`${name} ${word}`}
        placeholder="any"
        value={value[which]}
        read={read}
        write={write}
        onChange={(figure) => onChange({ ...value, [which]: figure })}
      />
    </>
  );
  return (
    <span className="flex items-center gap-2">
      {bound('atLeast', 'at least')}
      {bound('atMost', 'at most')}
    </span>
  );
}
