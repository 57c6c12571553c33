import { isEmptyRow } from '@tallystick/core/sheets';
import type { SheetColumn, SheetRow } from '@tallystick/core/sheets';
import { OFFERED } from './CellNote.tsx';
import { classes } from '../ui/classes.ts';
import { StateWord } from '../ui/controls.tsx';
import type { GridState } from './useGrid.ts';
import type { RowRemarks } from './useSheet.ts';

export const ROW = 30;
export const NUMBERS = 44;
export const STATES = 124;

interface RowProps {
  row: SheetRow;
  place: number;
  columns: readonly SheetColumn[];
  grid: GridState;
  headingOf: (field: string) => string;
  choicesOf: (field: string) => readonly string[];
  readOnly: boolean;
}

/** One row of a sheet: its number, what the check says of it, its cells. */
export function GridRow(props: RowProps & { top: number; width: number }) {
  const { row, place, grid } = props;
  const said = isEmptyRow(row) ? undefined : grid.saidOf(row, place);
  return (
    <div
      role="row"
      aria-rowindex={place + 1}
      data-row={place}
      className="absolute flex border-b border-rule"
      style={{ top: props.top, height: ROW, width: props.width }}
    >
      <span
        role="rowheader"
        className="sticky left-0 z-10 flex shrink-0 gap-2 border-r border-rule bg-paper pt-1 text-[13px]"
        style={{ width: NUMBERS + STATES }}
      >
        <span className="shrink-0 text-right text-[12.5px] text-faded tabular-nums" style={{ width: NUMBERS - 8 }}>
          {place + 1}
        </span>
        {said && <RowState said={said} />}
      </span>
      {props.columns.map((cell, index) => (
        <Cell key={cell.field} {...props} cell={cell} index={index} said={said} />
      ))}
    </div>
  );
}

function RowState({ said }: { said: RowRemarks }) {
  if (said.problems.length > 0) return <StateWord tone="wrong">{said.problems.length} wrong</StateWord>;
  if (said.alike.length > 0) return <StateWord tone="look">looks known</StateWord>;
  if (said.warnings.length > 0) return <StateWord tone="look">look again</StateWord>;
  return <StateWord tone="settled">{said.status === 'known' ? 'known' : 'new'}</StateWord>;
}

/** A cell, with the text box where it is the one that is worked on. */
function Cell(props: RowProps & { cell: SheetColumn; index: number; said: RowRemarks | undefined }) {
  const { row, place, cell, index, grid, said } = props;
  const { at, block, typing } = grid;
  const here = place === at.row && index === at.column;
  const { text, faded } = grid.shownIn(row, cell.field);
  const wrong = said?.problems.some((remark) => remark.field === cell.field) === true;
  const look = said?.warnings.some((remark) => remark.field === cell.field) === true;
  const right = cell.field === 'amount' || cell.field === 'benefit';
  const changed = row.supporterId !== null && row.change.includes(cell.field);
  const inBlock = place >= block.top && place <= block.bottom && index >= block.left && index <= block.right;
  return (
    <div
      role="gridcell"
      aria-invalid={wrong}
      data-cell={`${place}:${index}`}
      className={classes(
        'relative shrink-0 truncate border-l border-rule px-2 pt-1',
        faded && 'text-faded',
        right && 'text-right tabular-nums',
        index === 0 && 'font-serif text-[15px]',
        wrong && 'shadow-[inset_0_-2px_0_var(--madder)]',
        (look || changed) && 'bg-straw text-straw-ink',
        inBlock && grid.isBlock && 'bg-chosen',
      )}
      style={{ width: cell.width }}
      onMouseDown={(event) => {
        if (here && typing !== null) return;
        event.preventDefault();
        grid.press({ row: place, column: index }, event.shiftKey);
        if (event.detail === 2 && !props.readOnly) grid.begin(index === 0 ? '' : text);
      }}
    >
      {wrong && <span className="sr-only">wrong: </span>}
      {text}
      {here && (
        <input
          ref={grid.hold}
          tabIndex={grid.left ? -1 : 0}
          aria-label={`${props.headingOf(cell.field)}, row ${place + 1}`}
          aria-invalid={wrong}
          className={classes(
            'absolute inset-0 px-2 outline-2 -outline-offset-2 outline-(--slate)',
            typing === null ? 'cursor-default bg-transparent text-transparent caret-transparent' : 'bg-sheet text-ink',
            right && 'text-right',
          )}
          readOnly={typing === null}
          autoComplete="off"
          {...(index === 0 || props.choicesOf(cell.field).length > 0
            ? {
                role: 'combobox',
                'aria-expanded': grid.finding ? grid.offered.length > 0 : grid.names.length > 0,
                'aria-controls': OFFERED,
              }
            : {})}
          value={typing ?? text}
          onChange={(event) => grid.type(event.target.value)}
          onKeyDown={grid.onKey}
          onPaste={grid.onPaste}
          onCopy={grid.onCopy}
          onFocus={grid.enter}
          onBlur={grid.commit}
        />
      )}
    </div>
  );
}
