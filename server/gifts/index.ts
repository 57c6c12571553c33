import * as contract from '@tallystick/contract/gifts';
import { csv } from '../platform/csv.ts';
import type { Http } from '../platform/http.ts';
import type { Gifts } from './gifts.service.ts';

export { Gifts } from './gifts.service.ts';
export { GiftFieldTable, GiftTable } from './gift.entity.ts';

export function serveGifts(http: Http, gifts: Gifts): void {
  http.on(contract.listGifts, ({ query }) => gifts.list(query));
  http.on(contract.exportGifts, async ({ query, response }) => {
    const { headings, rows } = await gifts.exported(query);
    response.attachment('gifts.csv').type('text/csv; charset=utf-8').send(csv(headings, rows));
    return undefined;
  });
  http.on(contract.getGift, ({ params }) => gifts.get(params.id));
  http.on(contract.recordGift, async ({ actor, body, key }) => {
    const { revision, result } = await gifts.record(actor, body, key);
    return { revision, ...result };
  });
}
