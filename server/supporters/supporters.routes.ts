import * as contract from '@tallystick/contract/supporters';
import type { History } from '../history/index.ts';
import { instant } from '../platform/clock.ts';
import type { Http } from '../platform/http.ts';
import type { Supporters } from './supporters.service.ts';

export function serveSupporters(http: Http, supporters: Supporters, history: History): void {
  http.on(contract.listSupporters, ({ query }) => supporters.list(query));
  http.on(contract.getSupporter, ({ params }) => supporters.get(params.id));
  http.on(contract.createSupporter, async ({ actor, body, key }) => {
    const { revision, result } = await supporters.add(actor, body, key);
    return { revision, ...result };
  });
  http.on(contract.updateSupporter, async ({ actor, params, body }) => {
    const { revision } = await supporters.change(actor, params.id, body.version, body.draft);
    return { revision };
  });
  http.on(contract.listSupporterHistory, ({ params, query }) => history.ofSupporter(params.id, query));
  http.on(contract.listSupporterDeliveries, async ({ params }) => ({
    items: (await supporters.correspondence(params.id)).map((item) => ({ ...item, at: instant(item.at) })),
  }));
}
