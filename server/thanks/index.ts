import './guards.ts';
import * as contract from '@tallystick/contract/thanks';
import { instant } from '../platform/clock.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import type { Deliveries } from '../outreach/index.ts';
import { issues, receiptsIssued } from './issued.ts';
import { ReceiptTable } from './receipts.ts';
import { Thanks } from './thanks.service.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { giftsArea, marksGifts } from '../gifts/index.ts';
import { lettersArea } from '../letters/index.ts';
import { outreachArea } from '../outreach/index.ts';

export { IssueRunTable, ReceiptTable, takePlaces } from './receipts.ts';

marksGifts(ReceiptTable);

interface Served {
  thanks: Thanks;
  sql: Sql;
  deliveries: Deliveries;
}

export function serveThanks(http: Http, { thanks, sql, deliveries }: Served): void {
  http.on(contract.listUnthanked, ({ query }) => thanks.unthanked(query));
  http.on(contract.proofReceipts, async ({ body, response }) => {
    response.type('application/pdf').send(await thanks.proof(body.letterId, body.giftIds));
    return undefined;
  });
  http.on(contract.issueReceipts, ({ actor, body, key }) => thanks.issue(actor, body.letterId, body.giftIds, key));
  http.on(contract.listRuns, async ({ query }) => {
    const page = await issues(sql, deliveries, query);
    return { ...page, items: page.items.map((run) => ({ ...run, at: instant(run.at) })) };
  });
  http.on(contract.listReceipts, ({ query }) => receiptsIssued(sql, query));
  http.on(contract.printFile, async ({ params, response }) => {
    response.type('application/pdf').send(await thanks.printFile(params.id));
    return undefined;
  });
  http.on(contract.voidReceipt, async ({ actor, params, body }) => {
    const { revision, result } = await thanks.voidReceipt(actor, params.id, body.reason);
    return { revision, ...result };
  });
  http.on(contract.receiptPdf, async ({ params, response }) => {
    const { number, pdf } = await thanks.receiptPdf(params.id);
    response
      .type('application/pdf')
      .setHeader('Content-Disposition', `inline; filename="receipt-${number}.pdf"`)
      .send(pdf);
    return undefined;
  });
}

/** Thanks and receipts. */
export const thanksArea = area('thanks', ({ source, sql, changes, jobs, http }, of) => {
  const { addressees, sendings, deliveries } = of(outreachArea);
  const { giftLists } = of(giftsArea);
  const { letters } = of(lettersArea);
  const thanks = new Thanks(
    ...([source, changes, of(settingsArea).settings, giftLists, letters, addressees, sendings, jobs] as const),
  );
  serveThanks(http, { thanks, sql, deliveries });
  return { thanks };
});
