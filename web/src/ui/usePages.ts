import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo } from 'react';
import type { z } from 'zod';
import type { Endpoint } from '@tallystick/contract/endpoint';
import { call, keyOf } from './api.ts';

export interface Page<T> {
  items: T[];
  next: string | null;
  total: number;
}

/** Which page of a list is asked for, and how many rows of it. */
export interface Place {
  limit?: number;
  cursor?: string;
}

/** The first page is as short as the API gives it, so that it is there soon; who scrolls on does so through few and large ones. */
export const NEXT = 500;
const placeOf = (cursor: string | undefined): Place => (cursor === undefined ? {} : { limit: NEXT, cursor });

/** A list that is loaded page by page as it is scrolled; `first` is the first page, with its totals. */
export function usePages<T, P extends Page<T> = Page<T>>(
  key: readonly unknown[],
  load: (place: Place, signal: AbortSignal) => Promise<P & Page<T>>,
) {
  const query = useInfiniteQuery({
    // Not the key of one answer to the same question, which another part of the page may have asked.
    queryKey: [...key, 'pages'],
    queryFn: ({ pageParam, signal }) => load(placeOf(pageParam), signal),
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
    hasMore: hasNextPage,
    onMore,
    isPending: query.isPending,
    error: query.error,
  };
}

/** Reads a list on, without scrolling, until so many rows are there or it has no more; says whether that is so. */
export function useReadTo(
  { rows, hasMore, error, onMore }: Pick<ReturnType<typeof usePages>, 'rows' | 'hasMore' | 'error' | 'onMore'>,
  many: number,
): boolean {
  const isThere = rows.length >= many || !hasMore;
  const goesOn = !isThere && !error;
  // It is another `onMore` once the page before has come.
  useEffect(() => {
    if (goesOn) onMore();
  }, [goesOn, onMore]);
  return isThere;
}

/** The pages of a list of the API, of so many rows as `usePages` asks for unless `limit` says otherwise. */
export function usePagesOf<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, T>(
  endpoint: Endpoint<P, Q, B, z.ZodType<Page<T>>>,
  given: { params?: z.input<P>; query?: object } = {},
) {
  return usePages<T>(keyOf(endpoint, given as never), (place, signal) =>
    call(endpoint, { ...given, query: { ...place, ...given.query }, signal } as never),
  );
}
