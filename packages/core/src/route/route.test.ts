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
    [
      'what is new after a jump is repeated as it is written',
      '|: 1[:| 2[T! DCalcoda |:C! :|3 |: 1[:| 2[',
      '1 2 1 3 4 1 3 5 6 5 6 5 6 7 8 7 9',
      '1-2, back to 1, on to 3-4, back to 1, on to 3, on to 5-6 three times, 7-8, back to 7, on to 9',
    ],
    [
      'what stands behind a jump is new where it goes on',
      '|: :| DC |: :|',
      '1 2 1 2 3 1 2 3 4 5 4 5',
      '1-2 twice, 3, back to 1-5, back to 4-5',
    ],
    [
      'a repeat that a jump left before its end is taken',
      '|: S! DS :|',
      '1 2 3 2 3 4 1 2 3 4',
      '1-3, back to 2-4, back to 1-4',
    ],
    [
      'no opening after endings',
      '. 1[:| 2[ 2[ . :| .',
      '1 2 1 3 4 5 6 5 6 7',
      '1-2, back to 1, on to 3-6, back to 5-7',
    ],
    [
      'no opening after a jump or in a coda',
      'T! DCalcoda . C! :|',
      '1 2 1 4 5 4 5',
      '1-2, back to 1, on to 4-5 twice',
    ],
    ['no opening behind a plain D.C.', '. DC . :|', '1 2 1 2 3 4 3 4', '1-2 twice, 3-4 twice'],
    [
      'a second jump knows what was new after the first',
      'T! DCalcoda |:C! :| DC',
      '1 2 1 3 4 3 4 5 1 2 3 4 5',
      '1-2, back to 1, on to 3-4 twice, 5, back to 1-5',
    ],
    [
      'each of two segnos and codas has its own',
      'S! T! DSalcoda C! S! T! DSalcoda C!',
      '1 2 3 1 2 4 5 6 7 5 6 8',
      '1-3, back to 1-2, on to 4-7, back to 5-6, on to 8',
    ],
    [
      'both codas from one segno',
      'S! T! T! DSalcoda C! DSalcoda C!',
      '1 2 3 4 1 2 5 6 1 2 3 7',
      '1-4, back to 1-2, on to 5-6, back to 1-3, on to 7',
    ],
    [
      'a plain jump leaves the fine to the one that says so',
      '. F! DS!DS . DSalfine',
      '1 2 3 3 4 5 3 4 5',
      '1-3, back to 3-5 twice',
    ],
    [
      'a plain jump leaves the coda to the one that says so',
      'S! T! DS DSalcoda C!',
      '1 2 3 1 2 3 4 1 2 5',
      '1-3 twice, 4, back to 1-2, on to 5',
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
    expect(performedOf('|: :|F! DCalfine', true)).toBe('1 2 1 2 3 1 2 1 2');
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

  const part = fc.oneof(
    fc.constant('.'),
    fc.integer({ min: 2, max: 4 }).map((times) => `|: . :|${times}`),
    fc.constant('|: 1[:| 2['),
    fc.constant('|: |: :| :|'),
  );

  test('any simple repeats agree with the slow twin', () => {
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), (parts) => {
        const piece = pieceOf(...drawn(['.', ...parts].join(' ')));
        expect(Array.from(routeOf(piece).barIndex)).toEqual(slowRoute(piece));
      }),
      { numRuns: 400, seed: 77 },
    );
  });

  test('any repeats around a D.S. al coda agree with what each stretch is by itself', () => {
    const stretch = fc.array(part, { maxLength: 4 }).map((parts) => ['.', ...parts]);
    const barsOf = (parts: readonly string[]) => parts.join(' ').split(' ').length;
    const repeated = (parts: readonly string[]) => slowRoute(pieceOf(...drawn(parts.join(' '))));
    const once = (parts: readonly string[]) =>
      slowRoute(pieceOf(...drawn(parts.join(' ').replace(/:\|\d*/g, '.')))).filter(
        (bar) => !/1\[/.test(parts.join(' ').split(' ')[bar] ?? ''),
      );
    fc.assert(
      fc.property(fc.tuple(stretch, stretch, stretch, stretch), (stretches) => {
        const [head, kept, left, coda] = stretches;
        const starts = stretches.map((_, index) =>
          stretches.slice(0, index).reduce((sum, parts) => sum + barsOf(parts), index > 1 ? index - 1 : 0),
        );
        const from = (index: number, bars: readonly number[]) =>
          bars.map((bar) => bar + (starts[index] ?? 0));
        const signed = [
          head,
          ['S!.', ...kept.slice(1)],
          ['T!'],
          left,
          ['DSalcoda'],
          ['C!.', ...coda.slice(1)],
        ];
        const piece = pieceOf(...drawn(signed.flat().join(' ')));
        const toCoda = (starts[2] ?? 0) - 1;
        expect(Array.from(routeOf(piece).barIndex)).toEqual([
          ...from(0, repeated(head)),
          ...from(1, repeated(kept)),
          toCoda,
          ...from(2, repeated(left)),
          (starts[3] ?? 0) - 1,
          ...from(1, once(kept)),
          toCoda,
          ...from(3, repeated(coda)),
        ]);
      }),
      { numRuns: 300, seed: 78 },
    );
  });
});
