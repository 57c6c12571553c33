import type { SheetColumn } from '@tallystick/core/sheets';
import { dragEdge } from '../ui/dragEdge.ts';

/** The headings of a sheet; a drag at the right edge of one makes its column wider or narrower. */
export function GridHead(props: {
  columns: readonly SheetColumn[];
  width: number;
  /** How wide the number and the state of a row are. */
  lead: number;
  headingOf: (field: string) => string;
  readOnly: boolean;
  onDrag: (dragged: { field: string; width: number }) => void;
  onWidth: (field: string, width: number) => void;
}) {
  return (
    <div
      role="row"
      className="sticky top-0 z-20 flex border-b border-rule bg-paper text-[12.5px] font-medium text-faded"
      style={{ width: props.width }}
    >
      <span
        role="columnheader"
        className="sticky left-0 z-10 shrink-0 bg-paper py-1 pl-12"
        style={{ width: props.lead }}
      >
        State
      </span>
      {props.columns.map((one) => (
        <span
          key={one.field}
          role="columnheader"
          className="relative shrink-0 truncate border-l border-rule px-2 py-1"
          style={{ width: one.width }}
        >
          {props.headingOf(one.field)}
          {one.required && <span title="required"> *</span>}
          {!props.readOnly && (
            <span
              role="presentation"
              className="absolute inset-y-0 right-0 w-1.5 cursor-col-resize hover:bg-slate"
              onPointerDown={(event) => {
                const widthBy = (by: number): number => Math.max(40, Math.min(600, one.width + by));
                dragEdge(
                  event,
                  (by) => props.onDrag({ field: one.field, width: widthBy(by) }),
                  (by) => by !== 0 && props.onWidth(one.field, widthBy(by)),
                );
              }}
            />
          )}
        </span>
      ))}
    </div>
  );
}
