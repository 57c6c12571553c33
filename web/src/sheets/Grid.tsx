import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useImperativeHandle, useRef, useState } from 'react';
import type { Ref } from 'react';
import { CellNote } from './CellNote.tsx';
import { GridHead } from './GridHead.tsx';
import { GridRow, NUMBERS, ROW, STATES } from './GridRow.tsx';
import { useGrid } from './useGrid.ts';
import type { At, GridProps } from './useGrid.ts';

/** What the page may ask of the grid: to go to a cell. */
export interface GridWays {
  goTo: (at: At) => void;
}

/** A grid that never needs the mouse: its heading, its rows as far as they are in sight, and the line below it. */
export function Grid(props: GridProps & { ref?: Ref<GridWays> }) {
  const { rows, readOnly, people } = props;
  /** The column whose edge is being dragged, as wide as it is by now. */
  const [dragged, setDragged] = useState<{ field: string; width: number } | null>(null);
  const columns = props.columns.map((one) => (one.field === dragged?.field ? { ...one, width: dragged.width } : one));
  const showRow = useRef<(row: number) => void>(() => undefined);
  const grid = useGrid(props, columns, showRow);
  const { box, at, row, column, typing, finding } = grid;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  useEffect(() => {
    showRow.current = (place) => virtual.scrollToIndex(place);
  }, [virtual]);
  useImperativeHandle(props.ref, () => ({ goTo: grid.goTo }));
  const width = NUMBERS + STATES + columns.reduce((sum, one) => sum + one.width, 0);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={box}
        role="grid"
        tabIndex={-1}
        aria-label="Rows of the sheet"
        aria-description="Escape leaves the cells, Enter or an arrow goes back into them"
        aria-rowcount={rows.length}
        className="min-h-0 flex-1 overflow-auto bg-sheet outline-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-slate"
        onKeyDown={grid.onBoxKey}
        onMouseDown={(event) => event.target === box.current && grid.enter()}
      >
        <GridHead
          columns={columns}
          width={width}
          lead={NUMBERS + STATES}
          headingOf={props.headingOf}
          readOnly={readOnly}
          onDrag={setDragged}
          onWidth={props.onWidth}
        />
        <div className="relative" style={{ height: virtual.getTotalSize(), width }}>
          {virtual.getVirtualItems().map((item) => {
            const one = rows[item.index];
            return (
              one && (
                <GridRow
                  key={one.key}
                  row={one}
                  place={item.index}
                  top={item.start}
                  width={width}
                  columns={columns}
                  grid={grid}
                  headingOf={props.headingOf}
                  choicesOf={props.choicesOf}
                  readOnly={readOnly}
                />
              )
            );
          })}
        </div>
      </div>
      <CellNote
        row={row}
        field={column?.field ?? ''}
        said={row && grid.saidOf(row, at.row)}
        finding={
          finding ? { typed: typing ?? '', offered: grid.offered, marked: grid.marked, fresh: grid.search.fresh } : null
        }
        locked={grid.locked}
        first={at.column === 0}
        headingOf={props.headingOf}
        known={row?.supporterId == null ? undefined : people.get(row.supporterId)}
        onTake={grid.take}
        onMean={grid.mean}
        naming={{ names: grid.names, marked: grid.chosen }}
        onTakeName={grid.takeName}
      />
    </div>
  );
}
