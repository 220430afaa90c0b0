import { fraction, multiply, type Fraction } from '../fraction/fraction.ts';

export const NOTE_BASES = [
  'breve',
  'whole',
  'half',
  'quarter',
  'eighth',
  'sixteenth',
  '32nd',
  '64th',
] as const;

export type NoteBase = (typeof NOTE_BASES)[number];

/** `actual` notes in the time of `normal`: a triplet is 3 in the time of 2. */
export interface Tuplet {
  readonly actual: number;
  readonly normal: number;
}

/** A written note value. Its length is an exact fraction of a whole note. */
export interface NoteValue {
  readonly base: NoteBase;
  readonly dots: number;
  readonly tuplets: readonly Tuplet[];
}

export const MAX_DOTS = 3;

export function noteValue(base: NoteBase, dots = 0, tuplets: readonly Tuplet[] = []): NoteValue {
  return { base, dots, tuplets };
}

/** base × (2 − 2^−dots) × Π(normal / actual), in whole notes (timing.md, Note values). */
export function noteValueLength(value: NoteValue): Fraction {
  const dotScale = 2 ** value.dots;
  const dotted = multiply(baseLength(value.base), fraction(2 * dotScale - 1, dotScale));
  return value.tuplets.reduce((length, t) => multiply(length, fraction(t.normal, t.actual)), dotted);
}

function baseLength(base: NoteBase): Fraction {
  const index = NOTE_BASES.indexOf(base);
  return index === 0 ? fraction(2) : fraction(1, 2 ** (index - 1));
}

/** The plain or dotted note value of this length, or null where no single note has it (5/8). */
export function noteValueOfLengthMaybe(length: Fraction): NoteValue | null {
  for (let dots = 0; dots <= MAX_DOTS; dots++) {
    const dotScale = 2 ** dots;
    const base = multiply(length, fraction(dotScale, 2 * dotScale - 1));
    const found = NOTE_BASES.find((name) => {
      const candidate = baseLength(name);
      return candidate.n === base.n && candidate.d === base.d;
    });
    if (found) return noteValue(found, dots);
  }
  return null;
}

/** Tuplets a single note is usually written in, the commonest first. */
const USUAL_TUPLETS: readonly Tuplet[] = [
  { actual: 3, normal: 2 },
  { actual: 5, normal: 4 },
  { actual: 7, normal: 4 },
  { actual: 9, normal: 8 },
];

/** A single note of this length: plain, dotted, or in a usual tuplet; null where no single note has it. */
export function singleNoteMaybe(length: Fraction): NoteValue | null {
  const plain = noteValueOfLengthMaybe(length);
  if (plain) return plain;
  for (const tuplet of USUAL_TUPLETS) {
    const inside = noteValueOfLengthMaybe(multiply(length, fraction(tuplet.actual, tuplet.normal)));
    if (inside) return { ...inside, tuplets: [tuplet] };
  }
  return null;
}
