import { describe, expect, test } from '@jest/globals';
import { noteValueLength } from '../value/noteValue.ts';
import { parseNoteValue } from '../value/text.ts';
import { expectValue } from '../problem/problem.ts';
import { formatNumber } from '../fraction/text.ts';
import { bpmOf, rateAfterEquivalence, statedRate } from './tempoMark.ts';
import { formatStatedTempo, parseEquivalence, parseStatedTempo } from './text.ts';

describe('equivalences (timing.md, Tempo)', () => {
  test.each([
    ['quarter = 88', 'quarter = dotted quarter', 'dotted quarter', '88'],
    ['quarter = 88', 'quarter = dotted quarter', 'quarter', '132'],
    ['quarter = 88', 'eighth = eighth', 'dotted quarter', '58 2/3'],
    ['quarter = 72', 'triplet eighth = sixteenth', 'quarter', '54'],
    ['quarter = 100', 'quintuplet sixteenth = triplet eighth', 'quarter', '166 2/3'],
    ['quarter = 96', 'dotted quarter = half', 'half', '64'],
    ['dotted quarter = 66', 'dotted quarter = quarter', 'quarter', '66'],
    ['quarter = 84', 'eighth = sixteenth', 'quarter', '42'],
  ])('%s, then %s, makes %s = %s', (was, mark, unit, bpm) => {
    const rate = statedRate(expectValue(parseStatedTempo(was)));
    const after = rateAfterEquivalence(rate, expectValue(parseEquivalence(mark)));
    expect(after.isExact).toBe(true);
    expect(formatNumber(bpmOf(after.value, noteValueLength(expectValue(parseNoteValue(unit)))))).toBe(bpm);
  });
});

test.each([
  ['q. = 66', 'dotted quarter = 66'],
  ['quarter=58 2/3', 'quarter = 58 2/3'],
  ['e = 207.5', 'eighth = 207.5'],
  ['q = 100.123456', 'quarter = 100 1929/15625'],
])('%s is kept as %s', (text, kept) => {
  const tempo = expectValue(parseStatedTempo(text));
  expect(formatStatedTempo(tempo)).toBe(kept);
  expect(parseStatedTempo(kept)).toEqual({ ok: true, value: tempo });
});

test.each([
  ['q = -3', 'cannot be played'],
  ['q = 0', 'cannot be played'],
  ['q = 4000', 'cannot be played'],
  ['66', 'no beat unit'],
  ['q = fast', 'is not a number'],
  ['z = 66', 'is not a note value'],
  ['q = 1 = 2', 'more than one'],
])('%s is refused: %s', (text, reason) => {
  const result = parseStatedTempo(text);
  expect(result.ok || result.problem.message).toContain(reason);
});
