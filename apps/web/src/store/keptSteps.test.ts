import { expect, test } from '@jest/globals';
import { readPiece, type Piece } from '@anchorbeat/core';
import { keepSteps, keptSteps, NO_STEPS } from './keptSteps.ts';
import type { OpenPiece } from './pieceSlice.ts';

/** A window's storage with room for so many characters. */
function storageOf(room: number): Storage {
  const rows = new Map<string, string>();
  return {
    getItem: (key: string) => rows.get(key) ?? null,
    removeItem: (key: string) => void rows.delete(key),
    setItem: (key: string, value: string) => {
      if (value.length > room) throw new DOMException('full', 'QuotaExceededError');
      rows.set(key, value);
    },
  } as unknown as Storage;
}

function pieceOf(title: string, bars = 4): Piece {
  const reading = readPiece({
    format: 'anchorbeat-piece',
    version: 1,
    title,
    bars: Array.from({ length: bars }, (_, bar) => (bar ? {} : { meter: '7/8 as 2+2+3' })),
  });
  if (!reading.ok) throw new Error('not a piece');
  return reading.piece;
}

const open = (more: Partial<OpenPiece> = {}): OpenPiece => ({
  id: 'a',
  ensembleId: 'e',
  revision: 3,
  present: pieceOf('third'),
  past: ['first', 'second'].map((title) => ({ piece: pieceOf(title), says: `to ${title}` })),
  future: [{ piece: pieceOf('fourth'), says: 'to fourth' }],
  unsavedEdits: [],
  save: { kind: 'saved' },
  isKeptHere: true,
  ...more,
});

test('what can be undone and done again is there after a reload', () => {
  const storage = storageOf(1e6);
  keepSteps(open(), storage);
  const { past, future } = keptSteps('a', pieceOf('third'), storage);
  expect(past).toEqual(open().past);
  expect(future).toEqual(open().future);
});

test.each<[string, string, Piece]>([
  ['another piece', 'b', pieceOf('third')],
  ['a piece that was changed elsewhere meanwhile', 'a', pieceOf('third', 5)],
])('%s has no steps', (_name, id, present) => {
  const storage = storageOf(1e6);
  keepSteps(open(), storage);
  expect(keptSteps(id, present, storage)).toEqual(NO_STEPS);
});

test('what was kept before is gone where there is nothing to keep, and a full or broken storage harms nothing', () => {
  const storage = storageOf(1e6);
  keepSteps(open(), storage);
  keepSteps(open({ past: [], future: [] }), storage);
  expect(keptSteps('a', pieceOf('third'), storage)).toEqual(NO_STEPS);
  const full = storageOf(10);
  keepSteps(open(), full);
  expect(keptSteps('a', pieceOf('third'), full)).toEqual(NO_STEPS);
  const broken = { ...storageOf(1e6), getItem: () => '{"pieceId":' } as unknown as Storage;
  expect(keptSteps('a', pieceOf('third'), broken)).toEqual(NO_STEPS);
});

test('of many the nearest are kept', () => {
  const long = { ...pieceOf('long'), title: 'x'.repeat(150) };
  const past = Array.from({ length: 9000 }, (_, index) => ({ piece: long, says: String(index) }));
  const storage = storageOf(2_500_000);
  keepSteps(open({ past }), storage);
  const kept = keptSteps('a', pieceOf('third'), storage).past;
  expect(kept.length).toBeGreaterThan(1000);
  expect(kept.length).toBeLessThan(9000);
  expect(kept.at(-1)?.says).toBe('8999');
});
