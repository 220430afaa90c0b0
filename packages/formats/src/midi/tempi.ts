import {
  fitRampMaybe,
  formatRamp,
  formatStatedTempo,
  fraction,
  multiply,
  noteValueLength,
  rampSeconds,
  simplestBetween,
  toNumber,
  type Fraction,
  type NoteValue,
  type RampCurve,
  type RampFit,
  type TempoPoint,
} from '@anchorbeat/core';

/** A tempo event: from a tick on, so many microseconds a quarter. */
export interface TempoEvent {
  readonly tick: number;
  readonly microseconds: number;
}

/** What is in force from a tick on: an even tempo, a ramp to the next stretch, or a wait in the tempo before it. */
export type TempoStretch = SteadyStretch | RampStretch | HoldStretch;

interface SteadyStretch {
  readonly kind: 'steady';
  readonly tick: number;
  readonly quarterBpm: Fraction;
}

export interface RampStretch {
  readonly kind: 'ramp';
  readonly tick: number;
  readonly endTick: number;
  readonly startQuarterBpm: Fraction;
  readonly endQuarterBpm: Fraction;
  readonly shape: RampCurve['shape'];
}

/** One note held, `seconds` longer than it lasts in the tempo around it. */
export interface HoldStretch {
  readonly kind: 'hold';
  readonly tick: number;
  readonly endTick: number;
  readonly seconds: number;
  /** Before it was rounded to what one reads. */
  readonly exactSeconds: number;
}

const FEWEST_RAMP_STEPS = 4;
/** A step of a ramp lasts at most so many quarters. */
const LONGEST_STEP_QUARTERS = 2;
/** A ramp may miss the steps it stands for by so much, what was lost or won before it included. */
const RAMP_TOLERANCE_SECONDS = 0.0008;
/** How late or early a stretch may leave the piece against the file. */
const MOST_ADRIFT_SECONDS = 0.0009;
/** As far as that a tempo that is only near the file's may leave it. */
const STEERED_SECONDS = 0.0004;
/** A note is held where its tempo falls to so little of the tempo before, which then comes back. */
const HELD_SHARE = 0.5;
const LONGEST_HELD_QUARTERS = 2;
const SIMPLE_DENOMINATOR = 12;

/** What the reading of tempi needs to know of the piece: ticks of a quarter, and the beat at a tick, in which tempi are told. */
export interface TempoGrid {
  readonly ticksPerQuarter: number;
  readonly beatAt: (tick: number) => NoteValue;
}

/**
 * Tempo events as stretches: those that only spread a rounding become one tempo, a stair that fits becomes a ramp, one slow
 * note a hold. Every stretch is chosen so that the piece is back on the file's time at its end: nothing adds up.
 */
export function tempoStretches(
  events: readonly TempoEvent[],
  endTick: number,
  grid: TempoGrid,
): readonly TempoStretch[] {
  const runs = evenRuns(events, endTick);
  const stretches: TempoStretch[] = [];
  /** How far the piece has come after the file, in seconds. */
  let late = 0;
  for (let index = 0; index < runs.length;) {
    const run = runs[index] as EvenRun;
    const hold = holdMaybe(runs, index, grid);
    const ramp = hold ? null : rampFrom(runs, index, grid, late);
    if (hold) {
      stretches.push(hold);
      late += hold.seconds - hold.exactSeconds;
      index++;
    } else if (ramp) {
      stretches.push(ramp.stretch);
      late = ramp.late;
      index = ramp.next;
    } else {
      const steady = steadyTempo(run, grid, late, runs.length === 1);
      stretches.push({ kind: 'steady', tick: run.tick, quarterBpm: steady.quarterBpm });
      late = steady.late;
      index++;
    }
  }
  return stretches;
}

/** A single slow note between two stretches of one tempo. */
function holdMaybe(
  runs: readonly EvenRun[],
  index: number,
  { ticksPerQuarter }: TempoGrid,
): HoldStretch | null {
  const [before, run, after] = [runs[index - 1], runs[index] as EvenRun, runs[index + 1]];
  if (!before || !after || Math.abs(before.microseconds - after.microseconds) > 1) return null;
  const quarters = (run.endTick - run.tick) / ticksPerQuarter;
  if (quarters > LONGEST_HELD_QUARTERS || before.microseconds > run.microseconds * HELD_SHARE) return null;
  const seconds = (quarters * (run.microseconds - before.microseconds)) / 1e6;
  return {
    kind: 'hold',
    tick: run.tick,
    endTick: run.endTick,
    seconds: Math.round(seconds * 1e4) / 1e4,
    exactSeconds: seconds,
  };
}

/** Neighbouring events that differ from the first of them by no more than a rounding does. */
interface EvenRun {
  readonly tick: number;
  readonly endTick: number;
  /** Mean microseconds a quarter. */
  readonly microseconds: number;
  readonly count: number;
}

