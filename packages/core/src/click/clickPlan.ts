import { add, fraction, multiply, type Fraction } from '../fraction/fraction.ts';
import type { Meter } from '../meter/meter.ts';
import type { Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat, type Stress } from '../pulse/pulse.ts';
import { secondsOfRatio } from '../tempo/tempoMark.ts';
import { firstAtOrAfter, secondsAtRatio } from '../timeline/query.ts';
import { lawSeconds, type TempoLaw } from '../tempo/tempoMap.ts';
import type { TempoSegment, Timeline } from '../timeline/timeline.ts';

export const CLICK_KINDS = [
  'downbeat',
  'group',
  'beat',
  'subdivision',
  'countoff',
  'countoffDownbeat',
  'overlay',
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
  /** Seconds from the barline, by the very rate they were asked for. */
  readonly atRate: WeakMap<Fraction, Float64Array>;
}

const barClicksCache = new WeakMap<readonly PulseBeat[], BarClicks>();

/** A plan that is right up to a performed bar: what comes before it is taken over. */
export interface KnownClicks {
  readonly clicks: ClickPlan;
  readonly untilPerformed: number;
}

/** The click on every beat of the pulse and on the subdivisions under it. */
export function clickPlanOf(piece: Piece, timeline: Timeline, known?: KnownClicks): ClickPlan {
  const { barIndex } = timeline.route;
  const bars = clicksByBar(piece);
  const plan = emptyPlan(barIndex.reduce((total, written) => total + (bars[written]?.n.length ?? 0), 0));
  let next = known ? copyUntil(plan, known) : 0;
  for (let performed = known?.untilPerformed ?? 0; performed < barIndex.length; performed++) {
    const clicks = bars[barIndex[performed] ?? -1];
    if (!clicks) throw new RangeError(`performed bar ${performed} is not written`);
    fillTimes(plan.timeSeconds, next, clicks, timeline, performed);
    for (let click = 0; click < clicks.n.length; click++, next++) {
      plan.performed[next] = performed;
      plan.beat[next] = clicks.beat[click] ?? 0;
      plan.part[next] = clicks.part[click] ?? 0;
      plan.kind[next] = clicks.kind[click] ?? 0;
    }
  }
  return plan;
}

/** Takes over the clicks before a performed bar; gives how many there are. */
function copyUntil(plan: ClickPlan, { clicks, untilPerformed }: KnownClicks): number {
  const count = firstAtOrAfter(clicks.performed, untilPerformed);
  plan.timeSeconds.set(clicks.timeSeconds.subarray(0, count));
  plan.performed.set(clicks.performed.subarray(0, count));
  plan.beat.set(clicks.beat.subarray(0, count));
  plan.part.set(clicks.part.subarray(0, count));
  plan.kind.set(clicks.kind.subarray(0, count));
  return count;
}

/** Times of one bar's clicks. Where one law holds all through the bar they are its start and offsets known for that law. */
function fillTimes(
  times: Float64Array,
  at: number,
  clicks: BarClicks,
  timeline: Timeline,
  performed: number,
): void {
  const { segments, segmentAtBar, barStartSeconds } = timeline;
  const index = segmentAtBar[performed] ?? 0;
  const segment = segments[index];
  if (segment && segments[index + 1]?.performed !== performed) {
    const offsets =
      segment.law.kind === 'steady'
        ? offsetsAt(clicks, segment.law.rate)
        : rampOffsets(clicks, segment, timeline, performed);
    const start = barStartSeconds[performed] ?? 0;
    for (let click = 0; click < offsets.length; click++)
      times[at + click] = start + (offsets[click] as number);
    return;
  }
  for (let click = 0; click < clicks.n.length; click++) {
    times[at + click] = secondsAtRatio(timeline, performed, clicks.n[click] ?? 0, clicks.d[click] ?? 1);
  }
}

interface RampOffsets {
  readonly clicks: BarClicks;
  readonly offsets: Float64Array;
}

/** By ramp, and by how far into it the bar begins: the same on every pass, and after an edit elsewhere. */
const rampOffsetsCache = new WeakMap<TempoLaw, Map<number, RampOffsets>>();

function rampOffsets(
  clicks: BarClicks,
  segment: TempoSegment,
  timeline: Timeline,
  performed: number,
): Float64Array {
  const from = (timeline.fromSegmentN[performed] ?? 0) / (timeline.fromSegmentD[performed] ?? 1);
  const into = segment.performed === performed ? segment.into : segment.into + from;
  const byInto = rampOffsetsCache.get(segment.law) ?? new Map<number, RampOffsets>();
  rampOffsetsCache.set(segment.law, byInto);
  const known = byInto.get(into);
  if (known?.clicks === clicks) return known.offsets;
  const offsets = clicks.n.map((n, click) => lawSeconds(segment.law, into, n, clicks.d[click] ?? 1));
  byInto.set(into, { clicks, offsets });
  return offsets;
}

/** Seconds of a bar's clicks from its barline at a rate, worked out once for each rate of a tempo map. */
function offsetsAt(clicks: BarClicks, rate: Fraction): Float64Array {
  const known = clicks.atRate.get(rate);
  if (known) return known;
  const offsets = clicks.n.map((n, click) => secondsOfRatio(n, clicks.d[click] ?? 1, rate));
  clicks.atRate.set(rate, offsets);
  return offsets;
}

/** The clicks of every written bar; neighbours of one meter are looked up once. */
function clicksByBar({ bars }: Piece): readonly BarClicks[] {
  let lastPulse: readonly PulseBeat[] | null = null;
  let lastMeter: Meter | null = null;
  let last: BarClicks | null = null;
  return bars.map((bar) => {
    const isPlain = !bar.partial && !bar.pulse;
    if (last && isPlain && bar.meter === lastMeter) return last;
    const pulse = pulseOf(bar);
    lastMeter = isPlain ? bar.meter : null;
    if (!last || pulse !== lastPulse) last = barClicksOf(pulse);
    lastPulse = pulse;
    return last;
  });
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
    atRate: new WeakMap(),
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
