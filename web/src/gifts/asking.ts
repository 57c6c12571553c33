import { useEffect, useSyncExternalStore } from 'react';
import type { GiftWhole } from '@tallystick/contract/gifts';
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

/** What the form is asked for with, or null while it is closed. */
export const useAsked = (): GiftBegin | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => asked,
  );
export const closeGiftDialog = (): void => show(null);

/** The record that is in sight: the key for a gift means whose it is. */
let inSight: Picked | null = null;

/** Tells whose record is in sight as long as it is. */
export function useInSight({ id, name }: Picked): void {
  useEffect(() => {
    inSight = { id, name };
    return () => {
      inSight = null;
    };
  }, [id, name]);
}

/** Opens the form for a gift of whoever is in sight. */
export const openGiftOfInSight = (): void => openGiftDialog(inSight);

/** Opens the form for one gift, for a supporter or to find one in it. */
export const openGiftDialog = (who: Picked | null, typed?: Partial<TypedGift>): void =>
  show({ who, ...(typed ? { typed } : {}) });
/** Opens the form on a gift that can still be changed. */
export const changeGift = (gift: GiftWhole): void =>
  show({ who: { id: gift.supporterId, name: gift.supporterName }, gift });
