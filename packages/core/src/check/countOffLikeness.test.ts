import { describe, expect, test } from '@jest/globals';
import { compileAfter, compilePiece } from '../compile/compile.ts';
import type { BarDocument } from '../document/document.ts';
import { applyEdit } from '../edit/applyEdit.ts';
import type { Piece } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';

const found = (piece: Piece, check: string) =>
  compilePiece(piece).findings.filter((finding) => finding.check === check);

describe('an opening is held against what is really counted before it', () => {
  const PLAIN = { bars: 1, style: 'plain' };
  test.each<[why: string, isAlike: boolean, bars: readonly BarDocument[]]>([
    ['beats after beats', true, [{ meter: '4/4', rhythm: 'q q q q' }]],
    ['another rhythm', false, [{ meter: '4/4', rhythm: 'q q h' }]],
    [
      'a breath at the end of the count',
      false,
      [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, breathOnLastBeat: true } }],
    ],
    [
      'a breath in both',
      true,
      [{ meter: '4/4', rhythm: 'q q q rq', countOff: { ...PLAIN, breathOnLastBeat: true } }],
    ],
    ['a cue word', false, [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, cueWord: 'now' } }]],
    ['ready, go', false, [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, style: 'ready-go' } }]],
    [
      'nothing heard',
      false,
      [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, style: 'preparatory-beat' } }],
    ],
    [
      'the last bar of a count that began in half time',
      true,
      [{ meter: '4/4', rhythm: 'q q q q', countOff: { bars: 2, style: 'half-time-first' } }],
    ],
    [
      'divided beats before plain ones',
      false,
      [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, style: 'subdivided-last' } }],
    ],
    [
      'divided beats before divided ones',
      true,
      [{ meter: '4/4', rhythm: 'e e e e e e e e', countOff: { ...PLAIN, style: 'subdivided-last' } }],
    ],
    [
      'long-short-short before plain beats',
      false,
      [{ meter: '4/4', rhythm: 'q q q q', countOff: { ...PLAIN, style: 'rhythmic-pitch' } }],
    ],
    [
      'long-short-short before the same',
      true,
      [{ meter: '4/4', rhythm: 'q e e q e e', countOff: { ...PLAIN, style: 'rhythmic-pitch' } }],
    ],
    [
      'the same, but on another tone than the first note',
      false,
      [
        {
          meter: '4/4',
          rhythm: 'q e e q e e',
          countOff: { ...PLAIN, style: 'rhythmic-pitch', firstNote: 62 },
        },
      ],
    ],
    [
      'the same, on the first note',
      true,
      [
        {
          meter: '4/4',
          rhythm: 'q e e q e e',
          countOff: { ...PLAIN, style: 'rhythmic-pitch', firstNote: 64 },
        },
      ],
    ],
    ['a beaten dotted beat', true, [{ meter: '6/8', rhythm: 'q. q.' }]],
    ['eighths under a dotted beat', false, [{ meter: '6/8', rhythm: 'e e e e e e' }]],
    [
      'a pickup that goes on as it was counted',
      true,
      [{ meter: '4/4', pickup: '1/4', rhythm: 'q' }, { rhythm: 'q q q q' }],
    ],
    ['a pickup before other notes', false, [{ meter: '4/4', pickup: '1/4', rhythm: 'q' }, { rhythm: 'h h' }]],
    ['a pickup tied over', false, [{ meter: '4/4', pickup: '1/4', rhythm: 'q~' }, { rhythm: 'q q q q' }]],
    ['notes that are not known', false, [{ meter: '4/4', pickup: '1/4', rhythm: 'q' }, {}]],
    ['no rehearsal mark, no entry', false, [{ meter: '4/4', rhythm: 'h h' }, { rhythm: 'q q q q' }]],
    [
      'a rehearsal mark',
      true,
      [
        { meter: '4/4', rhythm: 'h h' },
        { rhythm: 'q q q q', rehearsalMark: 'A' },
      ],
    ],
  ])('%s: %s', (_why, isAlike, bars) => {
    expect(found(pieceOf(...bars), 'count-off-likeness')).toHaveLength(isAlike ? 1 : 0);
  });

  test('where both end with a breath, words are offered that tell the end', () => {
    const countOff = { ...PLAIN, breathOnLastBeat: true } as const;
    const piece = pieceOf({ meter: '4/4', rhythm: 'q q q rq', countOff });
    const { correction } = found(piece, 'count-off-likeness')[0]!;
    expect(correction?.label).toBe('Say “ready, go” on the last two beats');
    const clearer = expectValue(applyEdit(piece, correction!.edit)).piece;
    expect(found(clearer, 'count-off-likeness')).toEqual([]);
  });

  test('another key may make a count end on the first note', () => {
    const countOff = { ...PLAIN, style: 'rhythmic-pitch', firstNote: 62 };
    const piece = pieceOf({ meter: '4/4', rhythm: 'q e e q e e', countOff });
    const inG = { ...piece, key: 'G major' };
    const after = compileAfter({ piece, compiled: compilePiece(piece) }, inG).findings;
    expect(after).toEqual(compilePiece(inG).findings);
    expect(after.map(({ check }) => check)).toContain('count-off-likeness');
  });
});
