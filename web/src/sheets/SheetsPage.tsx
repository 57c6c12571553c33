import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { z } from 'zod';
import type { SheetColumn } from '@tallystick/core/sheets';
import { counted } from '@tallystick/core/words';
import { deleteLayout, deleteSheet, listLayouts, listSheets, openSheet } from '@tallystick/contract/sheets';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import type { SheetHead } from '@tallystick/contract/sheets';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { usePagesOf } from '../ui/usePages.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Field, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import {
  AmountField,
  EntryDialog,
  orNone,
  said,
  TextField,
  typedAmount,
  typedCount,
  useEntry,
} from '../ui/form/index.ts';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useHere, useMay, useMayTouch } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';
import { FIRST_LAYOUT, LayoutDialog } from './LayoutDialog.tsx';

/** Sheets for entering many gifts: one's own and those of colleagues. */
export default function SheetsPage() {
  const { money, date, count, gifts } = useFormats();
  const url = useListUrl();
  const { user } = useHere();
  const mayEnter = useMay(openSheet);
  const mayThrowAway = useMayTouch(deleteSheet);
  const mayDelete = useMay(deleteLayout);
  const list = usePagesOf(listSheets);
  const layouts = useQuery(ask(listLayouts));
  const beginning = url.get('new') === '1';
  const away = useWrite((id: number) => call(deleteSheet, { params: { id } }), { say: () => 'Thrown away' });
  const forget = useWrite((id: number) => call(deleteLayout, { params: { id } }), {
    say: () => 'Deleted; sheets that were begun with it keep theirs',
  });
  const expectedOf = (sheet: SheetHead): string =>
    [
      sheet.expectedCount === null ? '' : gifts(sheet.expectedCount),
      sheet.expectedCents === null ? '' : money(sheet.expectedCents),
    ]
      .filter(Boolean)
      .join(', ');
  const ownerOf = (sheet: SheetHead): string => (sheet.ownerId === user.id ? 'you' : sheet.owner);
  const columns: Column<SheetHead>[] = [
    {
      ...{ id: 'sheet', title: 'Sheet', width: 280, grow: true, by: (sheet) => sheet.name },
      cell: (sheet) => (
        <Link className="text-slate hover:underline" to={`/gifts/sheets/${sheet.id}`}>
          {sheet.name}
        </Link>
      ),
    },
    wordsOf('of', 'Of', 150, ownerOf),
    { id: 'begun', title: 'Begun', width: 120, by: (sheet) => sheet.openedOn, cell: (sheet) => date(sheet.openedOn) },
    figures('rows', 'Rows', 80, (sheet) => sheet.rows, count),
    {
      ...{ id: 'expected', title: 'Expected', width: 190, align: 'right' },
      ...{ by: (sheet) => sheet.expectedCents, cell: expectedOf },
    },
    {
      ...{ id: 'state', title: 'State', width: 110, by: (sheet) => sheet.state },
      cell: (sheet) =>
        sheet.state === 'open' ? <StateWord tone="look">open</StateWord> : <StateWord tone="settled">posted</StateWord>,
    },
    {
      ...{ id: 'acts', title: '', width: 210, align: 'right' },
      cell: (sheet) =>
        sheet.state === 'open' && mayThrowAway(sheet.ownerId) ? (
          <Button look="quiet" className="h-7 px-2" onClick={() => away.mutate(sheet.id)}>
            Throw away{sheet.rows > 0 && ` with ${counted(sheet.rows, 'row')}`}
            <span className="sr-only">: {sheet.name}</span>
          </Button>
        ) : null,
    },
  ];
  const layoutColumns: Column<ResponseOf<typeof listLayouts>['items'][number]>[] = [
    wordsOf('layout', 'Layout', 280, (layout) => layout.name),
    figures('columns', 'Columns', 100, (layout) => layout.columns.length, count),
    {
      ...{ id: 'acts', title: '', width: 120, align: 'right' },
      cell: (layout) =>
        mayDelete && (
          <Button
            look="quiet"
            className="h-7 px-2"
            aria-label={`Delete ${layout.name}`}
            onClick={() => forget.mutate(layout.id)}
          >
            Delete
          </Button>
        ),
    },
  ];
  if (list.error) return <Trouble error={list.error} />;
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Entry sheets"
        facts="Everything typed is kept as it is typed; nothing is recorded before a sheet is posted"
      >
        {mayEnter && (
          <Button look="main" onClick={() => url.set({ new: '1' })}>
            <Plus size={15} /> Begin a sheet
          </Button>
        )}
      </Heading>
      <div className="overflow-auto">
        {list.first && list.total === 0 ? (
          <Empty title="No sheet yet">Begin one to enter the gifts of an event or of a day’s mail.</Empty>
        ) : (
          <ShortTable name="sheets" label="Entry sheets" columns={columns} rows={list.rows} total={list.total} />
        )}
        <More list={list} />
        {layouts.data && layouts.data.items.length > 0 && (
          <>
            <h2 className="px-5 pt-5 pb-1 text-lg">Layouts</h2>
            <ShortTable name="layouts" label="Layouts" columns={layoutColumns} rows={layouts.data.items} />
          </>
        )}
      </div>
      {beginning && <BeginDialog layouts={layouts.data?.items ?? []} onClose={() => url.set({ new: null })} />}
    </>
  );
}