function evenRuns(events: readonly TempoEvent[], endTick: number): readonly EvenRun[] {
  const runs: EvenRun[] = [];
  let from = 0;
  for (let index = 0; index < events.length; index++) {
    const first = events[from] as TempoEvent;
    const next = events[index + 1];
    if (next && isRounding(first, next)) continue;
    const end = next?.tick ?? Math.max(endTick, (events[index] as TempoEvent).tick);
    const inside = events.slice(from, index + 1);
    const total = inside.reduce(
      (sum, event, place) => sum + event.microseconds * ((inside[place + 1]?.tick ?? end) - event.tick),
      0,
    );
    const mean = end > first.tick ? total / (end - first.tick) : first.microseconds;
    if (end > first.tick || runs.length === 0)
      runs.push({ tick: first.tick, endTick: end, microseconds: mean, count: inside.length });
    from = index + 1;
  }
  return runs;
}

/** Whether two tempi are one that a whole number of microseconds cannot say. */
function isRounding(first: TempoEvent, next: TempoEvent): boolean {
  return Math.abs(next.microseconds - first.microseconds) <= 1;
}

interface Steered {
  readonly quarterBpm: Fraction;
  readonly late: number;
}

/**
 * The simplest tempo that a run can mean: a whole number a minute or a plain fraction within its rounding, then two
 * decimals, then as many as bring the piece back to time. `isAlone`: the file has no other, so its rounding is nobody's loss.
 */
function steadyTempo(run: EvenRun, grid: TempoGrid, late: number, isAlone: boolean): Steered {
  const quarters = (run.endTick - run.tick) / grid.ticksPerQuarter;
  const beat = quartersOf(grid.beatAt(run.tick));
  const lateAfter = (quarterBpm: Fraction) =>
    late + (quarters * 60) / toNumber(quarterBpm) - (quarters * run.microseconds) / 1e6;
  const meant = meantTempi(run.microseconds, beat);
  const isOnTime = (bpm: Fraction) => isAlone || Math.abs(lateAfter(bpm)) <= MOST_ADRIFT_SECONDS;
  const plain = meant.find(isOnTime) ?? nearestHundredth(run.microseconds, beat, lateAfter);
  const quarterBpm = plain ?? steeredTempo(run.microseconds, quarters, late);
  return { quarterBpm, late: lateAfter(quarterBpm) };
}

/** Tempi that whole microseconds can stand for: whole in the beat, whole in quarters, then plain fractions of either. */
function meantTempi(microseconds: number, beat: Fraction): readonly Fraction[] {
  const [low, high] = [60e6 / (microseconds + 1), 60e6 / Math.max(1, microseconds - 1)];
  const quarters = simplestBetween(low, high);
  const beats = multiply(simplestBetween(low / toNumber(beat), high / toNumber(beat)), beat);
  const isPlain = ({ d }: Fraction) => d <= SIMPLE_DENOMINATOR;
  return [beats, quarters].filter(isPlain);
}

/** Of the hundredths around a tempo the one that leaves the piece nearest to time; null where none comes near enough. */
function nearestHundredth(
  microseconds: number,
  beat: Fraction,
  lateAfter: (quarterBpm: Fraction) => number,
): Fraction | null {
  const own = Math.round(60e8 / microseconds / toNumber(beat));
  const near = [own - 1, own, own + 1]
    .filter((hundredths) => hundredths > 0)
    .map((hundredths) => multiply(fraction(hundredths, 100), beat));
  const best = near.reduce((a, b) => (Math.abs(lateAfter(b)) < Math.abs(lateAfter(a)) ? b : a));
  return Math.abs(lateAfter(best)) <= STEERED_SECONDS ? best : null;
}

/** The simplest tempo whose stretch ends on time. */
function steeredTempo(microseconds: number, quarters: number, late: number): Fraction {
  const seconds = (quarters * microseconds) / 1e6 - late;
  const reach = Math.min(STEERED_SECONDS, seconds / 1000);
  return simplestBetween((quarters * 60) / (seconds + reach), (quarters * 60) / (seconds - reach));
}

function quartersOf(unit: NoteValue): Fraction {
  return multiply(noteValueLength(unit), fraction(4));
}

/** The longest stair of tempi from a run on that one ramp stands for; null where none does. */
function rampFrom(
  runs: readonly EvenRun[],
  from: number,
  { ticksPerQuarter, beatAt }: TempoGrid,
  late: number,
): { readonly stretch: RampStretch; readonly next: number; readonly late: number } | null {
  const direction = Math.sign((runs[from + 1]?.microseconds ?? 0) - (runs[from]?.microseconds ?? 0));
  let end = from;
  while (runs[end + 1] && isStep(runs[end] as EvenRun, runs[end + 1] as EvenRun, direction, ticksPerQuarter))
    end++;
  const isShort = (run: EvenRun | undefined) =>
    run !== undefined && (run.endTick - run.tick) / ticksPerQuarter <= LONGEST_STEP_QUARTERS;
  // The last tempo of a stair is where it has arrived, unless it is as short as a step.
  if (!isShort(runs[end])) end--;
  for (const last of endsToTry(from, end)) {
    const steps = runs.slice(from, last + 1);
    const points = pointsOf(steps, ticksPerQuarter, late);
    const fit = fitRampMaybe(points);
    const [first, end] = [steps[0] as EvenRun, steps.at(-1) as EvenRun];
    const plain = fit && plainRampMaybe(fit, points, quartersOf(beatAt(first.tick)));
    if (!plain) continue;
    const { shape } = fit.curve;
    return {
      stretch: { kind: 'ramp', tick: first.tick, endTick: end.endTick, shape, ...plain.rates },
      next: last + 1,
      late: plain.late,
    };
  }
  return null;
}

