import { describe, expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { applyEdit } from '../edit/applyEdit.ts';
import type { BarDocument } from '../document/document.ts';
import type { Piece } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { CHECKS } from './checks.ts';

const found = (piece: Piece, check: string) =>
  compilePiece(piece).findings.filter((finding) => finding.check === check);

/** Bars of 4/4, those at some places a sixteenth short. */
const oddAt = (odd: readonly number[]): BarDocument[] =>
  Array.from({ length: 24 }, (_, bar) => ({ meter: odd.includes(bar) ? '15/16' : '4/4' }));

/** A piece with one flaw: the check that finds it, what it says, and what its correction would say. */
const FLAWS: ReadonlyArray<
  readonly [check: string, bars: BarDocument[], says: string, corrected: string | null]
> = [
  [
    'notes-fill-bar',
    [{ meter: '4/4', rhythm: 'q q q e' }],
    'The notes of bar 1 are one eighth too short for 4/4; they would fill 7/8',
    'bar 1 is now 7/8, was 4/4',
  ],
  [
    'notes-fill-bar',
    [{ meter: '5/8', rhythm: 'q q q' }],
    'are one eighth too long for 5/8; they would fill 6/8',
    'bar 1 is now 6/8, was 5/8',
  ],
  [
    'notes-fill-bar',
    [{ meter: '3/4', rhythm: 'e3 e3 e3 e3 e3 e3 h' }],
    'one quarter too long for 3/4; they would fill 4/4',
    'bar 1 is now 4/4, was 3/4',
  ],
  [
    'odd-bar',
    [{ meter: '4/4' }, { meter: '15/16' }, { meter: '4/4' }],
    'Bar 2 is 15/16, one sixteenth short between bars of 4/4: on purpose?',
    'bar 2 is now 4/4, was 15/16',
  ],
  [
    'odd-bar',
    oddAt([3, 7, 11]),
    'Bars 4, 8 and 12 are 15/16, one sixteenth short between bars of 4/4, every 4 bars: on purpose?',
    null,
  ],
  [
    'odd-bar',
    oddAt([3, 7, 15, 19]),
    'Bars 4, 8, 16 and 20 are 15/16, but bar 12, where it would come again, is 4/4: on purpose?',
    'bar 12 is now 15/16, was 4/4',
  ],
  [
    'odd-bar',
    oddAt([2, 7, 9]),
    'Bars 3, 8 and 10 are 15/16, one sixteenth short between bars of 4/4: on purpose?',
    null,
  ],
  [
    'rehearsal-marks',
    [{ meter: '4/4', rehearsalMark: 'A' }, {}, { rehearsalMark: 'B' }, { rehearsalMark: 'a ' }],
    'The mark a stands at two places, bar 1 and bar 4: which is meant?',
    null,
  ],
  [
    'pickup-and-last-bar',
    [{ meter: '6/8', pickup: '1/8' }, {}, {}],
    'The piece ends with 6 of 6 eighths; the pickup has 1, so 5 would complete it',
    'bar 2 is cut to 5/8 of a whole note',
  ],
  [
    'labels',
    [{ meter: '4/4' }, {}, { label: '2' }],
    'The number 2 is printed on two bars',
    'bar 2 counts on',
  ],
  ['labels', [{ meter: '4/4' }, {}, { label: '9' }], 'The bar numbers jump from 2 to 9', 'bar 9 counts on'],
  [
    'tempo-against-equivalence',
    [
      { meter: '4/4', tempo: [{ tempo: 'quarter = 88' }] },
      { meter: '12/8', tempo: [{ equivalence: 'quarter = dotted quarter', tempo: 'dotted quarter = 96' }] },
    ],
    'At bar 2 the equivalence gives 88 a minute, but 96 is printed',
    'quarter = dotted quarter, dotted quarter = 88 at bar 2',
  ],
  [
    'unaimable-tempo',
    [
      { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
      { tempo: [{ equivalence: 'quintuplet sixteenth = triplet eighth' }] },
    ],
    'From bar 2 the beat is 166 2/3 a minute, which nobody can aim at',
    null,
  ],
  [
    'ramp-target',
    [{ meter: '4/4', tempo: [{ term: 'rit.', ramp: 'even per beat' }] }],
    'rit. at bar 1 does not say what it arrives at',
    null,
  ],
  [
    'ramp-across-mark',
    [
      { meter: '4/4', tempo: [{ ramp: 'to quarter = 60' }] },
      { tempo: [{ tempo: 'quarter = 90' }] },
      { tempo: [{ endsRamp: true }] },
    ],
    'A ramp ends at bar 3, but the tempo at bar 2 has already ended it',
    null,
  ],
  [
    'ramp-across-mark',
    [{ meter: '4/4', tempo: [{ endsRamp: true }] }],
    'A ramp ends at bar 1, but no ramp is under way',
    null,
  ],
  [
    'repeats',
    [{ meter: '4/4', startsRepeat: true }, {}],
    'The repeat that opens at bar 1 is never closed',
    null,
  ],
  ['repeats', [{ meter: '4/4' }, { ending: '2' }], 'The ending 2 at bar 2 belongs to no repeat', null],
  [
    'repeats',
    [{ meter: '4/4', startsRepeat: true }, { ending: '1', endsRepeat: 3 }, { ending: '3' }],
    'There is no ending for time 2 of the repeat from bar 1',
    null,
  ],
  [
    'repeats',
    [{ meter: '4/4', startsRepeat: true }, { ending: '1', endsRepeat: 2 }, { ending: '1, 2' }],
    'Time 1 of the repeat from bar 1 has two endings',
    null,
  ],
  [
    'number-of-parts',
    [{ meter: '3/4' }, { cutTo: '2/4', endsRepeat: 2 }, { pickup: '1/4', startsRepeat: true }, {}],
    'Bar 2 and bar 3 are two parts of one bar: in print the second has no number',
    'bar 3 has no number',
  ],
  ['jumps', [{ meter: '4/4' }, { jump: 'D.S.' }], 'The jump at bar 2 finds no segno to go back to', null],
  [
    'jumps',
    [{ meter: '4/4', toCoda: true }, { jump: 'D.C. al coda' }],
    'bar 1 sends to a coda that is not there',
    null,
  ],
  [
    'jumps',
    [{ meter: '4/4', fine: true }, { segno: true }, { jump: 'D.S. al fine' }, {}],
    'The jump at bar 3 never comes to a fine',
    null,
  ],
  [
    'jumps',
    [{ meter: '4/4', toCoda: true }, { segno: true }, { jump: 'D.S. al coda' }, { coda: true }],
    'The jump at bar 3 never comes to the sign that sends to the coda',
    null,
  ],
  [
    'jumps',
    [{ meter: '4/4' }, { ending: '1', endsRepeat: 2, fine: true }, { ending: '2' }, { jump: 'D.C. al fine' }],
    'The jump at bar 4 never comes to a fine',
    null,
  ],
  [
    'unplayed-bars',
    [{ meter: '4/4', fine: true }, { jump: 'D.C. al fine' }, {}, {}],
    'Bars 3 to 4 are never played',
    null,
  ],
  ['unplayed-bars', [{ meter: '4/4', fine: true }, { jump: 'D.C.' }, {}], 'Bar 3 is never played', null],
  ['jumps', [{ meter: '4/4', fine: true }, {}], 'Fine at bar 1, but no D.C. or D.S. comes back to it', null],
  [
    'pickup-and-last-bar',
    [{ meter: '3/4', pickup: '1/4' }, {}, {}],
    'The piece ends with 3 of 3 beats; the pickup has 1, so 2 would complete it',
    'bar 2 is cut to 1/2 of a whole note',
  ],
  [
    'pickup-and-last-bar',
    [{ meter: '2/2', pickup: '1/4' }, {}, {}],
    'The piece ends with 4 of 4 quarters; the pickup has 1, so 3 would complete it',
    'bar 2 is cut to 3/4 of a whole note',
  ],
  [
    'conductable-pulse',
    [{ meter: '6/8', tempo: [{ tempo: 'eighth = 60' }] }, {}],
    'Bar 1 is beaten at 20 a minute: in six, eighth = 60',
    'bars 1 to 2 beaten in 6',
  ],
  [
    'conductable-pulse',
    [{ meter: '5/16', tempo: [{ tempo: 'eighth = 240' }] }],
    'Bar 1 is beaten at 480 a minute: in one, 5 sixteenths = 96',
    'bar 1 beaten in 1',
  ],
  [
    'conductable-pulse',
    [{ meter: '3/4', tempo: [{ tempo: 'quarter = 216' }] }],
    'Bar 1 is beaten at 216 a minute: in one, dotted half = 72',
    'bar 1 beaten in 1',
  ],
  [
    'conductable-pulse',
    [{ meter: '3/4', pickup: '1/8', tempo: [{ tempo: 'quarter = 216' }] }, {}],
    'Bar 1 is beaten at 216 a minute: in one, dotted half = 72',
    'bar 1 beaten in 1',
  ],
  [
    'playable-notes',
    [{ meter: '4/4', tempo: [{ tempo: 'quarter = 200' }], rhythm: 't t t t e q h' }],
    'In bar 1 the shortest notes come 27 a second',
    null,
  ],
  [
    'count-off-tempo',
    [{ meter: '4/4', tempo: [{ tempo: 'quarter = 90' }, { at: '1/2', tempo: 'quarter = 60' }] }],
    'A count-off into bar 1 is at a tempo that the bar does not keep',
    null,
  ],
  [
    'count-off-tempo',
    [{ meter: '4/4', tempo: [{ ramp: 'to half as fast' }] }, { rehearsalMark: 'A' }],
    'A count-off into bar 1 is at a tempo',
    null,
  ],
  [
    'count-off-likeness',
    [{ meter: '4/4', rhythm: 'q q q q' }],
    'The notes of bar 1 sound like the count before them',
    'Count-off into bar 1 set',
  ],
  [
    'hold-release',
    [{ meter: '4/4', holds: [{ at: '1/2', length: '2 beats' }] }, {}],
    'The hold in bar 1 runs straight on',
    'bar 1: hold 2 beats, breath 0.5 seconds',
  ],
  [
    'seam-carry',
    [{ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, { tempo: [{ tempo: 'quarter = 95' }] }],
    'Nothing carries over into bar 2: follow the hand; what may help is quarter = quarter, off by 1.1 %',
    null,
  ],
  [
    'long-rest',
    [{ meter: '4/4', rhythm: 'rw' }, ...Array.from({ length: 8 }, () => ({ rhythm: 'rw' }))],
    'From bar 1 on there are 8 bars of rest and more',
    null,
  ],
  [
    'endless-route',
    [{ meter: '4/4', startsRepeat: true }, { startsRepeat: true }, { endsRepeat: 99 }, { endsRepeat: 99 }],
    'never come to an end',
    null,
  ],
];

describe('what the checks find, and what they offer', () => {
  test.each(FLAWS)('%s: %j', (check, bars, says, corrected) => {
    const piece = pieceOf(...bars);
    const [finding] = found(piece, check);
    expect(finding?.says).toContain(says);
    if (corrected === null) {
      expect(finding?.correction).toBeUndefined();
      return;
    }
    const edited = expectValue(applyEdit(piece, finding!.correction!.edit));
    expect(edited.says).toBe(corrected);
    expect(found(edited.piece, check).filter(({ barIndex }) => barIndex === finding!.barIndex)).toEqual([]);
  });

  test('every check is shown to find something, and a sound piece is left in peace', () => {
    const shown = new Set(FLAWS.map(([check]) => check));
    const unshown = CHECKS.map((check) => check.id).filter((id) => !shown.has(id));
    expect(unshown).toEqual(['pulse-fits']);
    const sound = pieceOf(
      { meter: '3/4', pickup: '1/4', tempo: [{ tempo: 'quarter = 96' }], rhythm: 'e e' },
      { rhythm: 'q. e q', startsRepeat: true },
      { ending: '1', endsRepeat: 2, rhythm: 'h.' },
      { ending: '2' },
      { meter: '4/4', rehearsalMark: 'A' },
      { meter: '3/4', cutTo: '1/2' },
    );
    expect(compilePiece(sound).findings).toEqual([]);
  });

  test('a pulse that an edit has outgrown is dropped with it; one that came from elsewhere is found', () => {
    const piece = pieceOf({ meter: '6/8', pulse: 'in 2' });
    const seven = pieceOf({ meter: '7/8' }).bars[0]!.meter;
    expect(
      expectValue(applyEdit(piece, { kind: 'setMeter', from: 0, count: 1, meter: seven })).piece.bars[0]
        ?.pulse,
    ).toBeUndefined();
    const odd = { ...piece, bars: [{ ...piece.bars[0]!, meter: seven }] };
    expect(found(odd, 'pulse-fits')[0]?.says).toContain('This bar cannot be beaten in 2: it can be in 1, 7');
  });

  test('findings come in reading order', () => {
    const piece = pieceOf(
      { meter: '4/4' },
      { meter: '15/16', rhythm: 'w' },
      { meter: '4/4' },
      { label: '9' },
    );
    const bars = compilePiece(piece).findings.map((finding) => finding.barIndex);
    expect(bars).toEqual([...bars].sort((a, b) => a - b));
    expect(bars.length).toBeGreaterThan(2);
  });
});

describe('an answered finding', () => {
  const piece = pieceOf({ meter: '4/4' }, { meter: '15/16' }, { meter: '4/4' }, {});
  const answered = expectValue(
    applyEdit(piece, { kind: 'answerFinding', bar: 1, check: 'odd-bar', reason: 'as in the score' }),
  ).piece;
  const answer = (of: Piece) => found(of, 'odd-bar')[0]?.answer;
  const edited = (...edits: Array<Parameters<typeof applyEdit>[1]>) =>
    edits.reduce((now, edit) => expectValue(applyEdit(now, edit)).piece, answered);

  test('stays answered, also when bars are added before it or labels change', () => {
    expect(answer(piece)).toBeNull();
    expect(answer(answered)).toBe('as in the score');
    expect(answer(edited({ kind: 'insertBars', at: 0, count: 3 }))).toBe('as in the score');
    expect(answer(edited({ kind: 'setLabel', bar: 1, label: '12b' }))).toBe('as in the score');
  });

  test('is open again once the place changes, or the answer is taken back', () => {
    const meter = pieceOf({ meter: '31/32' }).bars[0]!.meter;
    expect(answer(edited({ kind: 'setMeter', from: 1, count: 1, meter }))).toBeNull();
    expect(answer(edited({ kind: 'answerFinding', bar: 1, check: 'odd-bar', reason: null }))).toBeNull();
  });
});
