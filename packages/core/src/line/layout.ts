import { toNumber } from '../fraction/fraction.ts';
import type { CompiledPiece } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import { barLength, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf, type Stress } from '../pulse/pulse.ts';
import { restRunMaybe, type RestRun } from '../section/sections.ts';
import { secondsAt } from '../timeline/query.ts';

/** True to time: width is seconds. True to ink: width is written length. */
export type TrueTo = 'time' | 'ink';

export interface LineScale {
  readonly trueTo: TrueTo;
  readonly pixelsPerSecond: number;
  readonly pixelsPerWhole: number;
}

/** Bars `firstBar` to `endBar` (exclusive) drawn on one line. `shrink` is below 1 where one bar alone is too wide. */
export interface LineSystem {
  readonly firstBar: number;
  readonly endBar: number;
  readonly widthPx: number;
  readonly shrink: number;
}

/** One hop: it leaves the line at `xPx` and lands at `xPx + widthPx`. */
export interface Hop {
  readonly xPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly stress: Stress;
  readonly numeral: number;
  readonly parts: number;
}

export interface BarGeometry {
  readonly barIndex: number;
  /** The performed bar that is drawn: on the map the first time through, −1 where it is never heard. */
  readonly performed: number;
  readonly xPx: number;
  readonly widthPx: number;
  readonly hops: readonly Hop[];
  /** The long rest that the bar is part of: drawn as one low hop, its beats only as ripples. */
  readonly restRun: RestRun | null;
}

const MIN_HOP_PX = 9;
const HOP_BASE_PX = 10;
const HOP_GROWTH_PX = 46;
const HOP_CAP_PX = 72;
/** From farther away than this hops flatten, so that they keep their shape. */
const FULL_HEIGHT_PIXELS_PER_SECOND = 90;
/** A beat of a long rest is a ripple on the line. */
const REST_HOP_PX = 7;
/** Written lengths get the height they would have at a quarter of this many seconds. */
const INK_SECONDS_PER_WHOLE = 2.4;

/** Height ≈ a + b·(duration)^1.25, capped: longer beats are thrown higher. */
export function hopHeight(seconds: number): number {
  return Math.min(HOP_BASE_PX + HOP_GROWTH_PX * seconds ** 1.25, HOP_CAP_PX);
}

/**
 * Breaks the piece into systems of at most `widthPx`; a rehearsal mark begins a new one. Between two marks
 * the bars are spread evenly over as few systems as they need, so that none is left with a bar or two.
 */
export function systemsOf(proof: Proof, scale: LineScale, widthPx: number): readonly LineSystem[] {
  const { piece } = proof;
  const widths = piece.bars.map((_, barIndex) => barWidth(proof, scale, barIndex));
  const systems: LineSystem[] = [];
  for (let from = 0; from < widths.length;) {
    const to = nextMarkedBar(piece, from);
    const fewest = filledSystems(widths, from, to, widthPx).length;
    let [tooNarrow, wideEnough] = [0, widthPx];
    while (fewest > 1 && wideEnough - tooNarrow > 1) {
      const middle = (tooNarrow + wideEnough) / 2;
      if (filledSystems(widths, from, to, middle).length > fewest) tooNarrow = middle;
      else wideEnough = middle;
    }
    for (const system of filledSystems(widths, from, to, wideEnough)) {
      systems.push({ ...system, shrink: Math.min(1, widthPx / system.widthPx) });
    }
    from = to;
  }
  return systems;
}

function nextMarkedBar({ bars }: Piece, from: number): number {
  for (let index = from + 1; index < bars.length; index++) {
    if (bars[index]?.rehearsalMark !== undefined) return index;
  }
  return bars.length;
}

/** Bars `from` to `to` in systems filled one after another up to a width; each holds at least one bar. */
function filledSystems(widths: readonly number[], from: number, to: number, widthPx: number): LineSystem[] {
  const systems: LineSystem[] = [];
  for (let firstBar = from; firstBar < to;) {
    let used = widths[firstBar] ?? 0;
    let endBar = firstBar + 1;
    while (endBar < to && used + (widths[endBar] ?? 0) <= widthPx) used += widths[endBar++] ?? 0;
    systems.push({ firstBar, endBar, widthPx: used, shrink: 1 });
    firstBar = endBar;
  }
  return systems;
}

/** The bars of one system with their hops, from x = 0. */
export function systemGeometry(proof: Proof, scale: LineScale, system: LineSystem): readonly BarGeometry[] {
  const geometry: BarGeometry[] = [];
  let xPx = 0;
  for (let barIndex = system.firstBar; barIndex < system.endBar; barIndex++) {
    const drawn = { barIndex, performed: proof.compiled.firstPerformed[barIndex] ?? -1 };
    const bar = barGeometry(proof, shrunk(scale, system.shrink), drawn, xPx);
    geometry.push(bar);
    xPx += bar.widthPx;
  }
  return geometry;
}

