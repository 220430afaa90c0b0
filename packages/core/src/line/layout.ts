import { toNumber } from '../fraction/fraction.ts';
import type { CompiledPiece } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import { barLength, type Bar } from '../piece/piece.ts';
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
  /** What is counted where it leaves the line. */
  readonly word: string;
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

/** Breaks the piece into systems of at most `widthPx`, as few as it needs, spread so that none is left with a bar or two. */
export function systemsOf(proof: Proof, scale: LineScale, widthPx: number): readonly LineSystem[] {
  return systemsOfWidths(barWidths(proof, scale), widthPx);
}

/** The same for bars of any widths. */
export function systemsOfWidths(widths: readonly number[], widthPx: number): readonly LineSystem[] {
  const { capacityPx } = evenFill(widths, widthPx);
  return filledSystems(widths, capacityPx).map((system) => ({
    ...system,
    shrink: Math.min(1, widthPx / system.widthPx),
  }));
}

/** How far from the wished scale one goes for fuller systems: first a little, then farther while they are ragged. */
const SCALE_RANGES: readonly number[] = [1.2, 1.5];
const SCALES_TRIED = 13;
/** Systems this full on average are full enough. */
const FULL_ENOUGH = 0.9;
/** What a scale e times the wished one costs, in shares of a full line. */
const DISTANCE_COST = 0.1;

/** The scale near a wished one at which the systems of the piece come out fullest; one scale for the whole piece. */
export function fullestScale(proof: Proof, wished: LineScale, widthPx: number): LineScale {
  return scaledBy(wished, fullestFactor(barWidths(proof, wished), widthPx));
}

/** By what bars of some widths are to be drawn larger, near to 1, so that their systems come out fullest. */
export function fullestFactor(widths: readonly number[], widthPx: number): number {
  let best = { capacityPx: widthPx, share: 0, worth: -Infinity };
  for (const range of SCALE_RANGES) {
    for (let step = 0; step < SCALES_TRIED; step++) {
      const fill = evenFill(widths, widthPx * range ** ((2 * step) / (SCALES_TRIED - 1) - 1));
      // A piece that fits on one line is not blown up without end.
      const capacityPx = Math.max(fill.capacityPx, widthPx / range);
      const worth = fill.share - DISTANCE_COST * Math.abs(Math.log(capacityPx / widthPx));
      if (worth > best.worth) best = { capacityPx, share: fill.share, worth };
    }
    if (best.share >= FULL_ENOUGH) break;
  }
  return widthPx / best.capacityPx;
}

/** Average width of the beats of the piece at a scale, in pixels: how near one is. */
export function meanBeatPx({ piece, compiled }: Proof, scale: LineScale): number {
  const beats = piece.bars.reduce((count, bar) => count + pulseOf(bar).length, 0);
  const total = barWidths({ piece, compiled }, scale).reduce((sum, width) => sum + width, 0);
  return total / Math.max(1, beats);
}

/** The least capacity that needs no more systems than the given one, and how full they then are on average. */
function evenFill(widths: readonly number[], capacityPx: number) {
  const fewest = filledSystems(widths, capacityPx).length;
  // A bar that is too wide for any system is shrunk to it: it does not decide.
  let [tooNarrow, wideEnough] = [Math.min(widest(widths), capacityPx), capacityPx];
  if (filledSystems(widths, tooNarrow).length === fewest) wideEnough = tooNarrow;
  while (wideEnough - tooNarrow > 0.5) {
    const middle = (tooNarrow + wideEnough) / 2;
    if (filledSystems(widths, middle).length > fewest) tooNarrow = middle;
    else wideEnough = middle;
  }
  const filled = filledSystems(widths, wideEnough);
  const used = filled.reduce((sum, system) => sum + Math.min(1, system.widthPx / wideEnough), 0);
  return { capacityPx: wideEnough, share: used / fewest };
}

/** All bars in systems filled one after another up to a width; each holds at least one bar. */
function filledSystems(widths: readonly number[], widthPx: number): LineSystem[] {
  const systems: LineSystem[] = [];
  for (let firstBar = 0; firstBar < widths.length;) {
    let used = widths[firstBar] ?? 0;
    let endBar = firstBar + 1;
    while (endBar < widths.length && used + (widths[endBar] ?? 0) <= widthPx) used += widths[endBar++] ?? 0;
    systems.push({ firstBar, endBar, widthPx: used, shrink: 1 });
    firstBar = endBar;
  }
  return systems;
}

function widest(widths: readonly number[]): number {
  return widths.reduce((most, width) => Math.max(most, width), 0);
}

function barWidths(proof: Proof, scale: LineScale): readonly number[] {
  return proof.piece.bars.map((_, barIndex) => barWidth(proof, scale, barIndex));
}

/** The bars of one system with their hops, from x = 0. */
export function systemGeometry(proof: Proof, scale: LineScale, system: LineSystem): readonly BarGeometry[] {
  const geometry: BarGeometry[] = [];
  let xPx = 0;
  for (let barIndex = system.firstBar; barIndex < system.endBar; barIndex++) {
    const drawn = { barIndex, performed: proof.compiled.firstPerformed[barIndex] ?? -1 };
    const bar = barGeometry(proof, scaledBy(scale, system.shrink), drawn, xPx);
    geometry.push(bar);
    xPx += bar.widthPx;
  }
  return geometry;
}

function scaledBy(scale: LineScale, factor: number): LineScale {
  if (factor === 1) return scale;
  return {
    ...scale,
    pixelsPerSecond: scale.pixelsPerSecond * factor,
    pixelsPerWhole: scale.pixelsPerWhole * factor,
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
  const flatter = Math.min(1, scale.pixelsPerSecond / FULL_HEIGHT_PIXELS_PER_SECOND);
  const hops = pulseOf(bar).map((beat, index) => {
    const [start, end] = [edges[index] as Edge, edges[index + 1] as Edge];
    return {
      xPx: xPx + start.xPx,
      widthPx: end.xPx - start.xPx,
      heightPx: restRun ? REST_HOP_PX : hopHeight(end.seconds - start.seconds) * flatter,
      stress: beat.stress,
      word: beat.word,
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
