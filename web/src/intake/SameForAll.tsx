import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { IntakeColumn } from '@tallystick/core/intake';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { Choice } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import type { SetSetting } from './useSetting.ts';

/** What the file lacks and is the same for all of its rows: an appeal, a tag, a method. */
export function SameForAll(props: {
  setting: IntakeSetting;
  set: SetSetting;
  readOnly: boolean;
  options: readonly Option[];
  labelOf: (column: IntakeColumn) => string;
}) {
  const { setting, set, readOnly, options, labelOf } = props;
  const [column, setColumn] = useState('');
  const [value, setValue] = useState('');
  const same = Object.entries(setting.same) as [IntakeColumn, string][];
  const taken = new Set<string>([...setting.columns.flatMap((one) => one ?? []), ...same.map(([one]) => one)]);
  if (readOnly && same.length === 0) return null;
  const add = (): void => {
    if (column === '' || value.trim() === '') return;
    set({ same: { ...setting.same, [column]: value.trim() } });
    setColumn('');
    setValue('');
  };
  return (
    <fieldset disabled={readOnly} className="mt-3">
      <legend className="text-[13px] text-faded">The same for all rows</legend>
      <ul className="mt-1 flex flex-wrap gap-2">
        {same.map(([one, stands]) => (
          <li key={one} className="flex items-center gap-1 rounded border border-rule bg-sheet px-2">
            <span className="text-faded">{labelOf(one)}:</span> {stands}
            <IconButton
              label={`Take ${labelOf(one)} away`}
              onClick={() => {
                const { [one]: _gone, ...others } = setting.same;
                set({ same: others });
              }}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {!readOnly && (
        <form
          className="mt-1 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <span className="w-64">
            <Choice
              aria-label="What is the same for all rows"
              placeholder="Tags, appeal, method …"
              value={column}
              onChange={setColumn}
              options={options.filter((option) => !taken.has(String(option.value)))}
            />
          </span>
          <Input
            aria-label="What it is for all rows"
            className="w-64"
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
          <Button type="submit" disabled={column === '' || value.trim() === ''}>
            <Plus size={14} /> Add
          </Button>
        </form>
      )}
    </fieldset>
  );
}
