import { X } from 'lucide-react';
import { LISTED, listedAs, partIn } from '@tallystick/core/catalogue';
import type { Known, ListedName } from '@tallystick/core/catalogue';
import { between, measureAs, measuresOf, SOME } from '@tallystick/core/segments';
import type { Measure } from '@tallystick/core/segments';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import type { CreditChoice } from '@tallystick/core/totals';
import { Choice } from '../ui/choice/index.tsx';
import { Button, IconButton } from '../ui/controls.tsx';
import { Menu } from '../ui/overlays.tsx';
import { firstTest, freshRows } from './conditions.ts';
import type { Of, Where } from './conditions.ts';
import { Between, TestEditor } from './TestEditor.tsx';
import { Told } from './Told.tsx';
import { WindowSelect } from './WindowSelect.tsx';

/** Stands for having some at all, which is a number of at least one. */
const HAS = 'some';

/** A measure over the rows of a list, which rows, and what the measure is to be. */
export function RowsEditor(props: { condition: Of<'rows'>; onChange: (condition: Of<'rows'>) => void }) {
  const { condition, onChange } = props;
  const { of, measure, test, where, against, after, credit, together } = condition;
  const listed = listedAs(of);
  const { type } = measureAs(measure);
  const isSome = measure === 'number' && JSON.stringify(test) === JSON.stringify(SOME);
  const choose = (picked: string): void => {
    const { against: _against, ...rest } = condition;
    if (picked === HAS) return onChange({ ...rest, measure: 'number', test: SOME });
    const next = picked as Measure;
    // What the figure is to be is of its own kind: a date is no amount.
    const fresh = freshRows(of, next);
    const open = next === 'number' ? between(2) : fresh.test;
    onChange({ ...rest, measure: next, test: open, ...(fresh.against ? { against: fresh.against } : {}) });
  };
  const extras = [
    ...(after
      ? []
      : [
          {
            label: 'Within days of something else',
            onSelect: () => onChange({ ...condition, after: { of: 'sendings', where: [], days: 60 } }),
          },
        ]),
    ...(of !== 'gifts' || credit
      ? []
      : [{ label: 'Whose giving counts', onSelect: () => onChange({ ...condition, credit: 'both' }) }]),
    ...(together
      ? []
      : [{ label: 'Of the whole household together', onSelect: () => onChange({ ...condition, together: true }) }]),
  ];
  const measures = measuresOf(LISTED[of]);
  const isPlain = isSome && measures.length === 1;
  if (isPlain) extras.push({ label: 'How many', onSelect: () => choose('number') });
  return (
    <>
      {!isPlain && (
        <Choice
          aria-label="Measure"
          className="w-auto min-w-24"
          value={isSome ? HAS : measure}
          onChange={choose}
          options={[
            { value: HAS, label: 'some' },
            ...measures.map((name) => ({ value: name, label: measureAs(name).word.toLowerCase() })),
          ]}
        />
      )}
      <WhereEditor
        known={listed.parts}
        where={where}
        onChange={(next) => onChange({ ...condition, where: next })}
        extras={extras}
      />
      {after && (
        <Chip label="Within days of something else" onRemove={() => onChange(without(condition, 'after'))}>
          <span className="text-faded">within</span>
          <Told
            className="w-16 text-right"
            inputMode="numeric"
            label="Within so many days"
            value={after.days}
            read={(text) => (/^\d{1,5}$/.test(text.trim()) && Number(text) <= 40_000 ? Number(text) : undefined)}
            write={String}
            onChange={(days) => onChange({ ...condition, after: { ...after, days } })}
          />
          <span className="text-faded">days of the last</span>
          <Choice
            aria-label="Of what"
            className="w-auto min-w-32"
            value={after.of}
            onChange={(next) => onChange({ ...condition, after: { ...after, of: next as ListedName, where: [] } })}
            options={DATED}
          />
          <WhereEditor
            known={listedAs(after.of).parts}
            where={after.where}
            onChange={(next) => onChange({ ...condition, after: { ...after, where: next } })}
          />
        </Chip>
      )}
      {credit && (
        <Chip label="Whose giving counts" onRemove={() => onChange(without(condition, 'credit'))}>
          <Choice
            aria-label="Whose giving counts"
            className="w-auto min-w-48"
            value={credit}
            onChange={(picked) => onChange({ ...condition, credit: picked as CreditChoice })}
            options={Object.entries(CREDIT_CHOICES).map(([choice, words]) => ({ value: choice, label: words }))}
          />
        </Chip>
      )}
      {together && (
        <Chip label="Of the household together" onRemove={() => onChange(without(condition, 'together'))}>
          of the household together
        </Chip>
      )}
      {measure === 'change' && (
        <>
          <span className="text-faded">against</span>
          <WindowSelect
            label="Against"
            window={against ?? { kind: 'fiscal-year', ago: 1 }}
            onChange={(next) => onChange({ ...condition, against: next })}
          />
        </>
      )}
      {!isSome && type === 'date' && (
        <TestEditor
          label="Figure"
          type={{ is: 'date' }}
          test={test}
          onChange={(next) => onChange({ ...condition, test: next })}
        />
      )}
      {!isSome && type !== 'date' && (
        <>
          <span className="text-faded">is</span>
          <Between
            key={measure}
            name="Figure"
            number={type === 'number'}
            value={test.is === 'between' ? test : between(null)}
            onChange={({ atLeast, atMost }) => onChange({ ...condition, test: between(atLeast, atMost) })}
          />
        </>
      )}
    </>
  );
}

