import { useParams } from 'react-router';
import { SupporterRecord } from './Record.tsx';

export default function RecordPage() {
  const { id } = useParams();
  return (
    <div className="mx-auto w-full max-w-6xl">
      <SupporterRecord id={Number(id)} full />
    </div>
  );
}
