import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { nearestRecipe, recipeDiffers } from '@tallystick/core/intake';
import type { RecipeDiffers } from '@tallystick/core/intake';
import { IntakeRecipe } from '@tallystick/contract/intake';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import { RecipeTable } from './intake.entity.ts';
import type { IntakeRecord, RecipeRecord } from './intake.entity.ts';

type Definition = z.infer<typeof IntakeRecipe>;
export interface KeptRecipe {
  id: number;
  version: number;
  name: string;
  by: string;
  recipe: Definition;
}

/** How files of each known source are read. */
export class Recipes {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  /** Those that can be read; one of a newer version that cannot is left aside. */
  async list(): Promise<KeptRecipe[]> {
    const rows = await this.sql.rows<RecipeRecord>('SELECT * FROM intake_recipe ORDER BY name');
    return rows.flatMap(({ id, version, name, actor: by, recipe: text }) => {
      const recipe = stored(IntakeRecipe.nullable(), text, null);
      return recipe ? [{ id, version, name, by, recipe }] : [];
    });
  }

  /** The recipe that an intake is read by, or the one that knows most of its columns, with what is otherwise. */
  async of(intake: Pick<IntakeRecord, 'recipe_id'>, headings: readonly string[]) {
    const all = await this.list();
    const used = all.find(({ id }) => id === intake.recipe_id);
    const one = used ?? nearestRecipe(all, headings);
    if (!one) return null;
    const differs: RecipeDiffers = recipeDiffers(one.recipe, headings);
    return { id: one.id, name: one.name, used: used !== undefined, ...differs };
  }

  async save(actor: Actor, name: string, recipe: Definition) {
    const { revision, result } = await this.changes.write(
      actor,
      { kind: 'edit', summary: `Kept the recipe ${name} for files` },
      async (tx) => {
        const [before] = await tx.sql.rows<{ id: number }>('SELECT id FROM intake_recipe WHERE name = ? FOR UPDATE', [
          name,
        ]);
        const row = { name, actor: actor.name, recipe: JSON.stringify(recipe) };
        if (!before) return tx.insert(RecipeTable, row);
        await tx.update(RecipeTable, before.id, row);
        return before.id;
      },
    );
    return { revision, id: result };
  }

  async remove(actor: Actor, id: number) {
    let name = '';
    const { revision } = await this.changes.write(
      actor,
      { kind: 'edit', summary: () => `Deleted the recipe ${name} for files` },
      async (tx) => {
        const row = (await tx.lock(RecipeTable, [id])).get(id);
        if (!row) throw notFound('This recipe');
        name = row.name;
        await tx.removeAll(RecipeTable, [id]);
      },
    );
    return { revision };
  }
}
