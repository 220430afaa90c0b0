import { compare, divide, fraction, scale, toNumber, type Fraction } from '../../fraction/fraction.ts';
import type { CountSchool, CountWord, FullBar } from '../countWord.ts';
import { beatsWithParts, isCompound } from './beatThenParts.ts';

const QUARTER = fraction(1, 4);
const SYLLABLES: Readonly<Record<number, readonly string[]>> = {
  1: [''],
  2: ['', '&'],
  4: ['', 'e', '&', 'a'],
};

/** Quarters through the bar with what is left of the last: 7/8 is "1 & 2 & 3 & 4". */
export const quartersWithAnd: CountSchool = {
  id: 'quarters-and',
  name: 'Quarters with a short last beat',
  example: '1 & 2 & 3 & 4',
  countFullBar: (full) => quarters(full, 2),
};

/** Sixteenth syllables through the bar: 15/16 is "1 e & a 2 e & a 3 e & a 4 e &". */
export const sixteenthSyllables: CountSchool = {
  id: 'sixteenths',
  name: 'Sixteenth syllables',
  example: '1 e & a 2 e & a 3 e & a 4 e',
  countFullBar: (full) => quarters(full, 4),
};

/** Quarters numbered from the bar's beginning (in a bar of dotted beats these, with their parts), each in `parts` syllables, as far as the bar goes. */
function quarters({ lengthWholes, pulse }: FullBar, parts: 2 | 4): readonly CountWord[] {
  if (isCompound(pulse)) return beatsWithParts(pulse);
  const step: Fraction = divide(QUARTER, fraction(parts));
  const count = Math.ceil(toNumber(divide(lengthWholes, step)) - 1e-9);
  return Array.from({ length: count }, (_, index) => {
    const part = index % parts;
    const word = part === 0 ? String(index / parts + 1) : (SYLLABLES[parts]?.[part] ?? '');
    return { atWholes: scale(step, index), word, isMain: part === 0 };
  }).filter((word) => compare(word.atWholes, lengthWholes) < 0);
}