/** Ends of a stair to try, the longest first: all of it, a step or two less, then ever shorter parts of it. */
function endsToTry(from: number, end: number): readonly number[] {
  const lengths: number[] = [];
  for (let length = end - from + 1; length >= FEWEST_RAMP_STEPS;) {
    lengths.push(length);
    length = lengths.length < 3 ? length - 1 : Math.floor(length * 0.75);
  }
  return lengths.map((length) => from + length - 1);
}

function isStep(run: EvenRun, next: EvenRun, direction: number, ticksPerQuarter: number): boolean {
  const isSameWay = direction !== 0 && Math.sign(next.microseconds - run.microseconds) === direction;
  return isSameWay && (run.endTick - run.tick) / ticksPerQuarter <= LONGEST_STEP_QUARTERS;
}

/**
 * Where the file has come after each step, and after each quarter of a longer one, told from the ramp's start as the piece
 * reaches it, `late` seconds behind.
 */
function pointsOf(steps: readonly EvenRun[], ticksPerQuarter: number, late: number): readonly TempoPoint[] {
  let [wholes, seconds] = [0, -late];
  return steps.flatMap(({ tick, endTick, microseconds }) => {
    const quarters = (endTick - tick) / ticksPerQuarter;
    const parts = Math.max(1, Math.ceil(quarters));
    return Array.from({ length: parts }, () => {
      wholes += quarters / parts / 4;
      seconds += ((quarters / parts) * microseconds) / 1e6;
      return { wholes, seconds };
    });
  });
}

interface PlainRamp {
  readonly rates: Pick<RampStretch, 'startQuarterBpm' | 'endQuarterBpm'>;
  readonly late: number;
}

/** The plainest ramp near a fit that still keeps the points; null where not even the fit does. */
function plainRampMaybe({ curve }: RampFit, points: readonly TempoPoint[], beat: Fraction): PlainRamp | null {
  for (const round of [wholeRate, hundredthRate, simpleRate]) {
    const [startQuarterBpm, endQuarterBpm] = [round(curve.startRate, beat), round(curve.endRate, beat)];
    if (!startQuarterBpm || !endQuarterBpm) continue;
    const rounded = {
      ...curve,
      startRate: toNumber(startQuarterBpm) / 240,
      endRate: toNumber(endQuarterBpm) / 240,
    };
    const misses = points.map(({ wholes, seconds }) => rampSeconds(rounded, wholes) - seconds);
    if (!misses.every((miss) => Math.abs(miss) <= RAMP_TOLERANCE_SECONDS)) continue;
    return { rates: { startQuarterBpm, endQuarterBpm }, late: misses.at(-1) ?? 0 };
  }
  return null;
}

/** Whole notes a second as quarters a minute, whole in the beat; null where that is none. */
function wholeRate(wholesPerSecond: number, beat: Fraction): Fraction | null {
  const whole = Math.round((wholesPerSecond * 240) / toNumber(beat));
  return whole > 0 ? multiply(fraction(whole), beat) : null;
}

function hundredthRate(wholesPerSecond: number, beat: Fraction): Fraction | null {
  const hundredths = Math.round((wholesPerSecond * 24000) / toNumber(beat));
  return hundredths > 0 ? multiply(fraction(hundredths, 100), beat) : null;
}

/** The simplest within a few millionths. */
function simpleRate(wholesPerSecond: number): Fraction {
  const quarters = wholesPerSecond * 240;
  return simplestBetween(quarters * (1 - 4e-6), quarters * (1 + 4e-6));
}

/** "dotted quarter = 66" for quarters a minute, told in a beat. */
export function tempoText(quarterBpm: Fraction, unit: NoteValue): string {
  return formatStatedTempo({ unit, bpm: inBeats(quarterBpm, unit) });
}

/** The ramp with its target, told in a beat. */
export function rampText({ shape, endQuarterBpm }: RampStretch, unit: NoteValue): string {
  return formatRamp({ shape, target: { kind: 'tempo', tempo: { unit, bpm: inBeats(endQuarterBpm, unit) } } });
}

function inBeats(quarterBpm: Fraction, unit: NoteValue): Fraction {
  const { n, d } = quartersOf(unit);
  return multiply(quarterBpm, fraction(d, n));
}
