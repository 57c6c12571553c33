import { StateWord } from './controls.tsx';

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

/** What became of something sent, in a word. */
export function DeliveryState({ state }: { state: string }) {
  const [word, tone] = DELIVERY[state] ?? [state, 'plain'];
  return <StateWord tone={tone}>{word}</StateWord>;
}
