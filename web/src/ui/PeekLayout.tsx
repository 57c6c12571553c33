import { ChevronDown, ChevronUp, Maximize2, X } from 'lucide-react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { Link } from 'react-router';
import type { ReactNode } from 'react';
import { IconButton } from './controls.tsx';
import { useKeys } from './keys.tsx';
import { InPeek } from './record/index.ts';

/**
 * A list with the peek of one of its rows at the right. `[` and `]` step to the record before and after; the open
 * section of the peek stays, since it is part of the address.
 */
export function PeekLayout(props: {
  list: ReactNode;
  ids: readonly number[];
  openId: number | null;
  onOpen: (id: number | null) => void;
  /** Where the whole record is; none where the peek is all of it. */
  hrefOf: ((id: number) => string) | undefined;
  peek: (id: number) => ReactNode;
}) {
  const { ids, openId, onOpen, hrefOf } = props;
  const place = openId === null ? -1 : ids.indexOf(openId);
  const step = (by: number): void => {
    const next = ids[place + by];
    if (next !== undefined) onOpen(next);
  };
  useKeys(
    openId === null
      ? {}
      : {
          '[': () => step(-1),
          ']': () => step(1),
          Escape: () => onOpen(null),
          ...(hrefOf ? { 'Shift+Enter': () => window.open(hrefOf(openId), '_blank') } : {}),
        },
  );
  // The list stays where it is in the tree, so that opening a peek neither scrolls it nor takes its focus.
  return (
    <Group orientation="horizontal" className="min-h-0 flex-1">
      <Panel id="list" defaultSize="58%" minSize="30%" className="flex min-h-0 flex-col">
        {props.list}
      </Panel>
      {openId !== null && (
        <>
          <Separator aria-label="Width of the peek" className="w-1 bg-rule hover:bg-slate focus-visible:bg-slate" />
          <Panel id="peek" defaultSize="42%" minSize="25%" className="flex min-h-0 flex-col bg-paper">
            <aside aria-label="Peek" className="flex min-h-0 flex-1 flex-col">
              <div className="flex h-9 shrink-0 items-center gap-1 border-b border-rule px-2">
                <IconButton label="Previous record ([)" disabled={place <= 0} onClick={() => step(-1)}>
                  <ChevronUp size={16} />
                </IconButton>
                <IconButton
                  label="Next record (])"
                  disabled={place < 0 || place >= ids.length - 1}
                  onClick={() => step(1)}
                >
                  <ChevronDown size={16} />
                </IconButton>
                <span className="text-[13px] text-faded">
                  {place >= 0 ? `${place + 1} of ${ids.length} loaded` : ''}
                </span>
                <span className="ml-auto" />
                {hrefOf && (
                  <Link
                    to={hrefOf(openId)}
                    className="inline-flex items-center gap-1 px-2 text-[13px] text-slate hover:underline"
                  >
                    <Maximize2 size={13} /> Open in full
                  </Link>
                )}
                <IconButton label="Close the peek" onClick={() => onOpen(null)}>
                  <X size={16} />
                </IconButton>
              </div>
              <div className="min-h-0 flex-1 overflow-auto">
                <InPeek value={true}>{props.peek(openId)}</InPeek>
              </div>
            </aside>
          </Panel>
        </>
      )}
    </Group>
  );
}
