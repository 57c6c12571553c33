import { describe, expect, it } from 'vitest';
import { byRecipe, nearestRecipe, recipeDiffers, recipeFor, recipeOf, USUAL_MATCHING } from './index.ts';
import type { MadeColumn, RecipeSetting } from './index.ts';

const SETTING: RecipeSetting = {
  ...{ columns: ['last', 'amount', null], decimal: ',', dateOrder: 'dmy', fundId: 3, leaveRest: true },
  ...{
    made: [],
    care: { 0: { names: true } },
    same: { tag: 'gala' },
    policies: { all: 'file' },
    matching: { fields: ['last'], sure: 90, perhaps: 70 },
    known: 'use',
    strangers: 'add',
    source: 'giving portal',
  },
};
const PLAIN: RecipeSetting & { picks: object } = {
  ...{ columns: [null, null], decimal: '.', dateOrder: null, fundId: 1, leaveRest: false, picks: { 2: 'skip' } },
  ...{
    made: [],
    care: {},
    same: {},
    policies: { all: 'fill' },
    matching: USUAL_MATCHING,
    known: 'use',
    strangers: 'add',
    source: '',
  },
};
const recipe = recipeOf(['Last name', 'Paid', 'Seat'], SETTING);

describe('a recipe', () => {
  it('reads the next file the same way, whatever the order of its columns and the letters of its headings', () =>
    expect(byRecipe(recipe, ['seat', 'PAID', 'last_name'], PLAIN)).toEqual({
      ...SETTING,
      ...{ columns: [null, 'amount', 'last'], care: { 2: { names: true } }, picks: { 2: 'skip' } },
    }));

  it('says what is otherwise, and leaves nothing out that it does not know', () => {
    const headings = ['Last name', 'Seat', 'Table'];
    expect(recipeDiffers(recipe, headings)).toEqual({ fresh: ['Table'], missing: ['Paid'] });
    expect(byRecipe(recipe, headings, PLAIN)).toMatchObject({ columns: ['last', null, null], leaveRest: false });
  });

  it('is taken for a file with its very columns, and offered for one with most of them', () => {
    const all = [{ name: 'Gala', recipe }];
    expect(recipeFor(all, ['Last name', 'Paid', 'Seat'])?.name).toBe('Gala');
    expect(recipeFor(all, ['Last name', 'Paid'])).toBeNull();
    expect(recipeFor(all, ['Last name', 'Paid', 'Seat', 'Table'])).toBeNull();
    expect(nearestRecipe(all, ['Last name', 'Paid', 'Table'])?.name).toBe('Gala');
    expect(nearestRecipe(all, ['Last name', 'Sum', 'Table'])).toBeNull();
    expect(nearestRecipe([], ['Last name'])).toBeNull();
    // A file of a few of its columns is not one of its files.
    const wide = { ...recipe, columns: [...recipe.columns, ...recipe.columns, ...recipe.columns] };
    expect(nearestRecipe([{ recipe: wide }], ['Last name', 'Paid', 'Seat'])).toBeNull();
  });

  it('knows columns of one heading apart by their order', () => {
    const twice = recipeOf(['Phone', 'Phone'], { ...SETTING, columns: ['phone', 'phone:2'], care: {} });
    expect(byRecipe(twice, ['Phone', 'Phone'], PLAIN).columns).toEqual(['phone', 'phone:2']);
    expect(recipeDiffers(twice, ['Phone'])).toEqual({ fresh: [], missing: ['Phone'] });
  });

  it('makes the same columns of the next file, and none of what it lacks', () => {
    const place: MadeColumn = { name: 'Place', from: [1], sign: ',', part: -1 };
    const state: MadeColumn = { name: 'State', from: [2], sign: ' ', part: 1 };
    const setting: RecipeSetting = {
      ...SETTING,
      columns: ['last', null, null, 'region'],
      care: {},
      made: [place, state],
    };
    const kept = recipeOf(['Last', 'Address', 'Place', 'State'], setting);
    expect(byRecipe(kept, ['address', 'Fee', 'LAST'], PLAIN)).toMatchObject({
      columns: [null, null, 'last', null, 'region'],
      made: [
        { name: 'Place', from: [0] },
        { name: 'State', from: [3] },
      ],
    });
    expect(byRecipe(kept, ['Last'], PLAIN)).toMatchObject({ columns: ['last'], made: [] });
    expect(recipeDiffers(kept, ['Last', 'Address'])).toEqual({ fresh: [], missing: [] });
    expect(recipeDiffers(kept, ['Last'])).toEqual({ fresh: [], missing: ['Address'] });
  });

  it('comes through JSON whole', () => expect(JSON.parse(JSON.stringify(recipe))).toEqual(recipe));
});
