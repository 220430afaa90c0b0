import { expect, test } from '@jest/globals';
import { formatEquivalence, formatStatedTempo, parseEquivalence } from '../tempo/text.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { equivalenceOutcomeMaybe } from './equivalenceOutcome.ts';

const ZERO = { n: 0, d: 1 };

test.each([
  ['4/4', 'quarter = 96', '12/8', 'q = q.', 'dotted quarter = 96', null],
  ['4/4', 'quarter = 96', '4/4', 'q. = q', 'quarter = 64', null],
  ['4/4', 'quarter = 120', '4/4', 'e = q', 'quarter = 240', 'quarter = eighth: quarter = 60'],
  ['4/4', 'quarter = 60', '4/4', 'h = q', 'quarter = 30', 'quarter = half: quarter = 120'],
  ['4/4', 'quarter = 60', '4/4', 's = h', 'quarter = 480', null],
])('%s at %s, then %s with %s gives %s', (meter, tempo, next, typed, gives, likelier) => {
  const equivalence = parseEquivalence(typed);
  if (!equivalence.ok) throw new Error(equivalence.problem.message);
  const piece = pieceOf({ meter, tempo: [{ tempo }] }, { meter: next });
  const mark = { atWholes: ZERO, equivalence: equivalence.value };
  const outcome = equivalenceOutcomeMaybe(piece, { kind: 'setTempoMark', bar: 1, mark })!;
  expect(formatStatedTempo(outcome.tempo)).toBe(gives);
  const told = outcome.likelier;
  expect(told && `${formatEquivalence(told.equivalence)}: ${formatStatedTempo(told.tempo)}`).toBe(likelier);
});
