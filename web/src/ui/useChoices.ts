import { useQuery } from '@tanstack/react-query';
import { listChoices } from '@tallystick/contract/setup';
import { call } from './api.ts';

const NONE = { funds: [], campaigns: [], appeals: [], tags: [], regions: [] };

/** Funds, campaigns, appeals, tags and states: what forms choose from. */
export function useChoices() {
  const { data } = useQuery({
    queryKey: ['choices'],
    queryFn: ({ signal }) => call(listChoices, { signal }),
    staleTime: 60_000,
  });
  return data ?? NONE;
}
