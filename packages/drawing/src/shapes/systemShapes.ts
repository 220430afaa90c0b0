import { oddBarMaybe, type BarGeometry, type CompiledPiece, type Piece, type Seam } from '@anchorbeat/core';
import { placeAbove, type AboveLine } from '../aboveLine.ts';
import { hopPathsOf } from '../hopPaths.ts';
import type { LineRows } from '../lineRows.ts';
import { placeAnchors } from '../placeAnchors.ts';
import { wedgePath } from '../rampWedges.ts';
import type { PlacedMark } from '../signs.ts';
import {
  anchorShapes,
  barlineShapes,
  countShape,
  landingShape,
  oddBarShapes,
  writtenNoteShapes,
} from './barShapes.ts';
import { meterShapes, tempoMarkShape } from './noteShapes.ts';
import { routeShapes } from './routeShapes.ts';
import { holdShapes, longRestShapes } from './spanShapes.ts';
import { path, words, type Shape } from './shape.ts';

const MIN_NUMERAL_PX = 13;

/** A word of a count, at its share of the bar, from 0 to 1. */
export interface PlacedCount {
  readonly word: string;
  readonly share: number;
  readonly isStrong: boolean;
}

export interface SystemDrawing {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
  /** The seam that leads into a drawn bar. */
  readonly seamOf: (bar: BarGeometry) => Seam | undefined;
  readonly rows: LineRows;
  /** Bars whose beats are counted although they are not seen from near. */
  readonly isCounted?: (bar: BarGeometry) => boolean;
  /** What is counted in a bar instead of the numbers of its beats. */
  readonly countOf?: (bar: BarGeometry) => readonly PlacedCount[];
}

/** One system of the line: hops, landings, counts, labels, signs, anchors and carries, standing on y = 0. */
export function systemShapes(drawing: SystemDrawing): readonly Shape[] {
  const { piece, compiled, bars, seamOf, rows } = drawing;
  const isNear = rows.detail === 'near';
  const lastBar = bars.at(-1);
  const widthPx = lastBar ? lastBar.xPx + lastBar.widthPx : 0;
  const paths = hopPathsOf(bars);
  const above = placeAbove(drawing);
  const anchors = placeAnchors(compiled, bars, seamOf, rows);
  const wedges = above.wedges.map(({ wedge, y }) => wedgePath(wedge, y)).join('');
  return [
    ...oddBarShapes(drawing, bars, rows),
    path(paths.fill, { fill: 'hop-fill' }),
    ...(isNear ? [path(paths.subdivisions, { stroke: 'quiet', strokePx: 1, opacity: 0.7 })] : []),
    path(paths.beats, { stroke: 'ink', strokePx: isNear ? 1.6 : 1.2 }),
    path(paths.downbeats, { stroke: 'ink', strokePx: isNear ? 2.6 : 2.1 }),
    path(`M0 0H${widthPx}`, { stroke: 'ink', strokePx: 1.5 }),
    ...longRestShapes(bars, !isNear),
    ...bars.flatMap((bar) => barShapes(drawing, bar, seamOf(bar))),
    landingShape(widthPx, 'downbeat', !isNear),
    ...signShapesOf(drawing, above),
    ...(isNear ? writtenNoteShapes(piece, bars) : []),
    ...anchorShapes(anchors, rows),
    ...(wedges ? [path(wedges, { fill: 'ink', opacity: 0.75 })] : []),
    ...routeShapes(piece, bars, rows, above),
    ...holdShapes(piece, bars, anchors, rows),
  ].filter((shape) => shape.kind === 'text' || shape.d !== '');
}

/** Barline, landings, counts and number of one bar. Inside a long rest a barline is a short tick. */
function barShapes(drawing: SystemDrawing, bar: BarGeometry, seam: Seam | undefined): readonly Shape[] {
  const { compiled, rows } = drawing;
  const isNear = rows.detail === 'near';
  if (bar.restRun && bar.restRun.from !== bar.barIndex && !seam)
    return [path(`M${bar.xPx} -5V5`, { stroke: 'quiet', strokePx: 1.2 })];
  const [post, ...number] = barlineShapes(compiled, bar, seam, rows);
  const hops = bar.restRun ? bar.hops.slice(0, 1) : bar.hops;
  return [
    ...(post ? [post] : []),
    ...hops.map((hop) => landingShape(hop.xPx, hop.stress, !isNear)),
    ...countShapes(drawing, bar),
    ...number,
  ];
}

function countShapes({ rows, isCounted, countOf }: SystemDrawing, bar: BarGeometry): readonly Shape[] {
  if (countOf)
    return countOf(bar).map(({ word, share, isStrong }) =>
      countShape(word, isStrong, bar.xPx + share * bar.widthPx, rows.countY),
    );
  const isNear = rows.detail === 'near';
  if (!isNear && !isCounted?.(bar)) return [];
  const hops = bar.restRun ? bar.hops.slice(0, 1) : bar.hops;
  return hops
    .filter(({ widthPx }) => widthPx >= MIN_NUMERAL_PX)
    .map(({ xPx, widthPx, word, stress }) =>
      countShape(word, stress !== 'beat', isNear ? xPx : xPx + widthPx / 2, rows.countY),
    );
}

/** Rehearsal marks, meters and tempo marks. */
function signShapesOf({ piece, rows }: SystemDrawing, { signs, tempos }: AboveLine): readonly Shape[] {
  const besides = signs.flatMap(({ barIndex, meterX, meterSize, mark }) => {
    const bar = piece.bars[barIndex];
    const tone = oddBarMaybe(piece, barIndex) ? 'seam' : 'ink';
    return [
      ...(mark ? rehearsalMark(mark, rows) : []),
      ...(bar && meterX !== null
        ? meterShapes(bar.meter, { x: meterX, y: rows.signY, size: meterSize }, tone)
        : []),
    ];
  });
  return [
    ...besides,
    ...tempos.map(({ mark, x, y }) => tempoMarkShape(mark, { x, y, size: rows.tempoSize })),
  ];
}

const CORNER_PX = 3;

/** Its letters in a dark box as high as the meter beside it. */
function rehearsalMark(
  { text, x, widthPx, fontSize }: PlacedMark,
  { signY, signSize }: LineRows,
): readonly Shape[] {
  const half = signSize * 0.4;
  const [left, right, top, bottom, c] = [x, x + widthPx, signY - half, signY + half, CORNER_PX];
  const box = `M${left + c} ${top}H${right - c}Q${right} ${top} ${right} ${top + c}V${bottom - c}Q${right} ${bottom} ${right - c} ${bottom}H${left + c}Q${left} ${bottom} ${left} ${bottom - c}V${top + c}Q${left} ${top} ${left + c} ${top}Z`;
  return [
    path(box, { fill: 'ink' }),
    words(text, x + widthPx / 2, signY + fontSize * 0.36, {
      sizePx: fontSize,
      tone: 'ground',
      weight: 800,
      face: 'display',
      anchor: 'middle',
    }),
  ];
}
