import type { IsoDate } from '../dates/index.ts';
import type { CreditChoice } from '../totals/index.ts';
import type { SupporterKind } from '../supporters/index.ts';
import type { Wish } from '../wishes/index.ts';
import type { FieldTest } from './field-test.ts';
import type { GiftsAsked, GiftsCondition } from './giving.ts';

/** One question about a supporter. Ids are database ids; amounts are cents; both ends of spans are included. */
export type Condition =
  | { kind: 'region'; regions: string[]; not?: boolean }
  | { kind: 'tag'; tag: number; not?: boolean }
  | (GiftsAsked & { kind: 'gave'; not?: boolean })
  | (GiftsAsked & {
      kind: 'total';
      /** Whose giving counts; legal donors where it is left out. */
      credit?: CreditChoice;
      atLeast: number | null;
      atMost: number | null;
      not?: boolean;
    })
  | GiftsCondition
  | { kind: 'last-gift'; from: IsoDate | null; to: IsoDate | null; not?: boolean }
  | { kind: 'kind'; kinds: SupporterKind[]; not?: boolean }
  | { kind: 'wish'; wish: Wish; not?: boolean }
  | { kind: 'in-group'; group: number; not?: boolean }
  | { kind: 'field'; field: number; test: FieldTest; not?: boolean }
  | { kind: 'gift-field'; field: number; test: FieldTest; not?: boolean };

/** Conditions joined by all or any; a group may hold groups. An empty group matches everyone. */
export interface Group {
  kind: 'group';
  join: 'all' | 'any';
  parts: (Condition | Group)[];
}

/** A group of which every part must hold. */
export const all = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'all', parts });

/** What nobody matches, in place of conditions that cannot be read: no group is without a number. */
export const NOBODY: Group = all({ kind: 'in-group', group: 0 });
