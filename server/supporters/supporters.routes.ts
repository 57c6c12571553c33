import * as acts from '@tallystick/contract/acts';
import * as contract from '@tallystick/contract/supporters';
import { readParty } from '@tallystick/core/fullnames';
import { writeCard } from '@tallystick/core/vcard';
import type { History } from '../history/index.ts';
import { instant } from '../platform/clock.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { notFound } from '../platform/problem.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import type { Settings } from '../settings/index.ts';
import type { Acts } from './acts.ts';
import { cardsOf, draftsOf } from './files.ts';
import type { SupporterLists } from './lists.ts';
import type { Notice } from './notice.ts';
import type { Supporters } from './supporters.service.ts';
import type { Trash } from './trash.ts';
import { ledTo } from './views.ts';

export interface SupporterServices {
  supporters: Supporters;
  lists: SupporterLists;
  acts: Acts;
  notice: Notice;
  trash: Trash;
  history: History;
  settings: Settings;
  sql: Sql;
}

export function serveSupporters(http: Http, services: SupporterServices): void {
  const { supporters, lists, history, trash } = services;
  // The number of who was merged into another means that one, whatever is asked about it.
  http.before(async (path, params, query) => {
    const asked = [
      ...(path.startsWith('/supporters/:id/') ? [{ of: params, name: 'id' }] : []),
      ...('supporterId' in query ? [{ of: query, name: 'supporterId' }] : []),
    ];
    for (const { of, name } of asked)
      if (typeof of[name] === 'number') of[name] = (await ledTo(services.sql, [of[name]])).get(of[name]) ?? of[name];
  });
  http.on(contract.listSupporters, ({ query }) => lists.list(query));
  http.on(contract.getSupporter, ({ params }) => supporters.get(params.id));
  http.on(contract.createSupporter, async ({ actor, body, key }) => {
    const { revision, result } = await supporters.add(actor, body, key);
    return { revision, ...result };
  });
  http.on(contract.updateSupporter, async ({ actor, params, body }) => {
    const { revision } = await supporters.change(actor, params.id, body.version, body.draft);
    return { revision };
  });
  http.on(contract.listSupporterHistory, ({ params, query, caller }) => history.ofSupporter(params.id, query, caller));
  http.on(contract.listSupporterDeliveries, async ({ params, query }) => {
    const page = await supporters.correspondence(params.id, query);
    const items = page.items.map((item) => {
      return { ...item, at: instant(item.at), openedAt: item.openedAt === null ? null : instant(item.openedAt) };
    });
    return { ...page, items };
  });
  http.on(acts.actOnSupporters, ({ actor, body }) => services.acts.begin(actor, body.selection, body.act));
  http.on(acts.getCard, async ({ params, query, response }) => {
    const { today } = await services.settings.calendar();
    const [one] = await cardsOf(services.sql, [params.id], today);
    if (!one) throw notFound(`Supporter ${supporterNumber(params.id)}`);
    response.attachment(`${supporterNumber(params.id)}.vcf`).type('text/vcard; charset=utf-8');
    response.send(writeCard(one.card, one.name, query.version));
    return undefined;
  });
  http.on(acts.readCard, async ({ body }) => ({ items: await draftsOf(body.text) }));
  http.on(acts.readName, async ({ body }) => readParty(body.text));
  http.on(acts.noticeDraft, ({ body }) => services.notice.of(body));
  http.on(acts.getTrash, () => trash.figures());
  http.on(acts.emptyTrash, ({ actor, body }) => trash.empty(actor, body.records));
}
