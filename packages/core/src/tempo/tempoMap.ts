import {
  fraction,
  maybeAdd,
  multiply,
  subtract,
  toNumber,
  ZERO,
  type Fraction,
} from '../fraction/fraction.ts';
import { multiplyNearest } from '../fraction/nearest.ts';
import { barLength, UNSTATED_TEMPO, type Piece } from '../piece/piece.ts';
import { rampRate, rampSeconds, rampWholes, type RampCurve } from './ramp.ts';
import {
  rateAfterEquivalence,
  secondsOfRatio,
  statedRate,
  type Ramp,
  type RampTarget,
  type TempoMark,
} from './tempoMark.ts';

/** How the music moves over a stretch: steadily at a rate in whole notes per minute, or along a ramp. */
export type TempoLaw =
  | { readonly kind: 'steady'; readonly rate: Fraction }
  | {
      readonly kind: 'ramp';
      readonly curve: RampCurve;
      readonly startRate: Fraction;
      readonly endRate: Fraction;
    };

/** From `atWholes` in a written bar the music moves by `law`. */
export interface RateChange {
  readonly barIndex: number;
  readonly atWholes: Fraction;
  readonly law: TempoLaw;
  /** False once a chain of equivalences has outgrown exact numbers and was rounded in the 15th digit. */
  readonly isExact: boolean;
}

/** Laws in written order. */
export interface TempoMap {
  readonly changes: readonly RateChange[];
  /** Index in `changes` of what is in force at the start of each written bar. */
  readonly atBar: Int32Array;
  /** How far into that change the bar starts, in whole notes; only ramps need it. */
  readonly intoChange: Float64Array;
}

/** Reads the tempo marks in written order (timing.md, Ramps: a bar sounds at the tempo where it is written). */
export function tempoMapOf(piece: Piece, practice: Fraction = { n: 1, d: 1 }): TempoMap {
  const reader = new TempoMapReader(practice);
  piece.bars.forEach((bar, barIndex) => reader.readBar(barIndex, bar.tempoMarks, barLength(bar)));
  return reader.finish(piece.bars.length);
}

interface OpenRamp {
  readonly index: number;
  readonly ramp: Ramp;
  readonly startRate: Fraction;
  lengthWholes: number;
}

/** The mutable half of reading a tempo map: the rate reached, what "a tempo" would mean, the ramp that is open. */
class TempoMapReader {
  private readonly changes: RateChange[] = [];
  private readonly atBar: number[] = [];
  private readonly intoChange: number[] = [];
  private rate: Fraction;
  private isExact = true;
  private steadyRate: Fraction;
  private firstRate: Fraction | null = null;
  private open: OpenRamp | null = null;
  private sinceChange: Fraction | number = ZERO;

  constructor(private readonly practice: Fraction) {
    this.rate = multiply(statedRate(UNSTATED_TEMPO), practice);
    this.steadyRate = this.rate;
    this.push(0, ZERO, { kind: 'steady', rate: this.rate });
  }

  readBar(barIndex: number, marks: readonly TempoMark[], length: Fraction): void {
    let at = ZERO;
    let isMarked = false;
    for (const mark of marks) {
      if (mark.atWholes.n !== 0 && !isMarked) isMarked = this.markBar(barIndex);
      this.advance(subtract(mark.atWholes, at));
      at = mark.atWholes;
      this.readMark(barIndex, mark);
    }
    if (!isMarked) this.markBar(barIndex);
    this.advance(subtract(length, at));
  }

  finish(barCount: number): TempoMap {
    this.closeRamp(barCount, ZERO);
    return {
      changes: this.changes,
      atBar: Int32Array.from(this.atBar),
      intoChange: Float64Array.from(this.intoChange),
    };
  }

  /** Notes what is in force at the barline: called after the marks that stand on it, before those inside the bar. */
  private markBar(barIndex: number): true {
    this.atBar[barIndex] = this.changes.length - 1;
    this.intoChange[barIndex] = this.open ? numberOf(this.sinceChange) : 0;
    return true;
  }

  private readMark(barIndex: number, mark: TempoMark): void {
    const { atWholes, ramp } = mark;
    const saysTempo = mark.stated ?? mark.equivalence ?? mark.returns ?? ramp;
    if (!saysTempo && !mark.endsRamp) return;
    const wasRamp = this.open !== null;
    this.closeRamp(barIndex, atWholes);
    const set = this.rateSetBy(mark);
    if (set) this.rate = this.steadyRate = set;
    if (set && this.firstRate === null) this.firstRate = set;
    if (set || wasRamp) this.push(barIndex, atWholes, { kind: 'steady', rate: this.rate });
    if (ramp?.target) this.openRamp(barIndex, atWholes, ramp);
  }

