import { describe, expect, test } from '@jest/globals';
import { equal, fraction, sum } from '../fraction/fraction.ts';
import { formatFraction } from '../fraction/text.ts';
import { parseMeter } from '../meter/text.ts';
import { barLength, type Bar, type PartialBar } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { pulseOf } from './pulse.ts';

const bar = (meter: string, partial?: PartialBar): Bar => ({
  meter: expectValue(parseMeter(meter)),
  tempoMarks: [],
  ...(partial && { partial }),
});
const lengths = (of: Bar) =>
  pulseOf(of)
    .map((beat) => formatFraction(beat.lengthWholes))
    .join(' ');
const stresses = (of: Bar) =>
  pulseOf(of)
    .map((beat) => beat.stress[0])
    .join('');
const numerals = (of: Bar) =>
  pulseOf(of)
    .map(({ numeral, word }) => (word === String(numeral) ? word : `${numeral}${word}`))
    .join(' ');

describe('default pulse (timing.md, Beats)', () => {
  test.each([
    ['4/4', '1/4 1/4 1/4 1/4', 'dbbb'],
    ['2/2', '1/2 1/2', 'db'],
    ['3/8', '1/8 1/8 1/8', 'dbb'],
    ['6/8', '3/8 3/8', 'db'],
    ['9/8', '3/8 3/8 3/8', 'dbb'],
    ['12/16', '3/16 3/16 3/16 3/16', 'dbbb'],
    ['6/4', '1/4 1/4 1/4 1/4 1/4 1/4', 'dbbbbb'],
    ['7/8', '1/8 1/8 1/8 1/8 1/8 1/8 1/8', 'dbbbbbb'],
    ['(2+2+3)/8', '1/4 1/4 3/8', 'dgg'],
    ['7/8 as 3+2+2', '3/8 1/4 1/4', 'dgg'],
    ['15/16 as 4+4+4+3', '1/4 1/4 1/4 3/16', 'dggg'],
    ['8/8 as 3+3+2', '3/8 3/8 1/4', 'dgg'],
    ['5/4 as 3+2', '1/4 1/4 1/4 1/4 1/4', 'dbbgb'],
    ['3/4+3/8', '1/4 1/4 1/4 3/8', 'dbbg'],
    ['2/4+6/8', '1/4 1/4 3/8 3/8', 'dbgb'],
  ])('%s is beaten %s', (meter, beats, stress) => {
    expect(lengths(bar(meter))).toBe(beats);
    expect(stresses(bar(meter))).toBe(stress);
  });

  test('the beats of any bar sum to its length', () => {
    for (let count = 1; count <= 40; count++) {
      for (const unit of [1, 2, 3, 4, 8, 16, 32]) {
        for (let missing = 0; missing < count; missing++) {
          const lengthWholes = fraction(count - missing, unit);
          const keeps = missing % 2 ? 'start' : 'end';
          const odd = bar(`${count}/${unit}`, missing ? { keeps, lengthWholes } : undefined);
          expect(equal(sum(pulseOf(odd).map((beat) => beat.lengthWholes)), barLength(odd))).toBe(true);
        }
      }
    }
  });
});

describe('partial bars', () => {
  test.each([
    ['6/8', 'end', 1, 8, '1/8', 'b', '6'],
    ['6/8', 'end', 1, 2, '1/8 3/8', 'bb', '3 4'],
    ['4/4', 'end', 1, 4, '1/4', 'b', '4'],
    ['4/4', 'end', 3, 8, '1/8 1/4', 'bb', '3& 4'],
    ['4/4', 'end', 15, 16, '3/16 1/4 1/4 1/4', 'bbbb', '1e 2 3 4'],
    ['2/4', 'end', 1, 16, '1/16', 'b', '2a'],
    ['2/4', 'end', 1, 6, '1/6', 'b', '2&'],
    ['2/4', 'end', 1, 20, '1/20', 'b', '2'],
    ['6/8', 'end', 1, 16, '1/16', 'b', '6&'],
    ['3/4', 'end', 1, 2, '1/4 1/4', 'bb', '2 3'],
    ['(2+2+3)/8', 'end', 3, 8, '3/8', 'g', '3'],
    ['6/8', 'start', 5, 8, '3/8 1/4', 'db', '1 2'],
    ['3/4', 'start', 1, 2, '1/4 1/4', 'db', '1 2'],
  ] as const)('%s keeping its %s %i/%i', (meter, keeps, n, d, beats, stress, counted) => {
    const partial = bar(meter, { keeps, lengthWholes: fraction(n, d) });
    expect([lengths(partial), stresses(partial), numerals(partial)]).toEqual([beats, stress, counted]);
  });
});

test.each([
  ['4/4', [2, 2, 2, 2]],
  ['6/8', [3, 3]],
  ['15/16 as 4+4+4+3', [4, 4, 4, 3]],
  ['7/8', [2, 2, 2, 2, 2, 2, 2]],
])('subdivisions of %s', (meter, parts) => {
  expect(pulseOf(bar(meter)).map((beat) => beat.parts)).toEqual(parts);
});
