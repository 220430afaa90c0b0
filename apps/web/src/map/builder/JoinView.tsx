import { hopHeight, noteMilliseconds, type TempoJoin } from '@anchorbeat/core';
import { equivalenceShape, hopPath } from '@anchorbeat/drawing';
import { Shapes } from '../../line/Shapes.tsx';

const WIDTH = 560;
const BASE_Y = 86;
const BEATS = 3;
const SMALL_HOP_PX = 11;
const MIN_CARRY_PX = 6;

/** Old beats and new beats on one line, true to time, with the anchor between and the carry hopping through. */
export function JoinView({ join }: { readonly join: TempoJoin }) {
  const { old, next, carry } = join;
  const beatsSeconds = [
    noteMilliseconds(old, old.unit) / 1000,
    noteMilliseconds(next, next.unit) / 1000,
  ] as const;
  const scale = WIDTH / (BEATS * (beatsSeconds[0] + beatsSeconds[1]));
  const anchor = BEATS * beatsSeconds[0] * scale;
  const hops = beatsSeconds.flatMap((seconds, side) =>
    Array.from({ length: BEATS }, (_, beat) => ({
      xPx: (side === 0 ? 0 : anchor) + beat * seconds * scale,
      widthPx: seconds * scale,
      heightPx: hopHeight(Math.min(seconds, 1.3)),
    })),
  );
  const carryWidths = carry && [
    (noteMilliseconds(old, carry.before) / 1000) * scale,
    (noteMilliseconds(next, carry.after) / 1000) * scale,
  ];
  return (
    <svg
      viewBox={`-8 0 ${WIDTH + 16} 128`}
      className="w-full"
      role="img"
      aria-label="Old beats, the anchor, new beats, true to time"
    >
      <g transform={`translate(0 ${BASE_Y})`}>
        {hops.map((hop) => (
          <g key={hop.xPx}>
            <path d={`${hopPath(hop)}Z`} fill="var(--hop-fill)" />
            <path d={hopPath(hop)} fill="none" stroke="var(--ink)" strokeWidth={2} />
            <circle cx={hop.xPx} r={3.4} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.6} />
          </g>
        ))}
        {carryWidths && (
          <path
            d={carryPath(carryWidths[0] ?? 0, carryWidths[1] ?? 0, anchor)}
            fill="none"
            stroke="var(--carry)"
            strokeWidth={1.8}
          />
        )}
        <path d={`M0 0H${WIDTH}`} stroke="var(--ink)" strokeWidth={1.5} />
        <path d={`M${anchor} 0V22`} stroke="var(--seam)" strokeWidth={2} />
        <path d={`M${anchor - 8} 22h16l-3.5 13h-9Z`} fill="var(--seam)" />
        {carry && <Shapes shapes={[equivalenceShape(carry, { x: anchor + 14, y: 33, size: 14 })]} />}
      </g>
    </svg>
  );
}

/** Small hops of the carry, back and on from the anchor. */
function carryPath(before: number, after: number, anchor: number): string {
  const sides = [
    { step: before, from: anchor, to: 0 },
    { step: after, from: anchor, to: WIDTH },
  ];
  return sides
    .flatMap(({ step, from, to }) => {
      if (step < MIN_CARRY_PX) return [];
      const direction = Math.sign(to - from);
      return Array.from({ length: Math.floor(Math.abs(to - from) / step + 1e-9) }, (_, index) =>
        hopPath({
          xPx: direction > 0 ? from + index * step : from - (index + 1) * step,
          widthPx: step,
          heightPx: SMALL_HOP_PX,
        }),
      );
    })
    .join('');
}