function BeginDialog(props: {
  layouts: readonly { id: number; name: string; columns: { field: string }[] }[];
  onClose: () => void;
}) {
  const { organization } = useHere();
  const navigate = useNavigate();
  const [own, setOwn] = useState<SheetColumn[] | null>(null);
  const [designing, setDesigning] = useState(false);
  const columnsOf = (layout: string): readonly SheetColumn[] =>
    own ??
    (props.layouts.find((one) => String(one.id) === layout)?.columns as SheetColumn[] | undefined) ??
    FIRST_LAYOUT;
  const entry = useEntry({
    schema: z.object({
      name: said('Give it a name.'),
      layout: z.string(),
      expectedCount: orNone(typedCount('The number of gifts is a whole number.'), null),
      expectedCents: orNone(typedAmount, null),
    }),
    initial: { name: `Gifts of ${organization.today}`, layout: '', expectedCount: '', expectedCents: '' },
    send: ({ layout, ...sheet }) => call(openSheet, { body: { ...sheet, columns: [...columnsOf(layout)] } }),
    then: (made) => void navigate(`/gifts/sheets/${made.id}`),
  });
  const { layout } = entry.typed;
  if (designing)
    return (
      <LayoutDialog
        title="Design the layout"
        columns={columnsOf(layout)}
        use="Use this layout"
        onUse={(next) => {
          setOwn(next);
          setDesigning(false);
        }}
        onClose={() => setDesigning(false)}
      />
    );
  return (
    <EntryDialog entry={entry} onClose={props.onClose} title="Begin a sheet" word="Begin">
      <TextField entry={entry} name="name" label="Name of the sheet" autoFocus />
      <div className="flex items-end gap-3">
        <Field label="Layout" className="flex-1">
          {(attributes) => (
            <Choice
              {...attributes}
              value={own ? 'own' : layout}
              onChange={(picked) => {
                setOwn(null);
                entry.put({ layout: picked });
              }}
              options={[
                { value: '', label: 'The usual columns' },
                ...(own ? [{ value: 'own', label: 'As designed just now' }] : []),
                ...props.layouts.map((one) => ({ value: one.id, label: one.name })),
              ]}
            />
          )}
        </Field>
        <Button onClick={() => setDesigning(true)}>Design</Button>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          entry={entry}
          name="expectedCount"
          label="Expected number of gifts"
          hint="Your own count of what is on the table"
        />
        <AmountField entry={entry} name="expectedCents" label="Expected amount" />
      </div>
    </EntryDialog>
  );
}