  private rateSetBy({ equivalence, stated, returns }: TempoMark): Fraction | null {
    if (equivalence) {
      const after = rateAfterEquivalence(this.rate, equivalence);
      this.isExact &&= after.isExact;
      return after.value;
    }
    if (stated) {
      this.isExact = true;
      return multiply(statedRate(stated), this.practice);
    }
    if (returns === 'a tempo') return this.steadyRate;
    return returns === 'tempo primo' ? (this.firstRate ?? this.steadyRate) : null;
  }

  private openRamp(barIndex: number, atWholes: Fraction, ramp: Ramp): void {
    this.firstRate ??= this.rate;
    this.push(barIndex, atWholes, { kind: 'steady', rate: this.rate });
    this.open = { index: this.changes.length - 1, ramp, startRate: this.rate, lengthWholes: 0 };
  }

  /** The open ramp ends here: only now is its length known, and with it its curve. */
  private closeRamp(barIndex: number, atWholes: Fraction): void {
    const { open } = this;
    if (!open?.ramp.target) return;
    this.open = null;
    const endRate = this.targetRate(open.ramp.target, open.startRate);
    this.rate = endRate;
    if (open.lengthWholes <= 0) return;
    const curve: RampCurve = {
      shape: open.ramp.shape,
      startRate: toNumber(open.startRate) / 60,
      endRate: toNumber(endRate) / 60,
      lengthWholes: open.lengthWholes,
    };
    const begun = this.changes[open.index] as RateChange;
    this.changes[open.index] = { ...begun, law: { kind: 'ramp', curve, startRate: open.startRate, endRate } };
    this.push(barIndex, atWholes, { kind: 'steady', rate: endRate });
  }

  private targetRate(target: RampTarget, startRate: Fraction): Fraction {
    switch (target.kind) {
      case 'tempo':
        return multiply(statedRate(target.tempo), this.practice);
      case 'ratio':
        return multiplyNearest(startRate, target.ratio).value;
      case 'a tempo':
        return this.steadyRate;
      case 'tempo primo':
        return this.firstRate ?? this.steadyRate;
    }
  }

  private push(barIndex: number, atWholes: Fraction, law: TempoLaw): void {
    const last = this.changes.at(-1);
    const replacesLast =
      last?.barIndex === barIndex && last.atWholes.n === atWholes.n && last.atWholes.d === atWholes.d;
    if (replacesLast) this.changes.pop();
    this.changes.push({ barIndex, atWholes, law, isExact: this.isExact });
    this.sinceChange = ZERO;
  }

  private advance(lengthWholes: Fraction): void {
    if (this.open) this.open.lengthWholes += toNumber(lengthWholes);
    this.sinceChange =
      typeof this.sinceChange === 'number'
        ? this.sinceChange + toNumber(lengthWholes)
        : (maybeAdd(this.sinceChange, lengthWholes) ?? toNumber(this.sinceChange) + toNumber(lengthWholes));
  }
}

function numberOf(value: Fraction | number): number {
  return typeof value === 'number' ? value : toNumber(value);
}

/** Seconds that n/d whole notes last, from `into` whole notes after the law took hold. */
export function lawSeconds(law: TempoLaw, into: number, n: number, d: number): number {
  if (law.kind === 'steady') return secondsOfRatio(n, d, law.rate);
  return rampSeconds(law.curve, into + n / d) - (into === 0 ? 0 : rampSeconds(law.curve, into));
}

/** Whole notes passed in some seconds, from `into` whole notes after the law took hold. */
export function lawWholes(law: TempoLaw, into: number, seconds: number): number {
  if (law.kind === 'steady') return (seconds * toNumber(law.rate)) / 60;
  const start = into === 0 ? 0 : rampSeconds(law.curve, into);
  return rampWholes(law.curve, start + seconds) - into;
}

/** The rate at a distance into a law, in whole notes per minute; inside a ramp to eleven digits. */
export function lawRate(law: TempoLaw, into: number): Fraction {
  if (law.kind === 'steady') return law.rate;
  if (into <= 0) return law.startRate;
  if (into >= law.curve.lengthWholes) return law.endRate;
  return nearestNine(60 * rampRate(law.curve, into));
}

function nearestNine(value: number): Fraction {
  const scale = 10 ** Math.max(0, Math.min(9, 14 - Math.ceil(Math.log10(Math.max(value, 1)))));
  return fraction(Math.max(1, Math.round(value * scale)), scale);
}

/** The rate in force at the start of a written bar, in whole notes per minute. */
export function rateAtBar(map: TempoMap, barIndex: number): Fraction {
  const change = map.changes[map.atBar[barIndex] ?? 0];
  if (!change) throw new RangeError(`the tempo map has no bar ${barIndex}`);
  return lawRate(change.law, map.intoChange[barIndex] ?? 0);
}
