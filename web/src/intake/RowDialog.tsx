import { useState } from 'react';
import { ofFile } from '@tallystick/core/intake';
import type { IntakeColumn } from '@tallystick/core/intake';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { Button, Field, Input, StateWord } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import type { SetSetting } from './useSetting.ts';
import { Whose } from './Whose.tsx';

/**
 * One row as a whole: what it changes of its record, old and new side by side, and its cells, which can be changed for
 * this intake; the file itself stays as it came.
 */
export function RowDialog(props: {
  intake: Intake;
  row: IntakeRow;
  labelOf: (column: IntakeColumn) => string;
  setting: IntakeSetting;
  set: SetSetting;
}) {
  const { intake, row, labelOf, setting, set } = props;
  const [cells, setCells] = useState<string[] | null>(null);
  // What is made follows what it is made of.
  const headings = ofFile(intake.headings, intake.setting);
  const keyOf = (at: number): string => `${row.row}:${at}`;
  const edited = headings.some((_, at) => keyOf(at) in setting.edits);
  const save = (): void => {
    const changed = Object.entries(cells ?? []).flatMap(([at, cell]) =>
      cell === (row.cells[Number(at)] ?? '') ? [] : [[keyOf(Number(at)), cell]],
    );
    if (changed.length > 0) set({ edits: { ...setting.edits, ...Object.fromEntries(changed) } });
    setCells(null);
  };
  return (
    <>
      <button
        type="button"
        className="text-slate hover:underline"
        aria-label={`Open row ${row.row}`}
        onClick={() => setCells(headings.map((_, at) => row.cells[at] ?? ''))}
      >
        {edited ? 'Mended' : 'Open'} …
      </button>
      {cells && (
        <Dialog open title={`Row ${row.row} of ${intake.name}`} size="wide" onClose={() => setCells(null)}>
          <p className="text-faded">{row.says}</p>
          {['new', 'known', 'undecided'].includes(row.verdict) && (
            <Whose {...{ intake, row, setting, set }} onDone={() => setCells(null)} />
          )}
          {row.changes.length > 0 && <Comparison {...{ row, labelOf }} />}
          <form
            onSubmit={(event) => {
              event.preventDefault();
              save();
            }}
          >
            <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(14rem,1fr))] gap-x-4 gap-y-1">
              {headings.map((heading, at) => {
                const column = intake.setting.columns[at] ?? null;
                const said = row.problems.find(({ field }) => column !== null && field === column);
                const better = row.warnings.find(({ field }) => column !== null && field === column)?.better;
                const put = (value: string): void =>
                  setCells(cells.map((cell, index) => (index === at ? value : cell)));
                return (
                  <Field key={at} label={heading || `column ${at + 1}`} error={said?.reason}>
                    {(given) => (
                      <>
                        <Input {...given} value={cells[at] ?? ''} onChange={({ target }) => put(target.value)} />
                        {better !== undefined && better !== cells[at] && (
                          <button
                            type="button"
                            className="text-[13px] text-slate hover:underline"
                            onClick={() => put(better)}
                          >
                            Write {better}
                          </button>
                        )}
                      </>
                    )}
                  </Field>
                );
              })}
            </div>
            <DialogActions>
              {edited && (
                <Button
                  onClick={() => {
                    const edits = Object.entries(setting.edits).filter(([key]) => !key.startsWith(`${row.row}:`));
                    set({ edits: Object.fromEntries(edits) });
                    setCells(null);
                  }}
                >
                  As in the file again
                </Button>
              )}
              <Button onClick={() => setCells(null)}>Cancel</Button>
              <Button type="submit" look="main">
                Use these
              </Button>
            </DialogActions>
          </form>
        </Dialog>
      )}
    </>
  );
}

/** What a row says otherwise than the record, field by field. */
function Comparison({ row, labelOf }: { row: IntakeRow; labelOf: (column: IntakeColumn) => string }) {
  return (
    <table className="mt-2 w-full border-collapse">
      <thead>
        <tr className="border-b border-rule text-left text-[13px] text-faded">
          <th className="w-40 py-1 pr-3 font-normal">Of the record</th>
          <th className="py-1 pr-3 font-normal">Ours</th>
          <th className="py-1 pr-3 font-normal">The file</th>
          <th className="w-40 py-1 font-normal">Comes of it</th>
        </tr>
      </thead>
      <tbody>
        {row.changes.map(({ field, before, after, kept, conflict }, at) => (
          <tr key={at} className="border-b border-rule align-top">
            <th scope="row" className="py-0.5 pr-3 text-left font-normal">
              {labelOf(field)}
            </th>
            <td className="py-0.5 pr-3">{before || <span className="text-faded">–</span>}</td>
            <td className="py-0.5 pr-3">{after || <span className="text-faded">emptied</span>}</td>
            <td className="py-0.5">
              {kept ? <span className="text-faded">ours is kept</span> : before === '' ? 'added' : 'the file’s'}
              {conflict && <StateWord tone="look">changed here since</StateWord>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
