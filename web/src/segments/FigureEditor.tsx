import { LISTED, listedAs } from '@tallystick/core/catalogue';
import type { ListedName } from '@tallystick/core/catalogue';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import type { CreditChoice } from '@tallystick/core/totals';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import type { Option } from '../ui/choice/index.tsx';
import type { Figure } from './conditions.ts';
import { Chip, WhereEditor } from './WhereEditor.tsx';
import { Told } from './Told.tsx';
import { WindowSelect } from './WindowSelect.tsx';

/** A measure over the rows of a list: which measure, which rows, and whose. */
export function FigureEditor<F extends Figure>(props: {
  figure: F;
  onChange: (figure: F) => void;
  /** The measures to choose from; none where there is but one. */
  measures: readonly Option[];
  measure: string;
  onMeasure: (measure: string) => void;
  extras?: readonly { label: string; onSelect: () => void }[];
}) {
  const { figure, onChange, measures } = props;
  const { of, measure, where, against, after, credit, together } = figure;
  const extras = [
    ...(props.extras ?? []),
    ...(after
      ? []
      : [
          {
            label: 'Within days of something else',
            onSelect: () => onChange({ ...figure, after: { of: 'sendings', where: [], days: 60 } }),
          },
        ]),
    ...(of !== 'gifts' || credit
      ? []
      : [{ label: 'Whose giving counts', onSelect: () => onChange({ ...figure, credit: 'both' }) }]),
    ...(together
      ? []
      : [{ label: 'Of the whole household together', onSelect: () => onChange({ ...figure, together: true }) }]),
  ];
  return (
    <>
      {measures.length > 0 && (
        <Choice
          aria-label="Measure"
          className="w-auto min-w-24"
          value={props.measure}
          onChange={props.onMeasure}
          options={measures}
        />
      )}
      <WhereEditor
        known={listedAs(of).parts}
        where={where}
        onChange={(next) => onChange({ ...figure, where: next })}
        extras={extras}
      />
      {after && (
        <Chip label="Within days of something else" onRemove={() => onChange(without(figure, 'after'))}>
          <span className="text-faded">within</span>
          <Told
            className="w-16 text-right"
            inputMode="numeric"
            label="Within so many days"
            value={after.days}
            read={(text) => (/^\d{1,5}$/.test(text.trim()) && Number(text) <= 40_000 ? Number(text) : undefined)}
            write={String}
            onChange={(days) => onChange({ ...figure, after: { ...after, days } })}
          />
          <span className="text-faded">days of the last</span>
          <Choice
            aria-label="Of what"
            className="w-auto min-w-32"
            value={after.of}
            onChange={(next) => onChange({ ...figure, after: { ...after, of: next as ListedName, where: [] } })}
            options={DATED}
          />
          <WhereEditor
            known={listedAs(after.of).parts}
            where={after.where}
            onChange={(next) => onChange({ ...figure, after: { ...after, where: next } })}
          />
        </Chip>
      )}
      {credit && (
        <Chip label="Whose giving counts" onRemove={() => onChange(without(figure, 'credit'))}>
          <Choice
            aria-label="Whose giving counts"
            className="w-auto min-w-48"
            value={credit}
            onChange={(picked) => onChange({ ...figure, credit: picked as CreditChoice })}
            options={optionsOf(CREDIT_CHOICES)}
          />
        </Chip>
      )}
      {together && (
        <Chip label="Of the household together" onRemove={() => onChange(without(figure, 'together'))}>
          of the household together
        </Chip>
      )}
      {measure === 'change' && (
        <>
          <span className="text-faded">against</span>
          <WindowSelect
            label="Against"
            window={against ?? { kind: 'fiscal-year', ago: 1 }}
            onChange={(next) => onChange({ ...figure, against: next })}
          />
        </>
      )}
    </>
  );
}

const DATED = Object.entries(LISTED)
  .filter(([, { dated }]) => dated)
  .map(([of, { one }]) => ({ value: of, label: one }));

function without<F extends Figure>(figure: F, key: 'after' | 'credit' | 'together'): F {
  const { [key]: _gone, ...rest } = figure;
  return rest as F;
}
