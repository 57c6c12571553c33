import { useMemo } from 'react';
import { listChanges, undoChange } from '@tallystick/contract/changes';
import type { ChangeSet } from '@tallystick/contract/changes';
import { call, keyOf } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { usePages } from '../ui/usePages.ts';
import { useUndo } from '../ui/useUndo.ts';

/** Every change set, newest first, each with Undo where the world allows. */
export default function ChangesPage() {
  const { moment, count } = useFormats();
  const mayUndo = useMay(undoChange);
  const list = usePages(keyOf(listChanges), async (place, signal) => {
    const page = await call(listChanges, { query: place, signal });
    return {
      ...page,
      items: page.items.map((set) => ({ ...set, id: set.revision })),
      total: page.next === null ? page.items.length : Number.MAX_SAFE_INTEGER,
    };
  });
  const { undo, busy } = useUndo();
  const columns = useMemo(
    (): Column<ChangeSet & { id: number }>[] => [
      { id: 'revision', title: 'Change', width: 76, align: 'right', cell: (set) => set.revision },
      { id: 'at', title: 'When', width: 180, cell: (set) => moment(set.at) },
      { id: 'by', title: 'By', width: 180, cell: (set) => set.by },
      { id: 'summary', title: 'What', width: 430, cell: (set) => <span title={set.summary}>{set.summary}</span> },
      { id: 'rows', title: 'Rows', width: 80, align: 'right', cell: (set) => count(set.rows) },
      {
        id: 'undo',
        title: 'Undo',
        width: 150,
        cell: (set) =>
          set.undoneBy !== null ? (
            <StateWord tone="plain">undone by {set.undoneBy}</StateWord>
          ) : set.undoable && mayUndo ? (
            <Button look="quiet" className="h-6 px-1" busy={busy} onClick={() => undo(set.revision)}>
              Undo
            </Button>
          ) : null,
      },
    ],
    [moment, count, mayUndo, undo, busy],
  );
  return (
    <ListPage
      title="All changes"
      facts="Who changed what, and when"
      name="changes"
      label="Changes"
      columns={columns}
      list={list}
      empty={<Empty title="Nothing was changed yet" />}
    />
  );
}
