import { Button } from './controls.tsx';
import { useFormats } from './organization.tsx';
import { NEXT } from './usePages.ts';

/** Shows more of a list that is longer than what is shown, and says by how much; nothing where all is shown. */
export function More({
  list,
  step = NEXT,
}: {
  list: { rows: readonly unknown[]; total: number; onMore: () => void };
  step?: number;
}) {
  const { count } = useFormats();
  const left = list.total - list.rows.length;
  if (left <= 0) return null;
  return (
    <Button look="quiet" className="h-7" onClick={list.onMore}>
      {left > step ? `Show ${step} of ${count(left)} more` : `Show ${count(left)} more`}
    </Button>
  );
}
