import { useState } from 'react';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import type { TallyGift } from '@tallystick/core/tally';
import type { Column } from '../ui/table/columns.ts';
import { Choice, Choices } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import { Checkbox, Radio, Radios, Switch } from '../ui/checks.tsx';
import { Fold } from '../ui/Fold.tsx';
import { Pick } from '../ui/Pick.tsx';
import { ProgressBar } from '../ui/ProgressBar.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { TabPanel, Tabs } from '../ui/tabs.tsx';
import { BarChart } from '../ui/charts/BarChart.tsx';
import { Miniature } from '../ui/charts/Miniature.tsx';
import {
  Button,
  Empty,
  Field,
  Heading,
  IconButton,
  Input,
  Key,
  StateWord,
  TextArea,
  Trouble,
} from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import LetterEditor from '../ui/LetterEditor.tsx';
import { Dialog, Menu } from '../ui/overlays.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { TallyStick } from '../ui/charts/TallyStick.tsx';

/* Each part of the design system in all its states. */

const GIFTS: TallyGift[] = [
  { id: 1, date: '2022-08-14', cents: 2_000, acknowledgedOn: '2022-08-20' },
  { id: 2, date: '2023-12-02', cents: 7_500, acknowledgedOn: '2023-12-09' },
  { id: 3, date: '2024-12-11', cents: 50_000, acknowledgedOn: '2024-12-15' },
  { id: 4, date: '2025-11-30', cents: 250_000, acknowledgedOn: '2025-12-04' },
  { id: 5, date: '2026-03-09', cents: 1_500_000, acknowledgedOn: null },
];
const ROWS = Array.from({ length: 5000 }, (_, index) => ({
  id: index + 1,
  name: `Row ${index + 1}`,
  cents: (index * 37) % 1000,
}));
const COLUMNS: Column<(typeof ROWS)[number]>[] = [
  { id: 'name', title: 'Name', width: 200, sort: 'name', footer: '5,000 rows', cell: (row) => row.name },
  {
    id: 'cents',
    title: 'Amount',
    width: 120,
    align: 'right',
    footer: ROWS.reduce((sum, row) => sum + row.cents, 0),
    cell: (row) => row.cents,
  },
  { id: 'twice', title: 'Twice', width: 120, align: 'right', hidden: true, cell: (row) => row.cents * 2 },
];

const SHORT = ROWS.slice(0, 4).map((row) => ({ ...row, note: row.id % 2 === 0 ? 'even' : '' }));
const SHORT_COLUMNS: Column<(typeof SHORT)[number]>[] = [
  { ...wordsOf('name', 'Name', 200, (row) => row.name), footer: '4 rows' },
  figures('cents', 'Amount', 120, (row) => row.cents, String),
  wordsOf('note', 'Note', 160, (row) => row.note),
];

/** The parts that hold a state of their own. */
function Few() {
  const [tab, setTab] = useState<'one' | 'two'>('one');
  const [word, setWord] = useState<'adjust' | 'refund'>('adjust');
  const [on, setOn] = useState(true);
  return (
    <>
      <Part name="Tabs, words to pick from, a switch, a fold, progress">
        <div className="w-80">
          <Tabs label="Two tabs" tabs={{ one: 'One', two: 'Two' }} value={tab} onChange={setTab}>
            <TabPanel value={tab} className="px-4 py-2">
              What stands under {tab}
            </TabPanel>
          </Tabs>
        </div>
        <Pick
          label="Words to pick from"
          value={word}
          onChange={setWord}
          options={[
            { value: 'adjust', label: 'Adjust' },
            { value: 'refund', label: 'Refund' },
          ]}
        />
        <Switch label="On at once" on={on} onChange={setOn} />
        <Fold line="What is under this line">
          <p className="text-faded">It was folded away.</p>
        </Fold>
        <ProgressBar label="A third done" done={1} total={3} />
        <ProgressBar label="Done" done={3} total={3} />
      </Part>
      <section className="px-5 py-4">
        <h2 className="mb-2 text-lg">Short table</h2>
        <ShortTable name="design short" label="Short rows" columns={SHORT_COLUMNS} rows={SHORT} />
        <ShortTable name="design none" label="No rows" columns={SHORT_COLUMNS} rows={[]} />
      </section>
    </>
  );
}

