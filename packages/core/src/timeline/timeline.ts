import { compare, maybeAdd, subtract, ZERO, type Fraction } from '../fraction/fraction.ts';
import { barLength, type Piece } from '../piece/piece.ts';
import { routeOf, type Route } from '../route/route.ts';
import { secondsOf } from '../tempo/tempoMark.ts';
import { tempoMapOf, type TempoMap } from '../tempo/tempoMap.ts';
import { CompensatedSum } from './compensatedSum.ts';

/** A stretch of performed music at one rate. Times inside it are computed from its own start. */
export interface TempoSegment {
  readonly startSeconds: number;
  /** The performed bar it starts in, and where in that bar. */
  readonly performed: number;
  readonly atWholes: Fraction;
  /** Whole notes per minute. */
  readonly rate: Fraction;
}

/** A place in the performance: a performed bar (from 0) and an exact offset in it. */
export interface PerformedPosition {
  readonly performed: number;
  readonly atWholes: Fraction;
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
}

/** Compiles the performance of a piece. One pass; cost is proportional to bars and marks. */
export function timelineOf(piece: Piece, tempoMap: TempoMap = tempoMapOf(piece)): Timeline {
  const route = routeOf(piece);
  const builder = new TimelineBuilder(piece, tempoMap, route);
  for (let performed = 0; performed < route.barIndex.length; performed++) builder.addBar(performed);
  return builder.finish();
}

/** The mutable half of one compile: where the open segment began and how far it has come. */
class TimelineBuilder {
  private readonly segments: TempoSegment[] = [];
  private readonly segmentAtBar: Int32Array;
  private readonly fromSegmentN: Float64Array;
  private readonly fromSegmentD: Float64Array;
  private readonly barStartSeconds: Float64Array;
  private readonly closedSeconds = new CompensatedSum();
  private open: TempoSegment | null = null;
  private reached: Fraction = ZERO;

  constructor(
    private readonly piece: Piece,
    private readonly tempoMap: TempoMap,
    private readonly route: Route,
  ) {
    const count = route.barIndex.length;
    this.segmentAtBar = new Int32Array(count);
    this.fromSegmentN = new Float64Array(count);
    this.fromSegmentD = new Float64Array(count);
    this.barStartSeconds = new Float64Array(count + 1);
  }

  addBar(performed: number): void {
    const barIndex = this.route.barIndex[performed] ?? 0;
    const bar = this.piece.bars[barIndex];
    if (!bar) throw new RangeError(`the route names bar ${barIndex}, which is not written`);
    const changeIndex = this.tempoMap.atBar[barIndex] ?? 0;
    this.moveAt(performed, ZERO, this.rateOf(changeIndex));
    this.markBar(performed);
    const length = barLength(bar);
    let from = ZERO;
    for (let next = changeIndex + 1; this.tempoMap.changes[next]?.barIndex === barIndex; next++) {
      const at = this.tempoMap.changes[next]?.atWholes ?? ZERO;
      this.advance(subtract(at, from), performed, at);
      this.moveAt(performed, at, this.rateOf(next));
      from = at;
    }
    this.advance(subtract(length, from), performed + 1, ZERO);
  }

  finish(): Timeline {
    this.barStartSeconds[this.route.barIndex.length] = this.secondsReached();
    return {
      route: this.route,
      segments: this.segments,
      segmentAtBar: this.segmentAtBar,
      fromSegmentN: this.fromSegmentN,
      fromSegmentD: this.fromSegmentD,
      barStartSeconds: this.barStartSeconds,
    };
  }

  private rateOf(changeIndex: number): Fraction {
    const change = this.tempoMap.changes[changeIndex];
    if (!change) throw new RangeError(`no tempo change ${changeIndex}`);
    return change.rate;
  }

  private moveAt(performed: number, atWholes: Fraction, rate: Fraction): void {
    if (this.open && compare(this.open.rate, rate) === 0) return;
    this.startSegment(performed, atWholes, rate);
  }

  private startSegment(performed: number, atWholes: Fraction, rate: Fraction): void {
    if (this.open) this.closedSeconds.add(secondsOf(this.reached, this.open.rate));
    this.open = { startSeconds: this.closedSeconds.value, performed, atWholes, rate };
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
    const rate = this.open?.rate ?? ZERO;
    this.closedSeconds.add(secondsOf(this.reached, rate));
    this.closedSeconds.add(secondsOf(lengthWholes, rate));
    this.open = { startSeconds: this.closedSeconds.value, performed, atWholes, rate };
    this.segments.push(this.open);
    this.reached = ZERO;
  }

  private secondsReached(): number {
    return this.open ? this.open.startSeconds + secondsOf(this.reached, this.open.rate) : 0;
  }
}
