import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import type { z } from 'zod';
import type { Endpoint } from '@tallystick/contract/endpoint';
import { call, keyOf } from './api.ts';

export interface Page<T> {
  items: T[];
  next: string | null;
  total: number;
}

/** A list that is loaded page by page as it is scrolled; `first` is the first page, with its totals. */
export function usePages<T, P extends Page<T> = Page<T>>(
  key: readonly unknown[],
  load: (cursor: string | undefined, signal: AbortSignal) => Promise<P & Page<T>>,
) {
  const query = useInfiniteQuery({
    // Not the key of one answer to the same question, which another part of the page may have asked.
    queryKey: [...key, 'pages'],
    queryFn: ({ pageParam, signal }) => load(pageParam, signal),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next ?? undefined,
    placeholderData: keepPreviousData,
  });
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage } = query;
  const rows = useMemo(() => (data?.pages ?? []).flatMap((page) => page.items), [data]);
  const onMore = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  return {
    rows,
    first: data?.pages[0],
    total: data?.pages[0]?.total ?? 0,
    onMore,
    isPending: query.isPending,
    error: query.error,
  };
}

/** The pages of a list of the API, a hundred rows each unless `limit` says otherwise. */
export function usePagesOf<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, T>(
  endpoint: Endpoint<P, Q, B, z.ZodType<Page<T>>>,
  given: { params?: z.input<P>; query?: object } = {},
) {
  return usePages<T>(keyOf(endpoint, given as never), (cursor, signal) =>
    call(endpoint, { ...given, query: { ...given.query, ...(cursor ? { cursor } : {}) }, signal } as never),
  );
}
