import { equal } from '../../fraction/fraction.ts';
import type { PulseBeat } from '../../pulse/pulse.ts';
import { beatParts, type CountSchool, type CountWord } from '../countWord.ts';

/** The beat's number, then its parts: 6/8 in two is "1 2 3 2 2 3". */
export const beatThenParts: CountSchool = {
  id: 'beat-parts',
  name: 'Beat, then its parts',
  example: '1 2 2 2 3 2 3',
  countFullBar: ({ pulse }) => beatsWithParts(pulse),
};

/** Halves of equal beats are "&"; other parts go on in numbers. */
export function beatsWithParts(pulse: readonly PulseBeat[]): readonly CountWord[] {
  const isPlain = pulse.every(
    (beat) => beat.parts === 2 && pulse[0] && equal(beat.lengthWholes, pulse[0].lengthWholes),
  );
  return pulse.flatMap((beat, index) =>
    beatParts(beat, beat.parts).map((atWholes, part) => ({
      atWholes,
      word: part === 0 ? String(index + 1) : isPlain ? '&' : String(part + 1),
      isMain: part === 0,
    })),
  );
}

/** Every beat has three parts, as in 6/8 in two. */
export function isCompound(pulse: readonly PulseBeat[]): boolean {
  return pulse.every(({ parts }) => parts === 3);
}
