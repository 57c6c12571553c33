import type { ReactNode } from 'react';
import { classes } from './classes.ts';

/** A short list as a plain table, for what is few: segments, intakes, issues. */
export function ListTable(props: {
  label: string;
  headings: readonly ReactNode[];
  rightAligned?: readonly number[];
  rows: readonly { id: number; cells: readonly ReactNode[] }[];
}) {
  const right = (index: number): string | false => props.rightAligned?.includes(index) === true && 'text-right';
  return (
    <div className="relative overflow-auto bg-sheet">
      <table aria-label={props.label} className="w-full border-separate border-spacing-0">
        <thead>
          <tr>
            {props.headings.map((heading, index) => (
              <th
                key={index}
                scope="col"
                className={classes(
                  'h-8 border-b border-rule bg-paper px-3 text-left text-[12.5px] font-medium text-faded first:pl-5',
                  right(index),
                )}
              >
                {heading || <span className="sr-only">Actions</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {props.rows.map((row) => (
            <tr key={row.id} data-row={row.id} className="hover:bg-hover">
              {row.cells.map((cell, index) => (
                <td key={index} className={classes('h-9 border-b border-rule px-3 first:pl-5', right(index))}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
