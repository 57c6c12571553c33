import * as contract from '@tallystick/contract/outreach';
import { instant } from '../platform/clock.ts';
import type { Http } from '../platform/http.ts';
import { Mailings } from './mailings.service.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { factsArea } from '../facts/index.ts';
import { segmentsArea } from '../segments/index.ts';
import { Addressing, supportersArea } from '../supporters/index.ts';
import { SmtpMailer } from '../platform/mail.ts';
import { Addressees } from './addressees.ts';
import { Deliveries } from './deliveries.ts';
import { Files } from './files.ts';
import { Opens } from './opens.ts';
import { serveOpened, serveUnsubscribe } from './public-pages.ts';
import { Reaching } from './reaching.ts';
import { Sendings } from './sendings.ts';

export type { Addressees } from './addressees.ts';
export type { Addressee } from './addressees.ts';
export { waitingTo } from './deliveries.ts';
export type { Deliveries } from './deliveries.ts';
export { DeliveryTable } from './delivery.entity.ts';
export type { Composed } from './delivery.entity.ts';
export { sendJob, type Sendings } from './sendings.ts';
export type { DeliveryRecord } from './delivery.entity.ts';
export { MailingTable } from './mailings.service.ts';
export { PUBLIC_STYLE } from './public-pages.ts';

export function serveOutreach(http: Http, mailings: Mailings, deliveries: Deliveries): void {
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
  http.on(contract.deleteMailing, async ({ actor, params }) => {
    const { revision } = await mailings.remove(actor, params.id);
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
      openedAt: row.opened_at === null ? null : instant(row.opened_at),
    })),
  }));
  http.on(contract.retryDeliveries, async ({ actor, body }) => ({
    again: await deliveries.retryMany(actor, body.ids),
  }));
  http.on(contract.retryDelivery, async ({ actor, params }) => ({ jobId: await deliveries.retry(actor, params.id) }));
  http.on(contract.resumeSending, async ({ actor, params }) => ({ jobId: await deliveries.resume(actor, params) }));
}

/** Mailings to segments, and every message that goes out. */
export const outreachArea = area('outreach', ({ config, sql, source, clock, changes, jobs, http, address }, of) => {
  const { settings } = of(settingsArea);
  const addressees = new Addressees(sql, of(factsArea).facts, settings, new Addressing(sql, settings));
  const sendings = new Sendings();
  const mailer = config.mailer ?? new SmtpMailer(config.smtpUrl);
  const deliveries = new Deliveries(sql, changes, mailer, clock, settings, sendings, jobs);
  const { segments, tables } = of(segmentsArea);
  const reaching = new Reaching(sql, settings, addressees);
  tables.reachBy((...asked) => reaching.of(...asked));
  const mailings = new Mailings(
    ...([source, changes, settings, segments, addressees, deliveries, sendings, jobs, address] as const),
  );
  settings.offer(async () => ({ mailings: await mailings.names() }));
  serveOutreach(http, mailings, deliveries);
  new Files(sql, settings, addressees, of(supportersArea).lists).serve(http);
  serveUnsubscribe(http.app, source, changes, settings);
  const opens = new Opens(sql, changes, clock);
  jobs.tend(() => opens.tell());
  serveOpened(http.app, opens, settings);
  return { addressees, sendings, mailings, deliveries, opens };
});
