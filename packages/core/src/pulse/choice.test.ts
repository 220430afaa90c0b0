import { describe, expect, test } from '@jest/globals';
import { formatFraction } from '../fraction/text.ts';
import { parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { beatNumbers } from './choice.ts';
import { pulseOf } from './pulse.ts';

const meter = (text: string) => expectValue(parseMeter(text));

describe('a bar beaten as the director chooses', () => {
  test.each([
    ['6/8', 'in 6', '1/8 1/8 1/8 1/8 1/8 1/8'],
    ['6/8', 'in 3', '1/4 1/4 1/4'],
    ['12/8', 'in two', '3/4 3/4'],
    ['4/4', 'in 2', '1/2 1/2'],
    ['4/4', 'in 1', '1'],
    ['7/8 as 2+2+3', 'in 7', '1/8 1/8 1/8 1/8 1/8 1/8 1/8'],
    ['7/8 as 2+2+3', 'in 2', '1/2 3/8'],
    ['5/4 as 3+2', 'in 2', '3/4 1/2'],
    ['7/8', 'q q e.', '1/4 1/4 3/16'],
    ['7/8', 'q q q.', '1/4 1/4 3/8'],
  ])('%s %s', (text, pulse, expected) => {
    const read = () => pulseOf(pieceOf({ meter: text, pulse }).bars[0]!);
    if (pulse === 'q q e.') expect(read).toThrow('These beats make 11/16');
    else
      expect(
        read()
          .map((beat) => formatFraction(beat.lengthWholes))
          .join(' '),
      ).toBe(expected);
  });

  test.each([
    ['4/4', [1, 2, 4]],
    ['6/8', [1, 2, 3, 6]],
    ['7/8', [1, 7]],
    ['7/8 as 2+2+3', [1, 2, 3, 7]],
    ['8/8 as 3+3+2', [1, 2, 3, 8]],
  ])('%s can be in %j', (text, numbers) => {
    expect(beatNumbers(meter(text))).toEqual(numbers);
  });

  test('a choice that does not fit is refused with those that do', () => {
    expect(() => pieceOf({ meter: '7/8', pulse: 'in 3' })).toThrow('it can be in 1, 7');
  });
});