function shrunk(scale: LineScale, shrink: number): LineScale {
  if (shrink === 1) return scale;
  return {
    ...scale,
    pixelsPerSecond: scale.pixelsPerSecond * shrink,
    pixelsPerWhole: scale.pixelsPerWhole * shrink,
  };
}

interface Edge {
  readonly xPx: number;
  readonly seconds: number;
}

interface DrawnBar {
  readonly barIndex: number;
  readonly performed: number;
}

function barGeometry(
  proof: Proof,
  scale: LineScale,
  { barIndex, performed }: DrawnBar,
  xPx: number,
): BarGeometry {
  const { piece, compiled } = proof;
  const bar = piece.bars[barIndex] as Bar;
  const edges = beatEdges(bar, compiled, scale, performed);
  const restRun = restRunMaybe(piece, barIndex);
  const flatter = Math.min(1, Math.sqrt(scale.pixelsPerSecond / FULL_HEIGHT_PIXELS_PER_SECOND));
  const hops = pulseOf(bar).map((beat, index) => {
    const [start, end] = [edges[index] as Edge, edges[index + 1] as Edge];
    return {
      xPx: xPx + start.xPx,
      widthPx: end.xPx - start.xPx,
      heightPx: restRun ? REST_HOP_PX : hopHeight(end.seconds - start.seconds) * flatter,
      stress: beat.stress,
      numeral: beat.numeral,
      parts: beat.parts,
    };
  });
  const widthPx = (edges.at(-1) as Edge).xPx;
  const isCrowded = hops.some((hop) => hop.widthPx < MIN_HOP_PX);
  return {
    barIndex,
    performed,
    xPx,
    widthPx,
    hops: isCrowded ? [wholeBarHop(hops, xPx, widthPx)] : hops,
    restRun,
  };
}

/** The bars as performed, from one on, as many as begin within a width; at least one. */
export function performedGeometry(
  proof: Proof,
  scale: LineScale,
  { performed: first, widthPx }: { readonly performed: number; readonly widthPx: number },
): readonly BarGeometry[] {
  const { barIndex } = proof.compiled.timeline.route;
  const geometry: BarGeometry[] = [];
  let xPx = 0;
  for (
    let performed = first;
    performed < barIndex.length && (xPx < widthPx || performed === first);
    performed++
  ) {
    const bar = barGeometry(proof, scale, { barIndex: barIndex[performed] ?? 0, performed }, xPx);
    geometry.push(bar);
    xPx += bar.widthPx;
  }
  return geometry;
}

/** A bar as a single hop, for drawings too small for its beats; its height still tells its length. */
export function asOneHop(bar: BarGeometry, heightPx: number): BarGeometry {
  return { ...bar, hops: [{ ...wholeBarHop(bar.hops, bar.xPx, bar.widthPx), heightPx }] };
}

function wholeBarHop(hops: readonly Hop[], xPx: number, widthPx: number): Hop {
  const first = hops[0] as Hop;
  return { ...first, xPx, widthPx, heightPx: Math.max(...hops.map((hop) => hop.heightPx)), parts: 1 };
}

/** Where each beat starts, and the end of the bar: in pixels from the barline, and in seconds for the height. */
function beatEdges(bar: Bar, compiled: CompiledPiece, scale: LineScale, performed: number): Edge[] {
  const offsets = [...pulseOf(bar).map((beat) => beat.atWholes), barLength(bar)];
  if (scale.trueTo === 'ink') {
    return offsets.map((at) => ({
      xPx: toNumber(at) * scale.pixelsPerWhole,
      seconds: toNumber(at) * INK_SECONDS_PER_WHOLE,
    }));
  }
  const seconds = performed < 0 ? offsets.map(toNumber) : secondsInBar(compiled, performed, offsets);
  return seconds.map((value) => ({ xPx: value * scale.pixelsPerSecond, seconds: value }));
}

function secondsInBar(
  { timeline }: CompiledPiece,
  performed: number,
  offsets: ReadonlyArray<{ readonly n: number; readonly d: number }>,
): number[] {
  const start = timeline.barStartSeconds[performed] ?? 0;
  const end = timeline.barStartSeconds[performed + 1] ?? start;
  return offsets.map((atWholes, index) =>
    index === offsets.length - 1 ? end - start : secondsAt(timeline, { performed, atWholes }) - start,
  );
}

function barWidth({ piece, compiled }: Proof, scale: LineScale, barIndex: number): number {
  if (scale.trueTo === 'ink') return toNumber(barLength(piece.bars[barIndex] as Bar)) * scale.pixelsPerWhole;
  const performed = compiled.firstPerformed[barIndex] ?? -1;
  if (performed < 0) return toNumber(barLength(piece.bars[barIndex] as Bar)) * scale.pixelsPerSecond;
  const { barStartSeconds } = compiled.timeline;
  return ((barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0)) * scale.pixelsPerSecond;
}
