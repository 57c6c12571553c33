import { useParams } from 'react-router';
import { SupporterRecord } from './Record.tsx';

export default function RecordPage() {
  const { id } = useParams();
  return <SupporterRecord id={Number(id)} />;
}
