import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import { undoChange } from '@tallystick/contract/changes';
import { call, messageOf, Refused } from './api.ts';
import { useFormats } from './organization.tsx';

const LONG = 20_000;

/** Takes a change set back. Where later changes stand in the way it is offered to undo all but what those touched. */
export function useUndo() {
  const { counted } = useFormats();
  const { mutate, isPending } = useMutation({
    mutationFn: ({ revision, keepLater }: { revision: number; keepLater: boolean }) =>
      call(undoChange, { params: { revision }, body: { keepLater } }),
    onSuccess: ({ rows, left }) => {
      const says = `Undone: ${counted(rows, 'row')} of the records as before`;
      if (left.length === 0) toast.success(says);
      else toast.warning(`${says}. ${left.join(' ')}`, { duration: LONG });
    },
    onError: (error, { revision, keepLater }) => {
      const blocked = error instanceof Refused && error.code === 'undo-blocked' && !keepLater;
      const rest = { label: 'Undo the rest', onClick: () => mutate({ revision, keepLater: true }) };
      toast.error(messageOf(error), { duration: LONG, ...(blocked ? { action: rest } : {}) });
    },
  });
  return { busy: isPending, undo: (revision: number) => mutate({ revision, keepLater: false }) };
}
