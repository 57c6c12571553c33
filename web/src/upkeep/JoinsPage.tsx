import { useQueries } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { joinHousehold, lookAtHome, planJoining } from '@tallystick/contract/upkeep';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Checkbox } from '../ui/checks.tsx';
import { Choice } from '../ui/choice/index.tsx';
import { Field, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { ActFrame } from './ActFrame.tsx';
import { useAct } from './useAct.ts';

/** People share a home from a day on: a new one, or one that is there. */
export default function JoinsPage() {
  const [asked, setAsked] = useSearchParams();
  const { today } = useHere().organization;
  const [on, setOn] = useState<string>(today);
  const [homeId, setHomeId] = useState('');
  const [name, setName] = useState<string | null>(null);
  const [addressOf, setAddressOf] = useState('');
  const [spouses, setSpouses] = useState(false);
  const ids = (asked.get('ids') ?? '').split(',').map(Number).filter(Boolean);
  const put = (next: readonly number[]): void =>
    setAsked(next.length > 0 ? { ids: next.join(',') } : {}, { replace: true });
  const looked = useQueries({ queries: ids.map((id) => ask(lookAtHome, { params: { id } })) });
  const homes = [
    ...new Map(looked.flatMap(({ data }) => (data?.home ? [[data.home.id, data.home] as const] : []))).values(),
  ];
  const people = ids.flatMap((id, at) => looked[at]?.data?.people.find((one) => one.id === id) ?? []);
  const around = looked.flatMap(({ data }) => data?.people ?? []);
  const lasts = people.map((one) => one.name.replace(/,.*$/, '').split(' ').at(-1) ?? '');
  const proposed = `The ${[...new Set(lasts)].join('-')} Household`;
  const called = name ?? (people.length > 1 ? proposed : '');
  const addresses = [
    ...new Map(around.filter(({ address }) => address !== '').map((one) => [one.address, one])).values(),
  ];
  const home = Number(homeId) || null;
  const ready = people.length > (home === null ? 1 : 0) && on !== '';
  const body = ready
    ? {
        people: people.map(({ id }) => id),
        homeId: home,
        name: called,
        addressOf: Number(addressOf) || null,
        on,
        spouses,
      }
    : null;
  const act = useAct<ResponseOf<typeof planJoining>>(
    body && ask(planJoining, { body }),
    () => (body ? call(joinHousehold, { body }) : Promise.resolve()),
    `/supporters/${home ?? ids[0] ?? ''}`,
  );
  return (
    <ActFrame
      {...act}
      title="People share a home"
      facts="What each of them gave counts together from then on."
      word="Join them in one household"
      onGo={act.go}
    >
      <ul aria-label="Who comes together" className="space-y-1">
        {people.map((one) => (
          <li key={one.id} className="flex items-center gap-2">
            <span className="min-w-0 grow">
              <span className="font-serif">{one.name}</span>{' '}
              <span className="text-[13px] text-faded">{one.address || 'no address'}</span>
            </span>
            <IconButton label={`Take ${one.name} out`} onClick={() => put(ids.filter((id) => id !== one.id))}>
              <X size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <Field label={people.length === 0 ? 'Who' : 'And who'}>
        {(given) => (
          <SupporterPicker
            key={ids.length}
            {...given}
            kind="person"
            autoFocus={ids.length < 2}
            value={null}
            onPick={(next) => next && !ids.includes(next.id) && put([...ids, next.id])}
          />
        )}
      </Field>
      {people.length > 0 && (
        <>
          <Field label="The home">
            {(given) => (
              <Choice
                {...given}
                value={homeId}
                options={[
                  { value: '', label: 'a new household' },
                  ...homes.map((one) => ({ value: one.id, label: one.name })),
                ]}
                onChange={setHomeId}
              />
            )}
          </Field>
          {home === null && (
            <Field label="What it is called">
              {(given) => (
                <Input {...given} value={called} maxLength={120} onChange={(event) => setName(event.target.value)} />
              )}
            </Field>
          )}
          <Field label="Whose address all of them have from then on">
            {(given) => (
              <Choice
                {...given}
                value={addressOf}
                options={[
                  { value: '', label: 'addresses stay as they are' },
                  ...addresses.map((one) => ({ value: one.id, label: `${one.name}: ${one.address}` })),
                ]}
                onChange={setAddressOf}
              />
            )}
          </Field>
          <Field label="From" className="w-44">
            {(given) => <DateField {...given} value={on} onChange={setOn} />}
          </Field>
          <Checkbox label="They are spouses" checked={spouses} onChange={setSpouses} />
        </>
      )}
    </ActFrame>
  );
}
