import {
  add,
  commonMeasure,
  divide,
  equal,
  scale,
  toNumber,
  type Fraction,
} from '../../fraction/fraction.ts';
import type { Bar } from '../../piece/piece.ts';
import { commonestBeat, pulseOf, type PulseBeat } from '../../pulse/pulse.ts';
import type { CountSchool, CountWord } from '../countWord.ts';

/** Syllables after the beat's number, by how many parts a beat usually has; a longer beat goes on in its row. */
const SYLLABLES: Readonly<Record<number, readonly string[]>> = {
  2: ['&', 'a', '4', '5'],
  4: ['e', '&', 'a', '5', '6', '7'],
};

/**
 * The beats of a bar by number, with the parts where they are needed to tell it from its neighbours: 15/16 is
 * "1 2 3 4 e &", 2/4+3/8 "1 & 2 & 3 & a". `beside` is the pulse of a bar next to it that is odd: its odd beats are divided
 * in this bar too, so that one hears what is missing there. An even bar beside even ones is counted plainly.
 */
export function countShowingOdd(
  pulse: readonly PulseBeat[],
  beside: readonly PulseBeat[] = [],
): readonly CountWord[] {
  const common = commonestBeat([...pulse, ...beside]).lengthWholes;
  const isOdd = ({ lengthWholes }: PulseBeat) => !equal(lengthWholes, common);
  const oddBeats = [...pulse, ...beside].filter(isOdd);
  const part = oddBeats.reduce((least, { lengthWholes }) => commonMeasure(least, lengthWholes), common);
  const usual = toNumber(divide(common, part));
  // Beats of two parts are all divided: the longer one is heard against them.
  const dividesAll = oddBeats.length > 0 && usual <= 2;
  return pulse.flatMap((beat, index) => {
    const isShown = dividesAll || isOdd(beat) || (beside[index] !== undefined && isOdd(beside[index]));
    return oddBeats.length > 0 && isShown ? divided(beat, index, part, usual) : [mainWord(beat, index)];
  });
}

function mainWord(beat: PulseBeat, index: number): CountWord {
  return { atWholes: beat.atWholes, word: String(index + 1), isMain: true };
}

function divided(beat: PulseBeat, index: number, part: Fraction, usual: number): readonly CountWord[] {
  const count = Math.round(toNumber(divide(beat.lengthWholes, part)));
  return Array.from({ length: count }, (_, at) =>
    at === 0
      ? mainWord(beat, index)
      : {
          atWholes: add(beat.atWholes, scale(part, at)),
          word: SYLLABLES[usual]?.[at - 1] ?? String(at + 1),
          isMain: false,
        },
  );
}

/** The pulse of a bar beside one, where both are beaten alike but for odd beats; else none. */
export function besideAlike(pulse: readonly PulseBeat[], beside: readonly PulseBeat[]): readonly PulseBeat[] {
  return equal(commonestBeat(pulse).lengthWholes, commonestBeat(beside).lengthWholes) ? beside : [];
}

/** The count of a bar between its neighbours: divided where it, or one of them, is odd. */
export function countBetween(bar: Bar, neighbours: ReadonlyArray<Bar | undefined>): readonly CountWord[] {
  const pulse = pulseOf(bar);
  if (bar.partial) return pulse.map(({ atWholes, word }) => ({ atWholes, word, isMain: true }));
  const common = commonestBeat(pulse).lengthWholes;
  const besides = neighbours.flatMap((beside) =>
    beside && !beside.partial ? [besideAlike(pulse, pulseOf(beside))] : [],
  );
  const odd = besides.find((beside) => beside.some(({ lengthWholes }) => !equal(lengthWholes, common)));
  return countShowingOdd(pulse, odd ?? []);
}

/** Beats by number, divided where the bar is odd. */
export const oddShown: CountSchool = {
  id: 'odd-shown',
  name: 'Beats, divided where the bar is odd',
  example: '1 & 2 & 3 & a',
  countFullBar: ({ pulse }) => countShowingOdd(pulse),
};
