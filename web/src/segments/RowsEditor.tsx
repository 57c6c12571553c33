import { LISTED } from '@tallystick/core/catalogue';
import { between, measureAs, measuresOf, SOME } from '@tallystick/core/segments';
import type { Measure } from '@tallystick/core/segments';
import { freshRows, measureOptions } from './conditions.ts';
import type { Of } from './conditions.ts';
import { FigureEditor } from './FigureEditor.tsx';
import { Between, TestEditor } from './TestEditor.tsx';

/** Stands for having some at all, which is a number of at least one. */
const HAS = 'some';

/** A measure over the rows of a list, which rows, and what the measure is to be. */
export function RowsEditor(props: { condition: Of<'rows'>; onChange: (condition: Of<'rows'>) => void }) {
  const { condition, onChange } = props;
  const { of, measure, test } = condition;
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
  const isPlain = isSome && measuresOf(LISTED[of]).length === 1;
  return (
    <>
      <FigureEditor
        figure={condition}
        onChange={onChange}
        measures={isPlain ? [] : [{ value: HAS, label: 'some' }, ...measureOptions(of)]}
        measure={isSome ? HAS : measure}
        onMeasure={choose}
        extras={isPlain ? [{ label: 'How many', onSelect: () => choose('number') }] : []}
      />
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
