import { useState } from 'react';
import { Checkbox } from '../checks.tsx';
import { Choices } from './Choices.tsx';
import { ChoiceBox } from './ChoiceBox.tsx';
import { SelectBox } from './SelectBox.tsx';
import { A_HANDFUL } from './options.ts';
import type { Option } from './options.ts';
import type { TriggerProps } from './looks.ts';

export { Choices } from './Choices.tsx';
export { optionsOfNames } from './options.ts';
export type { Option } from './options.ts';

/** The options of a record of words: `{ check: 'Check' }`. */
export const optionsOf = (words: Readonly<Record<string, string>>): Option[] =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

/** An option of what has a code: a fund, a campaign, an appeal, a source. */
export const codedOption = (
  one: { id: number; name: string; code: string; closed: boolean },
  label: string = one.name,
): Option => ({ value: one.id, label, also: one.code, closed: one.closed });

/** One of several: a handful is looked over, more are typed for. An option of the empty value is 'none of them'. */
export function Choice(
  props: TriggerProps & {
    value: string | number;
    onChange: (value: string) => void;
    options: readonly Option[];
    /** Names what was chosen lately, here and in other boxes of the same things. */
    remember?: string;
    /** Makes a new one of what was typed; absent where the role may not. */
    onAdd?: (text: string) => void;
  },
) {
  const { remember, onAdd, value, ...rest } = props;
  // Kept here, so that what is open stays so when more options come and it is typed for from then on.
  const [open, onOpen] = useState(false);
  const one = { ...rest, value: String(value), open, onOpen };
  return props.options.length > A_HANDFUL || onAdd ? (
    <ChoiceBox {...one} remember={remember} onAdd={onAdd} />
  ) : (
    <SelectBox {...one} />
  );
}

/** Any number of a few or of many: a few are ticked, more are typed for and stand as chips. */
export function Several(props: {
  label: string;
  value: readonly string[];
  onChange: (value: string[]) => void;
  options: readonly Option[];
}) {
  const { label, value, onChange, options } = props;
  if (options.length > A_HANDFUL)
    return <Choices aria-label={label} options={options} value={value} onChange={onChange} />;
  const chosen = new Set(value);
  return (
    <span className="flex flex-wrap gap-x-4">
      {options.map((option) => {
        const one = String(option.value);
        return (
          <Checkbox
            key={one}
            label={option.label}
            checked={chosen.has(one)}
            onChange={(on) => onChange(on ? [...value, one] : value.filter((other) => other !== one))}
          />
        );
      })}
    </span>
  );
}
