import { describe, expect, test } from '@jest/globals';
import {
  landsTogether,
  seededRandom,
  systemGeometry,
  type BarDocument,
  type BarGeometry,
} from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { detailAt, NEAR_ROWS } from './lineRows.ts';
import { placeAnchors } from './placeAnchors.ts';
import { placeHolds } from './placeHolds.ts';
import type { TextShape } from './shapes/shape.ts';
import { systemShapes } from './shapes/systemShapes.ts';

/** A system of these bars from near: where the words of its holds stand, its weights with what carries over, and its end. */
function underLine(bars: readonly BarDocument[], pixelsPerSecond: number) {
  const proof = proofWith(...bars);
  const { piece, compiled } = proof;
  const scale = { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 100 } as const;
  const drawn = systemGeometry(proof, scale, { firstBar: 0, endBar: bars.length, widthPx: 0, shrink: 1 });
  const seams = new Map(compiled.seams.filter(landsTogether).map((seam) => [seam.performed, seam]));
  const seamOf = (bar: BarGeometry) => seams.get(bar.performed);
  const said = placeHolds(piece, drawn).flatMap(({ kind, words, x }) =>
    kind === 'hold' ? [{ words, x }] : [],
  );
  const texts = systemShapes({ piece, compiled, bars: drawn, seamOf, rows: NEAR_ROWS }).filter(
    (shape): shape is TextShape => shape.kind === 'text' && shape.tone === 'entry-text',
  );
  return {
    /** About what they cover, narrower than the letters may be. */
    words: texts.map(({ parts: [part], x, anchor }, index) => {
      const widthPx = part!.text.length * 5.5;
      const fromPx = anchor === 'end' ? x - widthPx : x;
      return { ...said[index]!, fromPx, toPx: fromPx + widthPx };
    }),
    anchors: placeAnchors(compiled, drawn, seamOf, NEAR_ROWS),
    beatPx: drawn.flatMap(({ hops }) => hops.map(({ widthPx }) => widthPx)),
  };
}

const start: BarDocument = { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] };

describe('the words of a hold', () => {
  const until = 'until cued';
  test.each<[string, readonly BarDocument[], number]>([
    ['after it', [start, { holds: [{ at: '1/4', length: until }] }, { meter: '7/8 as 2+2+3' }], 12],
    [
      'before the weight they would run over',
      [start, { holds: [{ at: '3/4', length: until }] }, { meter: '7/8' }],
      13,
    ],
    [
      'before their own weight',
      [start, { meter: '7/8 as 2+2+3', holds: [{ at: '0', length: until }] }, {}],
      -67,
    ],
  ])('stand %s', (_name, bars, fromPx) => {
    const { words, anchors } = underLine(bars, 80);
    const [one] = words;
    expect(Math.round(one!.fromPx - one!.x)).toBe(fromPx);
    expect(anchors).toHaveLength(1);
    expect(one!.toPx).toBeLessThan(anchors[0]!.fromPx);
  });

  test.each([
    [1, 0],
    [3, 0.02],
  ])(
    'with %d in a bar meet no weight, nothing that carries over and no others, but for %d of them',
    (most, share) => {
      const random = seededRandom(20_261_202);
      const below = (limit: number) => Math.floor(random() * limit);
      const places = (count: number) => ['0', '1/8', '1/4'].filter(() => below(2) === 0).slice(0, count);
      const held = (at: string) => ({ at, length: ['1 beat', '2 beats', until][below(3)]! });
      const METERS = ['2/4', '3/4', '4/4', '6/8', '7/8 as 2+2+3', '5/8 as 2+3'];
      let [seen, met] = [0, 0];
      for (let round = 0; round < 150; round++) {
        const bars = Array.from({ length: 10 }, (_, index): BarDocument => ({
          ...(index === 0 ? start : below(3) === 0 && { meter: METERS[below(METERS.length)]! }),
          ...(below(3) === 0 && { holds: places(most).map(held) }),
        }));
        const { words, anchors, beatPx } = underLine(bars, [90, 120, 160][round % 3]!);
        expect(detailAt(beatPx.reduce((sum, px) => sum + px) / beatPx.length)).toBe('near');
        words.forEach((one, index) => {
          seen++;
          const others = [...anchors, ...words.slice(index + 1)];
          if (others.some(({ fromPx, toPx }) => fromPx < one.toPx && toPx > one.fromPx)) met++;
        });
      }
      expect(seen).toBeGreaterThan(300);
      expect(met / seen).toBeLessThanOrEqual(share);
    },
  );
});
