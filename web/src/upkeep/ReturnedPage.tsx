import { X } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { BAD_REASONS } from '@tallystick/core/contact';
import { addDays } from '@tallystick/core/dates';
import { findReturned, noteReturned } from '@tallystick/contract/upkeep';
import type { Returned } from '@tallystick/contract/upkeep';
import { ColleagueSelect } from '../supporters/index.ts';
import { call, messageOf } from '../ui/api.ts';
import { Checkbox } from '../ui/checks.tsx';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Field, Heading, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { USUAL_DAYS } from './TaskForMany.tsx';

const REASONS = BAD_REASONS.filter((reason) => !['bounced', 'wrong number'].includes(reason));

/** Mail came back: numbers are typed or scanned one after another, each told back at once. */
export default function ReturnedPage() {
  const { counted } = useFormats();
  const { organization, user } = useHere();
  const navigate = useNavigate();
  const [pieces, setPieces] = useState<readonly Returned[]>([]);
  const [code, setCode] = useState('');
  const [on, setOn] = useState<string>(organization.today);
  const [reason, setReason] = useState<string>(REASONS[0] ?? 'returned');
  const [withTask, setWithTask] = useState(true);
  const [owner, setOwner] = useState<number | null>(user.id);
  /** Takes what was typed or scanned; several lines come from a spreadsheet. */
  const take = async (text: string): Promise<void> => {
    const codes = text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .slice(0, 500);
    setCode('');
    if (codes.length === 0) return;
    try {
      const { items } = await call(findReturned, { body: { codes } });
      setPieces((old) => {
        const known = new Set(old.flatMap(({ supporter }) => supporter?.id ?? []));
        const fresh = items.filter(({ supporter }) => !supporter || !known.has(supporter.id));
        if (fresh.length < items.length) toast(`${counted(items.length - fresh.length, 'piece')} typed before`);
        return [...fresh.toReversed(), ...old];
      });
    } catch (error) {
      setCode(text);
      toast.error(messageOf(error));
    }
  };
  const good = pieces.filter(({ trouble }) => trouble === '');
  const odd = pieces.length - good.length;
  const task = { title: 'Find a new address', due: addDays(organization.today, USUAL_DAYS), ownerId: owner };
  const note = useWrite(
    () =>
      call(noteReturned, {
        body: { ids: good.flatMap(({ supporter }) => supporter?.id ?? []), on, reason, task: withTask ? task : null },
      }),
    { say: ({ says }) => says.join(' '), then: () => void navigate('/upkeep') },
  );
  return (
    <>
      <Heading
        title="Mail came back"
        facts={
          pieces.length === 0
            ? 'Type or scan the number on each piece.'
            : `${counted(good.length, 'address', 'addresses')} to be marked${odd > 0 ? `, ${counted(odd, 'piece')} to look at` : ''}`
        }
      >
        <Button
          look="main"
          busy={note.isPending}
          disabled={good.length === 0 || on === ''}
          onClick={() => note.mutate(undefined)}
        >
          Mark {counted(good.length, 'address', 'addresses')}
          {withTask && good.length > 0 ? `, set ${counted(good.length, 'task')}` : ''}
        </Button>
      </Heading>
      <div className="grid min-h-0 grow grid-cols-[20rem_1fr] overflow-auto">
        <form
          className="space-y-3 border-r border-rule px-5 py-4"
          onSubmit={(event) => {
            event.preventDefault();
            void take(code);
          }}
        >
          <Field label="Number" hint="Enter takes it; several from a spreadsheet can be pasted.">
            {(given) => (
              <div className="flex gap-2">
                <Input
                  {...given}
                  autoFocus
                  autoComplete="off"
                  placeholder="S-10482"
                  value={code}
                  onChange={(event) => setCode(event.target.value)}
                  onPaste={(event) => {
                    const text = event.clipboardData.getData('text');
                    if (!/\s\S/.test(text.trim())) return;
                    event.preventDefault();
                    void take(text);
                  }}
                />
                <Button type="submit">Take it</Button>
              </div>
            )}
          </Field>
          <Field label="Why">
            {(given) => (
              <Choice
                {...given}
                value={reason}
                options={REASONS.map((one) => ({ value: one, label: one }))}
                onChange={setReason}
              />
            )}
          </Field>
          <Field label="It came back on">{(given) => <DateField {...given} value={on} onChange={setOn} />}</Field>
          <Checkbox label="Set tasks to find new addresses" checked={withTask} onChange={setWithTask} />
          {withTask && (
            <Field label="Whose">{(given) => <ColleagueSelect {...given} value={owner} onChange={setOwner} />}</Field>
          )}
        </form>
        <div aria-live="polite">
          {pieces.length === 0 ? (
            <Empty title="No piece yet">Each is told back with whose it is and where it went.</Empty>
          ) : (
            <ul aria-label="Pieces">
              {pieces.map((piece, at) => (
                <li key={`${piece.code} ${at}`} className="flex items-center gap-3 border-b border-rule px-5 py-1.5">
                  <span className="w-24 shrink-0 text-faded">{piece.supporter?.number ?? piece.code}</span>
                  <span className="w-56 shrink-0 truncate font-serif">{piece.supporter?.name ?? ''}</span>
                  <span className="min-w-0 grow truncate">
                    {piece.trouble === '' ? piece.address : <span className="text-madder">◆ {piece.trouble}</span>}
                  </span>
                  <IconButton
                    label={`Take ${piece.supporter?.name ?? piece.code} off`}
                    onClick={() => setPieces(pieces.filter((_, place) => place !== at))}
                  >
                    <X size={14} />
                  </IconButton>
                </li>
              ))}
            </ul>
          )}
        </div>
      </div>
    </>
  );
}
