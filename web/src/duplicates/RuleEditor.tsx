import { X } from 'lucide-react';
import { RULE_FIELDS } from '@tallystick/core/duplicates';
import type { RuleField, RuleHow, RulePart } from '@tallystick/core/duplicates';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { IconButton, Input } from '../ui/controls.tsx';

const FIELDS = optionsOf(Object.fromEntries(Object.entries(RULE_FIELDS).map(([field, { label }]) => [field, label])));
const HOWS = (field: RuleField) =>
  optionsOf({ exactly: 'is the same', nearly: RULE_FIELDS[field].near, letters: 'has the same first letters' });

/** What records must agree in; the groups that come of it are counted as one chooses. */
export function RuleEditor({ rule, onChange }: { rule: readonly RulePart[]; onChange: (rule: RulePart[]) => void }) {
  const put = (at: number, part: Partial<RulePart>): void =>
    onChange(rule.map((one, place) => (place === at ? { ...one, ...part } : one)));
  const free = FIELDS.filter(({ value }) => !rule.some(({ field }) => field === value));
  return (
    <ul aria-label="What must agree" className="flex flex-wrap items-center gap-2 px-5 py-2">
      {rule.map((part, at) => (
        <li key={part.field} className="flex items-center gap-1 rounded border border-rule bg-sheet px-2 py-1">
          <span>{RULE_FIELDS[part.field].label}</span>
          <Choice
            aria-label={`How ${RULE_FIELDS[part.field].label} must agree`}
            value={part.how}
            options={HOWS(part.field)}
            onChange={(how) => put(at, { how: how as RuleHow })}
          />
          {part.how === 'letters' && (
            <Input
              aria-label="How many letters"
              className="w-14"
              type="number"
              min={1}
              max={10}
              value={part.letters}
              onChange={(event) => put(at, { letters: Math.min(10, Math.max(1, Number(event.target.value) || 1)) })}
            />
          )}
          <IconButton
            label={`Not by ${RULE_FIELDS[part.field].label}`}
            onClick={() => onChange(rule.filter((one) => one !== part))}
          >
            <X size={14} />
          </IconButton>
        </li>
      ))}
      {free.length > 0 && (
        <li>
          <Choice
            aria-label="Another field that must agree"
            value=""
            options={[{ value: '', label: rule.length === 0 ? 'Choose what must agree' : 'and …' }, ...free]}
            onChange={(field) =>
              field !== '' && onChange([...rule, { field: field as RuleField, how: 'exactly', letters: 3 }])
            }
          />
        </li>
      )}
    </ul>
  );
}
