import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { formatEquivalence } from '../tempo/text.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { seamDetails } from './details.ts';

const q = (bpm: number) => [{ tempo: `quarter = ${bpm}` }];
const dq = (bpm: number) => [{ tempo: `dotted quarter = ${bpm}` }];

/** The last seam of some bars, with what is told of it. */
function judged(...bars: BarDocument[]) {
  const proof = proofOf(pieceOf(...bars));
  const seam = proof.compiled.seams.at(-1)!;
  return { seam, ...seamDetails(proof, seam), score: seam.difficulty.score };
}

const four = (bpm: number): BarDocument => ({ meter: '4/4', tempo: q(bpm) });

describe('which of two seams is harder, as those who stand in front of an ensemble have it', () => {
  test.each<[string, BarDocument[], BarDocument[]]>([
    [
      'a kept pulse in other notes is easier than an odd bar',
      [
        { meter: '9/8', tempo: dq(72) },
        { meter: '4/4', tempo: q(72) },
      ],
      [four(72), { meter: '15/16 as 4+4+4+3' }],
    ],
    [
      'twice as fast is easier than an unrelated tempo nearby',
      [four(60), { tempo: q(120) }],
      [four(60), { tempo: q(97) }],
    ],
    [
      'half as fast is easier than an unrelated tempo',
      [four(120), { tempo: q(60) }],
      [four(120), { tempo: q(73) }],
    ],
    ['three to two is easier than seven to five', [four(96), { tempo: q(64) }], [four(98), { tempo: q(70) }]],
    [
      'a little faster is easier than much faster',
      [four(96), { tempo: q(100) }],
      [four(96), { tempo: q(134) }],
    ],
    [
      'the same notes in two are easier than in three',
      [four(100), { meter: '2/2' }],
      [four(100), { meter: '12/8' }],
    ],
    [
      'a plain change of meter is easier than an odd one',
      [four(96), { meter: '3/4' }],
      [four(96), { meter: '7/8 as 2+2+3' }],
    ],
    [
      'after a hold the new tempo is easier',
      [{ ...four(96), holds: [{ at: '3/4', length: '2 beats' }] }, { tempo: q(70) }],
      [four(96), { tempo: q(70) }],
    ],
    [
      'after a silent bar too',
      [{ ...four(96), rhythm: 'rw' }, { tempo: q(70) }],
      [four(96), { tempo: q(70) }],
    ],
    [
      'many small notes make it harder',
      [four(96), { tempo: q(64) }],
      [four(96), { tempo: q(64), rhythm: 's s s s s s s s s s s s s s s s' }],
    ],
    [
      'long notes make it easier',
      [{ ...four(96), rhythm: 'h h' }, { tempo: q(64) }],
      [four(96), { tempo: q(64) }],
    ],
    [
      'leaving an odd bar is easier than entering it',
      [four(96), { meter: '15/16 as 4+4+4+3' }, { meter: '4/4' }],
      [four(96), { meter: '15/16 as 4+4+4+3' }],
    ],
    [
      'a tempo inside the bar is harder than one at its barline',
      [four(96), { tempo: q(64) }],
      [four(96), { tempo: [{ tempo: 'quarter = 88' }, { at: '1/2', tempo: 'quarter = 64' }] }],
    ],
  ])('%s', (_name, easier, harder) => {
    expect(judged(...easier).score).toBeLessThan(judged(...harder).score);
  });

  test('nothing that keeps the beat and its notes is called hard', () => {
    for (const bars of [
      [four(96), { meter: '3/4' }],
      [four(96), { meter: '2/2' }],
      [{ meter: '6/8', tempo: dq(80) }, { meter: '9/8' }],
      [four(88), { meter: '12/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] }],
    ])
      expect(judged(...(bars as BarDocument[])).score).toBeLessThan(12);
  });
});

describe('what to hold on to', () => {
  test.each<[string, BarDocument, BarDocument, string | null, string | null]>([
    [
      'the beat becomes the dotted beat',
      four(88),
      { meter: '12/8', tempo: dq(88) },
      'quarter = dotted quarter',
      null,
    ],
    ['two for three', four(96), { tempo: q(64) }, 'dotted quarter = quarter', null],
    ['the old half beat is the new beat', four(60), { tempo: q(120) }, 'quarter = half', null],
    ['three quarters of the beat', four(72), { tempo: q(54) }, 'quarter = dotted eighth', null],
    ['within a hundredth nobody hears it', four(96), { tempo: q(64.5) }, 'dotted quarter = quarter', null],
    ['nobody feels fives', four(60), { tempo: q(75) }, null, null],
    ['nor sevens', four(100), { tempo: q(175) }, null, null],
    ['the same beat, a little faster', four(96), { tempo: q(100) }, null, 'quarter = quarter'],
    ['what is near may help, and no more', four(100), { tempo: q(144) }, null, 'quarter = dotted quarter'],
    [
      'a printed one is what its players see',
      four(60),
      { tempo: [{ equivalence: 'quarter = quintuplet quarter' }] },
      'quarter = quintuplet quarter',
      null,
    ],
    [
      'in one nobody counts whole notes',
      { meter: '4/4', pulse: 'in 1', tempo: q(240) },
      { meter: '2/4', pulse: 'in 1' },
      'half = half',
      null,
    ],
  ])('%s', (_name, before, after, carry, nearest) => {
    const { seam, nearest: told } = judged(before, after);
    expect(seam.carry && formatEquivalence(seam.carry)).toBe(carry);
    if (carry === null) expect(told && formatEquivalence(told)).toBe(nearest);
  });

  test('no note longer than a little over the beat, none shorter than what is played', () => {
    for (let from = 40; from <= 160; from += 8) {
      for (let to = 40; to <= 160; to += 3) {
        if (from === to) continue;
        const { seam, nearest, pulseBefore, pulseAfter } = judged(four(from), { tempo: q(to) });
        const pair = seam.carry ?? nearest;
        if (!pair) continue;
        const name = formatEquivalence(pair);
        expect(name).not.toMatch(/whole|quintuplet|septuplet/);
        const longest = Math.max(pulseBefore.milliseconds, pulseAfter.milliseconds);
        expect(lengthOf(pair.before) * (240_000 / from)).toBeLessThanOrEqual(1.25 * longest + 1e-6);
      }
    }
  });
});

function lengthOf({
  base,
  dots,
  tuplets,
}: {
  base: string;
  dots: number;
  tuplets: readonly unknown[];
}): number {
  const lengths: Record<string, number> = {
    half: 1 / 2,
    quarter: 1 / 4,
    eighth: 1 / 8,
    sixteenth: 1 / 16,
    '32nd': 1 / 32,
  };
  return (lengths[base] ?? NaN) * (dots ? 1.5 : 1) * (tuplets.length ? 2 / 3 : 1);
}

describe('what is a place to rehearse besides a change at the barline', () => {
  test.each<[string, BarDocument[], string]>([
    [
      'the start of a ramp',
      [four(96), { tempo: [{ ramp: 'even per beat to quarter = 60' }] }, { tempo: q(60) }],
      'ramp',
    ],
    ['a hold', [four(96), { holds: [{ at: '1/2', length: '2 beats' }] }], 'hold'],
    ['a tempo inside the bar', [four(96), { tempo: [{ at: '1/2', tempo: 'quarter = 64' }] }], 'tempo inside'],
    [
      'a repeat on cue',
      [{ ...four(96), startsRepeat: true }, { endsRepeat: 'until cued' }, {}],
      'open repeat',
    ],
    ['a repeat back', [four(96), { startsRepeat: true }, {}, { endsRepeat: 2 }, {}], 'jump'],
  ])('%s', (_name, bars, kind) => {
    const proof = proofOf(pieceOf(...bars));
    expect(proof.compiled.seams.map((seam) => seamDetails(proof, seam).kind)).toContain(kind);
  });

  test('a beat that both bars have is the one that stays', () => {
    const { beatRatio, kind } = judged({ meter: '6/8', tempo: dq(72) }, { meter: '5/8 as 3+2' });
    expect([beatRatio, kind]).toEqual([1, 'odd bar']);
  });

  test('leaving an odd bar is not told as a slower beat', () => {
    expect(judged(four(96), { meter: '15/16 as 4+4+4+3' }, { meter: '4/4' }).beatRatio).toBeCloseTo(1, 12);
  });

  test('a kept pulse in other notes has no trap of filling the bar', () => {
    const { traps } = judged({ meter: '9/8', tempo: dq(72) }, { meter: '4/4', tempo: q(72) });
    expect(traps).toEqual([]);
  });
});
