import { Tooltip } from 'radix-ui';
import type { ReactElement } from 'react';

const WAIT_MS = 400;

/** Says what something is while a pointer rests on it or it has the focus; Escape takes the words away. */
export function Tip({ says, children }: { says: string; children: ReactElement }) {
  return (
    <Tooltip.Provider delayDuration={WAIT_MS}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={4}
            collisionPadding={6}
            // The button has these words as its name: they are not read twice.
            aria-hidden
            className="pointer-events-none z-[70] max-w-72 rounded border border-ink bg-ink px-2 py-1 text-[12.5px] text-paper"
          >
            {says}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
