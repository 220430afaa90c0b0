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
  /** Standard error of the line at `atMs`: the two clocks agree within about this. Infinite before the ten of joining. */
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
/** Crystals of phones are within this of one another, two times in three; what is seen of a drift is weighed against it. */
const USUAL_DRIFT = 50e-6;
const MOST_DRIFT = 200e-6;
/** How near to one another so many of the quickest ways are tells how near the quickest is to the least there is. */
const NEAR_QUICKEST = 8;
/** Stamps are rounded, and no floor is known to better than this. */
const STAMP_MS = 0.01;
/** Ways that together take less than no time, by more than rounding: one of the clocks was set anew between them. */
const IMPOSSIBLE_MS = -1;
const FEWEST_AFTER_A_JUMP = 8;
/** A log likelihood that is so much less than the greatest counts for nothing, and so many slopes stand for all others. */
const UNLIKELY = 6;
const SLOPES = 25;
/** What took so many times longer than the middle one, over the least, was lost and sent anew. */
const SENT_ANEW = 3;
/** Two clocks that agree within this are near enough for an ensemble to be one. */
export const LOCKED_MS = 2;
const LOCKED_ROUND_TRIP_MS = 120;
const SOUNDING_MS = 5;

/** On joining, and after anything that may have changed the network, there are so many quick exchanges, so far apart. */
const QUICK_EXCHANGES = 10;
const QUICK_EVERY_MS = 50;
/** A device that has just come is busy with itself: its first exchanges wait for it one way, and say nothing of how much. */
const FEWEST_EXCHANGES = QUICK_EXCHANGES;
const EVERY_MS = 2000;
/** Where the clocks are not yet known to within this, they are compared more often. */
const UNSURE_MS = 0.5;
const UNSURE_EVERY_MS = 250;

/**
 * How long to wait before the next exchange, after so many since the network changed, with the clocks known so well. `share`,
 * 0 to 1, keeps devices from asking all at once.
 */
export function exchangeWaitMs(count: number, { standardErrorMs }: ClockLine, share: number): number {
  if (count < QUICK_EXCHANGES) return QUICK_EVERY_MS;
  return (standardErrorMs > UNSURE_MS ? UNSURE_EVERY_MS : EVERY_MS) * (0.75 + share / 2);
}

/** An exchange as its two ways look from both clocks: each is what it took, give or take the offset. */
interface Ways {
  readonly atMs: number;
  /** What the way there took, and the server's clock is ahead. */
  readonly thereMs: number;
  /** What the way back took, less what the server's clock is ahead. */
  readonly backMs: number;
}

function waysOf({ sentMs, receivedMs, answeredMs, backMs }: ClockExchange): Ways {
  return { atMs: (sentMs + backMs) / 2, thereMs: receivedMs - sentMs, backMs: backMs - answeredMs };
}

const roundTripMsOf = ({ thereMs, backMs }: Ways) => Math.max(0, thereMs + backMs);

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
 * The line that the exchanges leave open least: by the quickest ways, or, where no way is quicker than the rest, by the middle of
 * all.
 */
export function clockLineOf(exchanges: readonly ClockExchange[], nowMs: number): ClockLine {
  const ways = exchanges.map(waysOf).sort((a, b) => a.atMs - b.atMs);
  const recent = ways.filter(({ atMs }) => atMs > nowMs - QUICKEST_OF_MS);
  const trips = (recent.length > 0 ? recent : ways).map(roundTripMsOf).sort((a, b) => a - b);
  const [least] = trips;
  if (least === undefined) return UNKNOWN_CLOCK;
  return {
    ...fitted(ways, nowMs),
    leastRoundTripMs: least,
    slowRoundTripMs: trips[Math.ceil(trips.length * 0.95) - 1] ?? least,
  };
}

type Fit = Pick<ClockLine, 'atMs' | 'offsetMs' | 'drift' | 'standardErrorMs'>;

