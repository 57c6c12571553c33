import { formatDate } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { giftNumber } from '../gifts/index.ts';
import { formatMoney } from '../money/index.ts';
import { displayName } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import type { MergeValues } from './index.ts';
import { supporterNumber } from '../supporters/index.ts';

/** What merge fields draw on for one supporter; `gift` only in a letter about a gift. */
export interface MergeSubject {
  id: number;
  name: NameParts;
  /** As the rules and overrides of addressing say. */
  addressing: { addressee: string; formal: string; informal: string };
  /** Values of custom fields as people read them, by `field12`. */
  fields?: Readonly<Record<string, string>>;
  lifetimeCents: number;
  lastGiftOn: IsoDate | null;
  gift?: {
    id: number;
    cents: number;
    date: IsoDate;
    fund: string;
    receiptNumber: string;
    /** What was given in kind; a letter names it and never its value. */
    description?: string;
    benefitCents?: number;
    deductibleCents?: number;
  };
}

export interface MergeSetting {
  organization: string;
  currency: string;
  locale: string;
  today: IsoDate;
}

/** The value of every merge field; what is not known stays empty, so that its fallback is used. */
export function mergeValues(subject: MergeSubject, setting: MergeSetting): MergeValues {
  const { gift } = subject;
  const money = (cents: number): string => formatMoney(cents, setting);
  const day = (date: IsoDate): string => formatDate(date, setting, 'long');
  return {
    ...subject.fields,
    salutation: subject.addressing.informal,
    formalSalutation: subject.addressing.formal,
    addressee: subject.addressing.addressee,
    name: displayName(subject.name),
    first: subject.name.first,
    last: subject.name.last,
    supporterNumber: supporterNumber(subject.id),
    lifetimeTotal: subject.lifetimeCents > 0 ? money(subject.lifetimeCents) : '',
    lastGiftDate: subject.lastGiftOn === null ? '' : day(subject.lastGiftOn),
    organization: setting.organization,
    today: day(setting.today),
    ...(gift
      ? {
          giftAmount: gift.description ? gift.description : money(gift.cents),
          deductible: gift.description ? '' : money(gift.deductibleCents ?? gift.cents),
          benefitValue: gift.benefitCents ? money(gift.benefitCents) : '',
          giftDate: day(gift.date),
          fund: gift.fund,
          receiptNumber: gift.receiptNumber || giftNumber(gift.id),
        }
      : {}),
  };
}
