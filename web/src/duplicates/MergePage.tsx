import { useNavigate, useSearchParams } from 'react-router';
import { MOST_MERGED } from '@tallystick/contract/duplicates';
import { Heading } from '../ui/controls.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { Comparing } from './Comparing.tsx';

/** Records that somebody chose, compared and merged; with one of them alone another is found. */
export default function MergePage() {
  const [asked, setAsked] = useSearchParams();
  const navigate = useNavigate();
  const ids = [...new Set((asked.get('ids') ?? '').split(',').map(Number))].filter(
    (id) => Number.isInteger(id) && id > 0,
  );
  const asking = ids.length < 2 ? 'With whom' : 'Add another';
  const add = (id: number): void => setAsked({ ids: [...ids, id].join(',') }, { replace: true });
  return (
    <>
      <Heading title="Merge records" facts="Everything on them comes together; it can be taken back at any time." />
      <div className="overflow-auto">
        {ids.length < MOST_MERGED && (
          <div className="flex max-w-md items-center gap-2 px-5 pt-3">
            <span className="shrink-0 text-[13px] text-faded" aria-hidden>
              {asking}
            </span>
            <SupporterPicker
              key={ids.length}
              label={asking}
              value={null}
              autoFocus={ids.length < 2}
              onPick={(picked) => picked && add(picked.id)}
            />
          </div>
        )}
        {ids.length > 1 && (
          <Comparing key={ids.join()} ids={ids} onDone={(into) => void navigate(`/supporters/${into}`)} />
        )}
      </div>
    </>
  );
}
