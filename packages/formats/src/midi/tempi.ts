import {
  fitRampMaybe,
  formatRamp,
  formatStatedTempo,
  fraction,
  multiply,
  noteValueLength,
  simplestBetween,
  type Fraction,
  type NoteValue,
  type RampFit,
} from '@anchorbeat/core';

/** A tempo event: from a tick on, so many microseconds a quarter. */
export interface TempoEvent {
  readonly tick: number;
  readonly microseconds: number;
}

/** What is in force from a tick on: an even tempo, or a ramp to the next stretch. */
export type TempoStretch =
  | { readonly kind: 'steady'; readonly tick: number; readonly quarterBpm: Fraction }
  | { readonly kind: 'ramp'; readonly tick: number; readonly endTick: number; readonly fit: RampFit };

const FEWEST_RAMP_STEPS = 4;
/** A step of a ramp lasts at most so many quarters. */
const LONGEST_STEP_QUARTERS = 2;
/** A ramp may miss the steps it stands for by so much. */
const RAMP_TOLERANCE_SECONDS = 0.002;
/** An even tempo may miss what it stands for by so much over its whole stretch. */
const STEADY_TOLERANCE_SECONDS = 0.0004;

/** Tempo events as stretches: those that only spread a rounding become one tempo, a stair that fits becomes a ramp. */
export function tempoStretches(
  events: readonly TempoEvent[],
  endTick: number,
  ticksPerQuarter: number,
): readonly TempoStretch[] {
  const runs = evenRuns(events, endTick);
  const stretches: TempoStretch[] = [];
  for (let index = 0; index < runs.length;) {
    const ramp = rampFrom(runs, index, ticksPerQuarter);
    if (ramp) {
      stretches.push(ramp.stretch);
      index = ramp.next;
    } else {
      const run = runs[index] as EvenRun;
      stretches.push({ kind: 'steady', tick: run.tick, quarterBpm: steadyBpm(run, ticksPerQuarter) });
      index++;
    }
  }
  return stretches;
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

/** The simplest tempo that a run can mean: within its rounding, and close enough over its whole length. */
function steadyBpm({ tick, endTick, microseconds, count }: EvenRun, ticksPerQuarter: number): Fraction {
  const quarters = Math.max(1e-6, (endTick - tick) / ticksPerQuarter);
  const byTime = (STEADY_TOLERANCE_SECONDS * 1e6) / quarters;
  const reach = count > 1 ? Math.min(1, byTime) : 1;
  return simplestBetween(60e6 / (microseconds + reach), 60e6 / Math.max(1, microseconds - reach));
}

/** The longest stair of tempi from a run on that one ramp stands for; null where none does. */
function rampFrom(
  runs: readonly EvenRun[],
  from: number,
  ticksPerQuarter: number,
): { readonly stretch: TempoStretch; readonly next: number } | null {
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
    const fit = fitRampMaybe(pointsOf(steps, ticksPerQuarter));
    if (!fit || !(fit.worstSeconds <= RAMP_TOLERANCE_SECONDS)) continue;
    const endTick = (steps.at(-1) as EvenRun).endTick;
    return { stretch: { kind: 'ramp', tick: (steps[0] as EvenRun).tick, endTick, fit }, next: last + 1 };
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

function pointsOf(steps: readonly EvenRun[], ticksPerQuarter: number) {
  let [wholes, seconds] = [0, 0];
  return steps.map(({ tick, endTick, microseconds }) => {
    const quarters = (endTick - tick) / ticksPerQuarter;
    wholes += quarters / 4;
    seconds += (quarters * microseconds) / 1e6;
    return { wholes, seconds };
  });
}

/** "dotted quarter = 66" for quarters a minute, told in a beat. */
export function tempoText(quarterBpm: Fraction, unit: NoteValue): string {
  const bpm = multiply(quarterBpm, multiply(fraction(1, 4), inverse(noteValueLength(unit))));
  return formatStatedTempo({ unit, bpm });
}

function inverse({ n, d }: Fraction): Fraction {
  return fraction(d, n);
}

/** The start of a ramp as a tempo, and the ramp with its target, each as simple as its rate allows. */
export function rampTexts(
  { fit: { curve } }: Extract<TempoStretch, { kind: 'ramp' }>,
  unit: NoteValue,
): { readonly start: Fraction; readonly ramp: string } {
  const start = simpleRate(curve.startRate);
  const unitBpm = multiply(
    simpleRate(curve.endRate),
    multiply(fraction(1, 4), inverse(noteValueLength(unit))),
  );
  return {
    start,
    ramp: formatRamp({ shape: curve.shape, target: { kind: 'tempo', tempo: { unit, bpm: unitBpm } } }),
  };
}

/** Whole notes a second as quarters a minute, the simplest within a hundred thousandth. */
function simpleRate(wholesPerSecond: number): Fraction {
  const quarters = wholesPerSecond * 240;
  return simplestBetween(quarters * (1 - 4e-6), quarters * (1 + 4e-6));
}
