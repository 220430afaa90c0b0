import { add, divide, scale, toNumber, type Fraction } from '../../fraction/fraction.ts';
import type { PulseBeat } from '../../pulse/pulse.ts';
import type { CountSchool, FullBar } from '../countWord.ts';

/** Each group counted from one: 7/8 as 2+2+3 is "1 2 1 2 1 2 3". */
export const grouped: CountSchool = {
  id: 'grouped',
  name: 'Each group from one',
  example: '1 2 1 2 1 2 3',
  countFullBar: (full) =>
    // A bar without groups is counted through.
    full.pulse.every((beat) => unitsIn(beat, full) === 1)
      ? full.pulse.map(({ atWholes }, index) => ({ atWholes, word: String(index + 1), isMain: true }))
      : full.pulse.flatMap((beat) =>
          Array.from({ length: unitsIn(beat, full) }, (_, unit) => ({
            atWholes: add(beat.atWholes, scale(stepOf(beat, full), unit)),
            word: String(unit + 1),
            isMain: unit === 0,
          })),
        ),
};

function unitsIn(beat: PulseBeat, full: FullBar): number {
  return Math.max(1, Math.floor(toNumber(divide(beat.lengthWholes, stepOf(beat, full)))));
}

/** A beat that is no longer than the unit is not divided. */
function stepOf(beat: PulseBeat, { unitWholes }: FullBar): Fraction {
  return toNumber(unitWholes) <= toNumber(beat.lengthWholes) ? unitWholes : beat.lengthWholes;
}
