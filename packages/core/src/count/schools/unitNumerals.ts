import { divide, equal, scale, toNumber } from '../../fraction/fraction.ts';
import type { CountSchool } from '../countWord.ts';

/** Every unit of the meter numbered straight through: 6/8 is "1 2 3 4 5 6", 7/8 "1 … 7". */
export const unitNumerals: CountSchool = {
  id: 'units',
  name: 'Every unit, straight through',
  example: '1 2 3 4 5 6 7',
  countFullBar: ({ pulse, unitWholes, lengthWholes }) =>
    Array.from({ length: toNumber(divide(lengthWholes, unitWholes)) }, (_, unit) => {
      const atWholes = scale(unitWholes, unit);
      return {
        atWholes,
        word: String(unit + 1),
        isMain: pulse.some((beat) => equal(beat.atWholes, atWholes)),
      };
    }),
};
