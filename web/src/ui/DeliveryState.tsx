import { StateWord } from './controls.tsx';
import { useFormats } from './organization.tsx';

const DELIVERY: Record<string, [string, 'settled' | 'wrong' | 'look' | 'plain']> = {
  queued: ['waiting to go', 'plain'],
  sending: ['going out', 'plain'],
  sent: ['reached', 'settled'],
  bounced: ['bounced', 'wrong'],
  failed: ['not reached', 'wrong'],
  unsure: ['not sure it arrived', 'look'],
  held: ['held back', 'look'],
  print: ['in the print file', 'settled'],
};

/** What became of something sent, in a word; `opened` is when it was first seen to be opened. */
export function DeliveryState({ state, opened = null }: { state: string; opened?: string | null }) {
  const { moment } = useFormats();
  const [word, tone] = DELIVERY[state] ?? [state, 'plain'];
  if (opened === null) return <StateWord tone={tone}>{word}</StateWord>;
  return (
    <span title={`Opened ${moment(opened)}`}>
      <StateWord tone={tone}>opened</StateWord>
    </span>
  );
}
