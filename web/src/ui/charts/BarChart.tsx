import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { useState } from 'react';
import type { KeyboardEvent } from 'react';
import { Button } from '../controls.tsx';
import { useWidth } from '../useWidth.ts';
import { NameAxis, ValueAxis } from './Axes.tsx';

export interface Bar {
  key: string;
  /** Below the bar. */
  name: string;
  value: number;
  /** What it is compared with, marked across the bar. */
  against?: number;
  /** All that the bar says, in words: for the line below, and for who cannot see it. */
  says: string;
}

const [TOP, BOTTOM, LEFT] = [18, 20, 56];
/** A figure above a bar takes about so much. */
const FIGURE = 44;

/**
 * Bars over names, with an axis of values, figures above the bars where they have room, and the words of each in the
 * line below on hover and by the arrow keys. `t` shows the same as a table. A dashed line across a bar is what it is
 * compared with.
 */
export function BarChart(props: {
  label: string;
  /** What the names are, as a heading of the table. */
  of: string;
  /** What the bars are compared with, as a heading of the table. */
  than?: string;
  bars: readonly Bar[];
  height?: number;
  /** A value in full, and short enough for the axis and above a bar. */
  show: (value: number) => string;
  short: (value: number) => string;
}) {
  const { bars, height = 140, show, short } = props;
  const [box, width] = useWidth();
  const [at, setAt] = useState<number | null>(null);
  const [asTable, setAsTable] = useState(false);
  const x = scaleBand(
    bars.map((bar) => bar.key),
    [LEFT, Math.max(LEFT + 1, width)],
  ).padding(0.22);
  const y = scaleLinear(
    [0, max(bars, (bar) => Math.max(bar.value, bar.against ?? 0)) || 1],
    [height - BOTTOM, TOP],
  ).nice(4);
  const named = at === null ? undefined : bars[at];
  const highest = bars.reduce((best, bar) => (bar.value > (best?.value ?? -1) ? bar : best), bars[0]);
  const summary = highest === undefined ? '' : `${bars.length} bars, highest ${highest.says}`;
  const onKey = (event: KeyboardEvent): void => {
    const to: Record<string, number> = {
      ArrowRight: (at ?? -1) + 1,
      ArrowLeft: (at ?? bars.length) - 1,
      Home: 0,
      End: bars.length - 1,
    };
    const next = to[event.key];
    if (next !== undefined) setAt(Math.max(0, Math.min(bars.length - 1, next)));
    else if (event.key === 't') setAsTable((old) => !old);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <figure ref={box} aria-label={props.label} onKeyDown={onKey} className="m-0">
      {asTable ? (
        <table aria-label={props.label} className="my-1 border-separate border-spacing-x-4 border-spacing-y-0.5">
          <thead>
            <tr className="text-left text-[12.5px] text-faded">
              <th scope="col">{props.of}</th>
              <th scope="col" className="text-right">
                {props.label}
              </th>
              {props.than && (
                <th scope="col" className="text-right">
                  {props.than}
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {bars.map((bar) => (
              <tr key={bar.key}>
                <th scope="row" className="text-left font-normal">
                  {bar.name}
                </th>
                <td className="text-right">{show(bar.value)}</td>
                {props.than && <td className="text-right">{show(bar.against ?? 0)}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        width > 0 && (
          <svg
            role="img"
            tabIndex={0}
            aria-label={`${props.label}: ${summary}. Arrow keys name each bar, t shows a table.`}
            width={width}
            height={height}
            className="block"
            onMouseLeave={() => setAt(null)}
            onBlur={() => setAt(null)}
          >
            <title>{props.label}</title>
            <desc>{bars.map((bar) => bar.says).join('; ')}</desc>
            <ValueAxis y={y} width={width} left={LEFT} ticks={4} show={short} />
            {bars.map((bar, place) => {
              const left = x(bar.key) ?? 0;
              return (
                <g key={bar.key} onMouseEnter={() => setAt(place)}>
                  <rect x={left} y={TOP} width={x.bandwidth()} height={height - BOTTOM - TOP} fill="transparent" />
                  <rect
                    x={left}
                    y={y(bar.value)}
                    width={x.bandwidth()}
                    height={y(0) - y(bar.value)}
                    fill="var(--stick)"
                    stroke={place === at ? 'var(--ink)' : 'var(--stick-edge)'}
                    strokeWidth={place === at ? 1.75 : 1}
                  />
                  {bar.against !== undefined && bar.against > 0 && (
                    <line
                      x1={left - 3}
                      x2={left + x.bandwidth() + 3}
                      y1={y(bar.against)}
                      y2={y(bar.against)}
                      stroke="var(--slate)"
                      strokeWidth={2}
                      strokeDasharray="5 2"
                    />
                  )}
                  {x.step() >= FIGURE && bar.value !== 0 && (
                    <text
                      x={left + x.bandwidth() / 2}
                      y={y(bar.value) - 4}
                      fontSize={11}
                      fill="var(--ink)"
                      textAnchor="middle"
                    >
                      {short(bar.value)}
                    </text>
                  )}
                </g>
              );
            })}
            <NameAxis x={x} names={new Map(bars.map((bar) => [bar.key, bar.name]))} y={height - 5} />
          </svg>
        )
      )}
      <figcaption className="flex min-h-6 items-center gap-3 text-[13px] text-faded">
        <span aria-live="polite">{named?.says ?? (asTable ? '' : summary)}</span>
        <Button look="quiet" className="ml-auto h-6 px-1.5 text-[13px]" onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As bars' : 'As a table'}
        </Button>
      </figcaption>
    </figure>
  );
}
