import { useSyncExternalStore } from 'react';
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

/** Opens the form for one gift, for a supporter or to find one in it. */
export const openGiftDialog = (who: Picked | null, typed?: Partial<TypedGift>): void =>
  show({ who, ...(typed ? { typed } : {}) });
/** Opens the form on a gift that can still be changed. */
export const changeGift = (gift: GiftWhole): void =>
  show({ who: { id: gift.supporterId, name: gift.supporterName }, gift });
