import { ArrowDown, ArrowUp, ChevronDown, ChevronRight, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { LISTED, listedAs, partIn } from '@tallystick/core/catalogue';
import { measureAs, measuresOf, PICKS } from '@tallystick/core/segments';
import type { Measure, Picked } from '@tallystick/core/segments';
import type { View } from '@tallystick/contract/segments';
import { ChoiceBox } from '../ui/choice/ChoiceBox.tsx';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useKnownFields } from '../ui/useKnownFields.ts';
import { freshMeasure, picksOf, showable, withColumn, withoutColumn, withStep } from './columns.ts';
import type { Shown, ShownAs, ViewColumn } from './columns.ts';
import { measureOptions } from './conditions.ts';
import { FigureEditor } from './FigureEditor.tsx';
import { WhereEditor } from './WhereEditor.tsx';

/** The columns of a view: which there are, in what order, what each is called and what exactly it shows. */
export function ColumnsDialog(props: {
  view: View;
  onChange: (view: View) => void;
  /** What each column says of itself, by its id. */
  words: ReadonlyMap<string, string>;
  onClose: () => void;
}) {
  const { view, onChange, words, onClose } = props;
  const [open, setOpen] = useState<string | null>(null);
  /** The column that was added last, whose name is typed next. */
  const [fresh, setFresh] = useState<string | null>(null);
  const offered = showable(useKnownFields(), view.rows);
  const put = (id: string, part: Partial<ViewColumn>): void =>
    onChange({ ...view, columns: view.columns.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <Dialog open onClose={onClose} title="Columns" size="wide">
      <ol aria-label="Columns, from left to right" className="max-h-[55vh] overflow-auto">
        {view.columns.map((column, at) => {
          const { id, title, shows } = column;
          const name = title || words.get(id) || 'this column';
          const opens = shows.kind === 'measure' || shows.kind === 'values';
          return (
            <li
              key={id}
              className="border-b border-rule py-1"
              onKeyDown={(event) => {
                const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : null;
                if (!event.altKey || by === null) return;
                event.preventDefault();
                const at = event.target as HTMLElement;
                onChange(withStep(view, id, by));
                // A line that is moved lets go of what was focused in it.
                requestAnimationFrame(() => at.focus());
              }}
            >
              <div className="flex items-center gap-1.5">
                <IconButton
                  label={`${open === id ? 'Close' : 'Say more of'} ${name}`}
                  aria-expanded={opens ? open === id : undefined}
                  disabled={!opens}
                  onClick={() => setOpen(open === id ? null : id)}
                >
                  {!opens ? (
                    <span className="w-3.5" />
                  ) : open === id ? (
                    <ChevronDown size={14} />
                  ) : (
                    <ChevronRight size={14} />
                  )}
                </IconButton>
                <Input
                  className="h-7 w-56"
                  autoFocus={id === fresh}
                  aria-label={`Name of the column ${words.get(id) ?? ''}`}
                  placeholder={words.get(id) ?? ''}
                  value={title}
                  onChange={(event) => put(id, { title: event.target.value.slice(0, 60) })}
                />
                <span className="min-w-0 flex-1 truncate text-[13px] text-faded" title={words.get(id)}>
                  {words.get(id)}
                </span>
                <IconButton
                  label={`Move ${name} left`}
                  disabled={at === 0}
                  onClick={() => onChange(withStep(view, id, -1))}
                >
                  <ArrowUp size={14} />
                </IconButton>
                <IconButton
                  label={`Move ${name} right`}
                  disabled={at === view.columns.length - 1}
                  onClick={() => onChange(withStep(view, id, 1))}
                >
                  <ArrowDown size={14} />
                </IconButton>
                <IconButton label={`Take out ${name}`} onClick={() => onChange(withoutColumn(view, id))}>
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {opens && open === id && (
                <div className="ml-7 flex flex-wrap items-center gap-1.5 py-1">
                  <ShownEditor shows={shows} onChange={(next) => put(id, { shows: next })} />
                </div>
              )}
            </li>
          );
        })}
      </ol>
      <div className="mt-2 flex items-center gap-1">
        <Plus size={14} aria-hidden className="text-faded" />
        <ChoiceBox
          aria-label="Add a column"
          handsOn
          className="w-auto min-w-48"
          placeholder="Add a column"
          value=""
          options={offered}
          onChange={(picked) => {
            const one = offered.find(({ value }) => value === picked);
            if (!one) return;
            const next = withColumn(view, one.begin());
            const added = next.columns.at(-1)?.id ?? null;
            setFresh(added);
            setOpen(added);
            onChange(next);
          }}
        />
      </div>
      <DialogActions>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function ShownEditor({ shows, onChange }: { shows: Shown; onChange: (shows: Shown) => void }) {
  if (shows.kind === 'measure') return <MeasureEditor shows={shows} onChange={onChange} />;
  return shows.kind === 'values' ? <ValuesEditor shows={shows} onChange={onChange} /> : null;
}

function MeasureEditor({ shows, onChange }: { shows: ShownAs<'measure'>; onChange: (shows: Shown) => void }) {
  const { plus = [] } = shows;
  const { type } = measureAs(shows.measure);
  /** What can be added to it: figures of the same kind. */
  const more = Object.entries(LISTED).filter(([, listed]) => measuresOf(listed).includes(shows.measure));
  return (
    <>
      <FigureEditor
        figure={shows}
        onChange={onChange}
        measures={measureOptions(shows.of)}
        measure={shows.measure}
        onMeasure={(next) => onChange({ ...freshMeasure(shows.of, next as Measure), where: shows.where })}
      />
      {plus.map((one, at) => (
        <span key={at} className="flex basis-full flex-wrap items-center gap-1.5">
          <span className="text-faded">and</span>
          <span className="font-medium">{listedAs(one.of).label}</span>
          <FigureEditor
            figure={one}
            onChange={(next) => onChange({ ...shows, plus: plus.map((old, place) => (place === at ? next : old)) })}
            measures={[]}
            measure={one.measure}
            onMeasure={() => undefined}
          />
          <IconButton
            label={`Leave out ${listedAs(one.of).label}`}
            onClick={() => onChange({ ...shows, plus: plus.filter((_, place) => place !== at) })}
          >
            <Trash2 size={14} />
          </IconButton>
        </span>
      ))}
      {type !== 'date' && plus.length < 5 && (
        <Choice
          aria-label="Add to it"
          className="w-auto min-w-28 border-transparent"
          placeholder="Add to it …"
          value=""
          options={more.map(([of, { label }]) => ({ value: of, label }))}
          onChange={(of) => {
            const { kind: _kind, ...figure } = freshMeasure(of as keyof typeof LISTED, shows.measure);
            onChange({ ...shows, plus: [...plus, figure] });
          }}
        />
      )}
    </>
  );
}

function ValuesEditor({ shows, onChange }: { shows: ShownAs<'values'>; onChange: (shows: Shown) => void }) {
  const { of, where, part, pick } = shows;
  const { parts } = listedAs(of);
  const picks = picksOf(of);
  return (
    <>
      <Choice
        aria-label="What of it"
        className="w-auto min-w-32"
        value={part}
        onChange={(next) => onChange({ ...shows, part: next })}
        options={Object.entries(parts).map(([name, { label }]) => ({ value: name, label }))}
      />
      {partIn(parts, part) && picks.length > 1 && (
        <Choice
          aria-label="Of several"
          className="w-auto min-w-36"
          value={pick}
          onChange={(next) => onChange({ ...shows, pick: next as Picked })}
          options={optionsOf(Object.fromEntries(picks.map((one) => [one, PICKS[one]])))}
        />
      )}
      <WhereEditor known={parts} where={where} onChange={(next) => onChange({ ...shows, where: next })} />
    </>
  );
}
