import type { ReactNode } from 'react';

/** What can be done with what is selected: how much that is, and the buttons beside it. */
export function ActsOn({ what, label, children }: { what: string; label: string; children: ReactNode }) {
  return (
    <div role="toolbar" aria-label={label} className="flex items-center gap-1">
      <span className="mr-1 font-medium whitespace-nowrap">{what}:</span>
      {children}
    </div>
  );
}