function fitted(ways: readonly Ways[], nowMs: number): Fit {
  const edges = edgesOf(ways, nowMs);
  const { gapMs, ...quickest } = fitOfQuickest(ways, nowMs, edges);
  if (gapMs < IMPOSSIBLE_MS && ways.length > FEWEST_AFTER_A_JUMP)
    return fitted(ways.slice(ways.length >> 1), nowMs);
  if (ways.length < FEWEST_EXCHANGES) return { ...quickest, standardErrorMs: Infinity };
  const middle = fitOfMiddle(ways, nowMs);
  const isBetter = middle.standardErrorMs < quickest.standardErrorMs;
  return isBetter && isPossible(middle, edges) ? middle : quickest;
}

/** Whether no way would have taken less than no time. */
function isPossible({ offsetMs, drift }: Fit, edges: Edges): boolean {
  const between = edges(drift);
  return Math.abs(offsetMs - between.offsetMs) <= between.gapMs / 2;
}

/**
 * Each way takes its least or longer: seen from both clocks the ways there lie above one line, the ways back below another of the
 * same slope, and between the two runs the offset (Moon, Skelly and Towsley 1999, of one way). How likely a slope is follows from
 * delays that fall off exponentially above the least, with what crystals usually differ by as prior; the offset is the mean over
 * all slopes. `gapMs` is the least way there and back.
 */
function fitOfQuickest(ways: readonly Ways[], nowMs: number, edges: Edges): Fit & { readonly gapMs: number } {
  let drift = 0;
  let seen = { offsetMs: 0, varianceMs2: 0 };
  // How dense the ways are near the least shows once the drift is known roughly.
  for (let pass = 0; pass < 2; pass++) {
    const spacingMs = Math.max(STAMP_MS, sumOf(spacingsOf(ways, nowMs, drift)) / 2);
    const logLikelihood = (slope: number) => edges(slope).gapMs / spacingMs - (slope / USUAL_DRIFT) ** 2 / 2;
    const slopes = likelySlopes(logLikelihood);
    drift = sumOf(slopes.map(({ slope, share }) => slope * share));
    const offsets = slopes.map(({ slope }) => edges(slope).offsetMs);
    const weighed = (values: readonly number[]) =>
      sumOf(values.map((value, index) => value * (slopes[index]?.share ?? 0)));
    const offsetMs = weighed(offsets);
    seen = { offsetMs, varianceMs2: weighed(offsets.map((each) => (each - offsetMs) ** 2)) };
  }
  const [there, back] = spacingsOf(ways, nowMs, drift);
  return {
    atMs: nowMs,
    offsetMs: seen.offsetMs,
    drift,
    standardErrorMs: Math.sqrt((there ** 2 + back ** 2) / 4 + seen.varianceMs2),
    gapMs: edges(drift).gapMs,
  };
}

/** Slopes from one end of what is likely to the other, each with its share of the likelihood, which has one peak. */
function likelySlopes(logLikelihood: (slope: number) => number) {
  const peak = highest(logLikelihood);
  const most = logLikelihood(peak);
  const [from, to] = [-1, 1].map((towards) => {
    let [inside, outside] = [peak, peak + towards * 2 * MOST_DRIFT];
    for (let step = 0; step < 20; step++) {
      const middle = (inside + outside) / 2;
      if (logLikelihood(middle) > most - UNLIKELY) inside = middle;
      else outside = middle;
    }
    return inside;
  }) as [number, number];
  const slopes = Array.from({ length: SLOPES }, (_, at) => from + ((to - from) * at) / (SLOPES - 1));
  const likelihoods = slopes.map((slope) => Math.exp(logLikelihood(slope) - most));
  const all = sumOf(likelihoods);
  return slopes.map((slope, index) => ({ slope, share: (likelihoods[index] ?? 0) / all }));
}

interface Point {
  readonly atMs: number;
  readonly delayMs: number;
}

/** The quickest way there and the quickest back at a drift: the offset between them, and what they take together. */
type Edges = (drift: number) => { readonly offsetMs: number; readonly gapMs: number };

