import { Navigate, useParams } from 'react-router';
import { useSupporter } from './api.ts';
import { SupporterRecord } from './Record.tsx';

export default function RecordPage() {
  const { id } = useParams();
  const { data } = useSupporter(Number(id));
  // The number of who was merged into another leads to that one.
  if (data && data.id !== Number(id)) return <Navigate to={`/supporters/${data.id}`} replace />;
  return <SupporterRecord id={Number(id)} />;
}
