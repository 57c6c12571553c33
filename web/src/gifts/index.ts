export { giftColumns } from './columns.tsx';
export { GiftDialogHost, openGiftDialog } from './GiftDialog.tsx';
export { GiftAreaNav } from './GiftAreaNav.tsx';
export { GiftView, Part, Row } from './GiftView.tsx';
