/* How boxes look from which one chooses, whether looked over or typed for. */

/** What names a box and says what is wrong with it, as a field hands it on. */
export interface TriggerProps {
  id?: string | undefined;
  'aria-label'?: string | undefined;
  'aria-invalid'?: boolean | undefined;
  'aria-describedby'?: string | undefined;
  className?: string | undefined;
  disabled?: boolean | undefined;
  autoFocus?: boolean | undefined;
  /** What stands in the box while nothing is chosen. */
  placeholder?: string | undefined;
}

/** The box itself: it grows with its words, which are never cut. */
export const TRIGGER =
  'inline-flex min-h-8 w-full items-center gap-1.5 rounded border border-rule bg-sheet px-2 py-0.5 text-left text-ink ' +
  'aria-invalid:border-madder disabled:opacity-60 data-[placeholder]:text-faded';
export const LIST =
  'z-[60] max-h-[min(24rem,var(--radix-select-content-available-height,24rem))] min-w-(--radix-select-trigger-width) ' +
  'max-w-[min(36rem,90vw)] overflow-auto rounded border border-rule bg-sheet py-1';
export const ITEM =
  'flex cursor-pointer items-center gap-2 px-3 py-1.5 outline-none data-[highlighted]:bg-hover data-[selected=true]:bg-hover data-[disabled=true]:opacity-50';
