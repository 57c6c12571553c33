import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import { messageOf } from './api.ts';

/**
 * A write that a button does; what happened is said.
 * `say` gives the words for the result; none says nothing, since the tray shows the last change.
 */
export function useWrite<Given, Result>(
  work: (given: Given) => Promise<Result>,
  after: { say?: (result: Result) => string; then?: (result: Result) => void } = {},
) {
  return useMutation({
    mutationFn: work,
    onSuccess: (result) => {
      const words = after.say?.(result);
      if (words) toast.success(words);
      after.then?.(result);
    },
    onError: (error) => toast.error(messageOf(error), { duration: 12_000 }),
  });
}
