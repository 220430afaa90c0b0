import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { formatEquivalence } from '../tempo/text.ts';
import { oddBarMaybe } from './oddBar.ts';
import { seamWords } from './words.ts';

const seamBetween = (before: BarDocument, after: BarDocument) => {
  const proof = proofOf(pieceOf(before, after));
  const [seam] = proof.compiled.seams;
  if (!seam) return null;
  return [
    seam.changes.join(' '),
    seam.carry ? formatEquivalence(seam.carry) : 'none',
    seamWords(proof, seam),
  ];
};
const q = (bpm: number) => [{ tempo: `quarter = ${bpm}` }];

describe('seams (timing.md, Seams)', () => {
  test.each<[string, BarDocument, BarDocument, string[] | null]>([
    ['nothing changes', { meter: '4/4' }, {}, null],
    [
      '4/4 to 5/8',
      { meter: '4/4' },
      { meter: '5/8' },
      ['meter length pulse', 'eighth = eighth', 'eighth stays'],
    ],
    [
      '4/4 to 15/16',
      { meter: '4/4' },
      { meter: '15/16 as 4+4+4+3' },
      ['meter length', 'sixteenth = sixteenth', 'sixteenth stays'],
    ],
    ['4/4 to 3/4', { meter: '4/4' }, { meter: '3/4' }, ['meter length', 'quarter = quarter', 'pulse stays']],
    [
      'grouping exchanged',
      { meter: '7/8 as 2+2+3' },
      { meter: '7/8 as 3+2+2' },
      ['meter grouping pulse', 'eighth = eighth', 'eighth stays'],
    ],
    [
      'pulse kept',
      { meter: '4/4', tempo: q(88) },
      { meter: '12/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
      ['meter length pulse tempo', 'quarter = dotted quarter', 'pulse stays'],
    ],
    [
      'worked out from two tempi',
      { meter: '4/4', tempo: q(72) },
      { meter: '6/8', tempo: [{ tempo: 'dotted quarter = 72' }] },
      ['meter length pulse tempo', 'quarter = dotted quarter', 'pulse stays'],
    ],
    [
      'three against two',
      { meter: '4/4', tempo: q(96) },
      { tempo: q(64) },
      ['tempo', 'dotted quarter = quarter', 'slower, quarter 64 a minute'],
    ],
    [
      'no carry',
      { meter: '4/4', tempo: q(96) },
      { tempo: q(101) },
      ['tempo', 'none', 'the same beat, a little faster, 101 a minute'],
    ],
    [
      'out of a pickup shorter than its beat',
      { meter: '6/8', pickup: '1/4', tempo: [{ tempo: 'dotted quarter = 72' }] },
      { tempo: [{ tempo: 'dotted quarter = 90' }] },
      ['tempo', 'none', 'faster, dotted quarter 90 a minute'],
    ],
    [
      'out of a pickup that lasts as the beat after it',
      { meter: '4/4', pickup: '1/8', tempo: q(60) },
      { tempo: q(120) },
      ['tempo', 'quarter = half', 'faster, quarter 120 a minute'],
    ],
    [
      'out of an upbeat of an eighth into another meter',
      { meter: '4/4', pickup: '1/8' },
      { meter: '3/4' },
      ['meter', 'eighth = eighth', 'pulse stays'],
    ],
    [
      'out of a bar cut to the one beat it has whole',
      { meter: '7/8 as 3+2+2', cutTo: '3/8', tempo: [{ tempo: 'dotted quarter = 80' }] },
      { meter: '6/8', tempo: [{ tempo: 'dotted quarter = 60' }] },
      ['meter tempo', 'half = dotted quarter', 'slower, dotted quarter 60 a minute'],
    ],
  ])('%s', (_name, before, after, expected) => {
    expect(seamBetween(before, after)).toEqual(expected);
  });
});

test.each([
  ['15/16 as 4+4+4+3', 'one sixteenth short'],
  ['9/8', 'one eighth long'],
  ['5/4', undefined],
  ['4/4', undefined],
])('%s between bars of 4/4: %s', (meter, words) => {
  const piece = pieceOf({ meter: '4/4' }, { meter }, { meter: '4/4' });
  expect(oddBarMaybe(piece, 1)?.words).toBe(words);
});
