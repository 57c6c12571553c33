import { FORMS } from '@tallystick/core/names';
import type { Form } from '@tallystick/core/names';
import type { Supporter } from '@tallystick/contract/supporters';
import { Field, Input, StateWord } from '../ui/controls.tsx';
import type { DraftForm } from './draft.ts';

/** The four texts that letters address a supporter by: the rules' own unless something is written here. */
export function AddressingFields({ form, supporter }: { form: DraftForm; supporter: Supporter }) {
  return (
    <fieldset>
      <legend className="text-[13px] text-faded">How they are addressed</legend>
      <div className="grid grid-cols-2 gap-3">
        {(Object.keys(FORMS) as Form[]).map((name) => {
          const { rule, stale } = supporter.addressing[name];
          return (
            <Field
              key={name}
              label={FORMS[name]}
              hint={stale ? <StateWord tone="look">The name changed since this was written.</StateWord> : undefined}
            >
              {(attributes) => <Input {...attributes} placeholder={rule} {...form.register(`addressing.${name}`)} />}
            </Field>
          );
        })}
      </div>
    </fieldset>
  );
}
