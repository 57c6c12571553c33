import { useState } from 'react';
import { madeOf } from '@tallystick/core/intake';
import type { MadeColumn, MadePart } from '@tallystick/core/intake';
import type { IntakeRow } from '@tallystick/contract/intake';
import { Choice, Choices, optionsOf } from '../ui/choice/index.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';

const PARTS: Readonly<Record<string, string>> = {
  ...{ '1': 'first', '2': 'second', '3': 'third', '4': 'fourth', '5': 'fifth', '-1': 'last', '-2': 'last but one' },
  rest: 'all after the first',
};
const SIGNS: Readonly<Record<string, string>> = {
  ...{
    ' ': 'a space',
    ',': 'a comma',
    ';': 'a semicolon',
    '/': 'a slash',
    '-': 'a hyphen',
    ', ': 'a comma and a space',
  },
  ...{ ':': 'a colon', '|': 'a bar', '@': 'an @' },
};
/** So many rows show what comes of it. */
const SHOWN = 6;

/** Makes a column of those of the file: a part of one, or several joined; shown on rows of the file. */
export function MakeColumn(props: {
  headings: readonly string[];
  rows: readonly IntakeRow[];
  onMake: (made: MadeColumn) => void;
  onClose: () => void;
}) {
  const { headings, rows } = props;
  const [how, setHow] = useState<'part' | 'join'>('part');
  const [from, setFrom] = useState<readonly string[]>([]);
  const [sign, setSign] = useState(',');
  const [nth, setNth] = useState('1');
  const [name, setName] = useState<string | null>(null);
  const columns = headings.map((heading, at) => ({ value: String(at), label: heading || `column ${at + 1}` }));
  const part: MadePart = how === 'join' ? null : nth === 'rest' ? 'rest' : Number(nth);
  const of = (how === 'part' ? from.slice(0, 1) : from).map(Number);
  const likely = of.map((at) => columns[at]?.label ?? '').join(how === 'join' ? ' and ' : '');
  const called = name ?? (likely === '' ? '' : how === 'join' ? likely : `${likely}, ${PARTS[nth] ?? ''}`);
  const made = { from: of, sign, part };
  const shown = rows.filter(({ cells }) => of.some((at) => (cells[at] ?? '').trim() !== '')).slice(0, SHOWN);
  const ready = called.trim() !== '' && of.length > (how === 'join' ? 1 : 0);
  return (
    <Dialog open title="Make a column" size="wide" onClose={props.onClose}>
      <p className="text-faded">Of what stands in the file, for each row. The file itself stays as it came.</p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) props.onMake({ name: called.trim().slice(0, 80), ...made });
        }}
      >
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          <Field label="It is">
            {(given) => (
              <Choice
                {...given}
                value={how}
                onChange={(picked) => setHow(picked as typeof how)}
                options={optionsOf({ part: 'a part of a column', join: 'several columns joined' })}
              />
            )}
          </Field>
          <Field label={how === 'part' ? 'Of the column' : 'The columns, in their order'}>
            {(given) =>
              how === 'part' ? (
                <Choice
                  {...given}
                  value={from[0] ?? ''}
                  placeholder="Choose one"
                  onChange={(picked) => setFrom([picked])}
                  options={columns}
                />
              ) : (
                <Choices {...given} value={from} onChange={setFrom} options={columns} />
              )
            }
          </Field>
          <Field label={how === 'part' ? 'Cut at' : 'With between them'}>
            {(given) => (
              <Choice
                {...given}
                value={sign}
                onChange={setSign}
                options={optionsOf(how === 'part' ? SIGNS : { '': 'nothing', ...SIGNS }).filter(
                  ({ value }) => how === 'join' || value !== ', ',
                )}
              />
            )}
          </Field>
          {how === 'part' && (
            <Field label="The part">
              {(given) => <Choice {...given} value={nth} onChange={setNth} options={optionsOf(PARTS)} />}
            </Field>
          )}
          <Field label="Called">
            {(given) => (
              <Input {...given} maxLength={80} value={called} onChange={({ target }) => setName(target.value)} />
            )}
          </Field>
        </div>
        {shown.length > 0 && (
          <table className="mt-3 w-full border-collapse">
            <thead>
              <tr className="border-b border-rule text-left text-[13px] text-faded">
                <th className="w-1/2 py-1 pr-3 font-normal">In the file</th>
                <th className="py-1 font-normal">Becomes</th>
              </tr>
            </thead>
            <tbody>
              {shown.map(({ row, cells }) => (
                <tr key={row} className="border-b border-rule">
                  <td className="py-0.5 pr-3">{of.map((at) => cells[at] ?? '').join(' | ')}</td>
                  <td className="py-0.5">{madeOf(made, cells) || <span className="text-faded">nothing</span>}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <DialogActions>
          <Button onClick={props.onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={!ready}>
            Make it
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
