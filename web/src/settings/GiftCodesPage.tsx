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
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';
import { TabPanel, Tabs } from '../ui/tabs.tsx';

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
  const parentOf = (entry: GiftCode): string => parents?.find((one) => one.id === entry.parentId)?.name ?? '';
  const columns: Column<GiftCode>[] = [
    wordsOf('code', 'Code', 110, (entry) => entry.code),
    {
      ...{ id: 'name', title: 'Name', width: 230, grow: true, by: (entry) => entry.name },
      cell: (entry) => (
        <Link className="text-slate hover:underline" to={`/gifts?${QUERY[kind]}=${entry.id}`}>
          {entry.name}
        </Link>
      ),
    },
    ...(parents
      ? [
          {
            ...{ id: 'parent', title: kind === 'appeals' ? 'Campaign' : 'Appeal', width: 170 },
            ...{ by: parentOf, cell: parentOf },
          },
        ]
      : []),
    { id: 'when', title: 'When', width: 200, by: (entry) => entry.startsOn ?? entry.endsOn, cell: span },
    figures('gifts', 'Gifts', 80, (entry) => entry.gifts, count),
    figures('given', 'Given', 130, (entry) => entry.cents, money),
    {
      ...{ id: 'goal', title: 'Goal', width: 160, align: 'right', by: (entry) => entry.goalCents },
      cell: (entry) =>
        entry.goalCents !== null && entry.goalCents > 0
          ? `${money(entry.goalCents)} (${Math.floor((entry.towardGoalCents / entry.goalCents) * 100)}%)`
          : '',
    },
    {
      ...{ id: 'state', title: 'State', width: 90, by: (entry) => (entry.closed ? 'closed' : 'active') },
      cell: (entry) =>
        entry.closed ? <StateWord tone="plain">closed</StateWord> : <StateWord tone="settled">active</StateWord>,
    },
    {
      ...{ id: 'acts', title: '', width: 170, align: 'right' },
      cell: (entry) =>
        mayChange && (
          <>
            <Button
              look="quiet"
              className="h-7 px-2"
              aria-label={`Change ${entry.name}`}
              onClick={() => setChanging(entry)}
            >
              Change
            </Button>
            <Button
              look="quiet"
              className="h-7 px-2"
              aria-label={`Delete ${entry.name}`}
              onClick={() => remove.mutate(entry)}
            >
              Delete
            </Button>
          </>
        ),
    },
  ];
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
      <Tabs label="What gifts go to" tabs={TITLES} value={kind} onChange={(of) => url.set({ of })}>
        <TabPanel value={kind} className="min-h-0 overflow-auto">
          {data?.items.length === 0 ? (
            <Empty title={`No ${GIFT_CODES[kind]} yet`}>Add one, and gifts can go to it.</Empty>
          ) : (
            <ShortTable name={`codes ${kind}`} label={TITLES[kind]} columns={columns} rows={data?.items ?? []} />
          )}
        </TabPanel>
      </Tabs>
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
