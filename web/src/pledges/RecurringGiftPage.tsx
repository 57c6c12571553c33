import { useParams } from 'react-router';
import { RecurringView } from './RecurringView.tsx';

export default function RecurringGiftPage() {
  const { id } = useParams();
  return <RecurringView key={id} id={Number(id)} />;
}
