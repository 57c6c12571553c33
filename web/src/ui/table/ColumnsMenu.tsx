import { Columns3 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Column, ColumnChoice } from './columns.ts';
import { isShown, NO_CHOICE, withShown } from './columns.ts';
import { Tick } from '../checks.tsx';
import { Button, IconButton, Input } from '../controls.tsx';

/** From so many columns on one finds them by their names. */
const MANY = 14;

/** Which columns a list shows, and what each is called here. */
export function ColumnsMenu<T>(props: {
  columns: readonly Column<T>[];
  choice: ColumnChoice;
  onChoice: (next: (old: ColumnChoice) => ColumnChoice) => void;
}) {
  const { columns, choice, onChoice } = props;
  const [sought, setSought] = useState('');
  const isSought = ({ id, title }: Column<T>): boolean =>
    [title, choice.names[id] ?? ''].some((name) => name.toLowerCase().includes(sought.trim().toLowerCase()));
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
          {columns.length > MANY && (
            <Input
              className="mb-1 h-7"
              aria-label="Find a column"
              placeholder="Any part of a name"
              value={sought}
              onChange={(event) => setSought(event.target.value)}
            />
          )}
          <ul>
            {columns.filter(isSought).map((column) => (
              <li key={column.id} className="flex items-center gap-2 py-0.5">
                <Tick
                  aria-label={`Show ${column.title}`}
                  disabled={column === columns[0]}
                  checked={isShown(column, choice)}
                  onChange={(on) => onChoice((old) => withShown(column, on, old))}
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
          <Button look="quiet" onClick={() => onChoice(() => NO_CHOICE)}>
            As they were
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
