import { add, equal, fraction, multiply, type Fraction } from '../fraction/fraction.ts';
import type { Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat, type Stress } from '../pulse/pulse.ts';
import { secondsOfRatio } from '../tempo/tempoMark.ts';
import { secondsAtRatio } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';

export const CLICK_KINDS = [
  'downbeat',
  'group',
  'beat',
  'subdivision',
  'countoff',
  'countoffDownbeat',
] as const;
export type ClickKind = (typeof CLICK_KINDS)[number];

const KIND_OF_STRESS: Readonly<Record<Stress, number>> = { downbeat: 0, group: 1, beat: 2 };
const SUBDIVISION = 3;

/**
 * Every click of the performance in order of time. Parallel arrays, one entry a click; `kind` indexes
 * CLICK_KINDS, `beat` is the beat's index in its bar, `part` the subdivision in the beat (0 is the beat itself).
 */
export interface ClickPlan {
  readonly timeSeconds: Float64Array;
  readonly performed: Int32Array;
  readonly beat: Int16Array;
  readonly part: Int16Array;
  readonly kind: Uint8Array;
}

/** The clicks of one bar as offsets n/d from its barline: worked out once for all bars with the same pulse. */
interface BarClicks {
  readonly n: Float64Array;
  readonly d: Float64Array;
  readonly beat: Int16Array;
  readonly part: Int16Array;
  readonly kind: Uint8Array;
}

const barClicksCache = new WeakMap<readonly PulseBeat[], BarClicks>();

/** The click on every beat of the pulse and on the subdivisions under it. */
export function clickPlanOf(piece: Piece, timeline: Timeline): ClickPlan {
  const { barIndex } = timeline.route;
  const bars = piece.bars.map((bar) => barClicksOf(pulseOf(bar)));
  const plan = emptyPlan(barIndex.reduce((total, written) => total + (bars[written]?.n.length ?? 0), 0));
  let next = 0;
  barIndex.forEach((written, performed) => {
    const clicks = bars[written];
    if (!clicks) throw new RangeError(`bar ${written} is not written`);
    fillTimes(plan.timeSeconds, next, clicks, timeline, performed);
    plan.performed.fill(performed, next, next + clicks.n.length);
    plan.beat.set(clicks.beat, next);
    plan.part.set(clicks.part, next);
    plan.kind.set(clicks.kind, next);
    next += clicks.n.length;
  });
  return plan;
}

/** Times of one bar's clicks. Where one steady rate holds all through it they are its start and offsets known for that rate. */
function fillTimes(
  times: Float64Array,
  at: number,
  clicks: BarClicks,
  timeline: Timeline,
  performed: number,
): void {
  const { segments, segmentAtBar, barStartSeconds } = timeline;
  const index = segmentAtBar[performed] ?? 0;
  const law = segments[index]?.law;
  if (law?.kind === 'steady' && segments[index + 1]?.performed !== performed) {
    const offsets = offsetsAt(clicks, law.rate);
    const start = barStartSeconds[performed] ?? 0;
    for (let click = 0; click < offsets.length; click++) times[at + click] = start + (offsets[click] ?? 0);
    return;
  }
  for (let click = 0; click < clicks.n.length; click++) {
    times[at + click] = secondsAtRatio(timeline, performed, clicks.n[click] ?? 0, clicks.d[click] ?? 1);
  }
}

const offsetsCache = new WeakMap<BarClicks, { readonly rate: Fraction; readonly offsets: Float64Array }>();

/** Seconds of a bar's clicks from its barline at a rate; the last rate asked for is remembered. */
function offsetsAt(clicks: BarClicks, rate: Fraction): Float64Array {
  const known = offsetsCache.get(clicks);
  if (known && equal(known.rate, rate)) return known.offsets;
  const offsets = clicks.n.map((n, click) => secondsOfRatio(n, clicks.d[click] ?? 1, rate));
  offsetsCache.set(clicks, { rate, offsets });
  return offsets;
}

function barClicksOf(pulse: readonly PulseBeat[]): BarClicks {
  const known = barClicksCache.get(pulse);
  if (known) return known;
  const clicks = pulse.flatMap((beat, beatIndex) =>
    Array.from({ length: beat.parts }, (_, part) => ({
      at: partPosition(beat, part),
      beatIndex,
      part,
      kind: part === 0 ? KIND_OF_STRESS[beat.stress] : SUBDIVISION,
    })),
  );
  const barClicks: BarClicks = {
    n: Float64Array.from(clicks, (click) => click.at.n),
    d: Float64Array.from(clicks, (click) => click.at.d),
    beat: Int16Array.from(clicks, (click) => click.beatIndex),
    part: Int16Array.from(clicks, (click) => click.part),
    kind: Uint8Array.from(clicks, (click) => click.kind),
  };
  barClicksCache.set(pulse, barClicks);
  return barClicks;
}

function partPosition(beat: PulseBeat, part: number): Fraction {
  return add(beat.atWholes, multiply(beat.lengthWholes, fraction(part, beat.parts)));
}

function emptyPlan(length: number): ClickPlan {
  return {
    timeSeconds: new Float64Array(length),
    performed: new Int32Array(length),
    beat: new Int16Array(length),
    part: new Int16Array(length),
    kind: new Uint8Array(length),
  };
}

export function clickKind(plan: ClickPlan, index: number): ClickKind {
  const kind = CLICK_KINDS[plan.kind[index] ?? -1];
  if (!kind) throw new RangeError(`there is no click ${index}`);
  return kind;
}
