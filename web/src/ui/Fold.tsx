import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { classes } from './classes.ts';

/** Something that is shown when its line is pressed. */
export function Fold(props: {
  line: ReactNode;
  /** Whether it begins in sight. */
  open?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(props.open ?? false);
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className={props.className}>
      <Collapsible.Trigger className="flex min-h-6 items-center gap-1 text-left">
        <ChevronRight size={14} aria-hidden className={classes('shrink-0 text-faded', open && 'rotate-90')} />
        <span>{props.line}</span>
      </Collapsible.Trigger>
      <Collapsible.Content>{props.children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
