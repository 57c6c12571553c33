import { Cron } from 'croner';
import * as contract from '@tallystick/contract/pledges';
import type { Clock } from '../platform/clock.ts';
import { readBody } from '../platform/http.ts';
import type { Http } from '../platform/http.ts';
import { Problem } from '../platform/problem.ts';
import type { Charges } from './charges.ts';
import type { Recurring } from './recurring.service.ts';
import type { Till } from './till.ts';

export { Charges } from './charges.ts';
export { ChargeTable, RecurringAmountTable, RecurringPauseTable, RecurringTable } from './recurring.entity.ts';
export { failingOfRecord } from './record-part.ts';
export { Recurring } from './recurring.service.ts';
export { Till, type TillConfig } from './till.ts';

export function serveRecurring(
  http: Http,
  recurring: Recurring,
  charges: Charges,
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
  http.on(contract.tillEvent, async ({ request }) => {
    const body = await readBody(request, 64 * 1024, 'An event of the till is small.');
    const header = (name: string): string => String(request.headers[name] ?? '');
    const event = till?.read(body, header('till-time'), header('till-signature'), clock.now());
    if (!event) throw new Problem(401, 'bad-signature', 'This does not come from the till.');
    await charges.event(event);
    return { ok: true };
  });
}

/** Charges what is due each morning at six. Two processes that both do find the work done the second time. */
export function everyMorning(charges: Charges, timeZone: string): () => void {
  const cron = new Cron('0 6 * * *', { timezone: timeZone, catch: true }, () => void charges.begin());
  return () => cron.stop();
}
