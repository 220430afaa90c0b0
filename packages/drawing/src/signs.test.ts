import { expect, test } from '@jest/globals';
import { compilePiece, readPiece, systemGeometry } from '@anchorbeat/core';
import { NEAR_ROWS } from './lineRows.ts';
import { placeSigns } from './signs.ts';
import { meterWidth } from './signShapes.ts';

const METERS = [
  '4/4',
  '7/8 as 2+2+3',
  '15/16 as 4+4+4+3',
  '3/4+3/8',
  '5/8 as 3+2',
  '12/8',
  '(2+2+3)/8',
  '2/4',
];

test('from every distance no meter runs into the next, and none is drawn too small to read', () => {
  const bars = Array.from({ length: 40 }, (_, index) => ({ meter: METERS[(index * 5) % METERS.length] }));
  const reading = readPiece({
    format: 'anchorbeat-piece',
    version: 1,
    title: 'T',
    bars: [{ ...bars[0], tempo: [{ tempo: 'quarter = 120' }] }, ...bars.slice(1)],
  });
  if (!reading.ok) throw new Error(JSON.stringify(reading.problems));
  const compiled = compilePiece(reading.piece);
  for (const pixelsPerSecond of [12, 20, 32, 50, 75, 100, 300]) {
    const scale = { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 100 } as const;
    const system = { firstBar: 0, endBar: 40, widthPx: 0, shrink: 1 };
    const drawn = systemGeometry({ piece: reading.piece, compiled }, scale, system);
    const meters = placeSigns(reading.piece, drawn, NEAR_ROWS).filter(({ meterX }) => meterX !== null);
    meters.forEach(({ meterX, meterSize, barIndex }, index) => {
      const end = meterX! + meterWidth(reading.piece.bars[barIndex]!.meter, meterSize);
      expect(end).toBeLessThanOrEqual(meters[index + 1]?.meterX ?? Infinity);
      expect(meterSize).toBeGreaterThan(12);
    });
  }
});