const DATED = Object.entries(LISTED)
  .filter(([, { dated }]) => dated)
  .map(([of, { one }]) => ({ value: of, label: one }));

function without<K extends 'after' | 'credit' | 'together'>(condition: Of<'rows'>, key: K): Of<'rows'> {
  const { [key]: _gone, ...rest } = condition;
  return rest as Of<'rows'>;
}

/** What is asked of each row: its parts, each with its test; more of them by 'Narrower'. */
export function WhereEditor(props: {
  known: Readonly<Record<string, Known>>;
  where: readonly Where[];
  onChange: (where: Where[]) => void;
  extras?: readonly { label: string; onSelect: () => void }[];
}) {
  const { known, where, onChange, extras = [] } = props;
  const put = (at: number, next: Where): void => onChange(where.map((one, place) => (place === at ? next : one)));
  const offered = Object.entries(known).map(([part, one]) => ({
    label: one.label,
    onSelect: () => onChange([...where, { part, test: firstTest(one) }]),
  }));
  return (
    <>
      {where.map((one, at) => {
        const part = partIn(known, one.part);
        return (
          <Chip
            key={at}
            label={part?.label ?? 'what is no longer there'}
            onRemove={() => onChange(where.filter((_, place) => place !== at))}
          >
            {part ? (
              <>
                <button
                  type="button"
                  aria-pressed={one.not === true}
                  title="Turn it round"
                  className="rounded px-1 text-faded hover:bg-hover hover:text-ink"
                  onClick={() => put(at, { ...one, not: one.not ? undefined : true })}
                >
                  {one.not ? <b className="text-madder">not </b> : null}
                  {part.label}
                </button>
                <TestEditor
                  label={part.label}
                  type={part.type}
                  test={one.test}
                  onChange={(test) => put(at, { ...one, test })}
                />
              </>
            ) : (
              <span className="text-madder">no longer there</span>
            )}
          </Chip>
        );
      })}
      <Menu
        label="Narrower"
        trigger={
          <Button look="quiet" className="h-7 px-2">
            Narrower
          </Button>
        }
        items={[...offered, ...extras]}
      />
    </>
  );
}

function Chip({ label, onRemove, children }: { label: string; onRemove: () => void; children: React.ReactNode }) {
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5 rounded border border-rule px-1 py-0.5">
      {children}
      <IconButton label={`Take out ${label}`} onClick={onRemove}>
        <X size={12} />
      </IconButton>
    </span>
  );
}
