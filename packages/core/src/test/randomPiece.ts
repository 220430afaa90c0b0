import { seededRandom } from '../random/seededRandom.ts';
import { compare, fraction, type Fraction } from '../fraction/fraction.ts';
import { meterLength, type Meter, type MeterPart } from '../meter/meter.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';
import { noteValue, type NoteBase, type NoteValue } from '../value/noteValue.ts';

const BASES: readonly NoteBase[] = ['half', 'quarter', 'eighth', 'sixteenth'];
const TUPLETS = [
  { actual: 3, normal: 2 },
  { actual: 5, normal: 4 },
];

/** A piece of any meters, groupings, pickups, marks and equivalences, valid by construction. */
export function randomPiece(seed: number, barCount: number): Piece {
  const random = seededRandom(seed);
  const below = (limit: number) => Math.floor(random() * limit);
  const note = (): NoteValue =>
    noteValue(
      BASES[below(4)] ?? 'quarter',
      below(4) === 0 ? 1 : 0,
      below(5) === 0 ? [TUPLETS[below(2)] ?? TUPLETS[0]!] : [],
    );
  const part = (): MeterPart => {
    const unit = [4, 8, 16][below(3)] ?? 4;
    const groups = Array.from({ length: below(3) === 0 ? 2 + below(3) : 1 }, () => 1 + below(6));
    return { groups, unit, prints: groups.length > 1 && below(2) === 0 ? 'groups' : 'total' };
  };
  const mark = (atWholes: Fraction): TempoMark =>
    below(2) === 0
      ? { atWholes, stated: { unit: note(), bpm: fraction(40 + below(160), 1 + below(3)) } }
      : { atWholes, equivalence: { before: note(), after: note() } };
  const bar = (meter: Meter, index: number): Bar => {
    const length = meterLength(meter);
    const half = fraction(length.n, length.d * 2);
    const partial = index === 0 && below(2) === 0 ? { keeps: 'end' as const, lengthWholes: half } : undefined;
    const inside = fraction(length.n, length.d * 3);
    const marks = [
      ...(below(9) === 0 ? [mark(fraction(0))] : []),
      ...(below(12) === 0 && compare(inside, half) < 0 ? [mark(inside)] : []),
    ];
    return {
      meter,
      tempoMarks: marks,
      ...(partial && { partial }),
      ...(below(15) === 0 && { rehearsalMark: String.fromCharCode(65 + below(26)) }),
      ...(below(40) === 0 && { label: `${index}a` }),
    };
  };
  let meter: Meter = { parts: [part()] };
  const bars = Array.from({ length: barCount }, (_, index) => {
    if (below(3) === 0) meter = { parts: below(6) === 0 ? [part(), part()] : [part()] };
    return bar(meter, index);
  });
  return { title: `Random ${seed}`, subtitle: '', composer: '', bars };
}
