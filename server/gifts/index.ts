import * as contract from '@tallystick/contract/gifts';
import type { Http } from '../platform/http.ts';
import type { Gifts } from './gifts.service.ts';

export { Gifts } from './gifts.service.ts';
export { GiftFieldTable, GiftTable } from './gift.entity.ts';

export function serveGifts(http: Http, gifts: Gifts): void {
  http.on(contract.listGifts, ({ query }) => gifts.list(query));
  http.on(contract.getGift, async ({ params }) => ({
    ...(await gifts.get(params.id)),
    fields: await gifts.fieldsOf(params.id),
  }));
  http.on(contract.recordGift, async ({ actor, body, key }) => {
    const { revision, result } = await gifts.record(actor, body, key);
    return { revision, ...result };
  });
}
