import type { ComponentProps } from 'react';
import { Select } from '../ui/controls.tsx';
import { useChoices } from '../ui/useChoices.ts';

/** Who a task is for: a colleague, or nobody yet. */
export function ColleagueSelect(
  props: Omit<ComponentProps<typeof Select>, 'value' | 'onChange'> & {
    value: number | null;
    onChange: (id: number | null) => void;
  },
) {
  const { users } = useChoices();
  const { value, onChange, ...rest } = props;
  return (
    <Select {...rest} value={value ?? ''} onChange={(event) => onChange(Number(event.target.value) || null)}>
      <option value="">nobody yet</option>
      {users.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </Select>
  );
}
