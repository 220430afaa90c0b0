import { applyEdit, compilePiece, parseMeter, readPiece, systemsOf, writePiece } from '@anchorbeat/core';
import { show, timed } from './measure.mjs';

const METERS = ['4/4', '7/8 as 2+2+3', '5/8', '15/16 as 4+4+4+3', '3/4+3/8', '12/8'];

/** A piece of many meters, a tempo mark every 16 bars and an equivalence every 32. */
export function benchPiece(barCount) {
  const bars = Array.from({ length: barCount }, (_, index) => ({
    meter: METERS[index % METERS.length],
    ...(index % 16 === 0 && { tempo: [{ tempo: `quarter = ${80 + (index % 61)}` }] }),
    ...(index % 32 === 8 && { tempo: [{ equivalence: 'triplet eighth = sixteenth' }] }),
    ...(index % 24 === 0 && { rehearsalMark: String(index) }),
  }));
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Bench', bars });
  if (!reading.ok) throw new Error(reading.problems[0].message);
  return reading.piece;
}

export function benchCore() {
  // Each run gets bars it has not seen, so that nothing remembered about a bar helps.
  const fresh = (count) => {
    const pieces = Array.from({ length: 20 }, () => benchPiece(count));
    let next = 0;
    return timed(() => compilePiece(pieces[next++ % pieces.length]), { runs: 15, warmUp: 5 });
  };
  const small = fresh(500);
  const middle = fresh(2000);
  const large = fresh(8000);
  show('compile 500 bars, all of it new', small);
  show('compile 2,000 bars, all of it new', middle, 'wanted: under 20 ms');
  show('compile 8,000 bars, all of it new', large);
  console.log(
    `cost per bar, 8,000 bars against 500: ${(large.median / 8000 / (small.median / 500)).toFixed(2)}`,
  );

  const piece = benchPiece(2000);
  const meter = parseMeter('9/16').value;
  show(
    'edit one bar of 2,000 and compile again',
    timed(() =>
      compilePiece(applyEdit(piece, { kind: 'setMeter', from: 1000, count: 1, meter }).value.piece),
    ),
  );
  const document = JSON.parse(JSON.stringify(writePiece(piece)));
  show(
    'read and check a document of 2,000 bars',
    timed(() => readPiece(document)),
  );
  const compiled = compilePiece(piece);
  const scale = { trueTo: 'time', pixelsPerSecond: 100, pixelsPerWhole: 250 };
  show(
    'break 2,000 bars into systems',
    timed(() => systemsOf(piece, compiled, scale, 1150)),
  );
}
