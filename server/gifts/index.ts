import './guards.ts';
import './marks.ts';
import * as contract from '@tallystick/contract/gifts';
import { sendCsv } from '../platform/csv.ts';
import type { Http } from '../platform/http.ts';
import { Assignments } from './assign.ts';
import { Corrections } from './correct.ts';
import { Gifts } from './gifts.service.ts';
import { GiftLists } from './listing.ts';
import { giftsOfRecord } from './record-part.ts';
import { GiftTotals } from './totals.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { factsArea } from '../facts/index.ts';
import { supportersArea } from '../supporters/index.ts';
import { segmentsArea } from '../segments/index.ts';

import { newestBatches } from './books.ts';

export { bookingDay, bookingDays, newBatch, openBatch, type BatchSource } from './books.ts';
export type { AskedRefund, Corrections, ReceiptNeeds } from './correct.ts';
export {
  GiftTable,
  GiftSplitTable,
  SoftCreditTable,
  TributeTable,
  CorrectionTable,
  BatchTable,
} from './gift.entity.ts';
export { giftsNamed, type GiftsFound } from './found.ts';
export type { Gifts } from './gifts.service.ts';
export type { GiftLists } from './listing.ts';
export {
  chequesOf,
  fundPartsOf,
  goodsOf,
  giftsByReference,
  givenBy,
  givenTo,
  lastGiftOf,
  saysOf,
  type FundPart,
} from './views.ts';
export { bookedOf, bookedOnOf, booksMore } from './state.ts';
export { marksGifts } from './marks.ts';
export { creditHome, insertGifts, type NewGift } from './write.ts';

function serveAssignments(http: Http, assignments: Assignments): void {
  http.on(contract.putToPledge, async ({ actor, params, body }) => {
    const { revision, result } = await assignments.putToPledge(actor, params.id, body);
    return { revision, ...result };
  });
  http.on(contract.takeOffPledge, async ({ actor, params, body }) => {
    const { revision, result } = await assignments.takeOffPledge(actor, params.id, body.pledgeId);
    return { revision, ...result };
  });
  http.on(contract.moveToBatch, async ({ actor, params, body }) => {
    const { revision, result } = await assignments.moveToBatch(actor, params.id, body);
    return { revision, ...result };
  });
}

function serveLists(http: Http, lists: GiftLists, totals: GiftTotals): void {
  http.on(contract.listGifts, ({ query }) => lists.list(query));
  http.on(contract.exportGifts, async ({ query, response }) => {
    const { headings, pages } = await lists.exported(query);
    return sendCsv(response, 'gifts.csv', headings, pages);
  });
  http.on(contract.facetGifts, async ({ query }) => ({
    facets: (await totals.facets(query)) ?? (await lists.facets(query)),
  }));
  http.on(contract.giftTotals, ({ body }) => totals.totals(body));
}

export function serveGifts(http: Http, gifts: Gifts, corrections: Corrections): void {
  http.on(contract.yearsGiven, async ({ body }) => ({ items: await gifts.years(body.supporterIds) }));
  http.on(contract.giftHints, ({ query }) => gifts.hints(query.supporterId));
  http.on(contract.getGift, ({ params }) => gifts.get(params.id));
  http.on(contract.recordGift, async ({ actor, body, key }) => {
    const { revision, result } = await gifts.record(actor, body, key);
    return { revision, ...result };
  });
  http.on(contract.editGift, async ({ actor, params, body }) => {
    const { revision } = await gifts.edit(actor, params.id, body);
    return { revision };
  });
  http.on(contract.noteGift, async ({ actor, params, body }) => {
    const { revision } = await gifts.note(actor, params.id, body);
    return { revision };
  });
  http.on(contract.correctGift, async ({ actor, params, body }) => {
    const { revision, result } = await corrections.correct(actor, params.id, body);
    return { revision, ...result };
  });
}

/** Gifts: recorded, changed, corrected, added up. */
export const giftsArea = area('gifts', ({ sql, source, changes, http }, of) => {
  const { settings } = of(settingsArea);
  const { segments } = of(segmentsArea);
  const totals = new GiftTotals(source, settings, of(factsArea).facts, (id) => segments.membersOf(id));
  const gifts = new Gifts(source, changes, settings);
  const giftLists = new GiftLists(sql, settings, (query) => totals.sumOf(query));
  const corrections = new Corrections(changes, settings);
  of(supportersArea).parts.add((who) => giftsOfRecord(sql, who));
  settings.offer(async () => ({ batches: await newestBatches(sql) }));
  serveLists(http, giftLists, totals);
  serveGifts(http, gifts, corrections);
  serveAssignments(http, new Assignments(changes, settings));
  return { gifts, giftLists, corrections };
});
