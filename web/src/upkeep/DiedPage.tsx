import { useState } from 'react';
import { DEATH_CHOICES, noteDeath, planDeath } from '@tallystick/contract/upkeep';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Field, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { ActFrame } from './ActFrame.tsx';
import { useAct, useWho } from './useAct.ts';
import { Who } from './Who.tsx';

type Decision = 'keep' | 'off' | 'end' | 'drop' | 'survivor';
const KINDS = { pledge: 'Pledges', recurring: 'Recurring gifts', task: 'Tasks' } as const;

/** Somebody died: the wish, what is still going on, and how who lives on is addressed, decided on one page. */
export default function DiedPage() {
  const [id, pick, picked] = useWho();
  const [on, setOn] = useState('');
  const [source, setSource] = useState('');
  const [decisions, setDecisions] = useState<Record<string, Decision>>({});
  const [keepWords, setKeepWords] = useState(false);
  const body =
    id === null
      ? null
      : { id, on: on === '' ? null : on, source, decisions, words: keepWords ? ('keep' as const) : ('rules' as const) };
  const act = useAct<ResponseOf<typeof planDeath>>(
    body && ask(planDeath, { body: { ...body, source: '' } }),
    () => (body ? call(noteDeath, { body }) : Promise.resolve()),
    `/supporters/${id ?? ''}`,
  );
  const going = act.said?.going ?? [];
  const choose = (key: string, choice: string): void => setDecisions({ ...decisions, [key]: choice as Decision });
  return (
    <ActFrame
      {...act}
      title="Somebody died"
      facts="Everything that follows is decided here, and done as one."
      word={act.said ? `Note that ${act.said.name} died` : 'Note it'}
      onGo={act.go}
    >
      <Who
        kind="person"
        id={id}
        who={picked ?? (id !== null && act.said ? { id, name: act.said.name } : null)}
        onPick={(next) => {
          setDecisions({});
          pick(next);
        }}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field label="Day of death" hint="Empty where it is not known.">
          {(given) => <DateField {...given} value={on} onChange={setOn} />}
        </Field>
        <Field label="Who told us">
          {(given) => (
            <Input
              {...given}
              required
              maxLength={120}
              placeholder="a call from the family"
              value={source}
              onChange={(event) => setSource(event.target.value)}
            />
          )}
        </Field>
      </div>
      {(Object.keys(KINDS) as (keyof typeof KINDS)[]).map((kind) => {
        const some = going.filter((one) => one.kind === kind);
        if (some.length === 0) return null;
        const choices: Record<string, string> = { ...DEATH_CHOICES[kind] };
        const { survivor } = act.said ?? {};
        if (choices['survivor'] !== undefined) {
          if (survivor) choices['survivor'] = `Is about ${survivor.name} from now on`;
          else delete choices['survivor'];
        }
        return (
          <fieldset key={kind} className="space-y-2 border-t border-rule pt-2">
            <legend className="text-[13px] text-faded">{KINDS[kind]}</legend>
            {some.map((one) => (
              <Field key={one.key} label={one.says}>
                {(given) => (
                  <Choice
                    {...given}
                    value={one.choice}
                    options={optionsOf(choices)}
                    onChange={(choice) => choose(one.key, choice)}
                  />
                )}
              </Field>
            ))}
          </fieldset>
        );
      })}
      <Checkbox
        label="Keep what was written by hand about how the home is addressed"
        checked={keepWords}
        onChange={setKeepWords}
      />
    </ActFrame>
  );
}
