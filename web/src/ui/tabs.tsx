import { Tabs as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { classes } from './classes.ts';

/** Parts of a page of which one is in sight: one stop of Tab, with arrows from one to the next. */
export function Tabs<Name extends string>(props: {
  label: string;
  tabs: Readonly<Record<Name, string>>;
  value: Name;
  onChange: (name: Name) => void;
  /** Narrower, for a peek. */
  tight?: boolean;
  /** `TabPanel`s, one for each tab. */
  children: ReactNode;
}) {
  return (
    <Radix.Root className="contents" value={props.value} onValueChange={(name) => props.onChange(name as Name)}>
      <Radix.List aria-label={props.label} className="flex flex-wrap gap-x-1.5 border-b border-rule px-4">
        {(Object.entries(props.tabs) as [Name, string][]).map(([name, title]) => (
          <Radix.Trigger
            key={name}
            value={name}
            className={classes(
              'border-b-2 border-transparent py-1.5 whitespace-nowrap text-faded hover:text-ink',
              'data-[state=active]:border-hazel data-[state=active]:text-ink forced-colors:data-[state=active]:border-[Highlight]',
              props.tight ? 'text-[12.5px]' : 'px-2.5',
            )}
          >
            {title}
          </Radix.Trigger>
        ))}
      </Radix.List>
      {props.children}
    </Radix.Root>
  );
}

export const TabPanel = Radix.Content;
