import { expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { sectionStanding } from './standing.ts';

const sections = (
  ...marks: ReadonlyArray<readonly [section: string, does: 'enters' | 'rests' | 'cue', says?: string]>
) => ({
  sections: marks.map(([section, does, says]) => ({ section, does, ...(says && { says }) })),
});

const proof = proofOf(
  pieceOf(
    { meter: '4/4', startsRepeat: true },
    {},
    { ...sections(['Reeds', 'rests']), endsRepeat: 2 },
    {},
    { ...sections(['Drums', 'cue', 'with the bell']) },
    { ...sections(['Reeds', 'enters', 'softly']) },
    {},
  ),
);
const at = (performed: number, section: string) => {
  const { rest, next } = sectionStanding(proof, performed, section);
  return [
    rest && `${rest.bar} of ${rest.of}`,
    next && `${next.performed} in ${next.inBars}`,
    next?.mark?.says,
  ];
};

test('rests are counted as they are performed, through repeats, and entries in bars from here', () => {
  // Performed: bars 1 2 3 1 2 3 4 5 6 7; Reeds rest in 3, and from the second 3 to 5.
  expect(at(0, 'Reeds')).toEqual([null, '3 in 3', undefined]);
  expect(at(2, 'Reeds')).toEqual(['1 of 1', '3 in 1', undefined]);
  expect(at(5, 'Reeds')).toEqual(['1 of 3', '8 in 3', 'softly']);
  expect(at(7, 'Reeds')).toEqual(['3 of 3', '8 in 1', 'softly']);
  expect(at(8, 'Reeds')).toEqual([null, null, undefined]);
});

test('a cue is told, and a section the piece does not name plays all through', () => {
  expect(at(0, 'Drums')).toEqual([null, '7 in 7', 'with the bell']);
  expect(at(3, 'Kazoos')).toEqual([null, null, undefined]);
});

test('what is left out today is not counted, and nobody enters in it', () => {
  const next = (leftOut: { from: number; to: number }[]) => {
    const standing = sectionStanding(proof, 2, 'Reeds', leftOut);
    return standing.next && [standing.next.performed, standing.next.inBars];
  };
  expect(next([])).toEqual([3, 1]);
  expect(next([{ from: 3, to: 6 }])).toEqual([8, 3]);
  expect(next([{ from: 3, to: 9 }])).toBeNull();
});
