import { useQuery } from '@tanstack/react-query';
import { Download, Trash2, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { byRecipe, ofFile, recipeOf } from '@tallystick/core/intake';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { deleteRecipe, GivenRecipe, IntakeRecipe, listRecipes, saveRecipe } from '@tallystick/contract/intake';
import type { Intake, IntakeSetting } from '@tallystick/contract/intake';
import { ask, call } from '../ui/api.ts';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { download } from '../ui/download.ts';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import type { SetSetting } from './useSetting.ts';

type Kept = ResponseOf<typeof listRecipes>['items'][number];

/** The recipe that a file is read by, or could be, with what it has otherwise. */
export function RecipeLine({
  intake,
  setting,
  set,
}: {
  intake: Intake;
  setting: IntakeSetting;
  set: SetSetting | null;
}) {
  const recipes = useQuery(ask(listRecipes));
  const { recipe } = intake;
  if (!recipe) return null;
  const kept = recipes.data?.items.find(({ id }) => id === recipe.id);
  const quoted = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ');
  const differs = [
    recipe.fresh.length > 0 ? `It does not know ${quoted(recipe.fresh)}.` : '',
    recipe.missing.length > 0 ? `It expects ${quoted(recipe.missing)}, which the file lacks.` : '',
  ].filter(Boolean);
  return (
    <span className="block">
      {recipe.used ? 'Read by the recipe' : 'It looks like the files of the recipe'} “{recipe.name}”.{' '}
      {differs.join(' ')}{' '}
      {!recipe.used && kept && set && (
        <button
          type="button"
          className="text-slate hover:underline"
          onClick={() => set(byRecipe(kept.recipe, ofFile(intake.headings, intake.setting), setting), kept.id)}
        >
          Read it by that
        </button>
      )}
    </span>
  );
}

/** Recipes to keep, use, take away and bring from elsewhere. */
export function Recipes({ intake, setting, set }: { intake: Intake; setting: IntakeSetting; set: SetSetting }) {
  const recipes = useQuery(ask(listRecipes));
  const [naming, setNaming] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const save = useWrite((body: { name: string; recipe: Kept['recipe'] }) => call(saveRecipe, { body }), {
    say: () => 'The recipe is kept: files with its columns are read by it',
    then: () => setNaming(null),
  });
  const remove = useWrite((id: number) => call(deleteRecipe, { params: { id } }), {
    say: () => 'The recipe is deleted',
  });
  const bring = async (file: File): Promise<void> => {
    try {
      const read = GivenRecipe.safeParse(JSON.parse(await file.text()));
      if (!read.success) toast.error('This is no recipe for files, or one of a newer version.');
      else save.mutate({ name: file.name.replace(/\.json$/i, '').slice(0, 80), recipe: read.data });
    } catch {
      toast.error('This file is no JSON.');
    }
  };
  const kept = (recipes.data?.items ?? []).map((one) => (
    <li key={one.id} className="flex items-center gap-1 rounded border border-rule bg-sheet px-2">
      <button
        type="button"
        className="text-slate hover:underline"
        title={`Read this file by ${one.name}`}
        onClick={() => set(byRecipe(one.recipe, ofFile(intake.headings, intake.setting), setting), one.id)}
      >
        {one.name}
      </button>
      <IconButton
        label={`Save ${one.name} as JSON`}
        onClick={() => download(new Blob([JSON.stringify(one.recipe, null, 2)]), `${one.name}.json`)}
      >
        <Download size={13} />
      </IconButton>
      <IconButton label={`Delete ${one.name}`} onClick={() => remove.mutate(one.id)}>
        <Trash2 size={13} />
      </IconButton>
    </li>
  ));
  return (
    <>
      <h2 className="mt-3 font-serif text-[17px]">Recipes</h2>
      <p className="max-w-[46rem] text-faded">
        A recipe keeps all that is chosen here and for the columns. Files with the same columns are read by it at once.
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <ul className="contents">{kept}</ul>
        <Button onClick={() => setNaming(intake.recipe?.used ? intake.recipe.name : '')}>Keep as a recipe …</Button>
        <Button onClick={() => input.current?.click()}>
          <Upload size={14} /> From JSON
        </Button>
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          className="sr-only"
          aria-label="Recipe to bring"
          tabIndex={-1}
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void bring(file);
            target.value = '';
          }}
        />
      </div>
      <Dialog open={naming !== null} title="Keep as a recipe" onClose={() => setNaming(null)}>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (naming?.trim()) save.mutate({ name: naming.trim(), recipe: recipeFrom(intake, setting) });
          }}
        >
          <Field label="Name" hint="One of this name is replaced.">
            {(given) => (
              <Input
                {...given}
                maxLength={80}
                placeholder="Giving portal, weekly"
                value={naming ?? ''}
                onChange={(event) => setNaming(event.target.value)}
              />
            )}
          </Field>
          <DialogActions>
            <Button onClick={() => setNaming(null)}>Cancel</Button>
            <Button type="submit" look="main" busy={save.isPending} disabled={!naming?.trim()}>
              Keep it
            </Button>
          </DialogActions>
        </form>
      </Dialog>
    </>
  );
}

const recipeFrom = (intake: Intake, setting: IntakeSetting): Kept['recipe'] =>
  IntakeRecipe.parse(recipeOf(intake.headings, setting));
