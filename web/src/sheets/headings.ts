import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { SHEET_FIELDS, sheetHeading } from '@tallystick/core/sheets';
import type { SheetField } from '@tallystick/core/sheets';
import { listFields } from '@tallystick/contract/fields';
import { ask } from '../ui/api.ts';
import { useChoices } from '../ui/useChoices.ts';

/** What columns are called, which there are, and what can be chosen in them. */
export function useHeadings() {
  const { data } = useQuery(ask(listFields));
  const choices = useChoices();
  const headingOf = useCallback((field: string): string => sheetHeading(field, data?.items ?? []), [data]);
  const offered = useMemo(
    (): SheetField[] => [...SHEET_FIELDS, ...(data?.items ?? []).map((one): SheetField => `field:${one.id}`)],
    [data],
  );
  const lists = useMemo(() => {
    const open = (list: readonly { name: string; closed: boolean }[]) =>
      list.filter((one) => !one.closed).map((one) => one.name);
    return new Map<string, readonly string[]>([
      ['fund', open(choices.funds)],
      ['campaign', open(choices.campaigns)],
      ['appeal', open(choices.appeals)],
      ['method', Object.values(PAYMENT_METHODS)],
      ['tag', choices.tags.map((tag) => tag.name)],
      ...(data?.items ?? []).flatMap((one): [string, readonly string[]][] =>
        one.choices.length > 0 ? [[`field:${one.id}`, one.choices]] : [],
      ),
    ]);
  }, [choices, data]);
  const choicesOf = useCallback((field: string): readonly string[] => lists.get(field) ?? [], [lists]);
  return { headingOf, offered, choicesOf };
}
