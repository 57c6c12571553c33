import { WISH_NAMES, WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import { Checkbox } from '../ui/checks.tsx';
import { Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import type { DraftForm } from './draft.ts';

/** What a supporter asked for, each with since when and where it comes from. */
export function WishFields({ form }: { form: DraftForm }) {
  const { organization } = useHere();
  const wishes = form.watch('wishes') ?? [];
  const put = (next: typeof wishes): void => form.setValue('wishes', next, { shouldDirty: true });
  const change = (kind: Wish, patch: Partial<(typeof wishes)[number]>): void =>
    put(wishes.map((wish) => (wish.kind === kind ? { ...wish, ...patch } : wish)));
  const person = form.watch('kind') === 'person';
  return (
    <fieldset>
      <legend className="text-[13px] text-faded">Wishes</legend>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {WISH_NAMES.filter((kind) => person || kind !== 'deceased').map((kind) => (
          <Checkbox
            key={kind}
            label={WISHES[kind].word}
            checked={wishes.some((wish) => wish.kind === kind)}
            onChange={(on) =>
              put(
                on
                  ? [...wishes, { kind, since: organization.today, source: '', happenedOn: null }]
                  : wishes.filter((wish) => wish.kind !== kind),
              )
            }
          />
        ))}
      </div>
      {wishes.map((wish) => (
        <div key={wish.kind} className="mt-1 flex items-center gap-2 text-[13px]">
          <span className="w-40">{WISHES[wish.kind].word}</span>
          <span className="text-faded">since</span>
          <DateField
            className="w-36"
            aria-label={`${WISHES[wish.kind].word}: since`}
            value={wish.since ?? ''}
            onChange={(day) => change(wish.kind, { since: day || null })}
          />
          <Input
            className="w-56"
            aria-label={`${WISHES[wish.kind].word}: where it comes from`}
            placeholder="from a card, a call, a letter"
            value={wish.source ?? ''}
            onChange={(event) => change(wish.kind, { source: event.target.value })}
          />
          {wish.kind === 'deceased' && (
            <>
              <span className="text-faded">died on</span>
              <DateField
                className="w-36"
                aria-label="Day of death"
                value={wish.happenedOn ?? ''}
                onChange={(day) => change(wish.kind, { happenedOn: day || null })}
              />
            </>
          )}
        </div>
      ))}
    </fieldset>
  );
}
