import { describe, expect, test } from '@jest/globals';
import { countOffFor, systemGeometry, type Proof } from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { barPlaces, drawnRests, leadInHops, NEAR_ROWS } from './index.ts';
import { placeHolds } from './placeHolds.ts';
import { rampWedges, type RampWedge } from './rampWedges.ts';
import { holdShapes } from './shapes/spanShapes.ts';

const SCALE = { trueTo: 'time', pixelsPerSecond: 100, pixelsPerWhole: 100 } as const;

const drawn = (proof: Proof, firstBar = 0, endBar = proof.piece.bars.length) =>
  systemGeometry(proof, SCALE, { firstBar, endBar, widthPx: 0, shrink: 1 });

describe('wedges over ramps', () => {
  const wedges = ({ piece, compiled }: Proof, bars: ReturnType<typeof drawn>) =>
    rampWedges(piece, compiled, bars);
  const endsOf = ({ fromPx, toPx }: RampWedge): readonly [number, number] => [fromPx, toPx];
  const proof = proofWith(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
    { tempo: [{ ramp: 'even per beat to quarter = 120' }] },
    {},
    { tempo: [{ tempo: 'quarter = 120' }] },
  );

  test('one a bar of the ramp, none outside; each begins as thick as the one before ends', () => {
    const [first, second, ...more] = wedges(proof, drawn(proof)).map(endsOf);
    expect(more).toEqual([]);
    expect(first![0]).toBeCloseTo(1.5, 6);
    expect(first![1]).toBeCloseTo(second![0], 6);
    expect(second![1]).toBeCloseTo(7, 6);
  });

  test('a system that holds only the second bar of it goes on from where it was', () => {
    const all = wedges(proof, drawn(proof)).map(endsOf);
    expect(wedges(proof, drawn(proof, 2)).map(endsOf)).toEqual([all[1]]);
  });
});

test('a long rest is one hop, and as many as there are systems that it is broken over', () => {
  const proof = proofWith(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    ...Array.from({ length: 6 }, () => ({ rhythm: 'rw' })),
    {},
    {},
  );
  const whole = drawnRests(drawn(proof));
  expect(whole.map(({ firstBar, widthPx }) => [firstBar, Math.round(widthPx)])).toEqual([[1, 1200]]);
  const broken = [drawn(proof, 0, 3), drawn(proof, 3)].flatMap(drawnRests);
  expect(broken.map(({ firstBar, run }) => [firstBar, run.from, run.count])).toEqual([
    [1, 1, 6],
    [3, 1, 6],
  ]);
});

test('the count-off leads up to the entry, hop by hop, without a gap', () => {
  const { piece, compiled } = proofWith({ meter: '7/8 as 2+2+3', tempo: [{ tempo: 'eighth = 240' }] }, {});
  const hops = leadInHops(countOffFor(piece, compiled.timeline, 1), 100);
  expect(hops.length).toBeGreaterThan(2);
  hops.forEach(({ xPx, widthPx }, index) => expect(xPx + widthPx).toBeCloseTo(hops[index + 1]?.xPx ?? 0, 6));
  expect(hops[0]!.xPx).toBeLessThan(0);
  expect(leadInHops(null, 100)).toEqual([]);
});

test('a hold opens at the landing of its beat, a breath stands before the end of its bar', () => {
  const proof = proofWith({
    meter: '4/4',
    tempo: [{ tempo: 'quarter = 60' }],
    holds: [{ at: '3/4', length: 'until cued' }],
  });
  expect(placeHolds(proof.piece, drawn(proof))).toMatchObject([{ kind: 'hold', words: 'until cued' }]);
  expect(placeHolds(proof.piece, drawn(proof))[0]!.x).toBe(drawn(proof)[0]!.hops[3]!.xPx);
});

test('bars of a whole piece on one line stand true to time', () => {
  const proof = proofWith(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    { meter: '2/4' },
    { meter: '4/4' },
  );
  expect(barPlaces(proof, 500).map(Math.round)).toEqual([0, 200, 300]);
});

test('a hold’s words begin after it, and at the end of a system end with that', () => {
  const held = { holds: [{ at: '3/4', length: 'until cued' }] };
  const proof = proofWith({ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }, held, {}, held);
  const bars = drawn(proof);
  const said = holdShapes(proof.piece, bars, [], NEAR_ROWS).filter((shape) => shape.kind === 'text');
  const endPx = bars.at(-1)!.xPx + bars.at(-1)!.widthPx;
  expect(said.map(({ anchor }) => anchor)).toEqual([undefined, 'end']);
  expect(said[0]!.x).toBeGreaterThan(bars[1]!.xPx);
  expect(Math.abs(said[1]!.x - endPx)).toBeLessThan(16);
});
