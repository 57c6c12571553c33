import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { QueryFunction, QueryKey } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { Said } from '@tallystick/contract/upkeep';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** Of what nobody asks yet. */
const NOBODY: QueryKey = ['upkeep', 'nothing is chosen'];

/**
 * What an act would do with what is chosen, asked as it is chosen; and doing it, after which one goes `to` somewhere.
 * Nothing is asked while the question is null.
 */
export function useAct<P extends Said>(
  question: { queryKey: QueryKey; queryFn?: unknown } | null,
  act: () => Promise<unknown>,
  to: string,
) {
  const navigate = useNavigate();
  const { data, error, refetch } = useQuery({
    queryKey: question?.queryKey ?? NOBODY,
    queryFn: question?.queryFn as QueryFunction<P>,
    enabled: question !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const go = useWrite(act, {
    then: () => {
      toast.success('Done; it can be undone at any time');
      void navigate(to);
    },
  });
  return {
    said: question === null ? undefined : data,
    error: question === null ? null : error,
    busy: go.isPending,
    // What was chosen last may not be told yet: it is waited for, and what is refused is not done.
    go: () => void refetch({ cancelRefetch: false }).then(({ isSuccess }) => isSuccess && go.mutate(undefined)),
  };
}

/** Who an act is about: by the address of the page, or as somebody is picked. */
export function useWho(): [id: number | null, pick: (picked: Picked | null) => void, picked: Picked | null] {
  const [asked, setAsked] = useSearchParams();
  const [picked, setPicked] = useState<Picked | null>(null);
  const id = Number(asked.get('id')) || null;
  return [
    id,
    (next) => {
      setPicked(next);
      setAsked(next ? { id: String(next.id) } : {}, { replace: true });
    },
    picked,
  ];
}
