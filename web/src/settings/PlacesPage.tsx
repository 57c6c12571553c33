import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import { addPlace, changePlace, deletePlace, listPlaces, PLACES } from '@tallystick/contract/setup';
import type { Places } from '@tallystick/contract/setup';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call, messageOf, Refused } from '../ui/api.ts';
import { Button, Checkbox, Empty, Field, Heading, Input, Select, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';

type Place = ResponseOf<typeof listPlaces>['items'][number];
const TITLES: Record<Places, string> = {
  funds: 'Funds',
  campaigns: 'Campaigns',
  appeals: 'Appeals',
  sources: 'Source codes',
};
const QUERY: Record<Places, string> = { funds: 'fund', campaigns: 'campaign', appeals: 'appeal', sources: 'source' };

/** What gifts go to: set up, closed when it is over, and never lost. */
export default function PlacesPage() {
  const url = useListUrl();
  const { money, date, count } = useFormats();
  const mayChange = useMay(addPlace);
  const choices = useChoices();
  const places = (url.get('of') || 'funds') as Places;
  const [changing, setChanging] = useState<Place | 'new' | null>(null);
  const { data, error } = useQuery(ask(listPlaces, { params: { places } }));
  const remove = useWrite((place: Place) => call(deletePlace, { params: { places, id: place.id } }), {
    say: () => 'Deleted; Undo brings it back',
  });
  if (error) return <Trouble error={error} />;
  const parents = places === 'appeals' ? choices.campaigns : places === 'sources' ? choices.appeals : null;
  const span = (place: Place): string =>
    [place.startsOn && `from ${date(place.startsOn)}`, place.endsOn && `to ${date(place.endsOn)}`]
      .filter(Boolean)
      .join(' ');
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Funds and appeals"
        facts="Closed ones are never offered for new gifts, and can always be searched"
      >
        {mayChange && (
          <Button look="main" onClick={() => setChanging('new')}>
            <Plus size={15} /> Add a {PLACES[places]}
          </Button>
        )}
      </Heading>
      <div role="tablist" aria-label="What gifts go to" className="flex gap-1 px-5 py-2">
        {(Object.keys(TITLES) as Places[]).map((name) => (
          <Button
            key={name}
            role="tab"
            aria-selected={name === places}
            look={name === places ? 'main' : 'plain'}
            onClick={() => url.set({ of: name })}
          >
            {TITLES[name]}
          </Button>
        ))}
      </div>
      <div className="overflow-auto">
        {data?.items.length === 0 ? (
          <Empty title={`No ${PLACES[places]} yet`}>Add one, and gifts can go to it.</Empty>
        ) : (
          <ListTable
            label={TITLES[places]}
            headings={[
              'Code',
              'Name',
              ...(parents ? [places === 'appeals' ? 'Campaign' : 'Appeal'] : []),
              'When',
              'Gifts',
              'Given',
              'Goal',
              'State',
              '',
            ]}
            rightAligned={parents ? [4, 5, 6, 8] : [3, 4, 5, 7]}
            rows={(data?.items ?? []).map((place) => ({
              id: place.id,
              cells: [
                place.code,
                <Link key="name" className="text-slate hover:underline" to={`/gifts?${QUERY[places]}=${place.id}`}>
                  {place.name}
                </Link>,
                ...(parents ? [parents.find((one) => one.id === place.parentId)?.name ?? ''] : []),
                span(place),
                count(place.gifts),
                money(place.cents),
                place.goalCents !== null && place.goalCents > 0
                  ? `${money(place.goalCents)} (${Math.floor((place.towardGoalCents / place.goalCents) * 100)}%)`
                  : '',
                place.closed ? (
                  <StateWord tone="plain">closed</StateWord>
                ) : (
                  <StateWord tone="settled">active</StateWord>
                ),
                mayChange && (
                  <>
                    <Button look="quiet" className="h-7 px-2" onClick={() => setChanging(place)}>
                      Change
                    </Button>
                    <Button look="quiet" className="h-7 px-2" onClick={() => remove.mutate(place)}>
                      Delete
                    </Button>
                  </>
                ),
              ],
            }))}
          />
        )}
      </div>
      {changing && (
        <PlaceDialog
          places={places}
          place={changing === 'new' ? null : changing}
          parents={parents}
          onClose={() => setChanging(null)}
        />
      )}
    </>
  );
}

function PlaceDialog(props: {
  places: Places;
  place: Place | null;
  parents: readonly { id: number; name: string }[] | null;
  onClose: () => void;
}) {
  const { places, place, parents, onClose } = props;
  const [code, setCode] = useState(place?.code ?? '');
  const [name, setName] = useState(place?.name ?? '');
  const [startsOn, setStartsOn] = useState(place?.startsOn ?? '');
  const [endsOn, setEndsOn] = useState(place?.endsOn ?? '');
  const [goal, setGoal] = useState(place?.goalCents ? typedMoney(place.goalCents) : '');
  const [closed, setClosed] = useState(place?.closed ?? false);
  const [parent, setParent] = useState(place?.parentId ? String(place.parentId) : '');
  const [problems, setProblems] = useState<Record<string, string>>({});
  const save = async (): Promise<void> => {
    const cents = goal.trim() === '' ? null : parseAmount(goal);
    if (cents && !cents.ok) return setProblems({ goalCents: cents.reason });
    const draft = {
      code,
      name,
      closed,
      startsOn: startsOn || null,
      endsOn: endsOn || null,
      goalCents: cents?.cents ?? null,
      parentId: parent === '' ? null : Number(parent),
    };
    try {
      if (place)
        await call(changePlace, { params: { places, id: place.id }, body: { ...draft, version: place.version } });
      else await call(addPlace, { params: { places }, body: draft });
      onClose();
    } catch (error) {
      setProblems({ form: messageOf(error), ...(error instanceof Refused ? error.fields : {}) });
    }
  };
  const input = (label: string, field: string, value: string, onChange: (text: string) => void, type = 'text') => (
    <Field label={label} error={problems[field]}>
      {(attributes) => (
        <Input {...attributes} type={type} value={value} onChange={(event) => onChange(event.target.value)} />
      )}
    </Field>
  );
  return (
    <Dialog open onClose={onClose} title={place ? `Change ${place.name}` : `Add a ${PLACES[places]}`}>
      <form
        className="space-y-3"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="grid grid-cols-[8rem_1fr] gap-3">
          {input('Code', 'code', code, setCode)}
          {input('Name', 'name', name, setName)}
        </div>
        {parents && (
          <Field label={places === 'appeals' ? 'Campaign' : 'Appeal'} error={problems['parentId']}>
            {(attributes) => (
              <Select {...attributes} value={parent} onChange={(event) => setParent(event.target.value)}>
                <option value="">None</option>
                {parents.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <div className="grid grid-cols-3 gap-3">
          {input('Begins', 'startsOn', startsOn, setStartsOn, 'date')}
          {input('Ends', 'endsOn', endsOn, setEndsOn, 'date')}
          {input('Goal', 'goalCents', goal, setGoal)}
        </div>
        <Checkbox
          label="Closed: not offered for new gifts"
          checked={closed}
          onChange={(event) => setClosed(event.target.checked)}
        />
        {problems['form'] && (
          <p role="alert" className="text-madder">
            ▲ {problems['form']}
          </p>
        )}
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit">
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
