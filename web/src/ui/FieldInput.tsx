import { manyOf, typed } from '@tallystick/core/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { Choice } from './choice/index.tsx';
import { Checkbox } from './checks.tsx';
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
            ...(field.kind === 'one' ? field.choices : ['yes', 'no']).map((one) => ({ value: one, label: one })),
          ]}
        />
      );
    case 'many': {
      const chosen = manyOf(value);
      return (
        <span className="flex flex-wrap gap-x-4">
          {field.choices.map((choice) => (
            <Checkbox
              key={choice}
              label={choice}
              checked={chosen.includes(choice)}
              onChange={(on) => {
                const next = on ? [...chosen, choice] : chosen.filter((one) => one !== choice);
                write(next.length === 0 ? '' : JSON.stringify(next));
              }}
            />
          ))}
        </span>
      );
    }
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
