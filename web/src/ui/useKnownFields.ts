import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { fieldsWith } from '@tallystick/core/catalogue';
import type { Field } from '@tallystick/core/catalogue';
import { listFields } from '@tallystick/contract/fields';
import { ask } from './api.ts';

/** Every field that can be asked about, those that the organization made among them. */
export function useKnownFields(): ReadonlyMap<string, Field> {
  const { data } = useQuery(ask(listFields));
  return useMemo(() => fieldsWith(data?.items ?? []), [data]);
}
