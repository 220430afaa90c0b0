import { equal, subtract, toNumber, type Fraction } from '../fraction/fraction.ts';
import { isGrouped, meterLength, meterUnit } from '../meter/meter.ts';
import { isSameMeter } from '../meter/text.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { rateAtBar, type TempoMap } from '../tempo/tempoMap.ts';
import { noteValueLength } from '../value/noteValue.ts';
import { pulseAdvice, type PulseAdvice, type PulseContext } from './advice.ts';
import { pulseOf } from './pulse.ts';

/** How a written bar of a piece is best beaten, with what is printed for it and what stands around it. */
export function pulseAdviceAt(
  { piece, tempoMap }: { readonly piece: Piece; readonly tempoMap: TempoMap },
  barIndex: number,
): PulseAdvice {
  const bar = piece.bars[barIndex];
  if (!bar) throw new RangeError(`bar ${barIndex} is not written`);
  return pulseAdvice(bar, rateAtBar(tempoMap, barIndex), pulseContext(piece, barIndex));
}

/** What stands around a bar and weighs in how it is beaten. */
function pulseContext(piece: Piece, barIndex: number): PulseContext {
  return {
    printedBeatWholes: printedBeatMaybe(piece, barIndex),
    neighbourBeatWholes: neighbourBeatMaybe(piece, barIndex),
    neighbourGroups: neighbourGroupsMaybe(piece, barIndex),
  };
}

/** The note of the printed tempo in force at the start of a bar; null after an equivalence or a ramp. */
function printedBeatMaybe({ bars }: Piece, barIndex: number): Fraction | null {
  for (let index = barIndex; index >= 0; index--) {
    const marks = bars[index]?.tempoMarks ?? [];
    const inForce = marks.findLast(({ atWholes }) => index < barIndex || atWholes.n === 0);
    if (inForce) return inForce.stated && !inForce.equivalence ? noteValueLength(inForce.stated.unit) : null;
  }
  return null;
}

/**
 * The beat of the bars on both sides of a bar without groups that is shorter or longer than they are by less than that
 * beat, at one tempo; null where it is no such bar.
 */
export function neighbourBeatMaybe({ bars }: Piece, barIndex: number): Fraction | null {
  const [before, bar, after] = [bars[barIndex - 1], bars[barIndex], bars[barIndex + 1]];
  if (!before || !bar || !after || before.partial || bar.partial || after.partial) return null;
  if (!isSameMeter(before.meter, after.meter) || isSameMeter(before.meter, bar.meter)) return null;
  if (bar.tempoMarks.length > 0 || after.tempoMarks.some(({ atWholes }) => atWholes.n === 0)) return null;
  const beats = pulseOf(before);
  const [beat] = beats;
  if (!beat || !beats.every(({ lengthWholes }) => equal(lengthWholes, beat.lengthWholes))) return null;
  const difference = Math.abs(toNumber(subtract(meterLength(bar.meter), meterLength(before.meter))));
  return difference > 1e-12 && difference < toNumber(beat.lengthWholes) - 1e-12 ? beat.lengthWholes : null;
}

/** How far around a bar one looks for how others of its length are grouped. */
const BARS_AROUND = 16;

function neighbourGroupsMaybe({ bars }: Piece, barIndex: number): readonly number[] | null {
  const bar = bars[barIndex];
  if (!bar) return null;
  const isLike = (other: Bar | undefined) =>
    other !== undefined &&
    equal(meterUnit(other.meter), meterUnit(bar.meter)) &&
    equal(meterLength(other.meter), meterLength(bar.meter)) &&
    other.meter.parts.some(isGrouped);
  for (let away = 1; away <= BARS_AROUND; away++) {
    const like = [bars[barIndex - away], bars[barIndex + away]].find(isLike);
    if (like) return like.meter.parts.flatMap(({ groups }) => groups);
  }
  return null;
}
