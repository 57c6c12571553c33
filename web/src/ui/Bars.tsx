import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';

/** A row of bars with their names below: D3 for the scales, the figures in words for who cannot see them. */
export function Bars(props: {
  label: string;
  width: number;
  height?: number;
  bars: readonly { key: string; name: string; value: number; says: string }[];
}) {
  const { bars, width, height = 92 } = props;
  const x = scaleBand(
    bars.map((bar) => bar.key),
    [0, width],
  ).padding(0.18);
  const y = scaleLinear([0, max(bars, (bar) => bar.value) || 1], [0, height - 18]);
  return (
    <svg
      role="img"
      aria-label={`${props.label}: ${bars.map((bar) => bar.says).join('; ')}`}
      width={width}
      height={height}
    >
      {bars.map((bar) => (
        <g key={bar.key}>
          <title>{bar.says}</title>
          <rect
            x={x(bar.key) ?? 0}
            y={height - 16 - y(bar.value)}
            width={x.bandwidth()}
            height={y(bar.value)}
            fill="var(--stick)"
            stroke="var(--stick-edge)"
          />
          <text
            x={(x(bar.key) ?? 0) + x.bandwidth() / 2}
            y={height - 3}
            fontSize={11}
            fill="var(--faded)"
            textAnchor="middle"
          >
            {bar.name}
          </text>
        </g>
      ))}
    </svg>
  );
}
