import { createContext, useContext } from 'react';
import type { ReactNode } from 'react';

/** True within a peek, where the page is already named by its list. */
export const InPeek = createContext(false);

/** The name of a record: the page's own title, or below that of the list that it is peeked at from. */
export function RecordTitle({ className, children }: { className: string; children: ReactNode }) {
  const Title = useContext(InPeek) ? 'h2' : 'h1';
  return <Title className={className}>{children}</Title>;
}
