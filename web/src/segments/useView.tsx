import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { keepView } from '@tallystick/contract/segments';
import type { Segment, View } from '@tallystick/contract/segments';
import { call, messageOf } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';

/** Keeps a view for oneself; what could not be kept is said, since it will not be there the next time. */
function keep(id: number, view: View | null): void {
  call(keepView, { params: { id }, body: { view } }).catch((error: unknown) => toast.error(messageOf(error)));
}

/** So long after the last change what somebody made of a view is kept. */
const KEEP_AFTER = 500;

/**
 * How a segment is shown here: as its owner has it, who changes that with the segment, or as somebody else made it for
 * themselves, which is kept at once and can be let go of.
 */
export function useView(given: {
  segment: Segment | null;
  /** The owner's view, as it is typed. */
  base: View;
  onBase: (view: View) => void;
  isOwner: boolean;
  mayEdit: boolean;
}) {
  const { segment, base, onBase, isOwner, mayEdit } = given;
  const [own, setOwn] = useState<View | null>(segment?.ownView ?? null);
  const waiting = useRef<View | null | undefined>(undefined);
  const id = segment?.id;
  useEffect(() => {
    if (id === undefined || waiting.current === undefined) return;
    const timer = setTimeout(() => {
      if (waiting.current !== undefined) keep(id, waiting.current);
      waiting.current = undefined;
    }, KEEP_AFTER);
    return () => clearTimeout(timer);
  }, [own, id]);
  useEffect(
    () => () => {
      if (id !== undefined && waiting.current !== undefined) keep(id, waiting.current);
    },
    [id],
  );
  const make = (view: View | null): void => {
    waiting.current = view;
    setOwn(view);
  };
  const isBase = segment === null || (isOwner && own === null);
  const tools = own !== null && (
    <span className="flex items-center gap-2 text-[13px] text-faded">
      Your own view
      <Button look="quiet" onClick={() => make(null)}>
        Back to the owner’s
      </Button>
      {mayEdit && (
        <Button
          look="quiet"
          onClick={() => {
            onBase(own);
            make(null);
          }}
        >
          Make it everyone’s
        </Button>
      )}
    </span>
  );
  return { view: own ?? base, setView: isBase ? onBase : make, tools };
}
