import { useQuery } from '@tanstack/react-query';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { listChoices } from '@tallystick/contract/setup';
import { ask } from './api.ts';

type Choices = ResponseOf<typeof listChoices>;
const NONE: Choices = {
  funds: [],
  campaigns: [],
  appeals: [],
  sources: [],
  tags: [],
  groups: [],
  segments: [],
  users: [],
  roles: [],
  mailings: [],
  intakes: [],
  windows: [],
  batches: [],
  regions: [],
};

/** Funds, campaigns, appeals, tags and states: what forms choose from. */
export function useChoices(): Choices {
  const { data } = useQuery({ ...ask(listChoices), staleTime: 60_000 });
  return data ?? NONE;
}
