import type { CountSchool } from '../countWord.ts';

/** One numeral a beat of the pulse: "1 2 3 4"; a 6/8 in two is "1 2". */
export const plainNumerals: CountSchool = {
  id: 'plain',
  name: 'Beats, plainly',
  example: '1 2 3',
  countFullBar: ({ pulse }) =>
    pulse.map((beat, index) => ({ atWholes: beat.atWholes, word: String(index + 1), isMain: true })),
};
