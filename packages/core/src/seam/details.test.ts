import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { formatNumber } from '../fraction/text.ts';
import type { BarDocument } from '../document/document.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { formatEquivalence } from '../tempo/text.ts';
import { DIFFICULTY_WEIGHTS } from './difficulty.ts';
import { seamDetails } from './details.ts';

const detailsOf = (...bars: BarDocument[]) => {
  const proof = proofOf(pieceOf(...bars));
  const seam = proof.compiled.seams[0]!;
  return { seam, ...seamDetails(proof, seam) };
};
const q = (bpm: number) => [{ tempo: `quarter = ${bpm}` }];

describe('what is told about a seam', () => {
  test.each<[string, BarDocument[], string, string, string, string]>([
    [
      'an odd bar',
      [{ meter: '4/4', tempo: q(96) }, { meter: '15/16 as 4+4+4+3' }],
      'odd bar',
      'quarter 96 625',
      'quarter 96 625',
      '1 2 3 4 e & a | 1 2 3 4 e &',
    ],
    [
      'a pulse kept',
      [
        { meter: '6/8', tempo: [{ tempo: 'dotted quarter = 72' }] },
        { meter: '4/4', tempo: q(72) },
      ],
      'pulse kept',
      'dotted quarter 72 833',
      'quarter 72 833',
      '1 2 | 1 2 3 4',
    ],
    [
      'a subdivision kept',
      [{ meter: '4/4', tempo: q(88) }, { meter: '9/8' }],
      'odd bar',
      'quarter 88 682',
      'dotted quarter 58 2/3 1023',
      '1 2 3 4 | 1 2 3',
    ],
    [
      'shorter by more than a beat',
      [{ meter: '4/4', tempo: q(60) }, { meter: '5/8' }],
      'same subdivision',
      'quarter 60 1000',
      'eighth 120 500',
      '1 2 3 4 | 1 2 3 4 5',
    ],
    [
      'regrouped',
      [{ meter: '7/8 as 2+2+3', tempo: q(120) }, { meter: '7/8 as 3+2+2' }],
      'regrouped',
      'quarter 120 500',
      'quarter 120 500',
      '1 & 2 & 3 & a | 1 & a 2 & 3 &',
    ],
    [
      'carried over',
      [{ meter: '4/4', tempo: q(96) }, { tempo: q(64) }],
      'carried over',
      'quarter 96 625',
      'quarter 64 938',
      '1 2 3 4 | 1 2 3 4',
    ],
    [
      'a new tempo',
      [{ meter: '4/4', tempo: q(96) }, { tempo: q(101) }],
      'new tempo',
      'quarter 96 625',
      'quarter 101 594',
      '1 2 3 4 | 1 2 3 4',
    ],
  ])('%s', (_name, bars, kind, before, after, count) => {
    const details = detailsOf(...bars);
    const told = ({ value, bpm, milliseconds }: typeof details.pulseBefore) =>
      `${value?.dots ? 'dotted ' : ''}${value?.base} ${formatNumber(bpm)} ${Math.round(milliseconds)}`;
    expect([details.kind, told(details.pulseBefore), told(details.pulseAfter)]).toEqual([
      kind,
      before,
      after,
    ]);
    expect(details.countAcross.join(' | ')).toBe(count);
  });

  test('traps in milliseconds (timing.md, Odd bars)', () => {
    const { traps } = detailsOf({ meter: '4/4', tempo: q(96) }, { meter: '15/16 as 4+4+4+3' });
    expect(traps.map((trap) => trap.says)).toEqual([
      'filling the bar to 4/4 puts you 156 ms late',
      'the last three sixteenths squeezed into a triplet put you 156 ms late, each a third too long',
    ]);
    const long = detailsOf({ meter: '3/4', tempo: q(120) }, { meter: '2/4+3/8' });
    expect(long.traps.map((trap) => trap.says)).toEqual(['filling the bar to 3/4 puts you 250 ms early']);
    const kept = detailsOf({ meter: '4/4', tempo: q(60) }, { tempo: q(80) });
    expect(kept.traps.map((trap) => trap.says)).toEqual([
      'keeping the old quarter beat puts you 250 ms late on beat 2',
    ]);
  });

  test('where nothing carries over, the nearly equal pair that may help and what it misses in a bar', () => {
    const { nearest, seam } = detailsOf({ meter: '4/4', tempo: q(96) }, { tempo: q(100) });
    expect(seam.carry).toBeNull();
    expect(formatEquivalence(nearest!)).toBe('quarter = quarter');
    expect(nearest!.missMilliseconds).toBeCloseTo((96 / 100 - 1) * (240_000 / 100), 6);
    expect(detailsOf({ meter: '4/4', tempo: q(60) }, { tempo: q(75) }).nearest).toBeNull();
  });

  test('a difficulty is the sum of its named parts, none above its weight', () => {
    expect(Object.values(DIFFICULTY_WEIGHTS).reduce((a, b) => a + b)).toBe(100);
    const hard = detailsOf({ meter: '4/4', tempo: q(120) }, { meter: '15/16 as 4+4+4+3', tempo: q(197) });
    const easy = detailsOf({ meter: '4/4', tempo: q(96) }, { meter: '3/4' });
    for (const { seam, difficulty } of [hard, easy]) {
      expect(difficulty.every(({ points, most }) => points >= 0 && points <= most)).toBe(true);
      expect(difficulty.reduce((total, { points }) => total + points, 0)).toBe(seam.difficulty.score);
    }
    expect(hard.seam.difficulty.score).toBeGreaterThan(50);
    expect(easy.seam.difficulty.score).toBeLessThan(10);
  });
});
