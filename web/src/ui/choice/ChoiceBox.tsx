import { Check, ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { classes } from '../classes.ts';
import { ChoiceList } from './ChoiceList.tsx';
import { TRIGGER } from './looks.ts';
import type { TriggerProps } from './looks.ts';
import type { Option } from './options.ts';

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
  const [own, setOwn] = useState(false);
  const open = given ?? own;
  const setOpen = (next: boolean): void => {
    setOwn(next);
    onOpen?.(next);
  };
  const [query, setQuery] = useState('');
  const chosen = options.find((option) => String(option.value) === value);
  const begin = (event: KeyboardEvent): void => {
    const letter = event.key.length === 1 && event.key !== ' ' && !event.ctrlKey && !event.altKey && !event.metaKey;
    if (!letter && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
    event.preventDefault();
    setQuery(letter ? event.key : '');
    setOpen(true);
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(now) => {
        setOpen(now);
        setQuery('');
      }}
    >
      <Popover.Trigger
        {...trigger}
        role="combobox"
        onKeyDown={begin}
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
        query={query}
        onQuery={setQuery}
        onAdd={
          onAdd &&
          ((text) => {
            setOpen(false);
            setQuery('');
            onAdd(text);
          })
        }
        onChoose={(picked) => {
          onChange(picked);
          setOpen(false);
          setQuery('');
        }}
        mark={(option) => String(option.value) === value && <Check size={14} aria-hidden className="ml-auto" />}
      />
    </Popover.Root>
  );
}
