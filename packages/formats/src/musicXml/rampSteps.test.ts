import { describe, expect, test } from '@jest/globals';
import { writePiece } from '@anchorbeat/core';
import { direction, metronome, notes, score, time } from '../test/scores.ts';
import { musicXml } from './musicXml.ts';

const full = notes(4, 4, 4, 4);
const word = (text: string) => direction(`<words>${text}</words>`);

function tempiOf([first = '', ...rest]: readonly string[]) {
  const reading = musicXml.read(score([[time('4', '4') + first, ...rest]]));
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  return writePiece(reading.piece).bars.map(({ tempo }) => tempo);
}

describe('where a rit. or accel. leads', () => {
  const sound = (quarters: number) => `<sound tempo="${quarters}"/>`;
  const equivalence = '<metronome><beat-unit>quarter</beat-unit><beat-unit>half</beat-unit></metronome>';
  const stair = (...steps: readonly number[]) => steps.map((step) => sound(step) + notes(4)).join('');
  const at = (quarters: number) => direction(metronome('quarter', String(quarters)), sound(quarters));
  const ramp = (term: string, target?: number) => [
    { term, ramp: `even per beat${target ? ` to quarter = ${target}` : ''}` },
  ];
  test.each<[string, readonly string[], readonly unknown[]]>([
    [
      'a stair of tempi that are only played is the ramp',
      [at(100) + full, word('rit.') + stair(96, 90, 84, 76), word('a tempo') + sound(100) + full],
      [[{ tempo: 'quarter = 100' }], ramp('rit.', 76), [{ term: 'a tempo', returns: 'a tempo' }]],
    ],
    [
      'over several bars up to the tempo that is printed',
      [at(80) + full, word('accel.') + full, sound(90) + full, sound(100) + full, at(112) + full],
      [[{ tempo: 'quarter = 80' }], ramp('accel.', 112), undefined, undefined, [{ tempo: 'quarter = 112' }]],
    ],
    [
      'not to a printed tempo that is far from its last step',
      [at(100) + full, word('rit.') + stair(96, 92, 90, 88), at(40) + full],
      [[{ tempo: 'quarter = 100' }], ramp('rit.', 88), [{ tempo: 'quarter = 40' }]],
    ],
    [
      'it ends where its last step stays',
      [at(100) + full, word('rit.') + stair(100, 90, 80, 70), full, full, full],
      [
        [{ tempo: 'quarter = 100' }],
        [...ramp('rit.', 70), { at: '3/4', endsRamp: true }],
        undefined,
        undefined,
        undefined,
      ],
    ],
    [
      'what goes the other way is no step of it',
      [at(100) + full, word('rit.') + stair(90, 80, 120, 120), full],
      [[{ tempo: 'quarter = 100' }], [...ramp('rit.', 80), { at: '1/2', tempo: 'quarter = 120' }], undefined],
    ],
    [
      'nor is it led on over what goes the other way',
      [at(100) + full, word('rit.') + stair(90, 80, 120, 120), at(60) + full],
      [
        [{ tempo: 'quarter = 100' }],
        [...ramp('rit.', 80), { at: '1/2', tempo: 'quarter = 120' }],
        [{ tempo: 'quarter = 60' }],
      ],
    ],
    [
      'without steps to what is printed next, if that is slower',
      [at(100) + full, word('rit.') + full, at(60) + full],
      [[{ tempo: 'quarter = 100' }], ramp('rit.', 60), [{ tempo: 'quarter = 60' }]],
    ],
    [
      'and nowhere if that is faster',
      [at(100) + full, word('rit.') + full, at(120) + full],
      [[{ tempo: 'quarter = 100' }], ramp('rit.'), [{ tempo: 'quarter = 120' }]],
    ],
    [
      'at the end to what is played from its beginning',
      [at(100) + full, word('rit.') + sound(70) + full, full],
      [[{ tempo: 'quarter = 100' }], ramp('rit.', 70), undefined],
    ],
    [
      'not to one that comes long after, unless it is said to take its time',
      [at(100) + full, word('rit.') + full, ...Array.from({ length: 9 }, () => full), at(60) + full],
      [
        [{ tempo: 'quarter = 100' }],
        ramp('rit.'),
        ...Array.from({ length: 9 }, () => undefined),
        [{ tempo: 'quarter = 60' }],
      ],
    ],
    [
      'poco a poco over many bars',
      [
        at(100) + full,
        word('poco a poco rit.') + full,
        ...Array.from({ length: 9 }, () => full),
        at(60) + full,
      ],
      [
        [{ tempo: 'quarter = 100' }],
        ramp('poco a poco rit.', 60),
        ...Array.from({ length: 9 }, () => undefined),
        [{ tempo: 'quarter = 60' }],
      ],
    ],
    [
      'a stair that is over is not led on by what is printed later',
      [at(100) + full, word('rit.') + stair(96, 92, 88, 84), full, full, at(80) + full],
      [
        [{ tempo: 'quarter = 100' }],
        [...ramp('rit.', 84), { at: '3/4', endsRamp: true }],
        undefined,
        undefined,
        [{ tempo: 'quarter = 80' }],
      ],
    ],
    [
      'in the notes of an equivalence',
      [at(100) + full, direction(equivalence) + full, word('accel.') + full, at(150) + full],
      [
        [{ tempo: 'quarter = 100' }],
        [{ equivalence: 'quarter = half' }],
        ramp('accel.'),
        [{ tempo: 'quarter = 150' }],
      ],
    ],
  ])('%s', (_name, measures, marks) => {
    expect(tempiOf(measures)).toEqual(marks);
  });
});
