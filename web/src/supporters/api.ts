import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { createSupporter, getSupporter, updateSupporter } from '@tallystick/contract/supporters';
import type { Supporter, SupporterDraftInput } from '@tallystick/contract/supporters';
import { ask, call } from '../ui/api.ts';

export function useSupporter(id: number, enabled = true) {
  return useQuery({ enabled, ...ask(getSupporter, { params: { id } }) });
}

/** Saves a new supporter or changes to one; `onDone` gets its id. */
export function useSaveSupporter(supporter: Supporter | null, onDone: (id: number) => void) {
  return useMutation({
    mutationFn: async (draft: SupporterDraftInput): Promise<number> => {
      if (supporter) {
        await call(updateSupporter, { params: { id: supporter.id }, body: { version: supporter.version, draft } });
        return supporter.id;
      }
      return (await call(createSupporter, { body: draft, key: crypto.randomUUID() })).id;
    },
    onSuccess: (id) => {
      toast.success(supporter ? 'Saved' : 'Added');
      onDone(id);
    },
  });
}
