import { lazy, Suspense, useEffect } from 'react';
import { Dialog } from '../ui/overlays.tsx';
import { closeGiftDialog, useAsked } from './asking.ts';

/** The form is not what a page waits for; it is fetched as soon as the page rests, so that it is there when it is wanted. */
const loadForm = () => import('./GiftForm.tsx');
const GiftForm = lazy(loadForm);

/** The one place where the gift form appears; it is part of the frame of every page. */
export function GiftDialogHost() {
  useEffect(() => void loadForm(), []);
  const open = useAsked();
  return (
    <Dialog
      open={open !== null}
      onClose={closeGiftDialog}
      title={open?.gift ? `Change ${open.gift.number}` : 'Record a gift'}
      size="medium"
    >
      <Suspense fallback={<p className="text-faded">Opening …</p>}>
        {open && <GiftForm key={open.gift?.id ?? 'new'} begin={open} onClose={closeGiftDialog} />}
      </Suspense>
    </Dialog>
  );
}
