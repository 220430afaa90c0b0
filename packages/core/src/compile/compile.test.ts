import { describe, expect, test } from '@jest/globals';
import { applyEdit } from '../edit/applyEdit.ts';
import type { Edit } from '../edit/edit.ts';
import { ONE, ZERO } from '../fraction/fraction.ts';
import { parseMeter } from '../meter/text.ts';
import { writePiece } from '../document/writePiece.ts';
import type { Piece } from '../piece/piece.ts';
import { readPiece } from '../document/readPiece.ts';
import { MAX_ROUTE_RATIO } from '../route/route.ts';
import { routeWords } from '../route/words.ts';
import { expectValue } from '../problem/problem.ts';
import { parseRhythm } from '../rhythm/text.ts';
import { seamDetails } from '../seam/details.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { richPiece } from '../test/richPiece.ts';
import { slowPerformance } from '../test/slowPerformance.ts';
import { momentAt } from '../timeline/query.ts';
import { compileAfter, compilePiece } from './compile.ts';

const SEEDS = Array.from({ length: 60 }, (_, seed) => seed);

describe('any piece at all', () => {
  test.each(SEEDS)('%i compiles: bounded, in order, and as the slow twin has it', (seed) => {
    const piece = richPiece(seed, 24);
    const compiled = compilePiece(piece);
    const { route, barStartSeconds } = compiled.timeline;
    expect(route.barIndex.length).toBeLessThanOrEqual(MAX_ROUTE_RATIO * piece.bars.length);
    expect(routeWords(piece, route).length).toBeGreaterThan(0);
    const times = Array.from(compiled.clicks.timeSeconds);
    times.forEach((time, index) => expect(time).toBeGreaterThanOrEqual((times[index - 1] ?? 0) - 1e-9));
    const slow = slowPerformance(piece, route);
    const worst = Math.max(
      ...slow.map(
        (seconds, index) => Math.abs(seconds - (barStartSeconds[index] ?? NaN)) / Math.max(1, seconds),
      ),
    );
    expect(worst).toBeLessThan(1e-5);
    for (const seam of compiled.seams) {
      const { difficulty, traps } = seamDetails({ piece, compiled }, seam);
      expect(difficulty.every(({ points }) => Number.isFinite(points))).toBe(true);
      expect(traps.every((trap) => Number.isFinite(trap.lateMilliseconds))).toBe(true);
    }
    for (let index = 0; index < barStartSeconds.length - 1; index++) {
      expect(momentAt(compiled.timeline, barStartSeconds[index]! + 1e-9).performed).toBeGreaterThanOrEqual(
        index,
      );
    }
  });

  test.each(SEEDS)('%i reads back as it was written', (seed) => {
    const piece = richPiece(seed, 40);
    expect(readPiece(JSON.parse(JSON.stringify(writePiece(piece))))).toEqual({ ok: true, piece });
  });
});

test('every correction that is offered can be made, and leaves a sound piece', () => {
  let corrections = 0;
  for (const seed of SEEDS) {
    const piece = richPiece(seed, 30);
    for (const { correction } of compilePiece(piece).findings) {
      if (!correction) continue;
      const edited = applyEdit(piece, correction.edit);
      if (!edited.ok) continue;
      corrections++;
      expect(readPiece(JSON.parse(JSON.stringify(writePiece(edited.value.piece)))).ok).toBe(true);
    }
  }
  expect(corrections).toBeGreaterThan(100);
});

test('documents with anything in them are read or refused, never a crash', () => {
  const random = seededRandom(4);
  const junk = () => [null, -1, 'x', '7/8', [], {}, true, '9'.repeat(300), 1e300][Math.floor(random() * 9)];
  for (let trial = 0; trial < 1500; trial++) {
    const document = JSON.parse(JSON.stringify(writePiece(richPiece(trial % 20, 6)))) as {
      bars: Array<Record<string, unknown>>;
    };
    const bar = document.bars[Math.floor(random() * document.bars.length)]!;
    const names = [
      'meter',
      'label',
      'tempo',
      'holds',
      'endsRepeat',
      'ending',
      'jump',
      'pulse',
      'rhythm',
      'pickup',
      'answers',
    ];
    bar[names[Math.floor(random() * names.length)]!] =
      random() < 0.3 ? [{ at: junk(), length: junk(), tempo: junk() }] : junk();
    const reading = readPiece(document);
    if (reading.ok) compilePiece(reading.piece);
    else expect(reading.problems[0]?.field).toMatch(/^bars/);
  }
});

test('compiling after an edit is the same, to the last digit, as compiling anew', () => {
  const random = seededRandom(31);
  const below = (limit: number) => Math.floor(random() * limit);
  let local = 0;
  for (const seed of SEEDS) {
    let piece = richPiece(seed, 30);
    let compiled = compilePiece(piece);
    for (let step = 0; step < 7; step++) {
      const result = applyEdit(piece, smallEdit(below, piece.bars.length));
      if (!result.ok) continue;
      const before = { piece, compiled };
      piece = step % 2 === 0 ? result.value.piece : asFromAnotherThread(piece, result.value.piece);
      compiled = compileAfter(before, piece);
      if (compiled.timeline.route === before.compiled.timeline.route) local++;
      expect(compiled).toEqual(compilePiece(piece));
    }
  }
  expect(local).toBeGreaterThan(180);
});

/** The piece after an edit with the edited bars as a worker gets them: alike, but sharing nothing. */
function asFromAnotherThread(before: Piece, after: Piece): Piece {
  const bars = after.bars.map((bar, index) => (bar === before.bars[index] ? bar : structuredClone(bar)));
  return { ...after, bars };
}

function smallEdit(below: (limit: number) => number, bars: number): Edit {
  const bar = below(bars);
  const meters = ['7/8 as 2+2+3', '3/4', '15/16 as 4+4+4+3', '4/4'].map((text) =>
    expectValue(parseMeter(text)),
  );
  const meter = meters[below(4)] ?? meters[0]!;
  const edits: Edit[] = [
    { kind: 'setMeter', from: bar, count: 1, meter },
    { kind: 'setRhythm', bar, rhythm: below(2) ? expectValue(parseRhythm('q q q q')) : undefined },
    {
      kind: 'setHolds',
      bar,
      holds: below(2) ? [{ kind: 'hold', atWholes: ZERO, length: { kind: 'beats', beats: ONE } }] : [],
    },
    { kind: 'setPulse', from: bar, count: 1, pulse: { kind: 'in', beats: 1 } },
    { kind: 'answerFinding', bar, check: 'odd-bar', reason: 'meant' },
    { kind: 'setLabel', bar, label: '7' },
  ];
  return edits[below(edits.length)]!;
}
