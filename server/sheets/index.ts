import * as contract from '@tallystick/contract/sheets';
import type { SheetLayout, SheetRow } from '@tallystick/core/sheets';
import type { Http } from '../platform/http.ts';
import { postSheet } from './post.ts';
import { printSheet } from './print.ts';
import { Sheets } from './sheets.service.ts';
import type { SheetHeadDraft } from './sheets.service.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea } from '../supporters/index.ts';

export { postSheet } from './post.ts';

export function serveSheets(http: Http, sheets: Sheets): void {
  // The names of columns are held against what is known by `layoutFault` and the check.
  const layoutOf = (body: { columns: readonly { field: string }[] }) => body as SheetLayout;
  http.on(contract.listLayouts, async () => ({ items: await sheets.layouts() }));
  http.on(contract.saveLayout, async ({ actor, body }) => {
    const { revision, result } = await sheets.saveLayout(actor, body.name, layoutOf(body));
    return { revision, ...result };
  });
  http.on(contract.deleteLayout, async ({ actor, params }) => {
    const { revision } = await sheets.deleteLayout(actor, params.id);
    return { revision };
  });
  http.on(contract.listSheets, ({ query }) => sheets.list(query));
  http.on(contract.openSheet, async ({ actor, body }) => {
    const { revision, result } = await sheets.open(actor, body as SheetHeadDraft);
    return { revision, ...result };
  });
  http.on(contract.getSheet, ({ params }) => sheets.get(params.id));
  http.on(contract.sheetPeople, async ({ query }) => ({
    people: await sheets.people(query.ids.split(',').map(Number)),
  }));
  http.on(contract.setSheet, async ({ actor, params, body }) => {
    const { revision } = await sheets.set(actor, params.id, body as SheetHeadDraft & { version: number });
    return { revision };
  });
  http.on(contract.typeRows, ({ actor, params, body }) =>
    sheets.type(actor, params.id, body.rows as (SheetRow & { place: number })[], body.removed),
  );
  http.on(contract.checkSheet, ({ params }) => sheets.check(params.id));
  http.on(contract.postSheet, async ({ actor, params, body, key }) => {
    const { revision, result } = await postSheet(sheets, actor, params.id, body.reason, key);
    return { revision, ...result };
  });
  http.on(contract.deleteSheet, async ({ actor, params }) => {
    const { revision } = await sheets.remove(actor, params.id);
    return { revision };
  });
  http.on(contract.printSheet, async ({ params, response }) => {
    const { name, pdf } = await printSheet(sheets, params.id);
    response.type('application/pdf').attachment(`${name}.pdf`).send(pdf);
    return undefined;
  });
}

/** Entry sheets. */
export const sheetsArea = area('sheets', ({ source, changes, http }, of) => {
  const sheets = new Sheets(source, changes, of(settingsArea).settings, of(supportersArea).alike);
  serveSheets(http, sheets);
  return { sheets };
});
