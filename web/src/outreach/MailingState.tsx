import type { Mailing } from '@tallystick/contract/outreach';
import { StateWord } from '../ui/controls.tsx';

export function MailingState({ state, stopped = false }: { state: Mailing['state']; stopped?: boolean }) {
  if (stopped) return <StateWord tone="look">stopped</StateWord>;
  if (state === 'sent') return <StateWord tone="settled">sent</StateWord>;
  return state === 'sending' ? <StateWord tone="plain">going out</StateWord> : <StateWord tone="look">draft</StateWord>;
}
