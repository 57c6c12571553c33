import type { Type } from '@tallystick/core/catalogue';
import { CHOICES_OF } from '@tallystick/contract/setup';
import type { Option } from '../ui/choice/index.tsx';
import { codedOption } from '../ui/choice/index.tsx';
import { useChoices } from '../ui/useChoices.ts';

/** What a value of a type may be, where it is one of several. */
export function useOptionsOf(type: Type): Option[] {
  const choices = useChoices();
  if (type.is === 'text' && type.among)
    return choices[type.among].map(({ code, name }) => ({ value: code, label: name, also: code }));
  if (type.is === 'one' || type.is === 'many')
    return Object.entries(type.options).map(([value, label]) => ({ value, label }));
  if (type.is !== 'ref') return [];
  const list = choices[CHOICES_OF[type.to]];
  return list.map((one) => ('code' in one && 'closed' in one ? codedOption(one) : { value: one.id, label: one.name }));
}
