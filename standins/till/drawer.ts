import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export interface Charge {
  id: string;
  key: string;
  card: string;
  cents: number;
  currency: string;
  outcome: 'approved' | 'declined' | 'expired';
  reason: string;
  at: string;
}
export interface Refund {
  id: string;
  key: string;
  charge: string;
  cents: number;
}

/** What the till remembers, each line of it appended to a file so that a restart forgets no key; null keeps no file. */
export class Drawer {
  private readonly byKey = new Map<string, Charge>();
  private readonly refundsByKey = new Map<string, Refund>();
  private readonly asked = new Map<string, number>();
  private readonly file: string | null;

  constructor(folder: string | null) {
    this.file = folder === null ? null : join(folder, 'till.jsonl');
    if (folder !== null) mkdirSync(folder, { recursive: true });
    if (this.file === null || !existsSync(this.file)) return;
    for (const line of readFileSync(this.file, 'utf8').split('\n').filter(Boolean)) {
      const { charge, refund } = JSON.parse(line) as { charge?: Charge; refund?: Refund };
      if (charge) this.byKey.set(charge.key, charge);
      if (refund) this.refundsByKey.set(refund.key, refund);
    }
  }

  private append(line: { charge: Charge } | { refund: Refund }): void {
    if (this.file !== null) appendFileSync(this.file, `${JSON.stringify(line)}\n`);
  }

  charge = (key: string): Charge | undefined => this.byKey.get(key);
  charges = (): Charge[] => [...this.byKey.values()];
  refund = (key: string): Refund | undefined => this.refundsByKey.get(key);
  tries = (key: string): number => this.asked.get(key) ?? (this.byKey.has(key) ? 1 : 0);

  noteTry(key: string): void {
    this.asked.set(key, this.tries(key) + 1);
  }

  keep(charge: Charge): void {
    this.byKey.set(charge.key, charge);
    this.append({ charge });
  }

  keepRefund(refund: Refund): void {
    this.refundsByKey.set(refund.key, refund);
    this.append({ refund });
  }

  refunded(chargeId: string): number {
    const refunds = [...this.refundsByKey.values()].filter((one) => one.charge === chargeId);
    return refunds.reduce((sum, one) => sum + one.cents, 0);
  }
}
