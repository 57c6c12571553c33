import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { classes } from '../classes.ts';
import type { Option } from './options.ts';
import { ITEM, LIST, TRIGGER } from './looks.ts';
import type { TriggerProps } from './looks.ts';

/** Radix keeps the empty text for 'nothing chosen', while with us it is a choice like the others. */
const NOTHING = '\u0000';
const inside = (value: string): string => (value === '' ? NOTHING : value);

/** One of a handful, looked over at once. */
export function SelectBox(
  props: TriggerProps & {
    value: string;
    onChange: (value: string) => void;
    options: readonly Option[];
    open: boolean;
    onOpen: (open: boolean) => void;
  },
) {
  const { value, onChange, options, open, onOpen, className, placeholder, disabled, ...trigger } = props;
  const chosen = options.find((option) => String(option.value) === value);
  return (
    <Radix.Root
      open={open}
      onOpenChange={onOpen}
      value={inside(value)}
      onValueChange={(picked) => onChange(picked === NOTHING ? '' : picked)}
      {...(disabled === undefined ? {} : { disabled })}
    >
      <Radix.Trigger {...trigger} className={classes(TRIGGER, className)}>
        <Radix.Value>{chosen?.label ?? placeholder ?? ''}</Radix.Value>
        <ChevronDown size={14} aria-hidden className="ml-auto shrink-0 text-faded" />
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content position="popper" sideOffset={2} className={LIST}>
          <Radix.Viewport>
            {options.map((option) => (
              <Radix.Item key={option.value} value={inside(String(option.value))} className={ITEM}>
                <Radix.ItemText>{option.label}</Radix.ItemText>
                {option.closed && <span className="text-[12px] text-faded">closed</span>}
                <Radix.ItemIndicator className="ml-auto">
                  <Check size={14} aria-hidden />
                </Radix.ItemIndicator>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
