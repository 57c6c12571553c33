import { useParams } from 'react-router';
import { PledgeView } from './PledgeView.tsx';

export default function PledgePage() {
  const { id } = useParams();
  return <PledgeView key={id} id={Number(id)} />;
}
