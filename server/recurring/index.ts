import './guards.ts';
import * as contract from '@tallystick/contract/pledges';
import type { Clock } from '../platform/clock.ts';
import { readBody } from '../platform/body.ts';
import type { Http } from '../platform/http.ts';
import { Problem } from '../platform/problem.ts';
import { Charges } from './charges.ts';
import { failingOfRecord } from './record-part.ts';
import { Recurring } from './recurring.service.ts';
import { Refunds } from './refunds.ts';
import { Till } from './till.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { giftsArea } from '../gifts/index.ts';
import { supportersArea } from '../supporters/index.ts';

export { endRecurring, plansOf, recurringOf, storeRecurring } from './plans.ts';
export {
  ChargeTable,
  RecurringAmountTable,
  RecurringPauseTable,
  RecurringTable,
  RefundTable,
} from './recurring.entity.ts';

export function serveRecurring(
  http: Http,
  recurring: Recurring,
  charges: Charges,
  refunds: Refunds,
  till: Till | null,
  clock: Clock,
): void {
  http.on(contract.listRecurring, ({ query }) => recurring.list(query));
  http.on(contract.getRecurring, ({ params }) => recurring.get(params.id));
  http.on(contract.makeRecurring, async ({ actor, body, key }) => {
    const { revision, result } = await recurring.make(actor, body, key);
    return { revision, ...result };
  });
  // Before the changes of one, whose path would take “charge” for an id.
  http.on(contract.chargeDue, ({ actor }) => {
    if (!till) throw new Problem(409, 'no-till', 'No till is set up, so nothing can be charged.');
    return charges.begin(actor);
  });
  http.on(contract.changeRecurring, async ({ actor, params, body }) => {
    const { revision } = await recurring.change(actor, params.id, body);
    return { revision };
  });
  http.on(contract.retryCharge, ({ actor, params }) => charges.retry(actor, params.id));
  http.on(contract.skipCharge, async ({ actor, params }) => {
    const { revision } = await charges.skip(actor, params.id);
    return { revision };
  });
  http.on(contract.cardEvent, async ({ request }) => {
    const body = await readBody(request, 64 * 1024, 'An event of the till is small.');
    const header = (name: string): string => String(request.headers[name] ?? '');
    const event = till?.read(body, header('till-time'), header('till-signature'), clock.now());
    if (!event) throw new Problem(401, 'bad-signature', 'This does not come from the till.');
    await (event.kind === 'charge' ? charges.event(event) : refunds.event(event));
    return { ok: true };
  });
}

/** Recurring gifts, and charging them at the card processor each morning at six. */
export const recurringArea = area('recurring', ({ config, clock, sql, source, changes, jobs, http, onListen }, of) => {
  const { settings } = of(settingsArea);
  const { corrections, gifts } = of(giftsArea);
  const till = config.till ? new Till(config.till, config.tillPatience) : null;
  const charges = new Charges(source, changes, settings, jobs, till);
  const refunds = new Refunds(source, changes, settings, jobs, till, corrections);
  corrections.givesBackBy((...gift) => refunds.giveBack(...gift));
  gifts.refundsAskedBy((giftId) => refunds.askedOf(giftId));
  const recurring = new Recurring(source, changes, settings);
  of(supportersArea).parts.add((who) => failingOfRecord(sql, who));
  serveRecurring(http, recurring, charges, refunds, till, clock);
  if (till)
    onListen(async () => {
      const { time_zone: timeZone } = await settings.organization();
      await jobs.schedule('charge each morning', { at: '0 6 * * *', timeZone }, charges.morning());
    });
  return { recurring, charges, refunds };
});
