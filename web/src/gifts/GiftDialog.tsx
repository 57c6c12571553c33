import { useEffect, useState } from 'react';
import type { ComponentType } from 'react';
import { Dialog } from '../ui/overlays.tsx';
import { closeGiftDialog, useAsked } from './asking.ts';
import type { GiftBegin } from './asking.ts';

/** The one place where the gift form appears; it is part of the frame of every page. */
export function GiftDialogHost() {
  // The form is not what a page waits for, and is there before anyone asks for it: then it opens at once, so that
  // whoever types on after `g` types into it.
  const [Form, setForm] = useState<ComponentType<{ begin: GiftBegin; onClose: () => void }> | null>(null);
  useEffect(() => void import('./GiftForm.tsx').then((form) => setForm(() => form.default)), []);
  const open = useAsked();
  return (
    <Dialog
      open={open !== null}
      onClose={closeGiftDialog}
      title={open?.gift ? `Change ${open.gift.number}` : 'Record a gift'}
      size="medium"
    >
      {open && Form && <Form key={open.gift?.id ?? 'new'} begin={open} onClose={closeGiftDialog} />}
      {open && !Form && <p className="text-faded">Opening …</p>}
    </Dialog>
  );
}
