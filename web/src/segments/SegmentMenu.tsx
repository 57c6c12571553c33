import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { getDefinition } from '@tallystick/contract/segment-definition';
import { deleteSegment, freezeSegment } from '@tallystick/contract/segments';
import type { Asked, Segment } from '@tallystick/contract/segments';
import { download } from '../ui/download.ts';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { CompareDialog } from './CompareDialog.tsx';

/** What else can be done with a segment: copied, frozen, compared, kept as a file, deleted. */
export function SegmentMenu(props: {
  asked: Asked;
  segment: Segment | null;
  name: string;
  /** Opens a copy of what is on the screen. */
  onCopy: () => void;
  /** Lets go of what was typed, since the segment is gone. */
  onGone: () => void;
}) {
  const { asked, segment, name, onCopy, onGone } = props;
  const navigate = useNavigate();
  const { counted, date } = useFormats();
  const { today } = useHere().organization;
  const [mayFreeze, mayDelete] = [useMay(freezeSegment), useMay(deleteSegment)];
  const [comparing, setComparing] = useState(false);
  const called = `${name.trim() || 'Supporters'} on ${date(today)}`.slice(0, 120);
  const freeze = useWrite(() => call(freezeSegment, { body: { ...asked, name: called } }), {
    say: (list) => `${counted(list.many, 'supporter')} kept as “${list.name}”`,
  });
  const away = useWrite((id: number) => call(deleteSegment, { params: { id } }), {
    say: () => 'Segment deleted; Undo brings it back',
    then: () => {
      onGone();
      void navigate('/segments');
    },
  });
  const file = useWrite(async (id: number) => {
    const definition = await call(getDefinition, { params: { id } });
    download(new Blob([JSON.stringify(definition, null, 2)], { type: 'application/json' }), `${definition.name}.json`);
  });
  const items = [
    ...(segment && mayFreeze ? [{ label: 'Copy', onSelect: onCopy }] : []),
    ...(mayFreeze ? [{ label: 'Freeze today’s members', onSelect: () => freeze.mutate(undefined) }] : []),
    ...(segment
      ? [
          { label: 'Compare …', onSelect: () => setComparing(true) },
          { label: 'Its definition as a file (JSON)', onSelect: () => file.mutate(segment.id) },
        ]
      : []),
    ...(segment && mayDelete ? [{ label: 'Delete', onSelect: () => away.mutate(segment.id) }] : []),
  ];
  return (
    <>
      {items.length > 0 && (
        <Menu
          label="More"
          items={items}
          trigger={
            <Button busy={freeze.isPending || away.isPending || file.isPending}>
              More <ChevronDown size={14} />
            </Button>
          }
        />
      )}
      {segment && comparing && <CompareDialog segment={segment} onClose={() => setComparing(false)} />}
    </>
  );
}
