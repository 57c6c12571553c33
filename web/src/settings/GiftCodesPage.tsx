import { withArticle } from '@tallystick/core/names';
import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import { addGiftCode, changeGiftCode, deleteGiftCode, listGiftCodes, GIFT_CODES } from '@tallystick/contract/setup';
import type { GiftCodeKind } from '@tallystick/contract/setup';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call, messageOf, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Empty, Field, Heading, Input, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';

type GiftCode = ResponseOf<typeof listGiftCodes>['items'][number];
const TITLES: Record<GiftCodeKind, string> = {
  funds: 'Funds',
  campaigns: 'Campaigns',
  appeals: 'Appeals',
  sources: 'Source codes',
};
const QUERY: Record<GiftCodeKind, string> = {
  funds: 'fund',
  campaigns: 'campaign',
  appeals: 'appeal',
  sources: 'source',
};

/** What gifts go to: set up, closed when it is over, and never lost. */
export default function GiftCodesPage() {
  const url = useListUrl();
  const { money, date, count } = useFormats();
  const mayChange = useMay(addGiftCode);
  const choices = useChoices();
  const kind = (url.get('of') || 'funds') as GiftCodeKind;
  const [changing, setChanging] = useState<GiftCode | 'new' | null>(null);
  const { data, error } = useQuery(ask(listGiftCodes, { params: { kind } }));
  const remove = useWrite((entry: GiftCode) => call(deleteGiftCode, { params: { kind, id: entry.id } }), {
    say: () => 'Deleted; Undo brings it back',
  });
  if (error) return <Trouble error={error} />;
  const parents = kind === 'appeals' ? choices.campaigns : kind === 'sources' ? choices.appeals : null;
  const span = (entry: GiftCode): string =>
    [entry.startsOn && `from ${date(entry.startsOn)}`, entry.endsOn && `to ${date(entry.endsOn)}`]
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
            <Plus size={15} /> Add a {GIFT_CODES[kind]}
          </Button>
        )}
      </Heading>
      <div role="tablist" aria-label="What gifts go to" className="flex gap-1 px-5 py-2">
        {(Object.keys(TITLES) as GiftCodeKind[]).map((name) => (
          <Button
            key={name}
            role="tab"
            aria-selected={name === kind}
            look={name === kind ? 'main' : 'plain'}
            onClick={() => url.set({ of: name })}
          >
            {TITLES[name]}
          </Button>
        ))}
      </div>
      <div className="overflow-auto">
        {data?.items.length === 0 ? (
          <Empty title={`No ${GIFT_CODES[kind]} yet`}>Add one, and gifts can go to it.</Empty>
        ) : (
          <ListTable
            label={TITLES[kind]}
            headings={[
              'Code',
              'Name',
              ...(parents ? [kind === 'appeals' ? 'Campaign' : 'Appeal'] : []),
              'When',
              'Gifts',
              'Given',
              'Goal',
              'State',
              '',
            ]}
            rightAligned={parents ? [4, 5, 6, 8] : [3, 4, 5, 7]}
            rows={(data?.items ?? []).map((entry) => ({
              id: entry.id,
              cells: [
                entry.code,
                <Link key="name" className="text-slate hover:underline" to={`/gifts?${QUERY[kind]}=${entry.id}`}>
                  {entry.name}
                </Link>,
                ...(parents ? [parents.find((one) => one.id === entry.parentId)?.name ?? ''] : []),
                span(entry),
                count(entry.gifts),
                money(entry.cents),
                entry.goalCents !== null && entry.goalCents > 0
                  ? `${money(entry.goalCents)} (${Math.floor((entry.towardGoalCents / entry.goalCents) * 100)}%)`
                  : '',
                entry.closed ? (
                  <StateWord tone="plain">closed</StateWord>
                ) : (
                  <StateWord tone="settled">active</StateWord>
                ),
                mayChange && (
                  <>
                    <Button look="quiet" className="h-7 px-2" onClick={() => setChanging(entry)}>
                      Change
                    </Button>
                    <Button look="quiet" className="h-7 px-2" onClick={() => remove.mutate(entry)}>
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
        <GiftCodeDialog
          kind={kind}
          entry={changing === 'new' ? null : changing}
          parents={parents}
          onClose={() => setChanging(null)}
        />
      )}
    </>
  );
}

function GiftCodeDialog(props: {
  kind: GiftCodeKind;
  entry: GiftCode | null;
  parents: readonly { id: number; name: string }[] | null;
  onClose: () => void;
}) {
  const { kind, entry, parents, onClose } = props;
  const [code, setCode] = useState(entry?.code ?? '');
  const [name, setName] = useState(entry?.name ?? '');
  const [startsOn, setStartsOn] = useState(entry?.startsOn ?? '');
  const [endsOn, setEndsOn] = useState(entry?.endsOn ?? '');
  const [goal, setGoal] = useState(entry?.goalCents ? typedMoney(entry.goalCents) : '');
  const [closed, setClosed] = useState(entry?.closed ?? false);
  const [parent, setParent] = useState(entry?.parentId ? String(entry.parentId) : '');
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
      if (entry)
        await call(changeGiftCode, { params: { kind, id: entry.id }, body: { ...draft, version: entry.version } });
      else await call(addGiftCode, { params: { kind }, body: draft });
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
    <Dialog open onClose={onClose} title={entry ? `Change ${entry.name}` : `Add ${withArticle(GIFT_CODES[kind])}`}>
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
          <Field label={kind === 'appeals' ? 'Campaign' : 'Appeal'} error={problems['parentId']}>
            {(attributes) => (
              <Choice
                {...attributes}
                value={parent}
                onChange={setParent}
                options={[{ value: '', label: 'None' }, ...parents.map((one) => ({ value: one.id, label: one.name }))]}
              />
            )}
          </Field>
        )}
        <div className="grid grid-cols-3 gap-3">
          {input('Begins', 'startsOn', startsOn, setStartsOn, 'date')}
          {input('Ends', 'endsOn', endsOn, setEndsOn, 'date')}
          {input('Goal', 'goalCents', goal, setGoal)}
        </div>
        <Checkbox label="Closed: not offered for new gifts" checked={closed} onChange={(on) => setClosed(on)} />
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
