import { Plus, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Condition, Group } from '@tallystick/contract/segments';
import { Choice, Several } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, IconButton } from '../ui/controls.tsx';
import { Menu } from '../ui/overlays.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { CONDITION_NAMES, EMPTY_GROUP, freshCondition, withPart } from './conditions.ts';
import type { Part } from './conditions.ts';
import { GaveEditor, LastGiftEditor, MeasureEditor, TotalEditor } from './GivingConditions.tsx';
import { FieldTestEditor, Kinds, PeopleGroupSelect, useOwnFields, WishSelect } from './PeopleConditions.tsx';

type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;

/** Conditions joined by all or any, groups within groups. `counts` says how many match each part by itself. */
export function GroupEditor(props: {
  group: Group;
  onChange: (group: Group) => void;
  counts?: { parts: readonly number[]; alone: readonly number[] } | undefined;
  onRemove?: () => void;
}) {
  const { group, onChange } = props;
  const { count } = useFormats();
  const { tags, groups } = useChoices();
  const fields = useOwnFields('supporter');
  const giftFields = useOwnFields('gift');
  const add = (part: Part): void => onChange({ ...group, parts: [...group.parts, part] });
  return (
    <div className="rounded border border-rule bg-sheet">
      <div className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
        <span>Supporters who match</span>
        <Choice
          aria-label="Join"
          className="w-auto min-w-20"
          value={group.join}
          onChange={(picked) => onChange({ ...group, join: picked === 'any' ? 'any' : 'all' })}
          options={[
            { value: 'all', label: 'all' },
            { value: 'any', label: 'any' },
          ]}
        />
        <span>of these</span>
        {props.onRemove && (
          <IconButton label="Remove this group" className="ml-auto" onClick={props.onRemove}>
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
      <ul>
        {group.parts.map((part, index) => (
          <li key={index} className="flex items-center gap-3 border-b border-rule px-3 py-1.5">
            <div className="min-w-0 flex-1">
              {part.kind === 'group' ? (
                <GroupEditor
                  group={part}
                  onChange={(next) => onChange({ ...group, parts: withPart(group.parts, index, next) })}
                  onRemove={() => onChange({ ...group, parts: withPart(group.parts, index, null) })}
                />
              ) : (
                <ConditionEditor
                  condition={part}
                  onChange={(next) => onChange({ ...group, parts: withPart(group.parts, index, next) })}
                />
              )}
            </div>
            {props.counts?.parts[index] !== undefined && (
              <span className="w-28 shrink-0 text-right text-faded" title="Match this by itself">
                {count(props.counts.parts[index])}
                <span
                  className="block text-[12px]"
                  title={group.join === 'all' ? 'Left out by this condition alone' : 'Let in by this condition alone'}
                >
                  {group.join === 'all' ? 'takes out' : 'brings in'} {count(props.counts.alone[index] ?? 0)}
                </span>
              </span>
            )}
            {part.kind !== 'group' && (
              <IconButton
                label={`Remove the condition ${CONDITION_NAMES[part.kind]}`}
                onClick={() => onChange({ ...group, parts: withPart(group.parts, index, null) })}
              >
                <Trash2 size={14} />
              </IconButton>
            )}
          </li>
        ))}
        {group.parts.length === 0 && (
          <li className="px-3 py-2 text-faded">No condition yet: everyone on record matches.</li>
        )}
      </ul>
      <div className="px-1 py-1">
        <Menu
          label="Add a condition"
          trigger={
            <Button look="quiet">
              <Plus size={14} /> Add a condition
            </Button>
          }
          items={[
            ...(Object.keys(CONDITION_NAMES) as Condition['kind'][]).map((kind) => ({
              label: CONDITION_NAMES[kind],
              onSelect: () =>
                add(
                  freshCondition(kind, {
                    tag: tags[0]?.id ?? 0,
                    group: groups[0]?.id ?? 0,
                    field: fields[0]?.id ?? 0,
                    giftField: giftFields[0]?.id ?? 0,
                  }),
                ),
            })),
            {
              label: 'Group within',
              onSelect: () => add({ ...EMPTY_GROUP, join: group.join === 'all' ? 'any' : 'all' }),
            },
          ]}
        />
      </div>
    </div>
  );
}

function Line({
  name,
  not,
  onNot,
  children,
}: {
  name: string;
  not: boolean;
  onNot: (not: boolean) => void;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="w-28 font-medium">{name}</span>
      {children}
      <span className="ml-auto text-[13px] text-faded">
        <Checkbox
          label="not"
          checked={not}
          onChange={(on) => onNot(on)}
          aria-label={`Turn round the condition ${name}`}
        />
      </span>
    </div>
  );
}

function ConditionEditor({ condition, onChange }: { condition: Condition; onChange: (condition: Condition) => void }) {
  const line = (children: ReactNode) => (
    <Line
      name={CONDITION_NAMES[condition.kind]}
      not={condition.not === true}
      onNot={(not) => onChange({ ...condition, not })}
    >
      {children}
    </Line>
  );
  switch (condition.kind) {
    case 'region':
      return line(<Regions condition={condition} onChange={onChange} />);
    case 'tag':
      return line(<TagSelect condition={condition} onChange={onChange} />);
    case 'gave':
      return line(<GaveEditor condition={condition} onChange={onChange} />);
    case 'total':
      return line(<TotalEditor condition={condition} onChange={onChange} />);
    case 'gifts':
      return line(<MeasureEditor condition={condition} onChange={onChange} />);
    case 'kind':
      return line(<Kinds condition={condition} onChange={onChange} />);
    case 'wish':
      return line(<WishSelect condition={condition} onChange={onChange} />);
    case 'in-group':
      return line(<PeopleGroupSelect condition={condition} onChange={onChange} />);
    case 'field':
    case 'gift-field':
      return line(<FieldTestEditor condition={condition} onChange={onChange} />);
    case 'last-gift':
      return line(<LastGiftEditor condition={condition} onChange={onChange} />);
    default:
      return condition satisfies never;
  }
}

function Regions({ condition, onChange }: { condition: Of<'region'>; onChange: (condition: Condition) => void }) {
  const { regions } = useChoices();
  return (
    <Several
      label="States"
      options={regions.map(({ code, name }) => ({ value: code, label: name === code ? code : `${name} (${code})` }))}
      value={condition.regions}
      onChange={(chosen) => onChange({ ...condition, regions: chosen.toSorted() })}
    />
  );
}

function TagSelect({ condition, onChange }: { condition: Of<'tag'>; onChange: (condition: Condition) => void }) {
  const { tags } = useChoices();
  return (
    <Choice
      aria-label="Tag"
      className="w-auto min-w-48"
      value={condition.tag}
      onChange={(picked) => onChange({ ...condition, tag: Number(picked) })}
      options={tags.map((tag) => ({ value: tag.id, label: `${tag.name} (${tag.count})` }))}
    />
  );
}
