import type { RowSetting } from './index.ts';

const fund = { id: 1, name: 'General', code: 'GEN', closed: false };

/** How rows are read in tests: one fund, the month first, dollars, on a fixed day. */
export const PLAIN_SETTING: RowSetting = {
  ...{ decimal: '.', dateOrder: 'mdy', currency: 'USD', today: '2026-11-30', home: 'US', fund, method: 'card' },
  ...{ funds: [fund], campaigns: [], appeals: [], own: [], ownOfGifts: [] },
};
