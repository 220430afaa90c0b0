import { expect, test } from '@jest/globals';
import { seededRandom, systemGeometry, type BarDocument, type Proof } from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { NEAR_ROWS, pageRows } from './lineRows.ts';
import type { PathShape, Shape, TextShape } from './shapes/shape.ts';
import { systemShapes } from './shapes/systemShapes.ts';
import { roomAbove } from './systemRows.ts';

const random = seededRandom(20_261_201);
const below = (limit: number) => Math.floor(random() * limit);
const some = <T>(one: T, inSoMany: number): T | undefined => (below(inSoMany) === 0 ? one : undefined);

const METERS = ['2/4', '3/4', '4/4', '3/8', '5/8', '7/8 as 2+2+3', '3/4+3/8'];
const MARKS: readonly NonNullable<BarDocument['tempo']>[number][] = [
  { term: 'Brighter, and quickly', tempo: 'quarter = 120' },
  { tempo: 'quarter = 90' },
  { term: 'rit.', ramp: 'to quarter = 50' },
  { at: '1/8', term: 'accel.', ramp: 'to quarter = 140' },
  { at: '1/4', term: 'Held back', tempo: 'dotted quarter = 60' },
];

/** Bars with all that may stand above them, at random. */
function crowdedProof(): Proof {
  const bars = Array.from({ length: 14 }, (_, index): BarDocument => {
    const mark = MARKS[below(MARKS.length)]!;
    return Object.fromEntries(
      Object.entries({
        meter: index === 0 ? '4/4' : some(METERS[below(METERS.length)], 2),
        rehearsalMark: some(String.fromCharCode(65 + index), 4),
        tempo: index === 0 ? [{ tempo: 'quarter = 72' }] : some([mark], 2),
        ending: index === 8 ? '1' : index === 9 ? '2' : undefined,
        startsRepeat: index === 3 ? true : undefined,
        endsRepeat: index === 8 ? 2 : index === 5 ? 'until cued' : undefined,
        segno: index === 1 ? true : undefined,
        toCoda: index === 6 ? true : undefined,
        jump: index === 11 ? 'D.S. al coda' : undefined,
        coda: index === 12 ? true : undefined,
      }).filter(([, value]) => value !== undefined),
    );
  });
  return proofWith(...bars);
}

interface Rect {
  readonly says: string;
  readonly fromX: number;
  readonly toX: number;
  readonly topY: number;
  readonly bottomY: number;
}

/** About what a text covers: narrower and lower than any of its letters may be. */
function textRect({ parts, x, y, sizePx, anchor }: TextShape): Rect {
  const says = parts.map(({ text }) => text).join('');
  const widthPx = parts.reduce((total, part) => total + part.text.length * (part.sizePx ?? sizePx) * 0.34, 0);
  const fromX = anchor === 'end' ? x - widthPx : anchor === 'middle' ? x - widthPx / 2 : x;
  // The figures of a meter stand about their line, letters and notes on it.
  const under = /^[\uE080-\uE08F]/.test(says) ? sizePx * 0.23 : 0;
  return { says, fromX, toX: fromX + widthPx, topY: y - (under || sizePx * 0.6), bottomY: y + under };
}

/** The pieces of a path, each with what it covers. */
function pathRects({ d }: PathShape): readonly Rect[] {
  return d.split(/(?=M)/).map((piece) => {
    const xs: number[] = [];
    const ys: number[] = [];
    for (const [, command, numbers] of piece.matchAll(/([MLHVQ])([^MLHVQZ]*)/g)) {
      const values = (numbers!.match(/-?[\d.]+(?:e-?\d+)?/g) ?? []).map(Number);
      if (command === 'H') xs.push(...values);
      else if (command === 'V') ys.push(...values);
      else values.forEach((value, index) => (index % 2 === 0 ? xs : ys).push(value));
    }
    return {
      says: piece,
      fromX: Math.min(...xs) + 0.5,
      toX: Math.max(...xs) - 0.5,
      topY: Math.min(...ys),
      bottomY: Math.max(...ys),
    };
  });
}

/** How far the number of an ending may stand out of its bracket, over a narrow bar. */
const NUMBER_OUT_PX = 4;

/** What stands above the barlines. A box goes with the letters in it, a bracket with its number. */
function above(shapes: readonly Shape[], barlineY: number): readonly Rect[] {
  const texts = shapes
    .filter((shape) => shape.kind === 'text')
    .map(textRect)
    .filter((rect) => rect.bottomY < barlineY + 3);
  const paths = shapes
    .filter((shape) => shape.kind === 'path')
    .flatMap(pathRects)
    .filter((rect) => rect.bottomY < barlineY + 3 && rect.toX > rect.fromX);
  const isAround = (box: Rect, text: Rect) =>
    text.fromX >= box.fromX &&
    text.toX <= box.toX + NUMBER_OUT_PX &&
    text.topY >= box.topY - 1 &&
    text.bottomY <= box.bottomY + 2;
  return [...texts, ...paths.filter((box) => !texts.some((text) => isAround(box, text)))];
}

const meet = (a: Rect, b: Rect) =>
  a.fromX < b.toX && b.fromX < a.toX && a.topY < b.bottomY && b.topY < a.bottomY;

test('however much stands above the bars, from every distance nothing stands on anything else, and all has room', () => {
  let [seen, upper] = [0, 0];
  for (let round = 0; round < 80; round++) {
    const proof = crowdedProof();
    const pixelsPerSecond = [30, 45, 70, 110, 180][round % 5]!;
    const scale = { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 100 } as const;
    const bars = systemGeometry(proof, scale, { firstBar: 0, endBar: 14, widthPx: 0, shrink: 1 });
    for (const rows of [NEAR_ROWS, pageRows('page', 40), pageRows('far', 24)]) {
      const rects = above(systemShapes({ ...proof, bars, rows, seamOf: () => undefined }), rows.barlineY);
      const roomPx = roomAbove(proof, bars, rows);
      rects.forEach((rect, index) => {
        expect(rect.topY).toBeGreaterThanOrEqual(-roomPx);
        if (rect.topY < rows.upperY) upper++;
        for (const other of rects.slice(index + 1)) {
          seen++;
          if (meet(rect, other))
            throw new Error(`round ${round}, ${rows.detail}: ${rect.says} | ${other.says}`);
        }
      });
    }
  }
  expect(seen).toBeGreaterThan(5000);
  expect(upper).toBeGreaterThan(250);
});
