import { scaleLinear } from 'd3-scale';
import { curveLinearClosed, line } from 'd3-shape';
import { useState } from 'react';
import { layTally } from '@tallystick/core/tally';
import type { Notch, TallyGift, TallyKind } from '@tallystick/core/tally';
import { counted } from '@tallystick/core/words';
import { useFormats, useHere } from '../organization.tsx';

const HALF = 26;
const GAP = 5;
const DEPTH = 15;
const LEFT = 2;

/**
 * A supporter's giving as a notched stick in two halves: above what was given, below what was answered. The
 * arrow keys step through the notches, Enter opens the gift.
 */
export function TallyStick(props: {
  gifts: readonly TallyGift[];
  width: number;
  onOpen?: (id: number, kind: TallyKind) => void;
  fit?: boolean;
}) {
  const { organization } = useHere();
  const { money, date } = useFormats();
  const [at, setAt] = useState<number | null>(null);
  const { width } = props;
  const tally = layTally(
    props.gifts,
    organization.today,
    organization.fiscalYearStart,
    width - 2 * LEFT,
    props.fit ? organization : null,
  );
  const x = scaleLinear([0, width - 2 * LEFT], [LEFT, width - LEFT]);
  const unanswered = tally.notches.filter((notch) => !notch.answered).length;
  const named = at === null ? undefined : tally.notches[at];
  const describe = (notch: Notch): string =>
    `${money(notch.cents)} on ${date(notch.date)}, ${sayOf(notch, money, date)}`;
  const of = (kind: TallyKind): number => tally.notches.filter((notch) => (notch.kind ?? 'gift') === kind).length;
  const summary = [
    `${counted(of('gift'), 'gift')}, ${unanswered === 0 ? 'all thanked' : `${unanswered} not thanked yet`}`,
    of('pledge') > 0 ? counted(of('pledge'), 'pledge') : '',
    of('credit') > 0 ? counted(of('credit'), 'soft credit') : '',
  ]
    .filter(Boolean)
    .join('; ');
  const below = HALF + GAP;

  const step = (by: number): void =>
    setAt((old) =>
      Math.max(
        0,
        Math.min(tally.notches.length - 1, old === null ? (by > 0 ? 0 : tally.notches.length - 1) : old + by),
      ),
    );

  return (
    <figure className="select-none">
      <svg
        role="img"
        aria-label={`Tally: ${summary}. ${named ? describe(named) : 'Arrow keys name each gift.'}`}
        tabIndex={0}
        width={width}
        height={2 * HALF + GAP + 18}
        className="block rounded"
        onKeyDown={(event) => {
          if (event.key === 'ArrowRight') step(1);
          else if (event.key === 'ArrowLeft') step(-1);
          else if (event.key === 'Enter' && named) props.onOpen?.(named.id, named.kind ?? 'gift');
          else return;
          event.preventDefault();
        }}
        onBlur={() => setAt(null)}
        onMouseLeave={() => setAt(null)}
      >
        <title>{summary}</title>
        {[0, below].map((top) => (
          <rect
            key={top}
            x={0.5}
            y={top + 0.5}
            width={width - 1}
            height={HALF - 1}
            rx={3}
            fill="var(--stick)"
            stroke="var(--stick-edge)"
          />
        ))}
        {tally.rules.map((year) => (
          <g key={year.label}>
            {year.x > 1 && (
              <line
                x1={x(year.x)}
                x2={x(year.x)}
                y1={1}
                y2={below + HALF - 1}
                stroke="var(--stick-edge)"
                strokeOpacity={0.45}
                strokeWidth={0.75}
              />
            )}
            <text x={x(year.x) + 3} y={below + HALF + 13} fontSize={11} fill="var(--faded)">
              {year.label}
            </text>
          </g>
        ))}
        {tally.notches.map((notch, index) => (
          <g
            key={`${notch.kind ?? 'gift'}${notch.id}`}
            data-gift={notch.id}
            onMouseEnter={() => setAt(index)}
            onClick={() => props.onOpen?.(notch.id, notch.kind ?? 'gift')}
            className="cursor-pointer"
          >
            <Upper notch={notch} x={x(notch.x)} active={index === at} />
            {notch.answered && (notch.kind ?? 'gift') === 'gift' && (
              <Cut x={x(notch.x)} width={notch.width} edge={below} direction={1} active={index === at} />
            )}
            {!notch.answered && (
              <line
                x1={x(notch.x)}
                x2={x(notch.x) + notch.width}
                y1={below + 5}
                y2={below + 5}
                stroke="var(--madder)"
                strokeWidth={2}
              />
            )}
            <rect x={x(notch.x) - 1} y={0} width={notch.width + 2} height={2 * HALF + GAP} fill="transparent" />
          </g>
        ))}
      </svg>
      <figcaption className="mt-0.5 min-h-5 text-[13px] text-faded" aria-live="polite">
        {named ? describe(named) : tally.notches.length === 0 ? 'No gift yet: the stick is uncut.' : summary}
      </figcaption>
    </figure>
  );
}

function sayOf(notch: Notch, money: (cents: number) => string, date: (day: string) => string): string {
  if (notch.kind === 'credit') return 'recognized for another’s gift';
  if (notch.kind === 'pledge')
    return `pledged, ${money(notch.paid ?? 0)} paid${notch.writtenOff ? `, ${money(notch.writtenOff)} written off` : ''}`;
  return notch.acknowledgedOn === null ? 'not thanked yet' : `thanked ${date(notch.acknowledgedOn)}`;
}

/** What was given, promised or recognised: a cut, an outline that fills, a nick from the outer edge. */
function Upper({ notch, x, active }: { notch: Notch; x: number; active: boolean }) {
  const { width } = notch;
  if (notch.kind === 'credit') return <Cut x={x} width={width} edge={0} direction={1} active={active} depth={7} />;
  if (notch.kind !== 'pledge') return <Cut x={x} width={width} edge={HALF} direction={-1} active={active} />;
  const top = HALF - DEPTH;
  return (
    <g>
      <rect x={x} y={HALF - DEPTH * notch.filled} width={width} height={DEPTH * notch.filled} fill="var(--paper)" />
      <rect
        x={x}
        y={top}
        width={width}
        height={DEPTH}
        fill="none"
        stroke={active ? 'var(--ink)' : 'var(--paper)'}
        strokeWidth={1.25}
      />
      {notch.struck > 0 && (
        <line
          x1={x - 1}
          x2={x + width + 1}
          y1={top + DEPTH * notch.struck}
          y2={top}
          stroke="var(--madder)"
          strokeWidth={1.5}
        />
      )}
    </g>
  );
}

const outline = line().curve(curveLinearClosed);

/** One notch, cut from the edge where the halves meet: a little narrower at its depth than at the edge. */
function Cut(props: { x: number; width: number; edge: number; direction: 1 | -1; active: boolean; depth?: number }) {
  const { x, width, edge, direction, depth = DEPTH } = props;
  const deep = edge + direction * depth;
  const taper = Math.min(1.5, width / 4);
  return (
    <path
      d={
        outline([
          [x, edge],
          [x + taper, deep],
          [x + width - taper, deep],
          [x + width, edge],
        ]) ?? ''
      }
      fill={props.active ? 'var(--ink)' : 'var(--paper)'}
      stroke="var(--stick-edge)"
      strokeWidth={0.75}
    />
  );
}
