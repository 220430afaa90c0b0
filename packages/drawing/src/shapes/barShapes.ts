import {
  barLength,
  noteValueLength,
  oddBarMaybe,
  placedNotes,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Hop,
  type Piece,
  type Proof,
  type Rhythm,
  type Seam,
} from '@anchorbeat/core';
import { hopPath } from '../hopPaths.ts';
import type { LineRows } from '../lineRows.ts';
import { DIGIT_PX, LABEL_INSET_PX, WEIGHT_HALF, type PlacedAnchor } from '../placeAnchors.ts';
import { equivalenceShape, rhythmShapes } from './noteShapes.ts';
import { circle } from './routeShapes.ts';
import { path, words, type Shape } from './shape.ts';

const MIN_LABEL_PX = 22;
const ODD_LETTER_PX = 7.1;
const NOTE_SIZE = 13;
const NOTE_ROOM_PX = 15;
const NOTE_INSET_PX = 9;

/** An odd bar is warm, and from near its difference is said in words. */
export function oddBarShapes(
  { piece, compiled }: Proof,
  bars: readonly BarGeometry[],
  rows: LineRows,
): readonly Shape[] {
  return bars.flatMap((bar) => {
    const odd = oddBarMaybe(piece, bar.barIndex);
    if (!odd) return [];
    const warm = path(bar.hops.map((hop) => `${hopPath(hop)}Z`).join(''), { fill: 'hop-odd' });
    const numberPx = LABEL_INSET_PX + (compiled.labels[bar.barIndex]?.length ?? 0) * DIGIT_PX + 4;
    if (rows.detail !== 'near' || bar.widthPx - numberPx <= odd.words.length * ODD_LETTER_PX) return [warm];
    const said = words(odd.words, bar.xPx + (numberPx + bar.widthPx) / 2, rows.labelY, {
      sizePx: 12.5,
      tone: 'seam',
      weight: 700,
      anchor: 'middle',
    });
    return [warm, said];
  });
}

/** A square landing is a downbeat, a filled ring a group, a ring a beat. */
export function landingShape(x: number, stress: Hop['stress'], isSmall: boolean): Shape {
  if (stress === 'downbeat') {
    const half = isSmall ? 3.4 : 4.5;
    return path(`M${x - half} ${-half}H${x + half}V${half}H${x - half}Z`, { fill: 'ink' });
  }
  const radius = (stress === 'group' ? 4.2 : 3.2) * (isSmall ? 0.8 : 1);
  return path(circle(x, 0, radius), { fill: 'ground', stroke: 'ink', strokePx: isSmall ? 1.3 : 1.6 });
}

/** The count of a beat under the line. */
export function countShape(word: string, isStrong: boolean, x: number, y: number): Shape {
  return words(word, x, y, {
    sizePx: 14,
    tone: isStrong ? 'ink' : 'quiet',
    weight: isStrong ? 800 : 500,
    face: 'display',
    anchor: 'middle',
  });
}

/** The barline of a bar, and its number. */
export function barlineShapes(
  { labels }: CompiledPiece,
  bar: BarGeometry,
  seam: Seam | undefined,
  rows: LineRows,
): readonly Shape[] {
  const label = labels[bar.barIndex];
  return [
    path(`M${bar.xPx} 0V${rows.barlineY}`, {
      stroke: seam ? 'ink' : 'quiet',
      strokePx: 1.2,
      opacity: seam ? 0.9 : 0.55,
    }),
    ...(label && (bar.widthPx >= MIN_LABEL_PX || seam)
      ? [
          words(label, bar.xPx + LABEL_INSET_PX, rows.labelY, {
            sizePx: rows.labelSize,
            tone: 'quiet',
            face: 'display',
          }),
        ]
      : []),
  ];
}

/** The notes of a bar inside its hops, where each has room. A bar of rests only shows that it rests. */
export function writtenNoteShapes(piece: Piece, bars: readonly BarGeometry[]): readonly Shape[] {
  return bars.flatMap((bar) => {
    const written = piece.bars[bar.barIndex];
    if (!written?.rhythm || bar.restRun) return [];
    const pixelsPerWhole = bar.widthPx / toNumber(barLength(written));
    if (!hasRoomForNotes(written.rhythm, pixelsPerWhole)) return [];
    const notes = placedNotes(written.rhythm).map(({ note, atWholes }) => ({
      note,
      x: bar.xPx + NOTE_INSET_PX + toNumber(atWholes) * pixelsPerWhole,
    }));
    return rhythmShapes(notes, { endX: bar.xPx + bar.widthPx, y: -12, size: NOTE_SIZE });
  });
}

/** Whether the notes of a bar have room when it is drawn so wide. */
function hasRoomForNotes(rhythm: Rhythm, pixelsPerWhole: number): boolean {
  return rhythm.every(({ value }) => toNumber(noteValueLength(value)) * pixelsPerWhole >= NOTE_ROOM_PX);
}

/** The weight under the line where everyone must land, and beside it what lasts equally long on both sides. */
export function anchorShapes(anchors: readonly PlacedAnchor[], rows: LineRows): readonly Shape[] {
  const { anchorTopY, anchorY, anchorSize, carryY, carrySize } = rows;
  return anchors.flatMap(({ xPx, carry }) => [
    path(`M${xPx} ${anchorTopY}V${anchorY}`, { stroke: 'seam', strokePx: 2 }),
    path(weight(xPx, anchorY, anchorSize), { fill: 'seam' }),
    ...(carry ? [equivalenceShape(carry.equivalence, { x: carry.xPx, y: carryY, size: carrySize })] : []),
  ]);
}

function weight(x: number, y: number, size: number): string {
  const half = size * WEIGHT_HALF;
  return `M${x - half} ${y}H${x + half}L${x + half * 0.6} ${y + size}H${x - half * 0.6}Z`;
}
