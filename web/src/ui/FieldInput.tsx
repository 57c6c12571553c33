import { manyOf, typed } from '@tallystick/core/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { Choice, optionsOfNames, Several } from './choice/index.tsx';
import { Input } from './controls.tsx';
import { DateField } from './dates/DateField.tsx';
import type { Typed } from '@tallystick/core/fields';

/** The control for a custom field's value, by its kind. It takes and gives what is typed; the server reads it. */
export function FieldInput(props: {
  field: CustomField;
  value: Typed;
  onChange: (value: Typed) => void;
  id?: string;
  invalid?: boolean;
}) {
  const { field, value, onChange } = props;
  const write = (text: string): void => onChange(typed(text));
  const shared = { id: props.id, 'aria-label': field.name, 'aria-invalid': props.invalid };
  switch (field.kind) {
    case 'yesno':
    case 'one':
      return (
        <Choice
          {...shared}
          value={value}
          onChange={write}
          options={[
            { value: '', label: 'not filled in' },
            ...optionsOfNames(field.kind === 'one' ? field.choices : ['yes', 'no']),
          ]}
        />
      );
    case 'many':
      return (
        <Several
          label={field.name}
          value={manyOf(value)}
          onChange={(next) => write(next.length === 0 ? '' : JSON.stringify(next))}
          options={optionsOfNames(field.choices)}
        />
      );
    case 'date':
      return <DateField {...shared} value={value} onChange={write} placeholder="" />;
    default:
      return (
        <Input
          {...shared}
          inputMode={field.kind === 'number' || field.kind === 'money' ? 'decimal' : 'text'}
          value={value}
          onChange={(event) => write(event.target.value)}
        />
      );
  }
}
