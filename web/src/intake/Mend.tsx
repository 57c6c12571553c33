import { useState } from 'react';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { Button, Field, Input } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import type { SetSetting } from './useSetting.ts';

/** The cells of one row, to be changed for this intake; the file itself stays as it came. */
export function Mend(props: { intake: Intake; row: IntakeRow; setting: IntakeSetting; set: SetSetting }) {
  const { intake, row, setting, set } = props;
  const [cells, setCells] = useState<string[] | null>(null);
  const keyOf = (at: number): string => `${row.row}:${at}`;
  const edited = intake.headings.some((_, at) => keyOf(at) in setting.edits);
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
        aria-label={`Mend row ${row.row}`}
        onClick={() => setCells(intake.headings.map((_, at) => row.cells[at] ?? ''))}
      >
        {edited ? 'Mended' : 'Mend'} …
      </button>
      {cells && (
        <Dialog open title={`Row ${row.row} of ${intake.name}`} size="wide" onClose={() => setCells(null)}>
          <p className="text-faded">{row.says}</p>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              save();
            }}
          >
            <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(14rem,1fr))] gap-x-4 gap-y-1">
              {intake.headings.map((heading, at) => {
                const column = intake.setting.columns[at] ?? null;
                const said = row.problems.find(({ field }) => column !== null && field === column);
                return (
                  <Field key={at} label={heading || `column ${at + 1}`} error={said?.reason}>
                    {(given) => (
                      <Input
                        {...given}
                        value={cells[at] ?? ''}
                        onChange={({ target: { value } }) =>
                          setCells(cells.map((cell, index) => (index === at ? value : cell)))
                        }
                      />
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
