import type { ScaleBand, ScaleLinear } from 'd3-scale';

/** The values at the left, a rule across the chart for each. */
export function ValueAxis(props: {
  y: ScaleLinear<number, number>;
  width: number;
  left: number;
  ticks: number;
  show: (value: number) => string;
}) {
  const { y, left } = props;
  return (
    <g aria-hidden>
      {y.ticks(props.ticks).map((tick) => (
        <g key={tick} transform={`translate(0,${y(tick)})`}>
          <line x1={left} x2={props.width} stroke="var(--rule)" strokeWidth={tick === 0 ? 1.25 : 0.75} />
          <text x={left - 6} dy="0.32em" fontSize={11} fill="var(--faded)" textAnchor="end">
            {props.show(tick)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** The names below, as many as have room; the first and every so many after it. */
export function NameAxis(props: { x: ScaleBand<string>; names: ReadonlyMap<string, string>; y: number }) {
  const { x, names } = props;
  const longest = Math.max(1, ...[...names.values()].map((name) => name.length));
  const every = Math.max(1, Math.ceil((longest * 6.5 + 8) / x.step()));
  return (
    <g aria-hidden>
      {x.domain().map((key, place) =>
        place % every === 0 ? (
          <text
            key={key}
            x={(x(key) ?? 0) + x.bandwidth() / 2}
            y={props.y}
            fontSize={11}
            fill="var(--faded)"
            textAnchor="middle"
          >
            {names.get(key)}
          </text>
        ) : null,
      )}
    </g>
  );
}
