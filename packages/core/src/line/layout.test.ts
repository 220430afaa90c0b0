import { describe, expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { barStart } from '../timeline/query.ts';
import { fullestScale, systemGeometry, systemsOf, type LineScale } from './layout.ts';

const time: LineScale = { trueTo: 'time', pixelsPerSecond: 80, pixelsPerWhole: 200 };
const ink: LineScale = { ...time, trueTo: 'ink' };

describe('the line', () => {
  test.each([1, 2, 3])('holds every bar once, in systems that fit the page (random piece %i)', (seed) => {
    const piece = randomPiece(seed, 70);
    const compiled = compilePiece(piece);
    const systems = systemsOf({ piece, compiled }, time, 700);
    const bars = systems.flatMap((system) =>
      systemGeometry({ piece, compiled }, time, system).map((bar) => bar.barIndex),
    );
    expect(bars).toEqual(piece.bars.map((_, index) => index));
    for (const system of systems) {
      const geometry = systemGeometry({ piece, compiled }, time, system);
      const end = geometry.at(-1)!;
      expect(end.xPx + end.widthPx).toBeLessThanOrEqual(700.001);
    }
  });

  test('near a wished scale one is found at which the systems are full, and it stays near', () => {
    const shares: number[] = [];
    for (let seed = 1; seed <= 12; seed++) {
      const piece = randomPiece(seed, 60);
      const proof = { piece, compiled: compilePiece(piece) };
      for (const widthPx of [340, 700, 1140, 1780]) {
        for (const pixelsPerSecond of [20, 50]) {
          const wished = { ...time, pixelsPerSecond };
          const scale = fullestScale(proof, wished, widthPx);
          expect(Math.abs(Math.log(scale.pixelsPerSecond / pixelsPerSecond))).toBeLessThan(
            Math.log(1.5) + 0.01,
          );
          const systems = systemsOf(proof, scale, widthPx);
          const filled = systems.map((system) => Math.min(1, system.widthPx / widthPx));
          shares.push(filled.reduce((sum, share) => sum + share, 0) / systems.length);
          expect(Math.max(...systems.map((system) => system.widthPx * system.shrink))).toBeLessThan(
            widthPx + 0.6,
          );
        }
      }
    }
    const mean = shares.reduce((sum, share) => sum + share, 0) / shares.length;
    expect(mean).toBeGreaterThan(0.85);
  });

  test('true to time a hop is as wide as its seconds; true to ink as its note', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
      { tempo: [{ tempo: 'quarter = 120' }] },
    );
    const compiled = compilePiece(piece);
    const widths = (scale: LineScale) =>
      systemsOf({ piece, compiled }, scale, 5000).flatMap((system) =>
        systemGeometry({ piece, compiled }, scale, system).map((bar) => bar.hops[0]?.widthPx),
      );
    expect(widths(time)).toEqual([80, 40]);
    expect(widths(ink)).toEqual([50, 50]);
  });

  test('a changed notation that keeps the pulse looks unchanged', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 88' }] },
      { meter: '12/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
    );
    const compiled = compilePiece(piece);
    const [before, after] = systemGeometry(
      { piece, compiled },
      time,
      systemsOf({ piece, compiled }, time, 5000)[0]!,
    );
    before?.hops.forEach((hop, index) => {
      expect(after?.hops[index]?.widthPx).toBeCloseTo(hop.widthPx, 9);
      expect(after?.hops[index]?.heightPx).toBeCloseTo(hop.heightPx, 9);
    });
  });

  test('from far away a bar becomes one hop, and a bar wider than the page is shrunk to it', () => {
    const piece = pieceOf({ meter: '16/16', tempo: [{ tempo: 'quarter = 100' }] }, { meter: '64/1' });
    const compiled = compilePiece(piece);
    const systems = systemsOf({ piece, compiled }, { ...time, pixelsPerSecond: 20 }, 400);
    const [first] = systemGeometry({ piece, compiled }, { ...time, pixelsPerSecond: 20 }, systems[0]!);
    expect(first?.hops).toHaveLength(1);
    expect(systems[1]?.shrink).toBeCloseTo(
      400 / ((barStart(compiled.timeline, 2) - barStart(compiled.timeline, 1)) * 20),
      9,
    );
  });
});
