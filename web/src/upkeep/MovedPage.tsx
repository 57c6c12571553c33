import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { lookAtHome, noteMove, planMove } from '@tallystick/contract/upkeep';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Field } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import { ActFrame } from './ActFrame.tsx';
import { People } from './People.tsx';
import { isPlace, NO_PLACE, PlaceFields } from './PlaceFields.tsx';
import { useAct, useWho } from './useAct.ts';
import { Who } from './Who.tsx';

/** Somebody moved: the new address, from when, and for whom of the home. */
export default function MovedPage() {
  const [id, pick, picked] = useWho();
  const { today } = useHere().organization;
  const [place, setPlace] = useState(NO_PLACE);
  const [from, setFrom] = useState<string>(today);
  const [chosen, setChosen] = useState<number[] | null>(null);
  const { data } = useQuery({ ...ask(lookAtHome, { params: { id: id ?? 0 } }), enabled: id !== null });
  const people = data?.people ?? [];
  // Whoever has the same address moves too, until it is said otherwise.
  const ids = chosen ?? people.filter(({ same, deceased }) => same && !deceased).map((one) => one.id);
  const ready = id !== null && isPlace(place) && from !== '' && ids.length > 0;
  const body = ready ? { id, ids, place, from, label: 'home' } : null;
  const act = useAct<ResponseOf<typeof planMove>>(
    body && ask(planMove, { body }),
    () => (body ? call(noteMove, { body }) : Promise.resolve()),
    `/supporters/${id ?? ''}`,
  );
  const asked = people.find((one) => one.id === id);
  return (
    <ActFrame
      {...act}
      title="Somebody moved"
      facts="The old address ends the day before, and is kept as former."
      word="Note the new address"
      onGo={act.go}
    >
      <Who
        id={id}
        who={picked ?? (asked ? { id: asked.id, name: asked.name } : null)}
        onPick={(next) => {
          setChosen(null);
          pick(next);
        }}
      />
      {people.length > 1 && <People label="Who moves" people={people} chosen={ids} onChange={setChosen} />}
      {people.length === 1 && asked && (
        <p className="text-[13px] text-faded">Now at {asked.address || 'no address that is known'}.</p>
      )}
      <PlaceFields place={place} onChange={setPlace} />
      <Field label="From" className="w-44">
        {(given) => <DateField {...given} value={from} onChange={setFrom} />}
      </Field>
    </ActFrame>
  );
}
