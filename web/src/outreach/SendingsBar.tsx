import { RotateCcw } from 'lucide-react';
import { retryDeliveries } from '@tallystick/contract/outreach';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** What can be done to the messages that are selected: sent again, those that did not surely arrive. */
export function SendingsBar({ ids, onDone }: { ids: readonly number[]; onDone: () => void }) {
  const { counted } = useFormats();
  const mayAct = useMay(retryDeliveries);
  const messages = counted(ids.length, 'message');
  const retry = useWrite(() => call(retryDeliveries, { body: { ids: [...ids] } }), {
    say: ({ again }) =>
      again === 0 ? 'All of them arrived, wait, or were held back' : `Sending ${counted(again, 'message')} again`,
    then: onDone,
  });
  if (!mayAct) return <span className="font-medium">{messages}</span>;
  return (
    <ActsOn label="Acts on the messages" what={messages}>
      <Button look="quiet" className="px-2" busy={retry.isPending} onClick={() => retry.mutate(undefined)}>
        <RotateCcw size={14} /> Send again
      </Button>
    </ActsOn>
  );
}
