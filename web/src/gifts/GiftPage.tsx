import { useParams } from 'react-router';
import { giftNumber } from '@tallystick/core/gifts';
import { useTitle } from '../ui/useTitle.ts';
import { DonorsGifts } from './DonorsGifts.tsx';
import { GiftView } from './GiftView.tsx';

export default function GiftPage() {
  const { id } = useParams();
  useTitle(giftNumber(Number(id)));
  return (
    <div className="grid overflow-auto lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <GiftView id={Number(id)} />
      <DonorsGifts key={id} id={Number(id)} />
    </div>
  );
}
