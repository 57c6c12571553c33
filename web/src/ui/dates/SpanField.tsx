import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { classes } from '../classes.ts';
import { ITEM, TRIGGER } from '../choice/looks.ts';
import { Field } from '../controls.tsx';
import { useFormats, useHere } from '../organization.tsx';
import { DateField } from './DateField.tsx';
import { namedSpans, spanShown } from './spans.ts';
import type { Span } from './spans.ts';

/** A span of days: one of the named ones with a press, or from one day to another. */
export function SpanField(props: {
  label: string;
  value: Span;
  onChange: (span: Span) => void;
  /** Stands before the span in the box. */
  prefix?: string | undefined;
  className?: string | undefined;
  open?: boolean;
  onOpen?: (open: boolean) => void;
}) {
  const { label, value, onChange } = props;
  const calendar = useHere().organization;
  const { date } = useFormats();
  const [own, setOwn] = useState(false);
  const open = props.open ?? own;
  const shown = spanShown(value, calendar, date);
  const setOpen = (next: boolean): void => {
    setOwn(next);
    props.onOpen?.(next);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`${label}, ${props.prefix ?? ''} ${shown}`}
        className={classes(TRIGGER, 'w-auto', props.className)}
      >
        <span>
          {props.prefix && <span className="text-faded">{props.prefix} </span>}
          {shown}
        </span>
        <ChevronDown size={14} aria-hidden className="ml-auto shrink-0 text-faded" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          aria-label={label}
          className="z-[60] w-72 rounded border border-rule bg-sheet py-1 text-ink"
        >
          <ul>
            {namedSpans(calendar).map(([name, span]) => (
              <li key={name}>
                <button
                  type="button"
                  aria-pressed={span.from === value.from && span.to === value.to}
                  className={classes(ITEM, 'w-full text-left hover:bg-hover aria-pressed:bg-chosen')}
                  onClick={() => {
                    onChange(span);
                    setOpen(false);
                  }}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-1 grid grid-cols-2 gap-2 border-t border-rule px-3 pt-2 pb-1">
            {(['from', 'to'] as const).map((end) => (
              <Field key={end} label={end === 'from' ? 'From date' : 'To date'}>
                {(attributes) => (
                  <DateField
                    {...attributes}
                    settled
                    value={value[end]}
                    onChange={(day) => onChange({ ...value, [end]: day })}
                  />
                )}
              </Field>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
