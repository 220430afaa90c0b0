import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { toNumber } from '../fraction/fraction.ts';
import { auditionOf } from '../run/audition.ts';
import { expectValue } from '../problem/problem.ts';
import { noteValueLength } from '../value/noteValue.ts';
import { parseNoteValue } from '../value/text.ts';
import { tappedTempoMaybe } from '../tempo/tapped.ts';
import { statedRate } from '../tempo/tempoMark.ts';
import { formatEquivalence, formatStatedTempo, parseEquivalence, parseStatedTempo } from '../tempo/text.ts';
import { equivalencesBetween, noteMilliseconds, tempoAfter, tempoBefore } from './triangle.ts';

const tempo = (text: string) => expectValue(parseStatedTempo(text));
const equivalence = (text: string) => expectValue(parseEquivalence(text));

describe('any two of old tempo, new tempo and equivalence give the third', () => {
  test.each([
    ['quarter = 96', 'eighth = eighth', 'dotted quarter = 64'],
    ['quarter = 72', 'quarter = dotted quarter', 'dotted quarter = 72'],
    ['quarter = 60', 'triplet eighth = sixteenth', 'quarter = 45'],
    ['dotted quarter = 66', 'dotted quarter = half', 'half = 66'],
    ['quarter = 100', 'quintuplet sixteenth = sixteenth', 'quarter = 125'],
    ['half = 88', 'quarter = half', 'quarter = 352'],
  ])('%s, %s: %s', (old, between, next) => {
    const [from, to, mark] = [tempo(old), tempo(next), equivalence(between)];
    expect(formatStatedTempo(tempoAfter(from, mark, to.unit))).toBe(next);
    expect(formatStatedTempo(tempoBefore(to, mark, from.unit))).toBe(old);
    const [found] = equivalencesBetween(from, to);
    expect(found?.missRatio).toBe(0);
    expect(formatStatedTempo(found!.exact)).toBe(next);
  });

  test('a printed tempo that misses is told with the exact one', () => {
    const [found] = equivalencesBetween(tempo('quarter = 96'), tempo('dotted quarter = 63'));
    expect(formatEquivalence(found!)).toBe('quarter = quarter');
    expect(formatStatedTempo(found!.exact)).toBe('dotted quarter = 64');
    expect(found!.missRatio).toBeCloseTo(63 / 64 - 1, 12);
  });

  test('what is offered lasts equally long on both sides, within what it says it misses by', () => {
    const bpm = fc.integer({ min: 40, max: 179 });
    fc.assert(
      fc.property(
        fc.constantFrom('q', 'q.'),
        bpm,
        fc.constantFrom('h', 'e'),
        bpm,
        (from, slow, to, quick) => {
          const [old, next] = [tempo(`${from} = ${slow}`), tempo(`${to} = ${quick}`)];
          for (const { before, after, missRatio } of equivalencesBetween(old, next)) {
            const secondsBefore = toNumber(noteValueLength(before)) / toNumber(statedRate(old));
            const secondsAfter = toNumber(noteValueLength(after)) / toNumber(statedRate(next));
            expect(secondsBefore / secondsAfter - 1).toBeCloseTo(missRatio, 10);
            expect(Math.abs(missRatio)).toBeLessThan(0.065);
          }
        },
      ),
      { numRuns: 200, seed: 4 },
    );
  });

  test('a note of a tempo in milliseconds', () => {
    expect(noteMilliseconds(tempo('q. = 60'), expectValue(parseNoteValue('e')))).toBeCloseTo(1000 / 3, 10);
  });
});

test('what is heard of a join: the carry runs even through it, between the beats', () => {
  const old = tempo('quarter = 120');
  const carry = equivalence('eighth = eighth');
  const sounds = auditionOf({ old, carry, next: tempoAfter(old, carry, tempo('q. = 1').unit) });
  const around = sounds.clicksIn({ fromSeconds: 1, toSeconds: 3.5 });
  const expected = [1, 1.25, 1.5, 1.75, 2, 2.25, 2.5, 2.75, 3, 3.25];
  around.forEach(({ timeSeconds }, index) => expect(timeSeconds).toBeCloseTo(expected[index]!, 10));
  expect(around.map(({ kind }) => kind[0]).join('')).toBe('bsbsdssbss');
  expect(sounds.lengthSeconds).toBeCloseTo(2 + 4 * 0.75, 10);
});

describe('a tapped tempo', () => {
  test('one early tap moves it less than the last interval alone would', () => {
    const taps = [0, 500, 1000, 1500, 2000, 2470];
    const tapped = tappedTempoMaybe(taps)!;
    expect(tapped.bpm).toBeGreaterThan(120);
    expect(tapped.bpm).toBeLessThan(122);
    expect(tapped.unevenMilliseconds).toBeGreaterThan(1);
  });

  test('even taps give their tempo; a pause begins anew; one tap says nothing', () => {
    expect(tappedTempoMaybe([0, 400, 5000, 5600, 6200])).toEqual({
      bpm: 100,
      taps: 3,
      unevenMilliseconds: 0,
    });
    expect(tappedTempoMaybe([0, 400, 5000])).toBeNull();
    expect(tappedTempoMaybe([])).toBeNull();
  });
});
