import { add, divide, fraction, scale } from '../../fraction/fraction.ts';
import type { CountOffStyle, PlannedBeat } from '../style.ts';

const WORDS: Readonly<Record<number, readonly string[]>> = { 2: ['&'], 3: ['2', '3'], 4: ['e', '&', 'a'] };

/** Subdivisions sound in the last bar: "1 2 3 4 1 & 2 & 3 & 4 &". */
export const subdividedLast: CountOffStyle = {
  id: 'subdivided-last',
  name: 'Subdivisions in the last bar',
  plan: (beats) => {
    const lastBar = Math.max(0, ...beats.map((beat) => beat.bar));
    return beats.flatMap((beat) => (beat.bar === lastBar ? divided(beat) : [beat]));
  },
};

function divided(beat: PlannedBeat): PlannedBeat[] {
  const length = divide(beat.lengthWholes, fraction(beat.parts));
  return Array.from({ length: beat.parts }, (_, part) =>
    part === 0
      ? { ...beat, lengthWholes: length }
      : {
          ...beat,
          atWholes: add(beat.atWholes, scale(length, part)),
          lengthWholes: length,
          word: WORDS[beat.parts]?.[part - 1] ?? '',
          isDownbeat: false,
          sound: 'subdivision',
        },
  );
}
