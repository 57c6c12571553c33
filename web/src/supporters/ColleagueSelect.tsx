import type { ComponentProps } from 'react';
import { Choice } from '../ui/choice/index.tsx';
import { useChoices } from '../ui/useChoices.ts';

/** Who a task is for: a colleague, or nobody yet. */
export function ColleagueSelect(
  props: Omit<ComponentProps<typeof Choice>, 'value' | 'onChange' | 'options'> & {
    value: number | null;
    onChange: (id: number | null) => void;
  },
) {
  const { users } = useChoices();
  const { value, onChange, ...rest } = props;
  return (
    <Choice
      {...rest}
      value={value ?? ''}
      onChange={(picked) => onChange(Number(picked) || null)}
      options={[{ value: '', label: 'nobody yet' }, ...users.map((one) => ({ value: one.id, label: one.name }))]}
    />
  );
}
