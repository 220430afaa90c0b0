import { add, compare, maybeAdd, subtract, toNumber, ZERO, type Fraction } from '../fraction/fraction.ts';
import { barLength, type Bar, type Hold, type Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { routeOf, type Route } from '../route/route.ts';
import { lawRate, lawSeconds, tempoMapOf, type TempoLaw, type TempoMap } from '../tempo/tempoMap.ts';
import { noteValueLength } from '../value/noteValue.ts';
import { CompensatedSum, type SumState } from './compensatedSum.ts';

/** A stretch of performed music under one tempo law. Times inside it are computed from its own start. */
export interface TempoSegment {
  readonly startSeconds: number;
  /** The performed bar it starts in, and where in that bar. */
  readonly performed: number;
  readonly atWholes: Fraction;
  readonly law: TempoLaw;
  /** How far into its law it starts, in whole notes; only ramps need it. */
  readonly into: number;
  /** The running sum its start was taken from, so that a later compile can go on from here to the last digit. */
  readonly startSum: SumState;
}

/** A place in the performance: a performed bar (from 0) and an exact offset in it. */
export interface PerformedPosition {
  readonly performed: number;
  readonly atWholes: Fraction;
}

/** A hold or breath as performed: the music stands still at `startSeconds` for `lengthSeconds`. */
export interface PerformedHold {
  readonly performed: number;
  readonly hold: Hold;
  readonly startSeconds: number;
  readonly lengthSeconds: number;
}

/** When everything is. Seconds count from the first performed bar, without the count-off. */
export interface Timeline {
  readonly route: Route;
  readonly segments: readonly TempoSegment[];
  /** Segment in force at the start of each performed bar. */
  readonly segmentAtBar: Int32Array;
  /** Exact distance of each bar's start from its segment's start, as numerator and denominator. */
  readonly fromSegmentN: Float64Array;
  readonly fromSegmentD: Float64Array;
  /** One more than there are performed bars: the last is the end of the piece. */
  readonly barStartSeconds: Float64Array;
  readonly holds: readonly PerformedHold[];
}

/** Compiles the performance of a piece. One pass; cost is proportional to performed bars and marks. */
export function timelineOf(
  piece: Piece,
  tempoMap: TempoMap = tempoMapOf(piece),
  route: Route = routeOf(piece),
): Timeline {
  return new TimelineBuilder(piece, tempoMap, route).build(0);
}

/** The same for a piece that was compiled before and differs only from a performed bar on; route and tempo map are as before. */
export function timelineAfter(
  piece: Piece,
  tempoMap: TempoMap,
  known: Timeline,
  untilPerformed: number,
): Timeline {
  const builder = new TimelineBuilder(piece, tempoMap, known.route);
  return builder.build(builder.takeOver(known, untilPerformed));
}

/** What interrupts the even flow inside a bar, in order of position. */
interface Interruption {
  readonly atWholes: Fraction;
  readonly change?: number;
  readonly hold?: Hold;
}

/** The mutable half of one compile: where the open segment began and how far it has come. */
class TimelineBuilder {
  private readonly segments: TempoSegment[] = [];
  private readonly holds: PerformedHold[] = [];
  private readonly segmentAtBar: Int32Array;
  private readonly fromSegmentN: Float64Array;
  private readonly fromSegmentD: Float64Array;
  private readonly barStartSeconds: Float64Array;
  private closedSeconds = new CompensatedSum();
  private open: TempoSegment | null = null;
  private reached: Fraction = ZERO;
  private lastBarIndex = -1;
  private readonly lengths: readonly Fraction[];

  constructor(
    private readonly piece: Piece,
    private readonly tempoMap: TempoMap,
    private readonly route: Route,
  ) {
    this.lengths = piece.bars.map(barLength);
    const count = route.barIndex.length;
    this.segmentAtBar = new Int32Array(count);
    this.fromSegmentN = new Float64Array(count);
    this.fromSegmentD = new Float64Array(count);
    this.barStartSeconds = new Float64Array(count + 1);
  }

  /** Adds the bars from one on, and gives the whole. */
  build(fromPerformed: number): Timeline {
    for (let performed = fromPerformed; performed < this.route.barIndex.length; performed++)
      this.addBar(performed);
    return this.finish();
  }

  /** Takes over what was compiled before the last segment that begins with a bar; gives the bar to go on from. */
  takeOver(known: Timeline, untilPerformed: number): number {
    const isStart = ({ performed, atWholes }: TempoSegment) =>
      performed <= untilPerformed && atWholes.n === 0;
    const index = known.segments.findLastIndex(isStart);
    const from = known.segments[index];
    if (!from || from.performed === 0) return 0;
    for (let segment = 0; segment < index; segment++)
      this.segments.push(known.segments[segment] as TempoSegment);
    for (const hold of known.holds) if (hold.performed < from.performed) this.holds.push(hold);
    this.segmentAtBar.set(known.segmentAtBar.subarray(0, from.performed));
    this.fromSegmentN.set(known.fromSegmentN.subarray(0, from.performed));
    this.fromSegmentD.set(known.fromSegmentD.subarray(0, from.performed));
    this.barStartSeconds.set(known.barStartSeconds.subarray(0, from.performed));
    this.closedSeconds = new CompensatedSum(from.startSum);
    this.lastBarIndex = this.route.barIndex[from.performed - 1] ?? -1;
    return from.performed;
  }

  private addBar(performed: number): void {
    const barIndex = this.route.barIndex[performed] ?? 0;
    const bar = this.piece.bars[barIndex];
    if (!bar) throw new RangeError(`the route names bar ${barIndex}, which is not written`);
    const changeIndex = this.tempoMap.atBar[barIndex] ?? 0;
    this.moveTo(performed, ZERO, this.lawOf(changeIndex), this.tempoMap.intoChange[barIndex] ?? 0);
    this.lastBarIndex = barIndex;
    this.markBar(performed);
    const length = this.lengths[barIndex] ?? ZERO;
    const isEven = !bar.holds && this.tempoMap.changes[changeIndex + 1]?.barIndex !== barIndex;
    if (isEven) {
      this.advance(length, performed + 1, ZERO);
      return;
    }
    let from = ZERO;
    for (const { atWholes, change, hold } of this.interruptions(bar, barIndex, changeIndex)) {
      this.advance(subtract(atWholes, from), performed, atWholes);
      from = atWholes;
      if (change !== undefined) this.moveTo(performed, atWholes, this.lawOf(change), 0);
      if (hold) this.standStill(performed, atWholes, hold, bar);
    }
    this.advance(subtract(length, from), performed + 1, ZERO);
  }

  private finish(): Timeline {
    this.barStartSeconds[this.route.barIndex.length] = this.secondsReached();
    return {
      route: this.route,
      segments: this.segments,
      segmentAtBar: this.segmentAtBar,
      fromSegmentN: this.fromSegmentN,
      fromSegmentD: this.fromSegmentD,
      barStartSeconds: this.barStartSeconds,
      holds: this.holds,
    };
  }

  private interruptions(bar: Bar, barIndex: number, changeIndex: number): readonly Interruption[] {
    const changes: Interruption[] = [];
    for (let next = changeIndex + 1; this.tempoMap.changes[next]?.barIndex === barIndex; next++) {
      changes.push({ atWholes: this.tempoMap.changes[next]?.atWholes ?? ZERO, change: next });
    }
    if (!bar.holds) return changes;
    const holds = bar.holds.map((hold) => ({ atWholes: holdEnd(bar, hold), hold }));
    // A held note belongs to the tempo before: where both meet, the hold comes first.
    return [...holds, ...changes].sort((a, b) => compare(a.atWholes, b.atWholes));
  }

  private lawOf(changeIndex: number): TempoLaw {
    const change = this.tempoMap.changes[changeIndex];
    if (!change) throw new RangeError(`no tempo change ${changeIndex}`);
    return change.law;
  }

  /** Goes on under a law: in the open segment where the music simply continues, else in a new one. */
  private moveTo(performed: number, atWholes: Fraction, law: TempoLaw, into: number): void {
    const { open } = this;
    if (open && isSameLaw(open.law, law) && (law.kind === 'steady' || this.continuesTo(performed, atWholes)))
      return;
    this.startSegment(performed, atWholes, law, into, 0);
  }

  /** Inside a ramp the music continues only from one written bar into the next. */
  private continuesTo(performed: number, atWholes: Fraction): boolean {
    return atWholes.n !== 0 || this.route.barIndex[performed] === this.lastBarIndex + 1;
  }

  private standStill(performed: number, atWholes: Fraction, hold: Hold, bar: Bar): void {
    const { open } = this;
    if (!open) throw new Error('a hold before the first bar');
    const into = open.into + toNumber(this.reached);
    const lengthSeconds = holdSeconds(hold, bar, lawRate(open.law, into));
    this.holds.push({ performed, hold, startSeconds: this.secondsReached(), lengthSeconds });
    if (lengthSeconds > 0) this.startSegment(performed, atWholes, open.law, into, lengthSeconds);
  }

  private startSegment(
    performed: number,
    atWholes: Fraction,
    law: TempoLaw,
    into: number,
    wait: number,
  ): void {
    if (this.open) this.closedSeconds.add(this.openSeconds(this.reached));
    if (wait > 0) this.closedSeconds.add(wait);
    const startSum = this.closedSeconds.state;
    this.open = { startSeconds: this.closedSeconds.value, performed, atWholes, law, into, startSum };
    this.segments.push(this.open);
    this.reached = ZERO;
  }

  private markBar(performed: number): void {
    this.segmentAtBar[performed] = this.segments.length - 1;
    this.fromSegmentN[performed] = this.reached.n;
    this.fromSegmentD[performed] = this.reached.d;
    this.barStartSeconds[performed] = this.secondsReached();
  }

  /** Where exact distances would outgrow safe integers a new segment begins at the place reached. */
  private advance(lengthWholes: Fraction, performed: number, atWholes: Fraction): void {
    const farther = maybeAdd(this.reached, lengthWholes);
    if (farther) {
      this.reached = farther;
      return;
    }
    const { open } = this;
    if (!open) return;
    const into = open.into + toNumber(this.reached);
    this.closedSeconds.add(this.openSeconds(this.reached));
    this.closedSeconds.add(lawSeconds(open.law, into, lengthWholes.n, lengthWholes.d));
    const startSum = this.closedSeconds.state;
    const startsAt = { performed, atWholes, into: into + toNumber(lengthWholes), startSum };
    this.open = { startSeconds: this.closedSeconds.value, law: open.law, ...startsAt };
    this.segments.push(this.open);
    this.reached = ZERO;
  }

  private openSeconds(reached: Fraction): number {
    return this.open ? lawSeconds(this.open.law, this.open.into, reached.n, reached.d) : 0;
  }

  private secondsReached(): number {
    return this.open ? this.open.startSeconds + this.openSeconds(this.reached) : 0;
  }
}

function isSameLaw(a: TempoLaw, b: TempoLaw): boolean {
  return a === b || (a.kind === 'steady' && b.kind === 'steady' && compare(a.rate, b.rate) === 0);
}

/** Where the music stands still: after the held note's value, at most at the end of the bar. */
function holdEnd(bar: Bar, { atWholes, value }: Hold): Fraction {
  const length = barLength(bar);
  const end = value ? add(atWholes, noteValueLength(value)) : beatEnd(bar, atWholes);
  return compare(end, length) > 0 ? length : end;
}

function beatEnd(bar: Bar, atWholes: Fraction): Fraction {
  const beat = pulseOf(bar).findLast((candidate) => compare(candidate.atWholes, atWholes) <= 0);
  return beat ? add(beat.atWholes, beat.lengthWholes) : atWholes;
}

function holdSeconds({ length, atWholes }: Hold, bar: Bar, rate: Fraction): number {
  switch (length.kind) {
    case 'beats': {
      const beat = pulseOf(bar).findLast((candidate) => compare(candidate.atWholes, atWholes) <= 0);
      const beatWholes = beat ? toNumber(beat.lengthWholes) : 0.25;
      return (toNumber(length.beats) * beatWholes * 60) / toNumber(rate);
    }
    case 'seconds':
      return toNumber(length.seconds);
    case 'until cued':
      return 0;
  }
}
