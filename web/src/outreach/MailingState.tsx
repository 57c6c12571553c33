import type { Mailing } from '@tallystick/contract/outreach';
import { StateWord } from '../ui/controls.tsx';

export function MailingState({ state }: { state: Mailing['state'] }) {
  if (state === 'sent') return <StateWord tone="settled">sent</StateWord>;
  return state === 'sending' ? <StateWord tone="plain">going out</StateWord> : <StateWord tone="look">draft</StateWord>;
}
