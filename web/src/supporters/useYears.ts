import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { yearsGiven } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import type { YearGiven } from '../ui/charts/Miniature.tsx';

const AT_ONCE = 200;

/** What the supporters of a list gave year by year, asked for page by page, and only while it is shown. */
export function useYears(ids: readonly number[], shown: boolean): ReadonlyMap<number, YearGiven[]> {
  const pages = shown ? Math.ceil(ids.length / AT_ONCE) : 0;
  const answers = useQueries({
    queries: Array.from({ length: pages }, (_, page) =>
      ask(yearsGiven, { body: { supporterIds: ids.slice(page * AT_ONCE, (page + 1) * AT_ONCE) } }),
    ),
    combine: together,
  });
  return useMemo(() => {
    const years = new Map<number, YearGiven[]>();
    for (const one of answers)
      for (const { supporterId, ...year } of one) years.set(supporterId, [...(years.get(supporterId) ?? []), year]);
    return years;
  }, [answers]);
}

const together = <Item>(answers: readonly { data?: { items: Item[] } | undefined }[]): Item[][] =>
  answers.flatMap(({ data }) => (data ? [data.items] : []));
