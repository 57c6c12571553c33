import {
  closestCenter,
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import type { DragEndEvent } from '@dnd-kit/core';
import { Eye, EyeOff, GripVertical, Plus, Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { listedAs } from '@tallystick/core/catalogue';
import type { Field } from '@tallystick/core/catalogue';
import type { Condition, Group } from '@tallystick/contract/segments';
import { ChoiceBox } from '../ui/choice/ChoiceBox.tsx';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { classes } from '../ui/classes.ts';
import { IconButton } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useKnownFields } from '../ui/useKnownFields.ts';
import { askable, moved, nameOf, relocated, withMore, withPart } from './conditions.ts';
import type { Part, Path } from './conditions.ts';
import { ListOfPeople } from './ListOfPeople.tsx';
import { RowsEditor } from './RowsEditor.tsx';
import { TestEditor } from './TestEditor.tsx';
import { WhereEditor } from './WhereEditor.tsx';

const JOINS = optionsOf({ all: 'all', any: 'any', none: 'none' });

interface Counts {
  parts: readonly number[];
  alone: readonly number[];
}
/** What every line of a tree of conditions works on. */
interface Tree {
  root: Group;
  fields: ReadonlyMap<string, Field>;
  put: (root: Group) => void;
  /** The part that was added or moved last, which then has the focus. */
  fresh: { path: string };
  counts: Counts | undefined;
  /** Whether it stands within a condition about somebody related. */
  within: boolean;
}

/**
 * Conditions joined by all, any or none, groups within groups. Lines are dragged, or moved by Alt with the arrows;
 * `counts` says of the outermost how many match each by itself and what it alone does.
 */
export function GroupEditor(props: {
  group: Group;
  onChange: (group: Group) => void;
  counts?: Counts | undefined;
  within?: boolean;
}) {
  const { group: root, onChange, counts, within = false } = props;
  const fields = useKnownFields();
  const fresh = useRef({ path: '' });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const tree: Tree = { root, fields, put: onChange, fresh: fresh.current, counts, within };
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const [from, to] = [String(active.id), String(over.id)].map((id) => id.split('.').map(Number)) as [
      number[],
      number[],
    ];
    const done = relocated(root, from, to.slice(0, -1), to[to.length - 1] ?? 0);
    if (done) onChange(done.group);
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <GroupBox group={root} path={[]} tree={tree} />
    </DndContext>
  );
}

function GroupBox({ group, path, tree }: { group: Group; path: Path; tree: Tree }) {
  const here = (next: Group): void => tree.put(path.length === 0 ? next : withPart(tree.root, path, next));
  return (
    <div className={classes('rounded border border-rule bg-sheet', group.off && 'opacity-60')}>
      <div className="flex items-center gap-2 border-b border-rule px-3 py-1">
        <span>{path.length === 0 && !tree.within ? 'Supporters who match' : 'Match'}</span>
        <Choice
          aria-label="Join"
          className="w-auto min-w-20"
          value={group.join}
          onChange={(join) => here({ ...group, join: join as Group['join'] })}
          options={JOINS}
        />
        <span>of these</span>
        {path.length > 0 && <LineActs part={group} path={path} tree={tree} name="the group" />}
      </div>
      <ul>
        {group.parts.map((part, at) => (
          <Line key={at} part={part} path={[...path, at]} join={group.join} tree={tree} />
        ))}
        {group.parts.length === 0 && (
          <li className="px-3 py-1.5 text-faded">
            {path.length === 0 && !tree.within
              ? 'No condition yet: everyone on record matches.'
              : 'No condition yet: everyone matches.'}
          </li>
        )}
      </ul>
      <div className="px-2 py-1">
        <AddCondition
          fields={tree.fields}
          main={path.length === 0 && !tree.within}
          onAdd={(part) => {
            tree.fresh.path = [...path, group.parts.length].join('.');
            tree.put(withMore(tree.root, path, part));
          }}
        />
      </div>
    </div>
  );
}

/** Everything that can be asked about, typed for by any part of its name; `n` opens the outermost one. */
function AddCondition({
  fields,
  main,
  onAdd,
}: {
  fields: ReadonlyMap<string, Field>;
  main: boolean;
  onAdd: (part: Part) => void;
}) {
  const box = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!main) return;
    const open = (event: globalThis.KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      const typing = target.closest('input, textarea, [contenteditable=true], [role=listbox]');
      const asked = event.altKey ? event.code === 'KeyN' : event.key === 'n' && !typing && !event.defaultPrevented;
      if (!asked || event.ctrlKey || event.metaKey || target.closest('[role=dialog]')) return;
      event.preventDefault();
      box.current?.querySelector<HTMLElement>('[role=combobox]')?.click();
    };
    document.addEventListener('keydown', open);
    return () => document.removeEventListener('keydown', open);
  }, [main]);
  const options = askable(fields);
  return (
    <span ref={box} className="inline-flex items-center gap-1">
      <Plus size={14} aria-hidden className="text-faded" />
      <ChoiceBox
        handsOn
        aria-label="Add a condition"
        className="w-auto min-w-40 border-transparent"
        placeholder={main ? 'Add a condition (n, Alt+N)' : 'Add a condition'}
        value=""
        options={options}
        onChange={(picked) => {
          const one = options.find(({ value }) => value === picked);
          if (one) onAdd(one.begin());
        }}
      />
    </span>
  );
}

