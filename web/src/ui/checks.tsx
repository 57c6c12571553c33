import { Check, Minus } from 'lucide-react';
import { Checkbox as Box, RadioGroup, Switch as RadixSwitch } from 'radix-ui';
import type { ComponentProps, MouseEvent, ReactNode } from 'react';
import { classes } from './classes.ts';

type BoxProps = Omit<ComponentProps<typeof Box.Root>, 'onChange' | 'onCheckedChange'> & {
  onChange?: (on: boolean) => void;
};

const BOX =
  'relative inline-grid size-4 shrink-0 after:absolute after:-inset-1 place-items-center rounded-[3px] border border-faded bg-sheet align-middle data-[state=checked]:border-slate data-[state=checked]:bg-slate data-[state=indeterminate]:border-slate data-[state=indeterminate]:bg-slate disabled:opacity-55';

/** A box to tick, without words of its own beside it: `aria-label` names it. Half ticked where `checked` is indeterminate. */
export function Tick({ onChange, className, ...rest }: BoxProps) {
  return (
    <Box.Root className={classes(BOX, className)} onCheckedChange={(state) => onChange?.(state === true)} {...rest}>
      <Box.Indicator className="text-on-slate">
        {rest.checked === 'indeterminate' ? <Minus size={12} aria-hidden /> : <Check size={12} aria-hidden />}
      </Box.Indicator>
    </Box.Root>
  );
}

/** The same box for a row of a long list, of which hundreds are drawn as it scrolls; the list has its keys. */
export const RowTick = (props: { label: string; checked: boolean; onClick: (event: MouseEvent) => void }) => (
  <button
    type="button"
    role="checkbox"
    tabIndex={-1}
    aria-label={props.label}
    aria-checked={props.checked}
    data-state={props.checked ? 'checked' : 'unchecked'}
    className={BOX}
    onClick={props.onClick}
  >
    {props.checked && <Check size={12} aria-hidden className="text-on-slate" />}
  </button>
);

export function Checkbox({ label, ...rest }: BoxProps & { label: ReactNode }) {
  return (
    <label className="inline-flex min-h-6 items-center gap-2">
      <Tick {...rest} />
      <span>{label}</span>
    </label>
  );
}

/** Something that is on or off at once, without being saved. */
export function Switch(props: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="inline-flex min-h-6 items-center gap-2">
      <RadixSwitch.Root
        checked={props.on}
        onCheckedChange={props.onChange}
        className="inline-flex h-5 w-9 shrink-0 items-center rounded-full border border-faded bg-sheet px-0.5 data-[state=checked]:border-slate data-[state=checked]:bg-slate"
      >
        <RadixSwitch.Thumb className="size-3.5 rounded-full bg-faded data-[state=checked]:translate-x-4 data-[state=checked]:bg-on-slate" />
      </RadixSwitch.Root>
      <span>{props.label}</span>
    </label>
  );
}

/** Of several the one that counts: one stop of Tab, with arrows from one to the next. */
export const Radios = RadioGroup.Root;

export function Radio({ value, children }: { value: string; children: ReactNode }) {
  return (
    <label className="inline-flex min-h-6 items-start gap-1.5">
      <RadioGroup.Item
        value={value}
        className="mt-0.5 inline-grid size-4 shrink-0 place-items-center rounded-full border border-faded bg-sheet data-[state=checked]:border-slate"
      >
        <RadioGroup.Indicator className="size-2 rounded-full bg-slate" />
      </RadioGroup.Item>
      <span>{children}</span>
    </label>
  );
}
