import * as contract from '@tallystick/contract/intake';
import { sendCsv } from '../platform/csv.ts';
import { readBody } from '../platform/body.ts';
import type { Http } from '../platform/http.ts';
import { Gathered } from './gathered.ts';
import { Intakes } from './intake.service.ts';
import { Recipes } from './recipes.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea } from '../supporters/index.ts';

export type { Gathered } from './gathered.ts';
export type { Intakes } from './intake.service.ts';
export { giftOf, insertSupporters } from './write-rows.ts';

const LARGEST_FILE = 50 * 1024 * 1024;
const TOO_LARGE = 'The file is larger than 50 MB. Split it, or leave out columns that are not needed.';

export function serveIntake(http: Http, intakes: Intakes): void {
  http.on(contract.listIntakes, ({ query }) => intakes.list(query));
  http.on(contract.uploadIntake, async ({ actor, query, request }) =>
    intakes.upload(actor, query.name, await readBody(request, LARGEST_FILE, TOO_LARGE), query.sheet ?? null),
  );
  http.on(contract.getIntake, ({ params }) => intakes.get(params.id));
  http.on(contract.changeIntake, async ({ actor, params, body }) => {
    const { revision } = await intakes.change(actor, params.id, body);
    return { revision };
  });
  http.on(contract.deleteIntake, async ({ actor, params }) => {
    const { revision } = await intakes.remove(actor, params.id);
    return { revision };
  });
  http.on(contract.previewIntake, ({ params, query }) => intakes.preview(params.id, query));
  http.on(contract.besideIntake, ({ params }) => intakes.beside(params.id, params.row, params.supporterId));
  http.on(contract.intakeColumns, ({ params }) => intakes.columns(params.id));
  http.on(contract.badRowsCsv, async ({ params, response }) => {
    const { headings, rows } = await intakes.leftOut(params.id);
    return sendCsv(response, 'rows-left-out.csv', headings, [rows]);
  });
  http.on(contract.rehearseIntake, async ({ actor, params }) => ({
    jobId: await intakes.begin(actor, params.id, true),
  }));
  http.on(contract.postIntake, async ({ actor, params }) => ({ jobId: await intakes.begin(actor, params.id) }));
}

function serveRecipes(http: Http, recipes: Recipes): void {
  http.on(contract.listRecipes, async () => ({ items: await recipes.list() }));
  http.on(contract.saveRecipe, ({ actor, body }) => recipes.save(actor, body.name, body.recipe));
  http.on(contract.deleteRecipe, ({ actor, params }) => recipes.remove(actor, params.id));
}

/** Outside data in. */
export const intakeArea = area('intake', ({ sql, source, changes, jobs, http }, of) => {
  const { settings } = of(settingsArea);
  const recipes = new Recipes(source, changes);
  const intakes = new Intakes(source, changes, settings, jobs, recipes, of(supportersArea).alike);
  settings.offer(async () => ({ intakes: await intakes.names() }));
  serveIntake(http, intakes);
  serveRecipes(http, recipes);
  return { intakes, intakeRecipes: recipes, gathered: new Gathered(sql, intakes, settings, recipes) };
});
