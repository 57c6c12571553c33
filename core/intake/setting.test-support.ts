import { readDetails, readRow } from './index.ts';
import type { IntakeColumn, RowSetting } from './index.ts';

const fund = { id: 1, name: 'General', code: 'GEN', closed: false };

/** How rows are read in tests: one fund, the month first, dollars, on a fixed day. */
export const PLAIN_SETTING: RowSetting = {
  ...{ decimal: '.', dateOrder: 'mdy', currency: 'USD', today: '2026-11-30', home: 'US', fund, method: 'card' },
  ...{ funds: [fund], campaigns: [], appeals: [], own: [], ownOfGifts: [] },
};

/** A row of Ada Finch as it is read, with what stops it and what is asked about it. */
export function readOfAda(columns: IntakeColumn[], ...cells: string[]) {
  const all: IntakeColumn[] = ['wholeName', ...columns];
  const row = ['Ada Finch', ...cells];
  const { draft, problems, warnings } = readRow(all, row, PLAIN_SETTING);
  const more = readDetails(draft, all, row, PLAIN_SETTING);
  return {
    draft,
    details: more.details,
    stops: [...problems, ...more.problems].map(({ reason }) => reason),
    asks: [...warnings, ...more.warnings].map(({ field, reason }) => `${field ?? ''}: ${reason}`),
  };
}
