import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { ChoiceBox } from '../choice/ChoiceBox.tsx';
import type { Option } from '../choice/index.tsx';
import { Button, IconButton } from '../controls.tsx';
import { DateField } from '../dates/DateField.tsx';
import { SpanField } from '../dates/SpanField.tsx';
import type { useListUrl } from '../useListUrl.ts';

/** One thing by which a list can be narrowed; what is chosen stands in the list's address. */
export type Filter = {
  label: string;
  /** Always there, since the list always has a choice of it or nearly everyone asks for it. */
  always?: boolean;
} & (
  | {
      kind: 'choice';
      /** Its name in the address. */
      name: string;
      options: readonly Option[];
      /** What holds where the address says nothing; none where that means anything. */
      usual?: string;
      remember?: string;
    }
  | { kind: 'span'; from: string; to: string }
  | { kind: 'day'; name: string }
  /** Set by a link from elsewhere: shown in words, and taken away here. */
  | { kind: 'given'; names: readonly string[]; says: string }
);

const namesOf = (filter: Filter): readonly string[] =>
  filter.kind === 'span' ? [filter.from, filter.to] : filter.kind === 'given' ? filter.names : [filter.name];

type ListUrl = Pick<ReturnType<typeof useListUrl>, 'get' | 'set'>;

const CHIP = 'min-h-7 w-auto rounded-r-none border-r-0 py-0 pr-1 text-[13px]';
const ALONE = 'min-h-7 w-auto py-0 text-[13px]';

/**
 * What a list is narrowed by, in one row: a chip for each filter that holds, which opens its choice, with 'Add a
 * filter' for the others and 'Clear' for all.
 */
export function Filters(props: { url: ListUrl; filters: readonly Filter[]; children?: ReactNode }) {
  const { url, filters } = props;
  /** The filter that was just added and has no choice yet. */
  const [adding, setAdding] = useState('');
  const holds = (filter: Filter): boolean =>
    namesOf(filter).some(
      (name) => url.get(name) !== '' && !(filter.kind === 'choice' && url.get(name) === filter.usual),
    );
  const shown = filters.filter((filter) => filter.always || holds(filter) || filter.label === adding);
  const rest = filters.filter((filter) => !shown.includes(filter) && filter.kind !== 'given');
  const clear = (some: readonly Filter[]): void =>
    url.set({ ...Object.fromEntries(some.flatMap(namesOf).map((name) => [name, null])), view: null });
  const holding = shown.filter(holds);
  return (
    <div role="group" aria-label="Filters" className="flex min-w-0 flex-wrap items-center gap-1.5">
      {props.children}
      {shown.map((filter) => (
        <span key={filter.label} className="inline-flex items-stretch">
          <Chip
            filter={filter}
            url={url}
            closable={holds(filter)}
            beginOpen={filter.label === adding}
            onClosed={() => setAdding('')}
          />
          {holds(filter) && (
            <IconButton
              label={`Without ${filter.label.toLowerCase()}`}
              className="size-auto min-h-7 w-6 rounded-l-none border border-l-0 border-rule bg-sheet"
              onClick={() => clear([filter])}
            >
              <X size={13} />
            </IconButton>
          )}
        </span>
      ))}
      {rest.length > 0 && (
        <ChoiceBox
          aria-label="Add a filter"
          className="min-h-7 w-auto border-dashed py-0 text-[13px]"
          value=""
          placeholder="Add a filter"
          icon={<Plus size={13} aria-hidden className="text-faded" />}
          handsOn={adding !== ''}
          onChange={setAdding}
          options={rest.map(({ label }) => ({ value: label, label }))}
        />
      )}
      {holding.length > 1 && (
        <Button look="quiet" className="h-7 px-2 text-[13px]" onClick={() => clear(holding)}>
          Clear
        </Button>
      )}
    </div>
  );
}

function Chip(props: { filter: Filter; url: ListUrl; closable: boolean; beginOpen: boolean; onClosed: () => void }) {
  const { filter, url, beginOpen, onClosed } = props;
  const [open, setOpen] = useState(beginOpen);
  const turn = (next: boolean): void => {
    setOpen(next);
    if (!next) onClosed();
  };
  const look = props.closable ? CHIP : ALONE;
  switch (filter.kind) {
    case 'choice':
      return (
        <ChoiceBox
          aria-label={filter.label}
          className={look}
          prefix={`${filter.label}:`}
          placeholder={filter.label}
          open={open}
          onOpen={turn}
          remember={filter.remember}
          value={url.get(filter.name) || (filter.usual ?? '')}
          onChange={(picked) => url.set({ [filter.name]: picked === filter.usual ? null : picked, view: null })}
          options={filter.options}
        />
      );
    case 'span':
      return (
        <SpanField
          label={filter.label}
          prefix={`${filter.label}:`}
          className={look}
          open={open}
          onOpen={turn}
          value={{ from: url.get(filter.from), to: url.get(filter.to) }}
          onChange={({ from, to }) => url.set({ [filter.from]: from, [filter.to]: to, view: null })}
        />
      );
    case 'day':
      return (
        <label className="flex items-center gap-1.5 rounded border border-rule bg-sheet pl-2 text-[13px]">
          <span className="text-faded">{filter.label}:</span>
          <DateField
            settled
            autoFocus={beginOpen}
            className="w-34 [&_input]:h-7 [&_input]:border-0"
            value={url.get(filter.name)}
            onChange={(day) => url.set({ [filter.name]: day, view: null })}
          />
        </label>
      );
    case 'given':
      return (
        <span className="inline-flex min-h-7 items-center rounded-l border border-r-0 border-rule bg-sheet px-2 text-[13px]">
          {filter.says}
        </span>
      );
  }
}
