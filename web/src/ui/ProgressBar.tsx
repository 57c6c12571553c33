import { Progress } from 'radix-ui';

/** How far something has come. */
export function ProgressBar({ label, done, total }: { label: string; done: number; total: number }) {
  const whole = Math.max(total, 1);
  const part = Math.min(done, whole);
  return (
    <Progress.Root
      aria-label={label}
      value={part}
      max={whole}
      className="h-1.5 w-24 overflow-hidden rounded-full border border-rule bg-sheet forced-colors:border-[CanvasText]"
    >
      <Progress.Indicator
        className="h-full bg-slate forced-colors:bg-[Highlight]"
        style={{ width: `${(part / whole) * 100}%` }}
      />
    </Progress.Root>
  );
}
