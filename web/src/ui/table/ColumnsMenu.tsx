import { Columns3 } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { Column, ColumnChoice } from './columns.ts';
import { firstChoice } from './columns.ts';
import { Tick } from '../checks.tsx';
import { Button, IconButton, Input } from '../controls.tsx';

/** Which columns a list shows, and what each is called here. */
export function ColumnsMenu<T>(props: {
  columns: readonly Column<T>[];
  choice: ColumnChoice;
  onChoice: (next: (old: ColumnChoice) => ColumnChoice) => void;
}) {
  const { columns, choice, onChoice } = props;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <IconButton label="Choose columns">
          <Columns3 size={16} />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Columns"
          className="z-50 max-h-[70vh] w-72 overflow-auto rounded border border-rule bg-sheet p-2"
        >
          <ul>
            {columns.map((column, place) => (
              <li key={column.id} className="flex items-center gap-2 py-0.5">
                <Tick
                  aria-label={`Show ${column.title}`}
                  disabled={place === 0}
                  checked={!choice.hidden.includes(column.id)}
                  onChange={(on) =>
                    onChoice((old) => ({
                      ...old,
                      hidden: on ? old.hidden.filter((id) => id !== column.id) : [...old.hidden, column.id],
                    }))
                  }
                />
                <Input
                  className="h-7 w-56"
                  aria-label={`Name of the column ${column.title}`}
                  placeholder={column.title}
                  defaultValue={choice.names[column.id] ?? ''}
                  onChange={(event) =>
                    onChoice((old) => ({ ...old, names: { ...old.names, [column.id]: event.target.value.trim() } }))
                  }
                />
              </li>
            ))}
          </ul>
          <Button look="quiet" onClick={() => onChoice(() => firstChoice(columns))}>
            As they were
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
