import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export interface PortalDonor {
  number: string;
  first: string;
  last: string;
  organization?: string;
  email: string;
  phone?: string;
  street?: string;
  city?: string;
  state?: string;
  zip?: string;
}
export interface PortalGift {
  id: string;
  /** When it was given, as an instant. */
  at: string;
  /** The name of the portal's campaign; empty where the donor chose none. */
  campaign: string;
  cents: number;
  feeCents: number;
  currency: string;
  paidBy: 'card' | 'bank';
  comment?: string;
  donor: PortalDonor;
}
export interface PortalRefund {
  id: string;
  gift: string;
  cents: number;
  at: string;
  reason: string;
}
export interface PortalCampaign {
  id: string;
  name: string;
  goalCents: number;
}
export interface OfflineGift {
  campaign: string;
  key: string;
  cents: number;
  day: string;
}
/** A line of the portal's file: whatever came, in the order in which it came. */
export type PortalLine =
  { campaign: PortalCampaign } | { gift: PortalGift } | { refund: PortalRefund } | { offline: OfflineGift };

/** What a portal's file is called in its folder. */
export const PORTAL_FILE = 'portal.jsonl';

/** What the portal remembers, each line appended to a file so that a restart forgets nothing; null keeps no file. */
export class PortalStore {
  readonly campaigns: PortalCampaign[] = [];
  readonly gifts: PortalGift[] = [];
  readonly refunds: PortalRefund[] = [];
  private readonly offline = new Map<string, OfflineGift>();
  private readonly file: string | null;

  constructor(folder: string | null) {
    this.file = folder === null ? null : join(folder, PORTAL_FILE);
    if (folder !== null) mkdirSync(folder, { recursive: true });
    if (this.file === null || !existsSync(this.file)) return;
    for (const line of readFileSync(this.file, 'utf8').split('\n').filter(Boolean)) this.take(JSON.parse(line));
  }

  private take(line: PortalLine): void {
    if ('campaign' in line) this.campaigns.push(line.campaign);
    if ('gift' in line) this.gifts.push(line.gift);
    if ('refund' in line) this.refunds.push(line.refund);
    if ('offline' in line) this.offline.set(`${line.offline.campaign} ${line.offline.key}`, line.offline);
  }

  keep(line: PortalLine): void {
    this.take(line);
    if (this.file !== null) appendFileSync(this.file, `${JSON.stringify(line)}\n`);
  }

  refunded = (gift: string): number =>
    this.refunds.filter((one) => one.gift === gift).reduce((sum, { cents }) => sum + cents, 0);

  offlineGifts = (campaign: string): OfflineGift[] =>
    [...this.offline.values()].filter((one) => one.campaign === campaign && one.cents > 0);

  /** What a campaign came to: through the portal, less what was given back, and elsewhere, as it was told. */
  sums({ id, name }: PortalCampaign): { onlineCents: number; offlineCents: number } {
    const online = this.gifts.filter(({ campaign, cents }) => campaign === name && Number.isSafeInteger(cents));
    return {
      onlineCents: online.reduce((sum, gift) => sum + gift.cents - this.refunded(gift.id), 0),
      offlineCents: this.offlineGifts(id).reduce((sum, { cents }) => sum + cents, 0),
    };
  }
}
