import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { besideIntake } from '@tallystick/contract/intake';
import type { Intake, IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { ask } from '../ui/api.ts';
import { Button, Field, StateWord } from '../ui/controls.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { SetSetting } from './useSetting.ts';

type Pick = IntakeSetting['picks'][string];
/** So many stand side by side. */
const MOST = 4;

/**
 * Whose a row is: what it says beside each who may be meant, with what agrees and what differs; any other supporter is
 * found by typing. A digit chooses.
 */
export function Whose(props: {
  intake: Intake;
  row: IntakeRow;
  setting: IntakeSetting;
  set: SetSetting;
  onDone: () => void;
}) {
  const { intake, row, setting, set, onDone } = props;
  const [others, setOthers] = useState<number[]>([]);
  const mayBe = [...row.candidates.map(({ id }) => id), ...(row.supporterId === null ? [] : [row.supporterId])];
  const ids = [...new Set([...others, ...mayBe])].slice(0, MOST);
  const found = useQueries({
    queries: ids.map((supporterId) => ask(besideIntake, { params: { id: intake.id, row: row.row, supporterId } })),
  }).flatMap(({ data }) => data ?? []);
  const choose = (pick: Pick): void => {
    set({ picks: { ...setting.picks, [String(row.row)]: pick } });
    onDone();
  };
  const parts = found[0]?.parts ?? [];
  return (
    <section
      aria-label="Whose it is"
      className="mt-2 border-y border-rule py-2"
      onKeyDown={(event) => {
        const one = found[Number(event.key) - 1];
        if (!one || event.target instanceof HTMLInputElement) return;
        event.preventDefault();
        choose(one.id);
      }}
    >
      {found.length > 0 && (
        <table className="w-full border-collapse">
          <thead>
            <tr className="border-b border-rule text-left align-bottom text-[13px] text-faded">
              <th className="w-28 py-1 pr-3 font-normal">Whose it is</th>
              <th className="py-1 pr-3 font-normal">The file</th>
              {found.map(({ id, number, name }, at) => (
                <th key={id} className="py-1 pr-3 font-normal">
                  <Link to={`/supporters/${id}`} target="_blank" className="text-slate hover:underline">
                    {name} {number}
                  </Link>
                  <br />
                  {row.supporterId === id ? (
                    <StateWord tone="settled">taken</StateWord>
                  ) : (
                    <Button
                      className="h-7"
                      aria-label={`${at + 1} It is theirs: ${name} ${number}`}
                      onClick={() => choose(id)}
                    >
                      {at + 1} It is theirs
                    </Button>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {parts.map(({ part, file }, line) => (
              <tr key={part} className="border-b border-rule align-top">
                <th scope="row" className="py-0.5 pr-3 text-left font-normal">
                  {part}
                </th>
                <td className="py-0.5 pr-3">{file || <span className="text-faded">–</span>}</td>
                {found.map(({ id, parts: theirs }) => {
                  const { ours = '', agrees = null } = theirs[line] ?? {};
                  return (
                    <td key={id} className="py-0.5 pr-3">
                      {ours || <span className="text-faded">–</span>}{' '}
                      {agrees !== null && (
                        <StateWord tone={agrees ? 'settled' : 'wrong'}>{agrees ? 'agrees' : 'differs'}</StateWord>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Field label="Somebody else who is here" className="w-72">
          {(given) => (
            <SupporterPicker
              {...given}
              label="Somebody else who is here"
              value={null}
              onPick={(picked) => picked && setOthers((old) => [picked.id, ...old.filter((id) => id !== picked.id)])}
            />
          )}
        </Field>
        {row.verdict !== 'new' && <Button onClick={() => choose('new')}>Somebody new</Button>}
        <Button onClick={() => choose('skip')}>Leave the row out</Button>
      </div>
    </section>
  );
}
