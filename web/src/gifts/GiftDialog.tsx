import { lazy, Suspense, useEffect, useSyncExternalStore } from 'react';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { Dialog } from '../ui/overlays.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import type { TypedGift } from './draft.ts';

/** What the form begins with: a supporter, a gift to change, or something typed already. */
export interface GiftBegin {
  who: Picked | null;
  gift?: GiftWhole;
  typed?: Partial<TypedGift>;
}
let asked: GiftBegin | null = null;
const listeners = new Set<() => void>();
const show = (next: typeof asked): void => {
  asked = next;
  for (const listener of listeners) listener();
};

/** Opens the form for one gift, for a supporter or to find one in it. */
export const openGiftDialog = (who: Picked | null, typed?: Partial<TypedGift>): void =>
  show({ who, ...(typed ? { typed } : {}) });
/** Opens the form on a gift that can still be changed. */
export const changeGift = (gift: GiftWhole): void =>
  show({ who: { id: gift.supporterId, name: gift.supporterName }, gift });

/** The form is not what a page waits for; it is fetched as soon as the page rests, so that it is there when it is wanted. */
const loadForm = () => import('./GiftForm.tsx');
const GiftForm = lazy(loadForm);

/** The one place where the gift form appears; it is part of the frame of every page. */
export function GiftDialogHost() {
  useEffect(() => void loadForm(), []);
  const open = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => asked,
  );
  return (
    <Dialog
      open={open !== null}
      onClose={() => show(null)}
      title={open?.gift ? `Change ${open.gift.number}` : 'Record a gift'}
      size="medium"
    >
      <Suspense fallback={<p className="text-faded">Opening …</p>}>
        {open && <GiftForm key={open.gift?.id ?? 'new'} begin={open} onClose={() => show(null)} />}
      </Suspense>
    </Dialog>
  );
}
