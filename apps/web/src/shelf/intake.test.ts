import { describe, expect, test } from '@jest/globals';
import { writePiece } from '@anchorbeat/core';
import { BLANK_INTAKE, meterAndRateMaybe, pieceFromIntake, UNTITLED, type Intake } from './intake.ts';

const made = (answers: Partial<Intake>, sections: readonly string[] = []) => {
  const piece = pieceFromIntake({ ...BLANK_INTAKE, ...answers }, sections);
  return piece.ok ? writePiece(piece.value) : piece.problem.message;
};

describe('a piece from what the first page says', () => {
  test('nothing answered is a piece too', () => {
    expect(made({ bars: '2' })).toMatchObject({
      title: UNTITLED,
      bars: [{ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, {}],
    });
  });

  test('everything answered', () => {
    const answers = {
      title: ' Skein ',
      composer: 'Wenna Tarrick',
      style: 'jig',
      key: 'G major',
      term: 'Lightly',
      tempo: 'q. = 108',
      meter: '6/8',
      pickup: 'e',
      bars: '2',
      countedIn: 'ready-go',
      beatenIn: '1',
    };
    expect(made(answers, ['Bells'])).toEqual({
      format: 'anchorbeat-piece',
      version: 1,
      title: 'Skein',
      composer: 'Wenna Tarrick',
      key: 'G major',
      style: 'jig',
      sections: ['Bells'],
      bars: [
        {
          meter: '6/8',
          pickup: '1/8',
          tempo: [{ term: 'Lightly', tempo: 'dotted quarter = 108' }],
          countOff: { style: 'ready-go' },
        },
        { pulse: 'in 1' },
        { pulse: 'in 1' },
      ],
    });
  });

  test.each<[Partial<Intake>, string]>([
    [{ meter: 'four' }, 'Meter: '],
    [{ tempo: 'fast' }, 'Tempo: '],
    [{ bars: '0' }, 'Bars: '],
    [{ pickup: '4/4' }, 'Pickup: it is shorter'],
    [{ pickup: 'some' }, 'Pickup: '],
  ])('%j is told by its line', (answers, message) => {
    expect(made(answers)).toContain(message);
  });

  test('advice needs a meter and a tempo that read', () => {
    expect(meterAndRateMaybe({ ...BLANK_INTAKE, tempo: '120' })?.rate).toEqual({ n: 30, d: 1 });
    expect(meterAndRateMaybe({ ...BLANK_INTAKE, meter: '4/' })).toBeNull();
  });
});
