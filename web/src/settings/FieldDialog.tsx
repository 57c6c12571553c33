import { z } from 'zod';
import { FIELD_KINDS } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { createField, updateField } from '@tallystick/contract/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { call } from '../ui/api.ts';
import { optionsOf } from '../ui/choice/index.tsx';
import { ChoiceField, EntryDialog, LongField, oneOf, readInto, said, TextField, useEntry } from '../ui/form/index.ts';

const FRESH = { about: 'supporter' as CustomField['about'], name: '', kind: 'text' as FieldKind, choices: '' };
const listed = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

/** A custom field to be made, which may be begun, or changed. */
export function FieldDialog(props: {
  field: CustomField | null;
  begun?: Partial<typeof FRESH>;
  onMade?: (id: number, of: CustomField['about']) => void;
  onClose: () => void;
}) {
  const { field, onClose } = props;
  const entry = useEntry({
    schema: readInto(
      z.object({
        about: oneOf<CustomField['about']>(),
        name: said('Write its name.'),
        kind: oneOf<FieldKind>(),
        choices: z.string().transform(listed),
      }),
      createField.body,
    ),
    initial: field
      ? { about: field.about, name: field.name, kind: field.kind, choices: field.choices.join('\n') }
      : { ...FRESH, ...props.begun },
    send: async (body) => {
      const { name, choices } = body;
      if (field)
        return void (await call(updateField, {
          params: { id: field.id },
          body: { version: field.version, name, choices },
        }));
      const { id } = await call(createField, { body });
      props.onMade?.(id, body.about);
    },
    say: () => (field ? 'Saved' : 'The field is made'),
    then: onClose,
  });
  const { kind } = entry.typed;
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={field ? `Change the field ${field.name}` : 'Make a field'}
      word={field ? 'Save' : 'Make the field'}
    >
      <TextField entry={entry} name="name" label="Name" autoFocus />
      {!field && (
        <div className="grid grid-cols-2 gap-3">
          <ChoiceField
            entry={entry}
            name="about"
            label="Of"
            options={optionsOf({ supporter: 'supporters', gift: 'gifts' })}
          />
          <ChoiceField
            entry={entry}
            name="kind"
            label="Kind"
            hint="It stays once made."
            options={optionsOf(FIELD_KINDS)}
          />
        </div>
      )}
      {(kind === 'one' || kind === 'many') && (
        <LongField entry={entry} name="choices" label="Choices, one a line" rows={6} />
      )}
    </EntryDialog>
  );
}
