import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { BarDocument } from '../document/document.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { slowRoute } from '../test/slowRoute.ts';
import { readRepeats } from './repeats.ts';
import { MAX_ROUTE_RATIO, routeOf } from './route.ts';
import { passWords, routeWords } from './words.ts';

/** Bars from a small drawing: `|:` and `:|` or `:|3`, `1[`…`]` for an ending on the bar, S C T F for the signs, DC DS. */
function drawn(text: string): BarDocument[] {
  return text.split(' ').map((word, index) => {
    const times = /:\|(\d*)/.exec(word);
    const ending = /([\d,]+)\[/.exec(word)?.[1];
    const jump = /D[CS](?:al(?:fine|coda))?/.exec(word)?.[0];
    return {
      ...(index === 0 && { meter: '4/4' }),
      ...(word.includes('|:') && { startsRepeat: true as const }),
      ...(times && { endsRepeat: times[1] ? Number(times[1]) : 2 }),
      ...(word.includes(':|?') && { endsRepeat: 'until cued' as const }),
      ...(ending && { ending }),
      ...(word.includes('S!') && { segno: true as const }),
      ...(word.includes('C!') && { coda: true as const }),
      ...(word.includes('T!') && { toCoda: true as const }),
      ...(word.includes('F!') && { fine: true as const }),
      ...(jump && { jump: jump.replace('DC', 'D.C.').replace('DS', 'D.S.').replace('al', ' al ') }),
    };
  });
}

const performedOf = (text: string, again?: true) => {
  const piece = { ...pieceOf(...drawn(text)), ...(again && { takesRepeatsAfterJump: again }) };
  return Array.from(routeOf(piece).barIndex, (bar) => bar + 1).join(' ');
};

describe('the performed order (timing.md, Route)', () => {
  test.each([
    ['plain', '. . .', '1 2 3', '1-3'],
    ['a repeat from the beginning', '. :| .', '1 2 1 2 3', '1-2 twice, 3'],
    ['three times', '|: :|3 .', '1 2 1 2 1 2 3', '1-2 three times, 3'],
    ['two repeats in a row', '|: :| |: :|', '1 2 1 2 3 4 3 4', '1-2 twice, 3-4 twice'],
    ['no opening after a close', '. :| . :|', '1 2 1 2 3 4 3 4', '1-2 twice, 3-4 twice'],
    ['endings', '|: 1[:| 2[ .', '1 2 1 3 4', '1-2, back to 1, on to 3-4'],
    ['endings of two bars', '|: 1[ 1[:| 2[ 2[ .', '1 2 3 1 4 5 6', '1-3, back to 1, on to 4-6'],
    ['ending lists', '|: 1,2[:|3 3[ .', '1 2 1 2 1 3 4', '1-2 twice, back to 1, on to 3-4'],
    [
      'three endings that all go back',
      '|: 1[:| 2[:| 3[',
      '1 2 1 3 1 4',
      '1-2, back to 1, on to 3, back to 1, on to 4',
    ],
    ['nested', '|: |: :| :|', '1 2 3 2 3 4 1 2 3 2 3 4', '1-3, back to 2-4, back to 1-3, back to 2-4'],
    [
      'nested with endings',
      '|: |: 1[:| 2[ :| .',
      '1 2 3 2 4 5 1 2 3 2 4 5 6',
      '1-3, back to 2, on to 4-5, back to 1-3, back to 2, on to 4-6',
    ],
    ['D.C. al fine', '. F! . DCalfine', '1 2 3 4 1 2', '1-4, back to 1-2'],
    ['D.C. without a fine', '. . DC', '1 2 3 1 2 3', '1-3 twice'],
    ['D.S. al coda', '. S! T! DSalcoda C! .', '1 2 3 4 2 3 5 6', '1-4, back to 2-3, on to 5-6'],
    ['to coda only after the jump', '. T! . DCalcoda . C!', '1 2 3 4 1 2 6', '1-4, back to 1-2, on to 6'],
    ['D.S. al fine passes the coda sign by', '. S!T! F! DSalfine C!', '1 2 3 4 2 3', '1-4, back to 2-3'],
    [
      'after a jump repeats are not taken and the last ending is performed',
      '|: 1[:| 2[ F! DCalfine',
      '1 2 1 3 4 5 1 3 4',
      '1-2, back to 1, on to 3-5, back to 1, on to 3-4',
    ],
    ['two jumps, each once', '. DC . DC', '1 2 1 2 3 4 1 2 3 4', '1-2 twice, 3-4, back to 1-4'],
    ['an open repeat is played once on paper', '|: :|? .', '1 2 3', '1-3'],
    ['a segno that is not there', '. DS .', '1 2 3', '1-3'],
  ])('%s', (_name, signs, performed, words) => {
    expect(performedOf(signs)).toBe(performed);
    const piece = pieceOf(...drawn(signs));
    expect(routeWords(piece, routeOf(piece))).toBe(words);
  });

  test('the other school takes inner repeats again after a jump', () => {
    expect(performedOf('|: :| F! DCalfine', true)).toBe('1 2 1 2 3 4 1 2 1 2 3');
  });

  test('passes are counted bar by bar', () => {
    const route = routeOf(pieceOf(...drawn('|: 1[:| 2[')));
    expect(Array.from(route.pass)).toEqual([1, 1, 2, 1]);
    expect([0, 1, 2, 3].map((performed) => passWords(route, performed))).toEqual([
      'first time',
      '',
      'second time',
      '',
    ]);
  });

  test('a route without end is cut off and names the bar', () => {
    const signs = `${Array.from({ length: 4 }, () => '|:').join(' ')} . ${Array.from({ length: 4 }, () => ':|99').join(' ')}`;
    const route = routeOf(pieceOf(...drawn(signs)));
    expect(route.barIndex).toHaveLength(9 * MAX_ROUTE_RATIO);
    expect(route.loopsAtBar).toBeGreaterThan(2);
  });

  test('what is not closed or belongs nowhere is told', () => {
    const reading = readRepeats(pieceOf(...drawn('|: . 2[ . |: .')));
    expect(reading.unclosedStarts).toEqual([0, 4]);
    expect(reading.strayEndings).toEqual([{ from: 2, to: 2, passes: [2] }]);
  });

  test('any simple repeats agree with the slow twin', () => {
    const part = fc.oneof(
      fc.constant('.'),
      fc.integer({ min: 2, max: 4 }).map((times) => `|: . :|${times}`),
      fc.constant('|: 1[:| 2['),
      fc.constant('|: |: :| :|'),
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), (parts) => {
        const piece = pieceOf(...drawn(['.', ...parts].join(' ')));
        expect(Array.from(routeOf(piece).barIndex)).toEqual(slowRoute(piece));
      }),
      { numRuns: 400, seed: 77 },
    );
  });
});
