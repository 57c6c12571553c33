import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import type { DragEndEvent } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, X } from 'lucide-react';
import { useState } from 'react';
import { layoutFault } from '@tallystick/core/sheets';
import type { SheetColumn, SheetField } from '@tallystick/core/sheets';
import { saveLayout } from '@tallystick/contract/sheets';
import { call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { useHeadings } from './headings.ts';

const GRID = 'grid grid-cols-[1.5rem_1fr_5rem_13rem_5rem_5.5rem_1.75rem] items-center gap-2';

/** Which columns a sheet has, in which order, with what defaults; dragged, or moved by Space and the arrows. */
export function LayoutDialog(props: {
  title: string;
  columns: readonly SheetColumn[];
  /** The word of the button that uses the layout as it is here. */
  use: string;
  onUse: (columns: SheetColumn[]) => void;
  onClose: () => void;
}) {
  const [columns, setColumns] = useState<readonly SheetColumn[]>(props.columns);
  const [name, setName] = useState('');
  const { headingOf, offered, choicesOf } = useHeadings();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const fault = layoutFault({ columns });
  const keep = useWrite(() => call(saveLayout, { body: { name, columns: [...columns] } }), {
    say: () => `The layout “${name}” is kept`,
  });
  const put = (field: string, part: Partial<SheetColumn>): void =>
    setColumns((old) => old.map((one) => (one.field === field ? { ...one, ...part } : one)));
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    setColumns((old) => {
      const place = (field: unknown): number => old.findIndex((one) => one.field === field);
      return arrayMove([...old], place(active.id), place(over.id));
    });
  };
  const unused = offered.filter((field) => !columns.some((one) => one.field === field));
  return (
    <Dialog open onClose={props.onClose} title={props.title} size="wide">
      <div className={`${GRID} text-[12.5px] text-faded`}>
        <span />
        <span>Column</span>
        <span>Width</span>
        <span>Default</span>
        <span>Hidden</span>
        <span>Required</span>
        <span />
      </div>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={columns.map((one) => one.field)} strategy={verticalListSortingStrategy}>
          {columns.map((column) => (
            <ColumnRow
              key={column.field}
              column={column}
              heading={headingOf(column.field)}
              choices={choicesOf(column.field)}
              onChange={(part) => put(column.field, part)}
              onRemove={() => setColumns((old) => old.filter((one) => one.field !== column.field))}
            />
          ))}
        </SortableContext>
      </DndContext>
      <div className="mt-2 flex items-center gap-3">
        <Choice
          className="w-auto min-w-56"
          aria-label="Add a column"
          value=""
          onChange={(picked) =>
            setColumns((old) => [
              ...old,
              { field: picked as SheetField, width: 130, byDefault: '', hidden: false, required: false },
            ])
          }
          options={[
            { value: '', label: 'Add a column …' },
            ...unused.map((field) => ({ value: field, label: headingOf(field) })),
          ]}
        />
        <span className="text-[13px] text-faded">A hidden column has its default in every row.</span>
      </div>
      {fault && (
        <p role="alert" className="mt-2 text-madder">
          ▲ {fault}
        </p>
      )}
      <DialogActions>
        <Input
          className="w-52"
          aria-label="Name of the layout"
          placeholder="Keep as …"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button
          disabled={name.trim() === '' || fault !== null || keep.isPending}
          onClick={() => keep.mutate(undefined)}
        >
          Keep layout
        </Button>
        <span className="flex-1" />
        <Button onClick={props.onClose}>Cancel</Button>
        <Button look="main" disabled={fault !== null} onClick={() => props.onUse([...columns])}>
          {props.use}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function ColumnRow(props: {
  column: SheetColumn;
  heading: string;
  /** What can be chosen in the column; empty where anything can be typed. */
  choices: readonly string[];
  onChange: (part: Partial<SheetColumn>) => void;
  onRemove: () => void;
}) {
  const { column, heading, choices, onChange } = props;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: column.field });
  return (
    <div
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${GRID} border-b border-rule py-1 ${isDragging ? 'relative z-10 bg-chosen' : 'bg-paper'}`}
    >
      <button
        type="button"
        aria-label={`Move ${heading}`}
        className="cursor-grab text-faded"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={15} />
      </button>
      <span>{heading}</span>
      <Input
        type="number"
        aria-label={`Width of ${heading}`}
        min={40}
        max={600}
        step={10}
        value={column.width}
        onChange={(event) => onChange({ width: Math.max(40, Math.min(600, Number(event.target.value) || 40)) })}
      />
      {choices.length > 0 ? (
        <Choice
          aria-label={`Default of ${heading}`}
          value={column.byDefault}
          onChange={(picked) => onChange({ byDefault: picked })}
          options={[
            { value: '', label: 'None' },
            ...[...new Set([...choices, column.byDefault].filter(Boolean))].map((choice) => ({
              value: choice,
              label: choice,
            })),
          ]}
        />
      ) : (
        <Input
          aria-label={`Default of ${heading}`}
          value={column.byDefault}
          onChange={(event) => onChange({ byDefault: event.target.value })}
        />
      )}
      <Checkbox
        label={<span className="sr-only">{heading} hidden</span>}
        checked={column.hidden}
        onChange={(on) => onChange({ hidden: on })}
      />
      <Checkbox
        label={<span className="sr-only">{heading} required</span>}
        checked={column.required}
        onChange={(on) => onChange({ required: on })}
      />
      <IconButton label={`Remove ${heading}`} onClick={props.onRemove}>
        <X size={14} />
      </IconButton>
    </div>
  );
}

export const FIRST_LAYOUT: SheetColumn[] = (
  [
    ['wholeName', 240],
    ['amount', 100],
    ['method', 110],
    ['cheque', 90],
    ['date', 110],
    ['fund', 170],
    ['appeal', 160],
    ['email', 200],
    ['street', 180],
    ['city', 120],
    ['region', 70],
    ['postal', 80],
    ['note', 180],
  ] as const
).map(([field, width]) => ({
  field,
  width,
  byDefault: field === 'method' ? 'Check' : '',
  hidden: false,
  required: field === 'amount',
}));