function Line({ part, path, join, tree }: { part: Part; path: Path; join: Group['join']; tree: Tree }) {
  const id = path.join('.');
  const line = useRef<HTMLLIElement>(null);
  const drag = useDraggable({ id });
  const place = useDroppable({ id });
  useEffect(() => {
    if (tree.fresh.path !== id) return;
    tree.fresh.path = '';
    // What is asked comes before which question it is.
    const boxes = ['[data-value] ', ''].map(
      (inside) => `[data-condition] ${inside}:is([role=combobox], input, button)`,
    );
    boxes
      .map((box) => line.current?.querySelector<HTMLElement>(box))
      .find((box) => box)
      ?.focus();
  });
  const move = (event: KeyboardEvent): void => {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : null;
    if (!event.altKey || by === null || event.defaultPrevented) return;
    event.preventDefault();
    event.stopPropagation();
    const done = moved(tree.root, path, by);
    if (!done) return;
    tree.fresh.path = done.path.join('.');
    tree.put(done.group);
  };
  const top = path.length === 1 ? path[0] : undefined;
  const shift = drag.transform ? { transform: `translateY(${drag.transform.y}px)` } : {};
  return (
    <li
      ref={(element) => {
        line.current = element;
        drag.setNodeRef(element);
        place.setNodeRef(element);
      }}
      style={shift}
      onKeyDown={move}
      className={classes(
        'flex items-start gap-2 border-b border-rule px-2 py-1',
        place.isOver && 'bg-hover',
        drag.isDragging && 'relative z-10 bg-sheet',
        part.off && 'opacity-60',
      )}
    >
      <span
        {...drag.listeners}
        title="Drag, or move with Alt and the arrows"
        className="mt-1.5 cursor-grab text-faded"
        aria-hidden
      >
        <GripVertical size={14} />
      </span>
      <div className="min-w-0 flex-1" data-condition>
        {part.kind === 'group' ? (
          <GroupBox group={part} path={path} tree={tree} />
        ) : (
          <ConditionEditor
            condition={part}
            tree={tree}
            onChange={(next) => tree.put(withPart(tree.root, path, next))}
          />
        )}
      </div>
      {top !== undefined && tree.counts?.parts[top] !== undefined && (
        <LineCount
          join={join}
          part={tree.counts.parts[top]}
          alone={tree.counts.alone[top] ?? 0}
          off={part.off === true}
        />
      )}
      {part.kind !== 'group' && (
        <LineActs part={part} path={path} tree={tree} name={`the condition ${nameOf(part, tree.fields)}`} />
      )}
    </li>
  );
}

const ALONE = { all: 'takes out', any: 'brings in', none: 'takes out' } as const;

function LineCount({ join, part, alone, off }: { join: Group['join']; part: number; alone: number; off: boolean }) {
  const { count } = useFormats();
  return (
    <span className="w-28 shrink-0 text-right text-faded" title="Match this by itself">
      {count(part)}
      <span className="block text-[12px]">{off ? 'switched off' : `${ALONE[join]} ${count(alone)}`}</span>
    </span>
  );
}

/** What is done to a line: turned round, switched off, taken out. */
function LineActs({ part, path, tree, name }: { part: Part; path: Path; tree: Tree; name: string }) {
  const put = (next: Part | null): void => tree.put(withPart(tree.root, path, next));
  return (
    <span className="ml-auto flex shrink-0 items-center gap-1 text-[13px] text-faded">
      {part.kind !== 'group' && (
        <Checkbox
          label="not"
          checked={part.not === true}
          onChange={(on) => put({ ...part, not: on })}
          aria-label={`Turn round ${name}`}
        />
      )}
      <IconButton
        label={part.off ? `Switch on ${name}` : `Switch off ${name} for now`}
        onClick={() => put({ ...part, off: !part.off })}
      >
        {part.off ? <EyeOff size={14} /> : <Eye size={14} />}
      </IconButton>
      <IconButton label={`Remove ${name}`} onClick={() => put(null)}>
        <Trash2 size={14} />
      </IconButton>
    </span>
  );
}

function ConditionEditor(props: { condition: Condition; tree: Tree; onChange: (condition: Condition) => void }) {
  const { condition, tree, onChange } = props;
  const named = (children: ReactNode, below?: ReactNode) => (
    <>
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="min-w-28 font-medium">{nameOf(condition, tree.fields)}</span>
        {children}
      </div>
      {below}
    </>
  );
  switch (condition.kind) {
    case 'field': {
      const known = tree.fields.get(condition.field);
      if (!known) return named(<span className="text-madder">asks about a field that is no longer there</span>);
      const { label, type } = known;
      return named(
        <TestEditor {...{ label, type, test: condition.test }} onChange={(test) => onChange({ ...condition, test })} />,
      );
    }
    case 'rows':
      return named(<RowsEditor condition={condition} onChange={onChange} />);
    case 'related':
      return named(
        condition.by === 'tie' ? (
          <WhereEditor
            known={listedAs('ties').parts}
            where={condition.where}
            onChange={(where) => onChange({ ...condition, where })}
          />
        ) : (
          <span className="text-faded">somebody, themselves included, who matches</span>
        ),
        <div className="mt-1">
          <GroupEditor within group={condition.match} onChange={(match) => onChange({ ...condition, match })} />
        </div>,
      );
    case 'people':
      return named(<ListOfPeople list={condition.list} onChange={(list) => onChange({ ...condition, list })} />);
    case 'segment':
      return named(
        <OtherSegment segment={condition.segment} onChange={(segment) => onChange({ ...condition, segment })} />,
      );
  }
}

function OtherSegment({ segment, onChange }: { segment: number; onChange: (segment: number) => void }) {
  const { segments } = useChoices();
  return (
    <Choice
      aria-label="Segment"
      className="w-auto min-w-56"
      placeholder="Choose a segment"
      value={segment === 0 ? '' : segment}
      onChange={(picked) => onChange(Number(picked))}
      options={segments.map(({ id, name }) => ({ value: id, label: name }))}
      remember="segment"
    />
  );
}
