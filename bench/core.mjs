import { serialize } from 'node:v8';
import {
  applyEdit,
  compileAfter,
  compilePiece,
  parseMeter,
  readPiece,
  systemsOf,
  writePiece,
} from '@anchorbeat/core';
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

const RHYTHMS = { '4/4': 'q e e q. e', '5/8': 'q e e e', '12/8': 'q. q. e e e q.', '3/4+3/8': 'q q q e e e' };

/** Everything at once: each 20 bars played three times, a ramp in each, rhythms, holds. About three performed bars a written one. */
export function fullPiece(barCount) {
  const bars = Array.from({ length: barCount }, (_, index) => {
    const meter = METERS[Math.floor(index / 3) % METERS.length];
    const place = index % 20;
    return {
      meter,
      ...(place === 0 && { startsRepeat: true, tempo: [{ tempo: `quarter = ${80 + (index % 61)}` }] }),
      ...(place === 8 && { tempo: [{ ramp: 'even per beat to half as fast' }] }),
      ...(place === 12 && { tempo: [{ returns: 'a tempo' }] }),
      ...(place === 15 && { tempo: [{ equivalence: 'triplet eighth = sixteenth' }] }),
      ...(place === 18 && { holds: [{ length: '2 beats' }] }),
      ...(place === 19 && { endsRepeat: 3 }),
      ...(place === 10 && { rehearsalMark: String(index) }),
      ...(RHYTHMS[meter] && { rhythm: RHYTHMS[meter] }),
    };
  });
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Full', bars });
  if (!reading.ok) throw new Error(reading.problems[0].message);
  return reading.piece;
}

/** One compile after another, each of a piece that nothing is remembered about. */
function timedFresh(make, count) {
  const pieces = Array.from({ length: 20 }, () => make(count));
  let next = 0;
  return timed(() => compilePiece(pieces[next++ % pieces.length]));
}

export function benchCore() {
  const small = timedFresh(benchPiece, 500);
  const middle = timedFresh(benchPiece, 2000);
  const large = timedFresh(benchPiece, 8000);
  show('compile 500 bars, all of it new', small);
  show('compile 2,000 bars, all of it new', middle, 'wanted: under 20 ms');
  show('compile 8,000 bars, all of it new', large);
  console.log(
    `cost per bar, 8,000 bars against 500: ${(large.median / 8000 / (small.median / 500)).toFixed(2)}`,
  );

  const sizes = [500, 2000, 8000];
  const full = sizes.map((count) => timedFresh(fullPiece, count));
  const performed = compilePiece(fullPiece(2000)).timeline.route.barIndex.length;
  show('full compile, 500 bars: repeats, ramps, rhythms, checks', full[0]);
  show(`full compile, 2,000 bars (${performed} performed)`, full[1], 'wanted: under 60 ms');
  show('full compile, 8,000 bars', full[2]);
  console.log(
    `cost per bar, 8,000 bars against 500: ${(full[2].median / 8000 / (full[0].median / 500)).toFixed(2)}`,
  );
  console.log(
    `bytes per bar, 8,000 bars against 500: ${(compiledBytes(8000) / 8000 / (compiledBytes(500) / 500)).toFixed(2)}`,
  );
  benchEdits();

  const piece = benchPiece(2000);
  const document = JSON.parse(JSON.stringify(writePiece(piece)));
  show(
    'read and check a document of 2,000 bars',
    timed(() => readPiece(document)),
  );
  const compiled = compilePiece(piece);
  const scale = { trueTo: 'time', pixelsPerSecond: 100, pixelsPerWhole: 250 };
  show(
    'break 2,000 bars into systems',
    timed(() => systemsOf({ piece, compiled }, scale, 1150)),
  );
}

/** One bar after another is edited, and the piece compiled again after what was compiled before. */
function benchEdits() {
  const meter = parseMeter('9/16').value;
  let piece = fullPiece(2000);
  let compiled = compilePiece(piece);
  let bar = 3;
  const edited = timed(() => {
    do bar = (bar + 397) % 2000;
    while (bar % 20 < 2 || bar % 20 > 6);
    const before = { piece, compiled };
    piece = applyEdit(piece, { kind: 'setMeter', from: bar, count: 1, meter }).value.piece;
    compiled = compileAfter(before, piece);
  });
  show('edit one bar of 2,000 and compile after it', edited, 'wanted: under 10 ms');
}

/** Bytes that a compile leaves behind, by structured clone: what a worker would hand over. */
function compiledBytes(count) {
  return serialize(compilePiece(fullPiece(count))).byteLength;
}
