export { giftColumns } from './columns.tsx';
export { openGiftDialog, useInSight } from './asking.ts';
export { GiftDialogHost } from './GiftDialog.tsx';
export { GiftAreaNav } from './GiftAreaNav.tsx';
export { GiftView } from './GiftView.tsx';
export { Giving } from './Giving.tsx';
