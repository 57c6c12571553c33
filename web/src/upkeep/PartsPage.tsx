import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { lookAtHome, partHousehold, planParting } from '@tallystick/contract/upkeep';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Checkbox } from '../ui/checks.tsx';
import { Field, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { Pick } from '../ui/Pick.tsx';
import { ActFrame } from './ActFrame.tsx';
import { People } from './People.tsx';
import { isPlace, NO_PLACE, PlaceFields } from './PlaceFields.tsx';
import { useAct, useWho } from './useAct.ts';
import { Who } from './Who.tsx';

/** A household parts: who leaves, where to, what becomes of recognition, and how both sides are addressed. */
export default function PartsPage() {
  const [id, pick, picked] = useWho();
  const { today } = useHere().organization;
  const { money, counted } = useFormats();
  const [leaving, setLeaving] = useState<number[]>([]);
  const [on, setOn] = useState<string>(today);
  const [place, setPlace] = useState(NO_PLACE);
  const [together, setTogether] = useState('');
  const [endTies, setEndTies] = useState(true);
  const [credit, setCredit] = useState<'home' | 'each'>('home');
  const { data } = useQuery({ ...ask(lookAtHome, { params: { id: id ?? 0 } }), enabled: id !== null });
  const home = data?.home ?? null;
  const members = (data?.people ?? []).filter((one) => one.id !== home?.id && !one.deceased);
  const ready = home !== null && leaving.length > 0 && on !== '';
  const body = ready
    ? { homeId: home.id, leaving, on, together, place: isPlace(place) ? place : null, endTies, credit }
    : null;
  const act = useAct<ResponseOf<typeof planParting>>(
    body && ask(planParting, { body }),
    () => (body ? call(partHousehold, { body }) : Promise.resolve()),
    `/supporters/${home?.id ?? ''}`,
  );
  const asked = data?.people.find((one) => one.id === id);
  return (
    <ActFrame
      {...act}
      title="A household parts"
      facts="Who leaves keeps their own gifts, notes and wishes."
      word="Part the household"
      onGo={act.go}
    >
      <Who
        label="The household, or one who lives there"
        id={id}
        who={picked ?? (asked ? { id: asked.id, name: asked.name } : null)}
        onPick={(next) => {
          setLeaving([]);
          pick(next);
        }}
      />
      {data && home === null && <p className="text-madder">◆ Nobody shares a home with them.</p>}
      {home && (
        <>
          <People label={`Who leaves ${home.name}`} people={members} chosen={leaving} onChange={setLeaving} />
          <Field label="From" className="w-44">
            {(given) => <DateField {...given} value={on} onChange={setOn} />}
          </Field>
          {leaving.length > 1 && (
            <Field label="Name of the home that they share from then on" hint="Empty where each lives alone.">
              {(given) => (
                <Input
                  {...given}
                  value={together}
                  maxLength={120}
                  onChange={(event) => setTogether(event.target.value)}
                />
              )}
            </Field>
          )}
          <fieldset>
            <legend className="mb-0.5 text-[13px] text-faded">Their address from then on, if it is known</legend>
            <PlaceFields place={place} onChange={setPlace} />
          </fieldset>
          <Checkbox label="Ties as spouses end that day" checked={endTies} onChange={setEndTies} />
          {home.gifts > 0 && (
            <div>
              <p className="mb-1 text-[13px] text-faded">
                What the home gave itself ({counted(home.gifts, 'gift')}, {money(home.cents)})
              </p>
              <Pick
                label="What the home gave itself"
                options={[
                  { value: 'home', label: 'Stays with the home' },
                  { value: 'each', label: 'Is credited to who leaves too' },
                ]}
                value={credit}
                onChange={setCredit}
              />
            </div>
          )}
        </>
      )}
    </ActFrame>
  );
}
