import { Bookmark, Pencil } from 'lucide-react';
import { useState } from 'react';
import type { ComponentProps } from 'react';
import { describeWindow, namedPlace } from '@tallystick/core/dates';
import type { Window } from '@tallystick/core/dates';
import { addWindow } from '@tallystick/contract/windows';
import { IconButton } from '../ui/controls.tsx';
import { useHere, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { KeptWindowDialog } from './KeptWindowDialog.tsx';
import { PlainWindow } from './PlainWindow.tsx';

/** A window: one that is kept by a name, or any other, which can then be kept by one. */
export function WindowSelect(props: Omit<ComponentProps<typeof PlainWindow>, 'other'>) {
  const { window, onChange } = props;
  const { organization } = useHere();
  const { windows } = useChoices();
  const mayKeep = useMay(addWindow);
  const [keeping, setKeeping] = useState(false);
  const kept = window.kind === 'kept' ? windows.find(({ id }) => id === window.id) : undefined;
  return (
    <>
      <PlainWindow
        {...props}
        other={{
          value: kept ? `kept:${kept.id}` : null,
          options: windows.map(({ id, name, window: days }) => ({
            ...{ value: `kept:${id}`, label: name, also: describeWindow(days as Window, organization, organization) },
          })),
          onPick: (value) => onChange({ kind: 'kept', id: Number(value.replace('kept:', '')) }),
        }}
      />
      {mayKeep && !props.isNone && (kept !== undefined || (window.kind !== 'kept' && namedPlace(window) < 0)) && (
        <IconButton
          label={kept ? `Change the window ${kept.name}` : 'Keep this window by a name'}
          onClick={() => setKeeping(true)}
        >
          {kept ? <Pencil size={13} /> : <Bookmark size={13} />}
        </IconButton>
      )}
      {keeping && (
        <KeptWindowDialog
          kept={kept ?? null}
          window={kept ? (kept.window as Window) : window}
          onKept={(id) => onChange({ kind: 'kept', id })}
          onClose={() => setKeeping(false)}
        />
      )}
    </>
  );
}
