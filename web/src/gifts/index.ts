export { giftColumns } from './columns.tsx';
export { GiftDialogHost, openGiftDialog } from './GiftDialog.tsx';
export { GiftView } from './GiftView.tsx';
