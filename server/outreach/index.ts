import * as contract from '@tallystick/contract/outreach';
import { instant } from '../platform/clock.ts';
import type { Http } from '../platform/http.ts';
import type { Mailings } from './mailings.service.ts';

export { Addressees } from './addressees.ts';
export type { Addressee } from './addressees.ts';
export { Deliveries, DeliveryTable } from './deliveries.ts';
export type { DeliveryRecord } from './deliveries.ts';
export { Mailings, MailingTable } from './mailings.service.ts';
export { PUBLIC_STYLE, serveUnsubscribe } from './public-pages.ts';

export function serveOutreach(http: Http, mailings: Mailings): void {
  http.on(contract.listMailings, async () => ({ items: await mailings.list() }));
  http.on(contract.getMailing, ({ params }) => mailings.get(params.id));
  http.on(contract.createMailing, async ({ actor, body }) => {
    const { revision, result } = await mailings.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateMailing, async ({ actor, params, body }) => {
    const { version, ...draft } = body;
    const { revision } = await mailings.change(actor, params.id, version, draft);
    return { revision };
  });
  http.on(contract.checkMailing, ({ params }) => mailings.check(params.id));
  http.on(contract.previewMailing, ({ body }) => mailings.preview(body.subject, body.body, body.supporterId));
  http.on(contract.sendMailing, ({ actor, params, body }) => mailings.send(actor, params.id, body.expected));
  http.on(contract.listDeliveries, async ({ params }) => ({
    items: (await mailings.outcomes(params.id)).map((row) => ({
      ...row,
      supporterId: row.supporter_id,
      at: instant(row.at),
    })),
  }));
  http.on(contract.retryDelivery, async ({ actor, params }) => ({ jobId: await mailings.retry(actor, params.id) }));
}
