import { describe, expect, test } from '@jest/globals';
import { runFrom } from '../run/planRun.ts';
import { PLAIN_RUN, type RunSettings } from '../run/settings.ts';
import { proofWith } from '../test/pieceOf.ts';
import { silenceWords, takeSilences } from './silences.ts';
import type { TakeOnset } from './takeRecord.ts';

const PLAIN = proofWith(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
  ...Array.from({ length: 11 }, () => ({})),
);

/** Four beats a bar, each bar as late as is said; null where nobody played in it. */
function onsetsOf(lateMs: ReadonlyArray<number | null>, performed = 0): readonly TakeOnset[] {
  return lateMs.flatMap((offMs, bar) =>
    [0, 1, 2, 3].map((beat) => ({ performed: performed + bar, atWholes: beat / 4, offMs })),
  );
}

const planOf = (proof: typeof PLAIN, settings: Partial<RunSettings>) =>
  runFrom(proof, 0, { ...PLAIN_RUN, ...settings });

describe('silences of a take', () => {
  test('the bar at which the click is back is held against the one before it fell silent', () => {
    const plan = planOf(PLAIN, { fade: { kind: 'bars', on: 2, off: 2 } });
    const onsets = onsetsOf([4, 6, 40, 80, 90, 20, 8, 9, 12, 3, 3, 3]);
    expect(takeSilences(PLAIN, plan, onsets)).toEqual([
      { performed: 2, backAt: 4, seconds: 4, offMs: 84, isHeld: false },
      { performed: 6, backAt: 8, seconds: 4, offMs: -8, isHeld: true },
    ]);
  });

  test('slower, a silence lasts longer and a beat forgives more', () => {
    const plan = planOf(PLAIN, { percent: 50, fade: { kind: 'bars', on: 2, off: 2 } });
    const [silence] = takeSilences(PLAIN, plan, onsetsOf([0, 0, 30, 60, 80]));
    expect(silence).toEqual({ performed: 2, backAt: 4, seconds: 8, offMs: 80, isHeld: true });
  });

  test.each<[string, Partial<RunSettings>, ReadonlyArray<number | null>]>([
    ['no fade', {}, [0, 0, 0, 0, 0]],
    ['a run that ends in the silence', { fade: { kind: 'bars', on: 2, off: 2 } }, [0, 0, 0, 0]],
    ['nobody playing when it is back', { fade: { kind: 'bars', on: 2, off: 2 } }, [0, 0, 0, 0, null]],
    ['nobody playing before it', { fade: { kind: 'bars', on: 2, off: 2 } }, [null, null, 0, 0, 0]],
  ])('%s tells nothing', (_name, settings, lateMs) => {
    expect(takeSilences(PLAIN, planOf(PLAIN, settings), onsetsOf(lateMs))).toEqual([]);
  });

  test('an odd bar alone may be the silence; in a loop each round has its own', () => {
    const odd = proofWith(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
      {},
      { meter: '7/8 as 2+2+3' },
      { meter: '4/4' },
      {},
    );
    const plan = planOf(odd, { fade: { kind: 'odd bars' }, loop: { from: 1, to: 4 } });
    const round = [...onsetsOf([0], 1), { performed: 2, atWholes: 0, offMs: 10 }, ...onsetsOf([15], 3)];
    const silences = takeSilences(odd, plan, [...round, ...round]);
    expect(silences).toHaveLength(2);
    expect(silences[0]).toMatchObject({ performed: 2, backAt: 3, seconds: 1.75, offMs: 15 });
  });

  test('with fewer and fewer clicks only the turn without any is one', () => {
    const plan = planOf(PLAIN, { fade: { kind: 'fewer', bars: 1 } });
    const silences = takeSilences(PLAIN, plan, onsetsOf([0, 0, 0, 50, 50, 0, 0, 0, 0]));
    expect(silences.map(({ performed, backAt }) => [performed, backAt])).toEqual([
      [3, 4],
      [7, 8],
    ]);
  });

  test.each([
    [[], ''],
    [[true], '1 of 1 silence held, the longest 4.0 s'],
    [[true, false], '1 of 2 silences held, the longest 4.0 s'],
    [[false], 'none of 1 silence held'],
  ])('%j is said as "%s"', (held, words) => {
    const silences = held.map((isHeld) => ({ performed: 2, backAt: 4, seconds: 4, offMs: 9, isHeld }));
    expect(silenceWords(silences)).toBe(words);
  });
});
