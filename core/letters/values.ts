import { formatDate } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { giftNumber } from '../gifts/index.ts';
import { formatMoney } from '../money/index.ts';
import { displayName } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import type { MergeValues } from './fields.ts';
import { supporterNumber } from '../supporters/index.ts';

/** What merge fields draw on for one supporter; `gift` only in a letter about a gift. */
export interface MergeSubject {
  id: number;
  name: NameParts;
  /** As the rules and overrides of addressing say. */
  addressing: { addressee: string; formal: string; informal: string };
  /** Values of fields of the catalogue as people read them, of custom ones by `field12`. */
  fields?: Readonly<Record<string, string>>;
  /** All they gave, goods left out: what those are worth is not told. */
  lifetimeCents: number;
  lastGiftOn: IsoDate | null;
  gift?: {
    id: number;
    cents: number;
    date: IsoDate;
    fund: string;
    /** Of a split gift: how much of it went to which fund. */
    parts?: readonly { fund: string; cents: number }[];
    receiptNumber: string;
    /** What was given in kind; a letter names it and never its value. */
    description?: string;
    benefitCents?: number;
    deductibleCents?: number;
  };
}

export interface MergeSetting {
  organization: string;
  /** Who signs letters; their name stands for it where it is left out. */
  signature?: string;
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
    signature: setting.signature || setting.organization,
    today: day(setting.today),
    ...(gift
      ? {
          giftAmount: gift.description ? gift.description : money(gift.cents),
          deductible: gift.description ? '' : money(gift.deductibleCents ?? gift.cents),
          benefitValue: gift.benefitCents ? money(gift.benefitCents) : '',
          giftDate: day(gift.date),
          fund: fundsOf(gift, setting),
          receiptNumber: gift.receiptNumber || giftNumber(gift.id),
        }
      : {}),
  };
}

/** Where a gift went; of a split one each fund with its amount, unless what was given is not valued. */
function fundsOf(gift: NonNullable<MergeSubject['gift']>, setting: MergeSetting): string {
  const { parts = [], description = '', fund } = gift;
  if (parts.length < 2 || description !== '') return fund;
  const each = parts.map((part) => `${part.fund} (${formatMoney(part.cents, setting)})`);
  return new Intl.ListFormat(setting.locale, { type: 'conjunction' }).format(each);
}
