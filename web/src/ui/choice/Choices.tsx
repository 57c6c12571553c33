import { Check, Plus, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useRef } from 'react';
import { ChoiceList } from './ChoiceList.tsx';
import type { TriggerProps } from './looks.ts';
import type { Option } from './options.ts';
import { useTyping } from './useTyping.ts';

/**
 * Any number of things, each a chip with a cross; Backspace in the empty line takes the last, Ctrl+Enter sends the form
 * that it stands in.
 */
export function Choices(
  props: Omit<TriggerProps, 'className' | 'disabled'> & {
    value: readonly string[];
    onChange: (value: string[]) => void;
    options: readonly Option[];
    remember?: string | undefined;
    onAdd?: ((text: string) => void) | undefined;
  },
) {
  const { value, onChange, options, remember, onAdd, placeholder = 'Choose', ...trigger } = props;
  const typing = useTyping();
  const box = useRef<HTMLSpanElement>(null);
  const labelOf = (one: string): string => options.find((option) => String(option.value) === one)?.label ?? one;
  const without = (one: string): void => onChange(value.filter((other) => other !== one));
  const turn = (one: string): void => (value.includes(one) ? without(one) : onChange([...value, one]));
  return (
    <span
      ref={box}
      className="inline-flex min-h-8 w-full flex-wrap items-center gap-1 rounded border border-rule bg-sheet px-1 py-0.5"
    >
      {value.map((one) => (
        <span key={one} className="inline-flex items-center gap-1 rounded-sm bg-chosen pl-1.5">
          {labelOf(one)}
          <button
            type="button"
            aria-label={`Take out ${labelOf(one)}`}
            className="grid size-6 place-items-center text-faded hover:text-ink"
            onClick={() => without(one)}
          >
            <X size={12} />
          </button>
        </span>
      ))}
      <Popover.Root open={typing.open} onOpenChange={(open) => typing.turn(open)}>
        <Popover.Trigger
          {...trigger}
          onKeyDown={typing.begin}
          className="inline-flex h-6 items-center gap-1 rounded px-1 text-faded hover:text-ink"
        >
          <Plus size={13} aria-hidden /> {placeholder}
        </Popover.Trigger>
        <ChoiceList
          label={trigger['aria-label'] ?? 'Choices'}
          options={options}
          remember={remember}
          query={typing.query}
          onQuery={typing.setQuery}
          onAdd={
            onAdd &&
            ((text) => {
              onAdd(text);
              typing.setQuery('');
            })
          }
          onChoose={(one) => {
            turn(one);
            typing.setQuery('');
          }}
          onKeyDown={(event) => {
            if (event.key === 'Backspace' && typing.query === '' && value.length > 0) onChange(value.slice(0, -1));
            else if (event.key === 'Enter' && event.ctrlKey) {
              event.preventDefault();
              typing.turn(false);
              box.current?.closest('form')?.requestSubmit();
            }
          }}
          mark={(option) =>
            value.includes(String(option.value)) && <Check size={14} aria-label="chosen" className="ml-auto" />
          }
        />
      </Popover.Root>
    </span>
  );
}
