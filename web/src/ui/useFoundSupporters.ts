import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import { listSupporters } from '@tallystick/contract/supporters';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { call, keyOf, queries } from './api.ts';

type Kind = SupporterRow['kind'] | undefined;
const found = (text: string, limit: number, kind: Kind, whose = 'shown') =>
  queryOptions({
    queryKey: [...keyOf(listSupporters, { query: { q: text, limit } }), kind, whose],
    queryFn: async ({ signal }) =>
      (await call(listSupporters, { query: { q: text, limit, ...(kind ? { kind } : {}) }, signal })).items,
  });

/**
 * Supporters as one types. `rows` may still be those of an earlier text while the new ones are on their way, so that
 * the list does not flicker; then `fresh` is false, and none of them may be taken: whoever presses Enter means what
 * they have typed. `certain` answers with the rows for just that, also after the list is gone: its query is its own,
 * since one that nobody looks at any more is broken off.
 */
export function useFoundSupporters(text: string, limit: number, enabled = true, kind?: Kind) {
  const asked = text.trim();
  const query = useQuery({
    ...found(asked, limit, kind),
    enabled: enabled && asked !== '',
    placeholderData: keepPreviousData,
  });
  return {
    rows: asked === '' ? [] : (query.data ?? []),
    fresh: query.isSuccess && !query.isPlaceholderData,
    certain: (): Promise<SupporterRow[]> =>
      asked === '' ? Promise.resolve([]) : queries.fetchQuery(found(asked, limit, kind, 'certain')),
  };
}
