import { Check, ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { classes } from '../classes.ts';
import { ChoiceList } from './ChoiceList.tsx';
import { TRIGGER } from './looks.ts';
import type { TriggerProps } from './looks.ts';
import type { Option } from './options.ts';
import { useTyping } from './useTyping.ts';

/** One of many, typed for: any part of its name, code or synonyms. The first letter opens it. */
export function ChoiceBox(
  props: TriggerProps & {
    value: string;
    onChange: (value: string) => void;
    options: readonly Option[];
    remember?: string | undefined;
    onAdd?: ((text: string) => void) | undefined;
    /** Stands before what is chosen. */
    prefix?: string | undefined;
    icon?: ReactNode;
    open?: boolean;
    onOpen?: (open: boolean) => void;
    handsOn?: boolean;
  },
) {
  const { value, onChange, options, remember, onAdd, className, placeholder, prefix, icon, ...rest } = props;
  const { open: given, onOpen, handsOn, ...trigger } = rest;
  const typing = useTyping(given, onOpen);
  const chosen = options.find((option) => String(option.value) === value);
  return (
    <Popover.Root open={typing.open} onOpenChange={(open) => typing.turn(open)}>
      <Popover.Trigger
        {...trigger}
        role="combobox"
        onKeyDown={typing.begin}
        {...(chosen ? {} : { 'data-placeholder': '' })}
        className={classes(TRIGGER, className)}
      >
        {icon}
        <span>
          {chosen && prefix && <span className="text-faded">{prefix} </span>}
          {chosen?.label ?? placeholder ?? ''}
        </span>
        {chosen?.closed && <span className="text-[12px] text-faded">closed</span>}
        <ChevronDown size={14} aria-hidden className="ml-auto shrink-0 text-faded" />
      </Popover.Trigger>
      <ChoiceList
        label={trigger['aria-label'] ?? 'Choices'}
        options={options}
        remember={remember}
        handsOn={handsOn}
        query={typing.query}
        onQuery={typing.setQuery}
        onAdd={
          onAdd &&
          ((text) => {
            typing.turn(false);
            onAdd(text);
          })
        }
        onChoose={(picked) => {
          onChange(picked);
          typing.turn(false);
        }}
        mark={(option) => String(option.value) === value && <Check size={14} aria-hidden className="ml-auto" />}
      />
    </Popover.Root>
  );
}
