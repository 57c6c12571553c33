import { withArticle } from '@tallystick/core/names';
import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { typedMoney } from '@tallystick/core/money';
import { addGiftCode, changeGiftCode, deleteGiftCode, listGiftCodes, GIFT_CODES } from '@tallystick/contract/setup';
import type { GiftCodeKind } from '@tallystick/contract/setup';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call } from '../ui/api.ts';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import {
  AmountField,
  chosenId,
  ChoiceField,
  DayField,
  EntryDialog,
  orNone,
  readInto,
  said,
  TextField,
  TickField,
  typedAmount,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
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
          code={changing === 'new' ? null : changing}
          parents={parents}
          onClose={() => setChanging(null)}
        />
      )}
    </>
  );
}

function GiftCodeDialog(props: {
  kind: GiftCodeKind;
  code: GiftCode | null;
  parents: readonly { id: number; name: string }[] | null;
  onClose: () => void;
}) {
  const { kind, code, parents, onClose } = props;
  const entry = useEntry({
    schema: readInto(
      z.object({
        code: said('Write a code.'),
        name: said('Write its name.'),
        parentId: chosenId,
        startsOn: orNone(typedDay, null),
        endsOn: orNone(typedDay, null),
        goalCents: orNone(typedAmount, null),
        closed: z.boolean(),
      }),
      addGiftCode.body,
    ),
    initial: {
      ...{ code: code?.code ?? '', name: code?.name ?? '', parentId: String(code?.parentId ?? '') },
      ...{ startsOn: code?.startsOn ?? '', endsOn: code?.endsOn ?? '', closed: code?.closed ?? false },
      goalCents: code?.goalCents ? typedMoney(code.goalCents) : '',
    },
    send: async (body) => {
      if (code) await call(changeGiftCode, { params: { kind, id: code.id }, body: { ...body, version: code.version } });
      else await call(addGiftCode, { params: { kind }, body });
    },
    say: (): string => `${entry.typed.name} saved`,
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={code ? `Change ${code.name}` : `Add ${withArticle(GIFT_CODES[kind])}`}
      word="Save"
    >
      <div className="grid grid-cols-[8rem_1fr] gap-3">
        <TextField entry={entry} name="code" label="Code" />
        <TextField entry={entry} name="name" label="Name" />
      </div>
      {parents && (
        <ChoiceField
          entry={entry}
          name="parentId"
          label={kind === 'appeals' ? 'Campaign' : 'Appeal'}
          options={[{ value: '', label: 'None' }, ...parents.map((one) => ({ value: one.id, label: one.name }))]}
        />
      )}
      <div className="grid grid-cols-3 gap-3">
        <DayField entry={entry} name="startsOn" label="Begins" />
        <DayField entry={entry} name="endsOn" label="Ends" />
        <AmountField entry={entry} name="goalCents" label="Goal" />
      </div>
      <TickField entry={entry} name="closed" label="Closed: not offered for new gifts" />
    </EntryDialog>
  );
}
