/** One exchange with a server: sent and back on this page's clock, received and answered on the server's. Milliseconds. */
export interface ClockExchange {
  readonly sentMs: number;
  readonly receivedMs: number;
  readonly answeredMs: number;
  readonly backMs: number;
}

/** What the exchanges of the last minutes say of the server's clock, seen from this page's. */
export interface ClockLine {
  /** Server time = page time + offset + drift × (page time − `atMs`). */
  readonly atMs: number;
  readonly offsetMs: number;
  readonly drift: number;
  /** Standard error of the line at `atMs`: the two clocks agree within about this. Infinite before the second exchange. */
  readonly standardErrorMs: number;
  /** The quickest way there and back. Half of it is what a path that is slower one way could hide. */
  readonly leastRoundTripMs: number;
  /** Of twenty ways there and back nineteen are quicker. */
  readonly slowRoundTripMs: number;
}

export const UNKNOWN_CLOCK: ClockLine = {
  atMs: 0,
  offsetMs: 0,
  drift: 0,
  standardErrorMs: Infinity,
  leastRoundTripMs: Infinity,
  slowRoundTripMs: Infinity,
};

const KEPT_MS = 300_000;
const QUICKEST_OF_MS = 60_000;
/** A drift that is less well known than this is taken for none: it could not be told from jitter. */
const KNOWN_DRIFT = 40e-6;
const MOST_DRIFT = 200e-6;
const FEWEST_EXCHANGES = 4;
/** Where one was luckily quick, so many of the quickest count all the same, the slower the less. */
const LEAST_COUNTED = 8;
/** Two clocks that agree within this are near enough for an ensemble to be one. */
export const LOCKED_MS = 2;
const LOCKED_ROUND_TRIP_MS = 120;
const SOUNDING_MS = 5;

/** On joining, and after anything that may have changed the network, there are so many quick exchanges, so far apart. */
const QUICK_EXCHANGES = 10;
const QUICK_EVERY_MS = 50;
const EVERY_MS = 2000;

/** How long to wait before the next exchange, after so many since the network changed. `share`, 0 to 1, keeps devices from asking all at once. */
export function exchangeWaitMs(count: number, share: number): number {
  return count < QUICK_EXCHANGES ? QUICK_EVERY_MS : EVERY_MS * (0.75 + share / 2);
}

interface Sample {
  readonly atMs: number;
  readonly offsetMs: number;
  readonly roundTripMs: number;
}

function sampleOf({ sentMs, receivedMs, answeredMs, backMs }: ClockExchange): Sample {
  return {
    atMs: (sentMs + backMs) / 2,
    offsetMs: (receivedMs - sentMs + (answeredMs - backMs)) / 2,
    roundTripMs: Math.max(0, backMs - sentMs - (answeredMs - receivedMs)),
  };
}

/** The exchanges that still count, with one more. Those of an unbelievable order are passed over. */
export function exchangesAfter(
  known: readonly ClockExchange[],
  exchange: ClockExchange,
): readonly ClockExchange[] {
  const isPossible = exchange.backMs >= exchange.sentMs && exchange.answeredMs >= exchange.receivedMs;
  if (!isPossible) return known;
  return [...known.filter(({ backMs }) => backMs > exchange.backMs - KEPT_MS), exchange];
}

/**
 * The line through the quickest exchanges: those within 1 ms and a tenth of the least round trip of the last minute (eight at
 * least) count, the quicker the more, since what delays a message delays it one way. Weighted least squares.
 */
export function clockLineOf(exchanges: readonly ClockExchange[], nowMs: number): ClockLine {
  const samples = exchanges.map(sampleOf);
  const recent = samples.filter(({ atMs }) => atMs > nowMs - QUICKEST_OF_MS);
  const of = recent.length > 0 ? recent : samples;
  const least = Math.min(...of.map(({ roundTripMs }) => roundTripMs));
  if (!Number.isFinite(least)) return UNKNOWN_CLOCK;
  const byTrip = [...samples].sort((a, b) => a.roundTripMs - b.roundTripMs);
  const near = byTrip.filter(({ roundTripMs }) => roundTripMs <= least * 1.1 + 1).length;
  const quick = byTrip.slice(0, Math.max(near, LEAST_COUNTED));
  const fit = fitted(quick, least, nowMs);
  const sorted = of.map(({ roundTripMs }) => roundTripMs).sort((a, b) => a - b);
  return {
    ...fit,
    leastRoundTripMs: least,
    slowRoundTripMs: sorted[Math.ceil(sorted.length * 0.95) - 1] ?? least,
  };
}

/** Offset and drift at `nowMs`, and how far the samples leave it open. */
function fitted(
  samples: readonly Sample[],
  leastMs: number,
  nowMs: number,
): Pick<ClockLine, 'atMs' | 'offsetMs' | 'drift' | 'standardErrorMs'> {
  const weights = samples.map(({ roundTripMs }) => 1 / (Math.max(0, roundTripMs - leastMs) + 0.5) ** 2);
  const weight = sumOf(weights);
  const weighed = (value: (sample: Sample) => number) =>
    sumOf(samples.map((sample, index) => (weights[index] ?? 0) * value(sample)));
  const meanAt = weighed(({ atMs }) => atMs - nowMs) / weight;
  const meanOffset = weighed(({ offsetMs }) => offsetMs) / weight;
  const spread = weighed(({ atMs }) => (atMs - nowMs - meanAt) ** 2);
  const missedBy = (drift: number) =>
    weighed(({ atMs, offsetMs }) => (offsetMs - meanOffset - drift * (atMs - nowMs - meanAt)) ** 2);
  const count = samples.length;
  const slope = weighed(({ atMs, offsetMs }) => (atMs - nowMs - meanAt) * (offsetMs - meanOffset)) / spread;
  const slopeError = count > 2 ? Math.sqrt(missedBy(slope) / (count - 2) / spread) : Infinity;
  const isKnown = count >= FEWEST_EXCHANGES && slopeError < KNOWN_DRIFT && Math.abs(slope) < 2 * MOST_DRIFT;
  const drift = isKnown ? Math.min(MOST_DRIFT, Math.max(-MOST_DRIFT, slope)) : 0;
  const freedom = count - (isKnown ? 2 : 1);
  const variance = freedom > 0 ? missedBy(drift) / freedom : Infinity;
  const leverage = 1 / weight + (isKnown ? meanAt ** 2 / spread : 0);
  return {
    atMs: nowMs,
    offsetMs: meanOffset - drift * meanAt,
    drift,
    standardErrorMs: count < FEWEST_EXCHANGES ? Infinity : Math.sqrt(variance * leverage),
  };
}

function sumOf(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0);
}

export function serverMsOf({ atMs, offsetMs, drift }: ClockLine, pageMs: number): number {
  return pageMs + offsetMs + drift * (pageMs - atMs);
}

/** Inverse of `serverMsOf`. */
export function pageMsOf({ atMs, offsetMs, drift }: ClockLine, serverMs: number): number {
  return (serverMs - offsetMs + drift * atMs) / (1 + drift);
}

/** Near enough for an ensemble to be one. */
export function isLocked({ standardErrorMs, leastRoundTripMs }: ClockLine): boolean {
  return standardErrorMs < LOCKED_MS && leastRoundTripMs < LOCKED_ROUND_TRIP_MS;
}

/** Near enough to sound at all; what is farther off only shows the beat. */
export function maySound({ standardErrorMs }: ClockLine): boolean {
  return standardErrorMs < SOUNDING_MS;
}
