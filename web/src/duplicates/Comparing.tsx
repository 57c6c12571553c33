import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { compareRecords, mergeRecords, sayNotSame } from '@tallystick/contract/duplicates';
import type { Comparison, Figures } from '@tallystick/contract/duplicates';
import { ask, call, messageOf } from '../ui/api.ts';
import { Button, Input, Key, Opening } from '../ui/controls.tsx';
import { Radio, Radios } from '../ui/checks.tsx';
import { classes } from '../ui/classes.ts';
import { Fold } from '../ui/Fold.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** Records that may be one, field by field, with what merging them makes; the best of each is chosen already. */
export function Comparing(props: { ids: readonly number[]; onDone: (into: number) => void; onApart?: () => void }) {
  const [into, setInto] = useState<number | null>(null);
  const [choices, setChoices] = useState<Record<string, number>>({});
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [out, setOut] = useState<readonly number[]>([]);
  const ids = props.ids.filter((id) => !out.includes(id));
  const body = { ids, into, choices, typed };
  const { data, error, isPlaceholderData } = useQuery({
    ...ask(compareRecords, { body }),
    enabled: ids.length > 1,
    placeholderData: keepPreviousData,
  });
  const merge = useWrite(
    (comparison: Comparison) =>
      call(mergeRecords, {
        body: {
          into: comparison.into,
          records: comparison.records.map(({ id, version }) => ({ id, version })),
          choices: Object.fromEntries(comparison.fields.map(({ key, from }) => [key, from])),
          typed,
        },
      }),
    { then: ({ id }) => props.onDone(id) },
  );
  const apart = useWrite(() => call(sayNotSame, { body: { ids: [...ids] } }), { then: () => props.onApart?.() });
  const busy = merge.isPending || apart.isPending || isPlaceholderData || !data;
  const stay = (id: number): void => {
    setInto(id);
    setChoices({});
    setTyped({});
  };
  useKeys({
    m: () => !busy && merge.mutate(data),
    ...(props.onApart ? { n: () => !busy && apart.mutate(undefined) } : {}),
    ...Object.fromEntries(
      (data?.records ?? []).slice(0, 9).map(({ id }, at) => [String(at + 1), () => stay(id)] as const),
    ),
  });
  if (!data) return error ? <p className="px-5 py-4 text-madder">◆ {messageOf(error)}</p> : <Opening error={null} />;
  const leaveOut = (id: number): void => {
    setOut([...out, id]);
    setInto(null);
    setChoices({});
    toast('Left out of this merge; it stays as it is');
  };
  const type = (key: string, text: string | null): void =>
    setTyped(({ [key]: _before, ...others }) => (text === null ? others : { ...others, [key]: text }));
  const differing = data.fields.filter(({ differs }) => differs);
  const same = data.fields.filter(({ differs }) => !differs);
  const number = counted(data.records.length);
  return (
    <section aria-label="Comparison" className="pb-8">
      <Outcome comparison={data} />
      {data.doubts.length > 0 && (
        <ul className="mx-5 mb-3 rounded border border-rule bg-straw px-3 py-2 text-straw-ink" aria-label="To think of">
          {data.doubts.map((doubt) => (
            <li key={doubt}>◆ {doubt}</li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-2 px-5 pb-3">
        <Button look="main" busy={merge.isPending} disabled={busy} onClick={() => merge.mutate(data)}>
          Merge {number} into {data.records.find(({ id }) => id === data.into)?.number} <Key>m</Key>
        </Button>
        {props.onApart && (
          <Button disabled={busy} onClick={() => apart.mutate(undefined)}>
            Not the same <Key>n</Key>
          </Button>
        )}
      </div>
      <div className="overflow-x-auto px-5">
        <table className="w-full border-collapse text-left [&_td]:border-t [&_td]:border-rule [&_td]:px-2 [&_td]:py-1 [&_th]:px-2 [&_th]:py-1 [&_th]:align-top [&_th]:font-normal">
          <caption className="sr-only">What each record says; what differs stands first</caption>
          <thead>
            <tr>
              <th scope="col" className="w-40 text-[13px] text-faded">
                Which stays
              </th>
              {data.records.map((record, at) => (
                <th key={record.id} scope="col" className={classes('min-w-48', record.id === data.into && 'bg-hover')}>
                  <Radios value={String(data.into)} onValueChange={(id) => stay(Number(id))} aria-label="Which stays">
                    <Radio value={String(record.id)}>
                      <span className="font-serif text-lg leading-tight">{record.name}</span>
                    </Radio>
                  </Radios>
                  <p className="text-[13px] text-faded">
                    <Link className="text-slate underline" to={`/supporters/${record.id}`} target="_blank">
                      {record.number}
                    </Link>{' '}
                    · <Given given={record.given} />
                  </p>
                  <p className="text-[13px] text-faded">
                    {at < 9 && <Key>{at + 1}</Key>}
                    {data.records.length > 2 && (
                      <button type="button" className="ml-2 text-slate underline" onClick={() => leaveOut(record.id)}>
                        Leave out
                      </button>
                    )}
                  </p>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {differing.map((field) => (
              <Row
                key={field.key}
                field={field}
                into={data.into}
                onChoose={(id) => {
                  setChoices({ ...choices, [field.key]: id });
                  type(field.key, null);
                }}
                onType={(text) => type(field.key, text)}
              />
            ))}
          </tbody>
        </table>
      </div>
      {same.length > 0 && (
        <div className="px-5 pt-3">
          <Fold line={`The same, or said by one alone: ${same.length}`}>
            <dl className="grid grid-cols-[10rem_1fr] gap-x-3 gap-y-0.5 pt-1">
              {same.map((field) => (
                <div key={field.key} className="contents">
                  <dt className="text-[13px] text-faded">{field.label}</dt>
                  <dd>
                    {[...new Set(field.sides.map(({ shown }) => shown))].filter(Boolean).join(', ')}
                    {field.together && <span className="text-faded"> (all are kept)</span>}
                  </dd>
                </div>
              ))}
            </dl>
          </Fold>
        </div>
      )}
    </section>
  );
}

const counted = (many: number): string => (many === 2 ? 'both' : `all ${many}`);

function Given({ given }: { given: Figures }) {
  const { money, counted: many, date } = useFormats();
  if (given.gifts === 0) return 'no gifts';
  return (
    <>
      {many(given.gifts, 'gift')}, {money(given.cents)}, last {date(given.lastOn)}
    </>
  );
}

/** What the merged record will be, and that its giving is the sum of the parts. */
function Outcome({ comparison }: { comparison: Comparison }) {
  const { money, counted: many } = useFormats();
  const { result, records, carried } = comparison;
  const parts = records.filter(({ given }) => given.gifts > 0).map(({ given }) => money(given.cents));
  return (
    <div className="px-5 pt-3 pb-2">
      <p>
        Together: <span className="font-serif text-xl">{result.name}</span>
        {result.given.gifts > 0 && (
          <>
            {' '}
            with <span className="font-serif text-xl">{money(result.given.cents)}</span> in{' '}
            {many(result.given.gifts, 'gift')}
            {parts.length > 1 && <span className="text-faded"> ({parts.join(' + ')})</span>}
          </>
        )}
        .
      </p>
      <p className="text-[13px] text-faded">
        {carried.length > 0
          ? `Comes along: ${carried.map(({ says }) => says).join(', ')}. `
          : 'Nothing else comes along. '}
        {result.wishes.length > 0 && `Wishes then: ${result.wishes.join(', ')}.`}
      </p>
    </div>
  );
}

function Row(props: {
  field: Comparison['fields'][number];
  into: number;
  onChoose: (id: number) => void;
  /** Writes something in place of what any of them has; null goes back to what was chosen. */
  onType: (text: string | null) => void;
}) {
  const { field, into } = props;
  const written = field.typed ?? null;
  return (
    <tr>
      <th scope="row" className="border-t border-rule text-[13px] text-faded">
        {field.label}
        {field.why !== '' && field.from === field.proposed && written === null && (
          <span className="block">{field.why}</span>
        )}
        {field.typed !== undefined && <Written field={field} onType={props.onType} />}
      </th>
      {field.sides.map(({ id, shown }) => (
        <td key={id} className={classes('align-top', id === into && 'bg-hover')}>
          {shown === '' ? (
            <span className="text-faded">nothing</span>
          ) : (
            <Radios
              aria-label={field.label}
              value={written === null ? String(field.from) : ''}
              onValueChange={(chosen) => props.onChoose(Number(chosen))}
            >
              <Radio value={String(id)}>
                <span className={classes(field.from === id && written === null && 'font-medium')}>{shown}</span>
              </Radio>
            </Radios>
          )}
        </td>
      ))}
    </tr>
  );
}

/** A value that none of them has, written anew. */
function Written({ field, onType }: { field: Comparison['fields'][number]; onType: (text: string | null) => void }) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? field.typed ?? null;
  const settle = (): void => {
    if (text !== null && text !== field.typed) onType(text);
  };
  if (shown === null)
    return (
      <button
        type="button"
        className="block min-h-6 text-slate underline"
        aria-label={`Write another ${field.label.toLowerCase()}`}
        onClick={() => setText(field.sides.find(({ id }) => id === field.from)?.shown ?? '')}
      >
        Write another
      </button>
    );
  return (
    <span className="mt-1 flex items-center gap-1">
      <Input
        autoFocus={text !== null && field.typed === null}
        aria-label={`${field.label}, written anew`}
        maxLength={120}
        value={shown}
        onChange={(event) => setText(event.target.value)}
        onBlur={settle}
        onKeyDown={(event) => event.key === 'Enter' && settle()}
      />
      <button
        type="button"
        className="min-h-6 text-slate underline"
        aria-label={`Back to the ${field.label.toLowerCase()} that is there`}
        onClick={() => {
          setText(null);
          onType(null);
        }}
      >
        Back
      </button>
    </span>
  );
}
