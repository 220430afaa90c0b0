import { describe, expect, test } from '@jest/globals';
import { applyEdit, readPiece, writePiece } from '@anchorbeat/core';
import { ENTRIES, type EntryKind } from './entries.ts';

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [{ meter: '4/4' }, { meter: '6/8' }, { rehearsalMark: 'A' }, { meter: '3/4' }],
});
if (!reading.ok) throw new Error('the test piece does not read');
const { piece } = reading;

/** What a typed entry makes of bar 2 of the piece, or why it is refused. */
function typed(kind: EntryKind, text: string, isWide = false): unknown {
  const act = ENTRIES[kind].read(text, { piece, span: { from: 1, count: 1 }, isWide });
  if (!act.ok) return act.problem.message;
  if (act.value.kind === 'go') return act.value.bar;
  const edited = applyEdit(piece, act.value.edit);
  return edited.ok ? writePiece(edited.value.piece).bars.slice(1, 3) : edited.problem.message;
}

describe('what is typed on the map', () => {
  test.each<[EntryKind, string, unknown]>([
    ['meter', '7/8 2+2+3', [{ meter: '7/8 as 2+2+3' }, { meter: '6/8', rehearsalMark: 'A' }]],
    ['tempo', '72', [{ meter: '6/8', tempo: [{ tempo: 'dotted quarter = 72' }] }, { rehearsalMark: 'A' }]],
    [
      'tempo',
      'molto rit. to half as fast on 2',
      [
        { meter: '6/8', tempo: [{ at: '3/8', term: 'molto rit.', ramp: 'even per beat to half as fast' }] },
        { rehearsalMark: 'A' },
      ],
    ],
    [
      'tempo',
      'accel even ratio to q = 120',
      [
        { meter: '6/8', tempo: [{ term: 'accel.', ramp: 'even ratio to quarter = 120' }] },
        { rehearsalMark: 'A' },
      ],
    ],
    ['tempo', 'end', [{ meter: '6/8', tempo: [{ endsRamp: true }] }, { rehearsalMark: 'A' }]],
    [
      'equivalence',
      'e = e',
      [{ meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] }, { rehearsalMark: 'A' }],
    ],
    ['pickup', '1', [{ meter: '6/8', pickup: '1/8' }, { rehearsalMark: 'A' }]],
    [
      'hold',
      'until cued',
      [{ meter: '6/8', holds: [{ at: '3/8', length: 'until cued' }] }, { rehearsalMark: 'A' }],
    ],
    [
      'hold',
      'breath 0.5 seconds on 1',
      [{ meter: '6/8', holds: [{ kind: 'breath', length: '0.5 seconds' }] }, { rehearsalMark: 'A' }],
    ],
    [
      'tempo',
      'Allegro ma non troppo q. = 96',
      [
        { meter: '6/8', tempo: [{ term: 'Allegro ma non troppo', tempo: 'dotted quarter = 96' }] },
        { rehearsalMark: 'A' },
      ],
    ],
    [
      'tempo',
      'accel. to 104',
      [
        { meter: '6/8', tempo: [{ term: 'accel.', ramp: 'even per beat to dotted quarter = 104' }] },
        { rehearsalMark: 'A' },
      ],
    ],
    ['tempo', 'Meno mosso', 'Give Meno mosso its tempo too: Meno mosso q = 96'],
    ['tempo', 'e.7', "First the letter, then the tuplet's number, then the dots: e7."],
    ['equivalence', '.q = e', "First the letter, then the tuplet's number, then the dots: q."],
    ['rest', 'Tubas', 'This piece has no sections yet: "Tubas rest" with the key e adds one'],
    ['signs', '|:, segno', [{ meter: '6/8', startsRepeat: true, segno: true }, { rehearsalMark: 'A' }]],
    [
      'signs',
      'ending 1, 2; :| 3 times',
      [{ meter: '6/8', endsRepeat: 3, ending: '1, 2' }, { rehearsalMark: 'A' }],
    ],
    [
      'signs',
      'to coda, D.S. al coda',
      [{ meter: '6/8', toCoda: true, jump: 'D.S. al coda' }, { rehearsalMark: 'A' }],
    ],
    ['signs', ':| until cued', [{ meter: '6/8', endsRepeat: 'until cued' }, { rehearsalMark: 'A' }]],
    ['pulse', '6', [{ meter: '6/8', pulse: 'in 6' }, { rehearsalMark: 'A' }]],
    ['notes', 'q. e e e', [{ meter: '6/8', rhythm: 'q. e e e' }, { rehearsalMark: 'A' }]],
    ['add', '2 of 5/8', [{ meter: '6/8' }, { meter: '5/8' }]],
    ['mark', 'B', [{ meter: '6/8', rehearsalMark: 'B' }, { rehearsalMark: 'A' }]],
    ['label', '12a', [{ meter: '6/8', label: '12a' }, { rehearsalMark: 'A' }]],
    ['go', 'a', 2],
    ['go', '4', 3],
  ])('%s "%s"', (kind, text, expected) => {
    expect(typed(kind, text)).toEqual(expected);
  });

  test('a meter entered wide holds on to the next meter', () => {
    expect(typed('meter', '5/8', true)).toEqual([{ meter: '5/8' }, { rehearsalMark: 'A' }]);
  });

  test.each<[EntryKind, string, string]>([
    ['signs', 'ending x', 'not a list of passes'],
    ['signs', ':| 1', '2 to 99 times'],
    ['signs', 'al dente', 'is no sign'],
    ['hold', 'long', 'no length of a hold'],
    ['hold', '2 beats on 7', 'no beat 7'],
    ['pulse', '5', 'it can be in 1, 2, 3, 6'],
    ['notes', 'do re mi', 'Note 1'],
    ['tempo', 'rit. to nowhere', 'is not a number'],
    ['add', '0', 'whole number from 1'],
    ['go', 'Z', 'no bar and no rehearsal mark'],
  ])('%s "%s" is refused', (kind, text, reason) => {
    expect(typed(kind, text)).toContain(reason);
  });
});
