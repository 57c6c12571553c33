import { fold } from '../names/index.ts';
import type { Care } from './care.ts';
import type { IntakeColumn } from './fields.ts';
import type { MadeColumn } from './made.ts';
import type { Matching } from './match.ts';
import type { Policies } from './merge.ts';

/* How files from one source are read, by the headings of their columns, so that the next one is read the same way. */

/** What of a setting is kept in a recipe; choices for single rows are of one file alone. */
export interface RecipeSetting {
  columns: readonly (IntakeColumn | null)[];
  decimal: '.' | ',';
  dateOrder: 'mdy' | 'dmy' | null;
  fundId: number;
  care: Readonly<Record<string, Care>>;
  /** Columns made of those of the file; they stand last. */
  made: readonly MadeColumn[];
  same: Readonly<Record<string, string>>;
  policies: Policies;
  /** How rows find their supporters. */
  matching: Matching;
  known: 'use' | 'skip';
  strangers: 'add' | 'skip';
  /** Where such files come from. */
  source: string;
  leaveRest: boolean;
}

/** A column of a recipe: what stands over it, where it goes, and what is done to it first. */
export interface RecipeColumn {
  heading: string;
  to: IntakeColumn | null;
  care: Care;
}

/** A column of a recipe that is made of others, by what stands over those. */
export interface RecipeMade extends RecipeColumn, Pick<MadeColumn, 'sign' | 'part'> {
  from: readonly string[];
}

export interface Recipe extends Omit<RecipeSetting, 'columns' | 'care' | 'made'> {
  columns: readonly RecipeColumn[];
  made: readonly RecipeMade[];
}

/** What a file has otherwise than the files that a recipe was made for: columns that it has besides, and that it lacks. */
export interface RecipeDiffers {
  fresh: string[];
  missing: string[];
}

const keyOf = (heading: string): string =>
  fold(heading)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** What stands over the columns of the file itself, without those that are made of them. */
export const ofFile = (headings: readonly string[], { made }: Pick<RecipeSetting, 'made'>): string[] =>
  headings.slice(0, headings.length - made.length);

/** A recipe of how a file is read now; what is made stands last among its headings. */
export function recipeOf(headings: readonly string[], setting: RecipeSetting): Recipe {
  const { decimal, dateOrder, fundId, same, policies, matching, known, strangers, leaveRest, source } = setting;
  const all = headings.map((heading, at) => ({
    ...{ heading, to: setting.columns[at] ?? null, care: setting.care[String(at)] ?? {} },
  }));
  const width = ofFile(headings, setting).length;
  return {
    columns: all.slice(0, width),
    made: setting.made.flatMap(({ from, sign, part }, index) => {
      const column = all[width + index];
      return column ? [{ ...column, from: from.map((at) => headings[at] ?? ''), sign, part }] : [];
    }),
    ...{ decimal, dateOrder, fundId, same, policies, matching, known, strangers, leaveRest, source },
  };
}

/** The columns of a recipe for each heading of a file: of headings that stand several times each in its turn. */
function matched(recipe: Recipe, headings: readonly string[]): (RecipeColumn | null)[] {
  const left = new Map<string, RecipeColumn[]>();
  for (const column of recipe.columns)
    left.set(keyOf(column.heading), [...(left.get(keyOf(column.heading)) ?? []), column]);
  return headings.map((heading) => left.get(keyOf(heading))?.shift() ?? null);
}

/** What a file has otherwise than a recipe expects, by its headings. */
export function recipeDiffers(recipe: Recipe, headings: readonly string[]): RecipeDiffers {
  const columns = matched(recipe, headings);
  const found = new Set(columns);
  const used = new Set(recipe.made.flatMap(({ from }) => from.map(keyOf)));
  return {
    fresh: headings.filter((_, at) => columns[at] === null),
    // What others are made of is missed too.
    missing: recipe.columns
      .filter((column) => !found.has(column) && (column.to !== null || used.has(keyOf(column.heading))))
      .map(({ heading }) => heading),
  };
}

/**
 * A setting for a file by a recipe and what stands over its own columns. Columns that the recipe does not know stay without a place, and are not left out
 * knowingly, so that they are asked about.
 */
export function byRecipe<S extends RecipeSetting>(recipe: Recipe, headings: readonly string[], setting: S): S {
  const known = matched(recipe, headings);
  const { columns: _columns, made: _made, ...rest } = recipe;
  const { made, of } = madeIn(recipe, headings);
  const columns = [...known, ...of];
  return {
    ...setting,
    ...rest,
    made,
    columns: columns.map((column) => column?.to ?? null),
    care: Object.fromEntries(
      columns.flatMap((column, at) =>
        column && Object.keys(column.care).length > 0 ? [[String(at), column.care]] : [],
      ),
    ),
    leaveRest: recipe.leaveRest && known.every((column) => column !== null),
  };
}

/** The columns that a recipe makes, of a file that has all that they are made of. */
function madeIn(recipe: Recipe, headings: readonly string[]): { made: MadeColumn[]; of: RecipeMade[] } {
  const above = headings.map(keyOf);
  const made: MadeColumn[] = [];
  const of: RecipeMade[] = [];
  for (const one of recipe.made) {
    const from = one.from.map((heading) => above.indexOf(keyOf(heading)));
    if (from.includes(-1)) continue;
    made.push({ name: one.heading, from, sign: one.sign, part: one.part });
    of.push(one);
    above.push(keyOf(one.heading));
  }
  return { made, of };
}

/** The recipe whose columns a file has, one and all; null where there is none. Of several the first. */
export const recipeFor = <R extends { recipe: Recipe }>(recipes: readonly R[], headings: readonly string[]): R | null =>
  recipes.find(({ recipe }) => {
    const { fresh, missing } = recipeDiffers(recipe, headings);
    return fresh.length === 0 && missing.length === 0 && recipe.columns.length === headings.length;
  }) ?? null;

/** The share of the columns, of the file or of the recipe where it has more, that a recipe must know to be offered. */
const ALIKE = 0.6;

/** The recipe that knows most columns of a file, where it knows enough of them; null where none does. */
export function nearestRecipe<R extends { recipe: Recipe }>(
  recipes: readonly R[],
  headings: readonly string[],
): R | null {
  const share = ({ recipe }: R): number =>
    (headings.length - recipeDiffers(recipe, headings).fresh.length) /
    Math.max(1, headings.length, recipe.columns.length);
  const [best] = [...recipes].sort((a, b) => share(b) - share(a));
  return best && share(best) >= ALIKE ? best : null;
}
