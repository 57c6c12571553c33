import { useParams } from 'react-router';
import { GiftView } from './GiftView.tsx';

export default function GiftPage() {
  const { id } = useParams();
  return <GiftView key={id} id={Number(id)} />;
}
