import { describe, expect, test } from '@jest/globals';
import { add, compare, fraction, ZERO } from '../fraction/fraction.ts';
import { formatFraction } from '../fraction/text.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { countBar, countRest, slashPositions } from './countWord.ts';
import { COUNT_SCHOOLS, countSchoolMaybe } from './schools.ts';

const bar = (document: object): Bar => pieceOf(document).bars[0]!;
const words = (document: object, school: string) =>
  countBar(bar(document), countSchoolMaybe(school)!)
    .map((word) => (word.isMain ? word.word : word.word.toLowerCase()))
    .join(' ');

describe('schools of counting (design.md, Schools)', () => {
  test.each([
    [
      '7/8 as 2+2+3',
      '1 2 3',
      '1 & 2 & 3 & a',
      '1 2 3 4 5 6 7',
      '1 2 2 2 3 2 3',
      '1 2 1 2 1 2 3',
      '1 & 2 & 3 & 4',
      '1 e & a 2 e & a 3 e & a 4 e',
    ],
    ['6/8', '1 2', '1 2', '1 2 3 4 5 6', '1 2 3 2 2 3', '1 2 3 1 2 3', '1 2 3 2 2 3', '1 2 3 2 2 3'],
    [
      '15/16 as 4+4+4+3',
      '1 2 3 4',
      '1 2 3 4 e &',
      '1 2 3 4 5 6 7 8 9 10 11 12 13 14 15',
      '1 2 3 4 2 2 3 4 3 2 3 4 4 2 3',
      '1 2 3 4 1 2 3 4 1 2 3 4 1 2 3',
      '1 & 2 & 3 & 4 &',
      '1 e & a 2 e & a 3 e & a 4 e &',
    ],
    [
      '4/4',
      '1 2 3 4',
      '1 2 3 4',
      '1 2 3 4',
      '1 & 2 & 3 & 4 &',
      '1 2 3 4',
      '1 & 2 & 3 & 4 &',
      '1 e & a 2 e & a 3 e & a 4 e & a',
    ],
    ['2/2', '1 2', '1 2', '1 2', '1 & 2 &', '1 2', '1 & 2 & 3 & 4 &', '1 e & a 2 e & a 3 e & a 4 e & a'],
    [
      '3/4+3/8',
      '1 2 3 4',
      '1 & 2 & 3 & 4 & a',
      '1 2 3 4 5 6 7 8 9',
      '1 2 2 2 3 2 4 2 3',
      '1 2 1 2 1 2 1 2 3',
      '1 & 2 & 3 & 4 & 5',
      '1 e & a 2 e & a 3 e & a 4 e & a 5 e',
    ],
  ])('%s', (meter, ...expected) => {
    expect(COUNT_SCHOOLS.map((school) => words({ meter }, school.id))).toEqual(expected);
  });

  test.each([
    [{ meter: '4/4', pickup: '1/4' }, 'plain', '4'],
    [{ meter: '4/4', pickup: '3/8' }, 'quarters-and', '& 4 &'],
    [{ meter: '6/8', pickup: '1/8' }, 'units', '6'],
    [{ meter: '6/8', pickup: '1/8' }, 'beat-parts', '3'],
    [{ meter: '6/8', cutTo: '5/8' }, 'units', '1 2 3 4 5'],
    [{ meter: '3/4', cutTo: '1/2' }, 'plain', '1 2'],
    [{ meter: '6/8', pulse: 'in 6' }, 'plain', '1 2 3 4 5 6'],
    [{ meter: '12/8', pulse: 'in 2' }, 'plain', '1 2'],
  ])('%j in %s: %s', (document, school, expected) => {
    expect(words(document, school)).toBe(expected);
  });

  test('in any bar words stand in order, inside the bar, never two at a place', () => {
    for (let seed = 0; seed < 12; seed++) {
      for (const random of randomPiece(seed, 40).bars) {
        for (const school of COUNT_SCHOOLS) {
          let last = fraction(-1);
          for (const { atWholes } of countBar(random, school)) {
            expect(compare(atWholes, last)).toBeGreaterThan(0);
            expect(compare(atWholes, barLength(random))).toBeLessThan(0);
            last = atWholes;
          }
        }
      }
    }
  });

  test('over bars of rest the bar’s number stands for beat one', () => {
    const bars = [bar({ meter: '4/4' }), bar({ meter: '4/4' }), bar({ meter: '3/4' })];
    const counted = countRest(bars, COUNT_SCHOOLS[0]).map((rest) => rest.map((word) => word.word).join(' '));
    expect(counted).toEqual(['1 2 3 4', '2 2 3 4', '3 2 3']);
  });

  test('slashes stand on the beats', () => {
    expect(slashPositions(bar({ meter: '7/8 as 2+2+3' })).map(formatFraction)).toEqual(['0', '1/4', '1/2']);
    expect(add(ZERO, slashPositions(bar({ meter: '6/8', pickup: '1/8' }))[0]!)).toEqual(ZERO);
  });
});