const FUNDS: Option[] = Array.from({ length: 5000 }, (_, index) => ({
  value: index + 1,
  label: index === 0 ? 'General Operating' : `Fund ${index + 1}`,
  also: `F${index + 1}`,
  closed: index % 7 === 4,
}));

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section className="border-b border-rule px-5 py-4">
      <h2 className="mb-2 text-lg">{name}</h2>
      <div className="flex flex-wrap items-start gap-3">{children}</div>
    </section>
  );
}

const rowId = (row: { id: number }): number => row.id;
const rowCents = (row: { cents: number }): number => row.cents;

export default function DesignPage() {
  const [open, setOpen] = useState(false);
  const [sort, setSort] = useState('name');
  const [day, setDay] = useState('2026-03-14');
  const [filterDay, setFilterDay] = useState('');
  const [fund, setFund] = useState('1');
  const [several, setSeveral] = useState(['1', '3']);
  const [added, setAdded] = useState<Option[]>([]);
  const { selection } = useRowSelection('row', ROWS, rowId, rowCents);
  const colours = ['paper', 'sheet', 'rule', 'ink', 'faded', 'hazel', 'slate', 'moss', 'madder', 'straw'];
  return (
    <div className="overflow-auto">
      <Heading title="Design" facts="Parts and their states" />
      <Part name="Colours">
        {colours.map((name) => (
          <div key={name} className="w-24 text-[13px]">
            <div className="h-10 rounded border border-rule" style={{ background: `var(--${name})` }} />
            {name}
          </div>
        ))}
      </Part>
      <Part name="Buttons">
        {(['main', 'plain', 'quiet', 'danger'] as const).map((look) => (
          <div key={look} className="flex gap-2">
            <Button look={look}>{look}</Button>
            <Button look={look} disabled>
              {look}, off
            </Button>
          </div>
        ))}
        <IconButton label="A picture">★</IconButton>
        <Key>Ctrl+Z</Key>
      </Part>
      <Part name="Fields">
        <Field label="Plain">{(attributes) => <Input {...attributes} defaultValue="Ana-María" />}</Field>
        <Field label="With a hint" hint="As it is written on the check.">
          {(attributes) => <Input {...attributes} placeholder="number" />}
        </Field>
        <Field label="Wrong" error="“twenty” is not an amount.">
          {(attributes) => <Input {...attributes} defaultValue="twenty" />}
        </Field>
        <Field label="Off">{(attributes) => <Input {...attributes} disabled defaultValue="closed" />}</Field>
        <Field label="One of a handful">
          {(attributes) => <Choice {...attributes} value={fund} onChange={setFund} options={FUNDS.slice(0, 4)} />}
        </Field>
        <Field label="One of many" className="w-64">
          {(attributes) => (
            <Choice
              {...attributes}
              value={fund}
              onChange={setFund}
              options={FUNDS}
              remember="design"
              placeholder="Choose"
            />
          )}
        </Field>
        <Field label="Wrong choice" error="Choose a fund.">
          {(attributes) => (
            <Choice {...attributes} value="" onChange={setFund} options={FUNDS.slice(0, 3)} placeholder="Choose" />
          )}
        </Field>
        <Field label="No choice">
          {(attributes) => <Choice {...attributes} disabled value={1} onChange={setFund} options={FUNDS.slice(0, 3)} />}
        </Field>
        <Field label="Several of many" className="w-80">
          {(attributes) => (
            <Choices
              {...attributes}
              value={several}
              onChange={setSeveral}
              options={[...FUNDS, ...added]}
              placeholder="Add a fund"
              onAdd={(label) => {
                setAdded((old) => [...old, { value: label, label }]);
                setSeveral((old) => [...old, label]);
              }}
            />
          )}
        </Field>
        <Field label="Day" className="w-40">
          {(attributes) => <DateField {...attributes} value={day} onChange={setDay} />}
        </Field>
        <span className="w-40">
          <DateField settled aria-label="Day in a filter" value={filterDay} onChange={setFilterDay} />
          <output className="block text-[12px] text-faded">asked for: {filterDay || 'any day'}</output>
        </span>
        <Radios aria-label="Which" defaultValue="a" className="flex gap-3">
          <Radio value="a">This</Radio>
          <Radio value="b">That</Radio>
        </Radios>
        <Checkbox label="Half" checked="indeterminate" />
        <Checkbox label="Off" disabled />
        <Field label="Long">{(attributes) => <TextArea {...attributes} rows={2} />}</Field>
        <Checkbox label="Wants no e-mail" defaultChecked />
        <Field label="Supporter">
          {(attributes) => <SupporterPicker {...attributes} value={null} onPick={() => undefined} />}
        </Field>
      </Part>
      <Part name="States">
        <StateWord tone="settled">thanked</StateWord>
        <StateWord tone="wrong">overdue</StateWord>
        <StateWord tone="look">needs a look</StateWord>
        <StateWord tone="plain">waiting</StateWord>
        <Trouble error={new Error('The server cannot be reached. What you typed is still here.')} />
        <Empty title="Nothing here yet">And what belongs here.</Empty>
      </Part>
      <Part name="Overlays">
        <Button onClick={() => setOpen(true)}>Open a dialog</Button>
        <Menu
          trigger={<Button>Menu</Button>}
          items={[
            { label: 'First', keys: 'f', onSelect: () => undefined },
            { label: 'Off', disabled: true, onSelect: () => undefined },
          ]}
        />
        <Button onClick={() => toast.success('Saved')}>Toast</Button>
        <Button onClick={() => toast.error('Not saved: the fund is closed.')}>Toast, wrong</Button>
        <Dialog open={open} onClose={() => setOpen(false)} title="A dialog" about="What it is for.">
          <Button look="main">Do it</Button>
        </Dialog>
      </Part>
      <Part name="Tally">
        <TallyStick gifts={GIFTS} width={640} />
        <TallyStick gifts={[]} width={320} />
        <TallyStick
          gifts={Array.from({ length: 90 }, (_, index) => ({
            id: index,
            date: `20${19 + Math.floor(index / 12)}-${String((index % 12) + 1).padStart(2, '0')}-15`,
            cents: 2_500,
            acknowledgedOn: '2026-01-01',
          }))}
          width={640}
        />
      </Part>
      <Part name="The tally in small, all thanked and not">
        {[0, 3].map((unthanked) => (
          <Miniature
            key={unthanked}
            years={[2023, 2025, 2026].map((year, place) => ({
              ...{ year, cents: 4_000 * 12 ** place, gifts: 4, unthanked: place === 2 ? unthanked : 0 },
            }))}
          />
        ))}
      </Part>
      <Part name="Bars, and what they are compared with">
        <div className="w-full max-w-3xl">
          <BarChart
            label="Bars"
            of="Name"
            than="Before"
            show={String}
            short={String}
            bars={[12, 30, 0, 24].map((value, place) => ({
              ...{
                key: String(place),
                name: `Bar ${place + 1}`,
                value,
                against: 20,
                says: `Bar ${place + 1}: ${value}`,
              },
            }))}
          />
        </div>
      </Part>
      <Few />
      <Part name="Letter editor">
        <div className="w-full max-w-3xl">
          <LetterEditor
            label="Letter"
            onChange={() => undefined}
            value={{
              type: 'doc',
              content: [
                {
                  type: 'paragraph',
                  content: [
                    { type: 'text', text: 'Dear ' },
                    { type: 'mergeField', attrs: { field: 'first', fallback: 'friend' } },
                  ],
                },
              ],
            }}
          />
        </div>
      </Part>
      <section className="flex h-96 flex-col px-5 py-4">
        <h2 className="mb-2 text-lg">Table</h2>
        <DataTable
          name="design"
          label="Rows"
          columns={COLUMNS}
          rows={ROWS}
          idOf={rowId}
          total={ROWS.length}
          sort={sort}
          onSort={setSort}
          selection={selection}
          onPeek={() => undefined}
          empty={null}
        />
      </section>
    </div>
  );
}
