import {
  barLength,
  fraction,
  secondsAt,
  toNumber,
  type Bar,
  type CompiledPiece,
  type Fraction,
  type PerformedHold,
  type TempoSegment,
  type Piece,
} from '@anchorbeat/core';
import { tempoEvent, type MidiEventBytes } from './midiBytes.ts';
import { clickPlaces } from './ticks.ts';

/** A moment the file's time is held against: a tick, and the second it falls on. */
export interface TimedTick {
  readonly tick: number;
  readonly seconds: number;
}

/** Ticks of performed bars and of places in them. */
export interface TickMap {
  readonly ticksPerQuarter: number;
  /** One more than there are performed bars. */
  readonly barTicks: readonly number[];
  readonly entrySeconds: number;
}

const RAMP_STEPS_PER_WHOLE = 32;
const MOST_MICROSECONDS = 0xffffff;
const STEER_FROM_SECONDS = 0.0001;
const SAME_SECONDS = 1e-9;

/** Every moment that matters, in order: barlines, changes of tempo, steps of ramps, and the edges of holds. */
export function timedTicks(piece: Piece, compiled: CompiledPiece, map: TickMap): readonly TimedTick[] {
  const { timeline } = compiled;
  const ticks = new Map<number, number>();
  const put = (performed: number, atWholes: Fraction) =>
    ticks.set(
      tickAt(map, performed, atWholes),
      map.entrySeconds + secondsAt(timeline, { performed, atWholes }),
    );
  const startingIn = new Map<number, TempoSegment[]>();
  for (const segment of timeline.segments)
    startingIn.set(segment.performed, [...(startingIn.get(segment.performed) ?? []), segment]);
  timeline.route.barIndex.forEach((written, performed) => {
    const bar = piece.bars[written] as Bar;
    put(performed, { n: 0, d: 1 });
    const inside = startingIn.get(performed) ?? [];
    for (const { atWholes } of inside) put(performed, atWholes);
    const laws = [timeline.segments[timeline.segmentAtBar[performed] ?? 0], ...inside];
    if (laws.every((segment) => segment?.law.kind === 'steady')) return;
    for (const { at } of clickPlaces(bar)) put(performed, at);
    const length = toNumber(barLength(bar));
    for (let step = 1; step / RAMP_STEPS_PER_WHOLE < length; step++)
      put(performed, fraction(step, RAMP_STEPS_PER_WHOLE));
  });
  const last = map.barTicks.length - 1;
  const end = timeline.barStartSeconds[last] ?? 0;
  ticks.set(map.barTicks[last] ?? 0, map.entrySeconds + end);
  addHolds(piece, compiled, map, ticks);
  return [...ticks].sort(([a], [b]) => a - b).map(([tick, seconds]) => ({ tick, seconds }));
}

export function tickAt(
  { ticksPerQuarter, barTicks }: TickMap,
  performed: number,
  { n, d }: Fraction,
): number {
  return (barTicks[performed] ?? 0) + Math.round((4 * ticksPerQuarter * n) / d);
}

/**
 * A hold has no length in notes, so its time passes in the last of the held note: as few ticks as MIDI's slowest tempo
 * needs, after the last click before it where that is enough.
 */
function addHolds(piece: Piece, { timeline }: CompiledPiece, map: TickMap, ticks: Map<number, number>): void {
  const sorted = [...ticks.keys()].sort((a, b) => a - b);
  const byStart = new Map(
    timeline.segments.map((segment) => [Math.round(segment.startSeconds * 1e6), segment]),
  );
  for (const hold of joinedHolds(timeline.holds)) {
    const resumed = hold.startSeconds + hold.lengthSeconds;
    const segment = byStart.get(Math.round(resumed * 1e6));
    const atTick = segment ? tickAt(map, segment.performed, segment.atWholes) : (map.barTicks.at(-1) ?? 0);
    const before = sorted[lastBelow(sorted, atTick)] ?? 0;
    const written = piece.bars[timeline.route.barIndex[hold.performed] ?? 0] as Bar;
    const clicked = clickPlaces(written)
      .map(({ at }) => tickAt(map, hold.performed, at))
      .filter((tick) => tick < atTick)
      .reduce((a, b) => Math.max(a, b), before);
    const needed = Math.ceil((hold.lengthSeconds * 1e6 * map.ticksPerQuarter) / (0.9 * MOST_MICROSECONDS));
    const room = atTick - clicked;
    const window = Math.min(Math.max(needed, Math.floor(room / 4), 1), Math.max(1, atTick - before - 1));
    const startSeconds = ticks.get(before) ?? 0;
    const rate = (map.entrySeconds + hold.startSeconds - startSeconds) / Math.max(1, atTick - before);
    ticks.set(atTick - window, map.entrySeconds + hold.startSeconds - window * rate);
  }
}

/** Index of the last entry below a value in ascending `sorted`; −1 where there is none. */
function lastBelow(sorted: readonly number[], value: number): number {
  let [low, high] = [-1, sorted.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((sorted[middle] as number) < value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Holds that follow one another at one place as one; those without a length on paper are left out. */
function joinedHolds(holds: readonly PerformedHold[]): readonly PerformedHold[] {
  const joined: PerformedHold[] = [];
  for (const hold of holds) {
    if (hold.lengthSeconds <= SAME_SECONDS) continue;
    const last = joined.at(-1);
    const follows =
      last && Math.abs(last.startSeconds + last.lengthSeconds - hold.startSeconds) < SAME_SECONDS;
    if (follows)
      joined[joined.length - 1] = { ...last, lengthSeconds: last.lengthSeconds + hold.lengthSeconds };
    else joined.push(hold);
  }
  return joined;
}

/**
 * Tempo events that keep the file's time at the moments they are given. MIDI counts whole microseconds a quarter: each
 * stretch takes the number below or above the ideal one, whichever brings the file back to time, so that rounding never adds up.
 */
export function tempoEvents(
  moments: readonly TimedTick[],
  ticksPerQuarter: number,
): readonly MidiEventBytes[] {
  const events: MidiEventBytes[] = [];
  let fileSeconds = moments[0]?.seconds ?? 0;
  let current = -1;
  for (let index = 0; index + 1 < moments.length; index++) {
    const [from, to] = [moments[index] as TimedTick, moments[index + 1] as TimedTick];
    const quarters = (to.tick - from.tick) / ticksPerQuarter;
    const ideal = ((to.seconds - from.seconds) * 1e6) / quarters;
    const [below, above] = [Math.floor(ideal + 1e-6), Math.ceil(ideal - 1e-6)];
    const late = fileSeconds - from.seconds;
    const fits = current === below || current === above;
    const wanted = late > 0 ? below : above;
    const microseconds = fits && Math.abs(late) < STEER_FROM_SECONDS ? current : wanted;
    if (microseconds !== current) events.push(tempoEvent(from.tick, microseconds));
    current = microseconds;
    fileSeconds += (quarters * Math.min(microseconds, MOST_MICROSECONDS)) / 1e6;
  }
  return events;
}
