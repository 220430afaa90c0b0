import { beatParts, type CountSchool } from '../countWord.ts';

/** The beat's number, then its parts: 6/8 in two is "1 2 3 2 2 3". */
export const beatThenParts: CountSchool = {
  id: 'beat-parts',
  name: 'Beat, then its parts',
  example: '1 2 2 2 3 2 3',
  countFullBar: ({ pulse }) =>
    pulse.flatMap((beat, index) =>
      beatParts(beat, beat.parts).map((atWholes, part) => ({
        atWholes,
        word: String(part === 0 ? index + 1 : part + 1),
        isMain: part === 0,
      })),
    ),
};
