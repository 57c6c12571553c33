import { useParams } from 'react-router';
import { giftNumber } from '@tallystick/core/gifts';
import { useTitle } from '../ui/useTitle.ts';
import { GiftView } from './GiftView.tsx';

export default function GiftPage() {
  const { id } = useParams();
  useTitle(giftNumber(Number(id)));
  return <GiftView id={Number(id)} />;
}
