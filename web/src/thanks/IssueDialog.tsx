import { Link } from 'react-router';
import type { ThanksRow } from '@tallystick/contract/thanks';
import { Button } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { SayFirst } from '../ui/SayFirst.tsx';

/**
 * What issuing will do, in figures, before a number is taken; with those to look at first: they would be printed though
 * the post cannot bring them, or nobody is there to open them.
 */
export function IssueDialog(props: {
  gifts: readonly ThanksRow[];
  busy: boolean;
  onIssue: (gifts: readonly ThanksRow[]) => void;
  onClose: () => void;
}) {
  const { gifts, busy, onIssue } = props;
  const { count, counted, money } = useFormats();
  const free = gifts.filter((gift) => gift.channel !== 'held');
  const looked = free.filter((gift) => gift.look);
  const rest = free.filter((gift) => !gift.look);
  const by = (channel: ThanksRow['channel']): number => gifts.filter((gift) => gift.channel === channel).length;
  const dubious = looked.length > 0;
  return (
    <SayFirst
      title={dubious ? `Look at ${count(looked.length)} of ${count(free.length)} first` : 'Issue receipts?'}
      count={count}
      lines={[
        { figure: free.length, words: free.length === 1 ? 'number is taken, for good' : 'numbers are taken, for good' },
        { figure: by('email'), words: by('email') === 1 ? 'receipt goes by e-mail now' : 'receipts go by e-mail now' },
        { figure: by('print'), words: 'to print, in one file' },
        { figure: by('held'), words: 'held back and left out' },
        { figure: looked.length, words: 'would be printed, though what stands beside them speaks against it' },
      ]}
      word={
        dubious
          ? rest.length > 0
            ? `Leave them out, issue ${count(rest.length)}`
            : null
          : free.length > 0
            ? `Issue ${counted(free.length, 'receipt')} now`
            : null
      }
      busy={busy}
      onGo={() => onIssue(rest)}
      other={
        dubious && (
          <Button busy={busy} onClick={() => onIssue(free)}>
            Issue all {count(free.length)}
          </Button>
        )
      }
      onClose={props.onClose}
    >
      {dubious && (
        <ul aria-label="To look at" className="mt-3 max-h-60 overflow-auto border border-rule bg-sheet">
          {looked.map((gift) => (
            <li key={gift.id} className="flex gap-3 border-b border-rule px-3 py-1 last:border-0">
              <Link className="font-serif text-slate hover:underline" to={`/supporters/${gift.supporterId}`}>
                {gift.supporterName}
              </Link>
              <span className="tabular-nums">{money(gift.cents)}</span>
              <span className="ml-auto text-faded">{gift.because}</span>
            </li>
          ))}
        </ul>
      )}
    </SayFirst>
  );
}
