import './guards.ts';
import * as contract from '@tallystick/contract/pledges';
import type { Http } from '../platform/http.ts';
import { planned } from './books.ts';
import { PledgeActs } from './acts.ts';
import { Pledges } from './pledges.service.ts';
import { pledgesOfRecord } from './record-part.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea } from '../supporters/index.ts';

export {
  ALWAYS,
  booksOf,
  dropMatch,
  paymentsBy,
  pledgesOf,
  payPledge,
  pledgeTotals,
  shrinkPayments,
  unpayPledge,
} from './books.ts';
export { makePledge, writeOffAll } from './acts.ts';
export { InstallmentTable, PledgePaymentTable, PledgeTable, WriteOffTable } from './pledge.entity.ts';

export function servePledges(http: Http, pledges: Pledges, acts: PledgeActs): void {
  http.on(contract.listPledges, ({ query }) => pledges.list(query));
  http.on(contract.listReminders, ({ query }) => pledges.reminders(query.days));
  http.on(contract.previewPlan, async ({ body }) => ({ rows: planned(body.cents, body.plan) }));
  http.on(contract.getPledge, ({ params, query }) => pledges.get(params.id, query.at));
  http.on(contract.makePledge, async ({ actor, body, key }) => {
    const { revision, result } = await acts.make(actor, body, key);
    return { revision, ...result };
  });
  http.on(contract.changePledge, async ({ actor, params, body }) => {
    const { revision } = await acts.change(actor, params.id, body);
    return { revision };
  });
  http.on(contract.reschedulePledge, async ({ actor, params, body }) => {
    const { revision } = await acts.reschedule(actor, params.id, body.version, body.plan);
    return { revision };
  });
  http.on(contract.writeOffPledge, async ({ actor, params, body }) => {
    const { revision } = await acts.writeOff(actor, params.id, body);
    return { revision };
  });
  http.on(contract.writeOffPledges, async ({ actor, body }) => {
    const { revision, result } = await acts.writeOffMany(actor, body.ids, body);
    return { revision, ...result };
  });
  http.on(contract.stagePledge, async ({ actor, params, body }) => {
    const { revision } = await acts.stage(actor, params.id, body);
    return { revision };
  });
}

/** Pledges, grants and expected matches. */
export const pledgesArea = area('pledges', ({ sql, source, changes, http }, of) => {
  const pledges = new Pledges(source, of(settingsArea).settings);
  of(supportersArea).parts.add((who) => pledgesOfRecord(sql, who));
  servePledges(http, pledges, new PledgeActs(changes, of(settingsArea).settings));
  return { pledges };
});
