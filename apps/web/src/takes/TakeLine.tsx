import {
  anchorIntoMaybe,
  pulseOf,
  toNumber,
  type BarGeometry,
  type Proof,
  type TakeOnset,
  type TakeRecord,
} from '@anchorbeat/core';
import { BarsDrawing } from '../line/BarsDrawing.tsx';

const BARS_BEFORE = 2;
const BARS_AFTER = 3;
/** Where there is less room than this, a bar less is shown on either side. */
const NARROW_PX = 640;
const PLAYED_Y = 84;
const HEIGHT_PX = 96;
const MOST_ARC_PX = 34;
/** Nearer than this to where it should be nobody is told. */
const LEAST_TOLD_MS = 30;

interface TakeLineProps {
  readonly proof: Proof;
  readonly take: TakeRecord;
  /** Which onset is looked at: the first from an anchor on. */
  readonly atOnset: number;
  /** Of the printed tempo: what it was played at. */
  readonly percent: number;
}

/**
 * What was asked for, on the line, and what was played, hanging under it: each hop from one onset to the next, as wide as it
 * lasted. A line goes from where an onset should have fallen to where it fell: early to the left, late to the right.
 */
export function TakeLine({ proof, take, atOnset, percent }: TakeLineProps) {
  const shown = onsetsAround(take.onsets, atOnset);
  const from = shown[0]?.performed ?? 0;
  const to = (shown.at(-1)?.performed ?? from) + 1;
  const told = toldFromMs(take);
  const seams = proof.compiled.seams;
  return (
    <BarsDrawing
      proof={proof}
      from={from}
      to={to}
      seamOf={(bar) => anchorIntoMaybe(seams, bar.performed) ?? undefined}
      beneath={{
        heightPx: HEIGHT_PX,
        draw: (bars, pixelsPerSecond) => (
          <PlayedHops
            onsets={placed(proof, bars, shown, (pixelsPerSecond * percent) / 100 / 1000)}
            toldMs={told}
            widthPx={(bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0)}
          />
        ),
      }}
    />
  );
}

/** From here on an onset, or a bar, is told as off. */
export function toldFromMs({ spreadMs }: Pick<TakeRecord, 'spreadMs'>): number {
  return Math.max(LEAST_TOLD_MS, 2 * spreadMs);
}

/** The onsets of a few bars around one, of the same passing: a loop that comes round is another. */
function onsetsAround(onsets: readonly TakeOnset[], atOnset: number): readonly TakeOnset[] {
  const fewer = window.innerWidth < NARROW_PX ? 1 : 0;
  const at = onsets[atOnset];
  if (!at) return [];
  const isNext = (a: TakeOnset | undefined, b: TakeOnset | undefined) =>
    a && b && (b.performed === a.performed ? b.atWholes > a.atWholes : b.performed === a.performed + 1);
  let [from, to] = [atOnset, atOnset + 1];
  while (
    isNext(onsets[from - 1], onsets[from]) &&
    (onsets[from - 1]?.performed ?? 0) >= at.performed - (BARS_BEFORE - fewer)
  )
    from--;
  while (
    isNext(onsets[to - 1], onsets[to]) &&
    (onsets[to]?.performed ?? 0) < at.performed + BARS_AFTER - fewer
  )
    to++;
  return onsets.slice(from, to);
}

interface PlacedOnset {
  readonly askedX: number;
  /** Null where it was left out. */
  readonly playedX: number | null;
  readonly offMs: number | null;
}

function placed(
  proof: Proof,
  bars: readonly BarGeometry[],
  onsets: readonly TakeOnset[],
  pixelsPerMs: number,
): readonly PlacedOnset[] {
  return onsets.flatMap(({ performed, atWholes, offMs }) => {
    const bar = bars.find((candidate) => candidate.performed === performed);
    const written = bar && proof.piece.bars[bar.barIndex];
    if (!bar || !written) return [];
    const pulse = pulseOf(written);
    const index = Math.max(
      0,
      pulse.findLastIndex((beat) => toNumber(beat.atWholes) <= atWholes + 1e-6),
    );
    const [hop, beat] = [bar.hops[index], pulse[index]];
    if (!hop || !beat) return [];
    const share = (atWholes - toNumber(beat.atWholes)) / toNumber(beat.lengthWholes);
    const askedX = hop.xPx + share * hop.widthPx;
    return [{ askedX, playedX: offMs === null ? null : askedX + offMs * pixelsPerMs, offMs }];
  });
}

interface PlayedHopsProps {
  readonly onsets: readonly PlacedOnset[];
  readonly toldMs: number;
  readonly widthPx: number;
}

function PlayedHops({ onsets, toldMs, widthPx }: PlayedHopsProps) {
  const played = onsets.filter(({ playedX }) => playedX !== null);
  const isTold = ({ offMs }: PlacedOnset) => Math.abs(offMs ?? 0) >= toldMs;
  return (
    <g data-testid="played">
      <path d={`M0 ${PLAYED_Y}H${widthPx}`} stroke="var(--quiet)" strokeWidth={1} strokeDasharray="2 4" />
      {played.slice(1).map((onset, index) => (
        <path
          key={index}
          d={arc(played[index]?.playedX ?? 0, onset.playedX ?? 0)}
          fill="none"
          stroke={isTold(onset) ? 'var(--seam)' : 'var(--carry)'}
          strokeWidth={1.8}
        />
      ))}
      {onsets.map((onset, index) => (
        <Onset
          key={index}
          onset={onset}
          isTold={isTold(onset)}
          isShort={isTold(onsets[index - 1] ?? onset) && index % 2 === 1}
        />
      ))}
    </g>
  );
}

/** A hop hanging under the line, as deep as it is wide up to a point. */
function arc(from: number, to: number): string {
  const depth = Math.min(MOST_ARC_PX, Math.abs(to - from) * 0.7);
  return `M${from} ${PLAYED_Y}C${from} ${PLAYED_Y + depth} ${to} ${PLAYED_Y + depth} ${to} ${PLAYED_Y}`;
}

interface OnsetProps {
  readonly onset: PlacedOnset;
  readonly isTold: boolean;
  /** Every other one of neighbours is only drawn: their figures would run into each other. */
  readonly isShort: boolean;
}

function Onset({ onset: { askedX, playedX, offMs }, isTold, isShort }: OnsetProps) {
  if (playedX === null || offMs === null)
    return (
      <circle
        cx={askedX}
        cy={PLAYED_Y}
        r={4.5}
        fill="var(--ground)"
        stroke="var(--quiet)"
        strokeDasharray="2 2"
      />
    );
  const colour = isTold ? 'var(--seam)' : 'var(--carry)';
  return (
    <g>
      <path
        d={`M${askedX} ${PLAYED_Y - 26}L${playedX} ${PLAYED_Y}`}
        stroke={colour}
        strokeWidth={isTold ? 2 : 1.2}
      />
      <circle cx={playedX} cy={PLAYED_Y} r={isTold ? 5.5 : 4} fill={colour} />
      {isTold && !isShort && (
        <text
          x={playedX}
          y={PLAYED_Y + MOST_ARC_PX + 12}
          textAnchor="middle"
          fontSize={14}
          fontWeight={700}
          fill={colour}
          fontFamily="var(--font-display)"
        >
          {offMs > 0 ? '+' : '−'}
          {Math.abs(Math.round(offMs))}
        </text>
      )}
    </g>
  );
}
