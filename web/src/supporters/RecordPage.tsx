import { useParams } from 'react-router';
import { SupporterRecord } from './Record.tsx';

export default function RecordPage() {
  const { id } = useParams();
  return (
    <div className="w-full">
      <SupporterRecord id={Number(id)} full />
    </div>
  );
}