/** The offset is that at `nowMs`. */
function edgesOf(ways: readonly Ways[], nowMs: number): Edges {
  const there = lowerHull(ways.map(({ atMs, thereMs }) => ({ atMs: atMs - nowMs, delayMs: thereMs })));
  const back = lowerHull(ways.map(({ atMs, backMs }) => ({ atMs: atMs - nowMs, delayMs: backMs })));
  const leastAt = (hull: readonly Point[], slope: number) =>
    hull.reduce((least, { atMs, delayMs }) => Math.min(least, delayMs - slope * atMs), Infinity);
  return (drift: number) => {
    const [thereMs, backMs] = [leastAt(there, drift), leastAt(back, -drift)];
    return { offsetMs: (thereMs - backMs) / 2, gapMs: thereMs + backMs };
  };
}

/** Of points in the order of their time those that some straight line has all others above it (Andrew’s chain). */
function lowerHull(points: readonly Point[]): readonly Point[] {
  const hull: Point[] = [];
  for (const point of points) {
    for (;;) {
      const [before, last] = [hull.at(-2), hull.at(-1)];
      const isAbove =
        before &&
        last &&
        (last.delayMs - before.delayMs) * (point.atMs - before.atMs) >=
          (point.delayMs - before.delayMs) * (last.atMs - before.atMs);
      if (!isAbove) break;
      hull.pop();
    }
    hull.push(point);
  }
  return hull;
}

/** How far apart the quickest few ways are, there and back, on the average, in milliseconds. */
function spacingsOf(ways: readonly Ways[], nowMs: number, drift: number): readonly [number, number] {
  const spacing = (delays: readonly number[]) => {
    const quickest = Float64Array.from(delays).sort().subarray(0, NEAR_QUICKEST);
    return ((quickest.at(-1) ?? 0) - (quickest[0] ?? 0)) / Math.max(1, quickest.length - 1);
  };
  return [
    spacing(ways.map(({ atMs, thereMs }) => thereMs - drift * (atMs - nowMs))),
    spacing(ways.map(({ atMs, backMs }) => backMs + drift * (atMs - nowMs))),
  ];
}

/** Where a concave function of a drift is highest. */
function highest(of: (drift: number) => number): number {
  let [from, to] = [-MOST_DRIFT, MOST_DRIFT];
  for (let step = 0; step < 36; step++) {
    const [low, high] = [from + (to - from) / 3, to - (to - from) / 3];
    if (of(low) < of(high)) from = low;
    else to = high;
  }
  return (from + to) / 2;
}

/** Least squares through the offsets of all that was not sent anew, with what crystals usually differ by as prior. */
function fitOfMiddle(ways: readonly Ways[], nowMs: number): Fit {
  const trips = ways.map(roundTripMsOf).sort((a, b) => a - b);
  const least = trips[0] ?? 0;
  const mostMs = least + SENT_ANEW * ((trips[trips.length >> 1] ?? 0) - least);
  const samples = ways
    .filter((one) => roundTripMsOf(one) <= mostMs)
    .map(({ atMs, thereMs, backMs }) => ({ atMs: atMs - nowMs, offsetMs: (thereMs - backMs) / 2 }));
  const count = samples.length;
  const freedom = Math.max(1, count - 2);
  const meanAt = sumOf(samples.map(({ atMs }) => atMs)) / count;
  const meanOffset = sumOf(samples.map(({ offsetMs }) => offsetMs)) / count;
  const missedBy = (drift: number) =>
    sumOf(samples.map(({ atMs, offsetMs }) => (offsetMs - meanOffset - drift * (atMs - meanAt)) ** 2)) /
    freedom;
  const spread = sumOf(samples.map(({ atMs }) => (atMs - meanAt) ** 2));
  const product = sumOf(samples.map(({ atMs, offsetMs }) => (atMs - meanAt) * (offsetMs - meanOffset)));
  const priorSpread = missedBy(0) / USUAL_DRIFT ** 2;
  const slope = spread + priorSpread > 0 ? product / (spread + priorSpread) : 0;
  const drift = Math.min(MOST_DRIFT, Math.max(-MOST_DRIFT, slope));
  const variance = missedBy(drift);
  const driftVariance = variance === 0 ? 0 : variance / (spread + variance / USUAL_DRIFT ** 2);
  return {
    atMs: nowMs,
    offsetMs: meanOffset - drift * meanAt,
    drift,
    standardErrorMs: Math.sqrt(variance / count + meanAt ** 2 * driftVariance),
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
