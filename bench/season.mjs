import { NOTHING_PLAYED, NO_WISHES, PLAIN_WEIGHTS, planFor, seededRandom, spacingOf } from '@anchorbeat/core';

/**
 * A model ensemble, to hold ways of rehearsing against each other; it claims nothing about people. A seam has a skill from 0 to 1
 * and a half-life in days. A run at a fitting rung teaches a share of what is missing, less where the seam is harder and after
 * twenty minutes without rest; one that is too fast fails and teaches a fifth. Between rehearsals skill decays toward a floor; a
 * good run after a gap lengthens the half-life, the more had been forgotten, at most fourfold.
 */
const PIECES = 50;
const REHEARSAL_MINUTES = 35;
const DAY_MS = 86_400_000;
const WEEKDAYS = [0, 2, 4];
const MOST_REHEARSALS = 80;
const READY_SKILL = 0.8;
const READY_SHARE = 0.8;
/** To find the place, say what is wrong and count off for the first time. */
const SETTLE_MINUTES = 0.7;
const RUN_MINUTES = 0.35;
const FIRST_HALF_LIFE = 7;

function ensembleOf(random) {
  const count = 8 + Math.floor(random() * 16);
  const seams = Array.from({ length: count }, (_, index) => {
    const score = Math.round(20 + 75 * random());
    const skill = 0.35 * random() * (1 - score / 150);
    return {
      barIndex: 4 + index * 6,
      score,
      skill,
      floor: skill * 0.5,
      halfLife: FIRST_HALF_LIFE,
      runs: [],
      percent: 70,
    };
  });
  return { seams, lengthSeconds: 60 * (2 + 4 * random()) };
}

const demandOf = (percent) => (percent / 100) ** 2 * 0.8;

/** One run of a seam; true where it was good. */
function runOnce(seam, percent, { atMs, minutesOn, random }) {
  const days = seam.lastMs === undefined ? 0 : (atMs - seam.lastMs) / DAY_MS;
  const fits = demandOf(percent) <= seam.skill + 0.3;
  const isGood = fits && seam.skill + 0.3 * random() >= demandOf(percent);
  const fresh = minutesOn > 20 ? 0.6 : 1;
  const learns = (0.34 - 0.0022 * seam.score) * fresh;
  seam.skill += (1 - seam.skill) * learns * (fits ? 1 : 0.2);
  if (isGood && days >= 1) {
    const forgotten = 1 - 2 ** (-days / seam.halfLife);
    seam.halfLife = Math.min(4 * FIRST_HALF_LIFE, seam.halfLife * (1 + 2 * forgotten));
  }
  seam.lastMs = atMs;
  return isGood;
}

function log(seam, percent, isGood, atMs) {
  const startedAt = new Date(atMs).toISOString();
  seam.runs.push({ percent, goalPercent: 100, mark: isGood ? 'good' : 'again', startedAt });
}

/**
 * Works on a seam up the ladder for some minutes, from where it was left or from a tempo given; gives the minutes it took. `isDone`
 * says after each run whether that is enough.
 */
function drill(seam, minutes, moment, { from = seam.percent, isDone = () => false } = {}) {
  let left = minutes - SETTLE_MINUTES;
  let percent = from;
  const today = [];
  while (left >= RUN_MINUTES && !isDone(today)) {
    const isGood = runOnce(seam, percent, moment);
    log(seam, percent, isGood, moment.atMs + moment.minutesOn * 60_000);
    today.push({ percent, isGood });
    percent = Math.min(100, Math.max(50, percent + (isGood ? 10 : -10)));
    left -= RUN_MINUTES;
    moment.minutesOn += RUN_MINUTES;
  }
  seam.percent = Math.max(60, percent - 10);
  return SETTLE_MINUTES + today.length * RUN_MINUTES;
}

/** Held twice at its goal, a place has had enough for today: whoever leads goes on, and the rest is planned anew. */
const ENOUGH = 2;
const isHeldOften = (today) =>
  today.filter(({ percent, isGood }) => isGood && percent === 100).length >= ENOUGH;

/** What the log tells of a seam: readiness from the last five marked runs, as the program reckons it. */
function knownOf({ runs }) {
  const recent = runs.slice(-5);
  const good = recent.filter(({ mark }) => mark === 'good');
  const reached = Math.max(0, ...good.map(({ percent }) => percent / 100));
  return {
    readiness: recent.length > 0 ? (reached * good.length) / recent.length : null,
    bestPercent:
      Math.max(0, ...runs.filter(({ mark }) => mark === 'good').map(({ percent }) => percent)) || null,
  };
}

function requestFor({ seams, lengthSeconds }, moment, minutes, skipped, { rests, wholeMinutes }) {
  return {
    minutes,
    already: {
      sinceRestMinutes: moment.minutesOn,
      rests,
      minutes: REHEARSAL_MINUTES - minutes,
      wholeMinutes,
    },
    atMs: moment.atMs,
    concertAtMs: null,
    rehearsalsLeft: 1,
    present: null,
    // All minutes go to playing, as with the others.
    weights: { ...PLAIN_WEIGHTS, warmUpMinutes: 0 },
    wishes: { ...NO_WISHES, skipped },
    pieces: [
      {
        pieceId: 'piece',
        title: 'Piece',
        lengthSeconds,
        goalPercent: 100,
        practicePercent: null,
        lastWholeAtMs: null,
        seams: seams.map((seam) => ({
          barIndex: seam.barIndex,
          name: '',
          score: seam.score,
          sections: [],
          bestPercent: knownOf(seam).bestPercent,
          spacing: spacingOf(seam.runs),
        })),
      },
    ],
  };
}

const POLICIES = {
  'by the plan': (ensemble, moment) => {
    let left = REHEARSAL_MINUTES;
    const done = [];
    let [rests, wholeMinutes] = [0, 0];
    // After every item the rest is planned anew, as at the podium.
    for (let first = true; left >= 2; first = false) {
      const plan = planFor(
        requestFor(ensemble, moment, left, first ? [] : ['warm-up', ...done], { rests, wholeMinutes }),
      );
      const item = plan.items.find(({ key }) => !done.includes(key));
      if (!item) break;
      done.push(item.key);
      if (item.kind === 'place') {
        const seam = ensemble.seams.find(({ barIndex }) => barIndex === item.bars[0]);
        left -= drill(seam, item.minutes, moment, { from: item.percent, isDone: isHeldOften });
        continue;
      }
      if (item.kind === 'rest') {
        moment.minutesOn = 0;
        rests++;
      }
      if (item.kind === 'whole') {
        const times = Math.round(((item.minutes - 1) * 60 * item.percent) / 100 / ensemble.lengthSeconds);
        for (let time = 0; time < times; time++)
          playThrough(ensemble.seams, moment, item.percent, item.minutes / times);
        wholeMinutes += item.minutes;
      }
      left -= item.minutes;
    }
    // What nothing is left to be done with is given back.
    return REHEARSAL_MINUTES - Math.max(0, left);
  },
  'from the top every time': ({ seams, lengthSeconds }, moment) => {
    const once = lengthSeconds / 60 + 0.5;
    for (let left = REHEARSAL_MINUTES; left >= once; left -= once) playThrough(seams, moment, 100, once);
  },
  'worst first always': ({ seams }, moment) => {
    const worst = [...seams].sort(
      (a, b) => (knownOf(a).readiness ?? 0) - (knownOf(b).readiness ?? 0) || b.score - a.score,
    );
    let left = REHEARSAL_MINUTES;
    for (const seam of worst) {
      const minutes = Math.min(10, left);
      if (minutes < SETTLE_MINUTES + RUN_MINUTES) break;
      drill(seam, minutes, moment);
      left -= minutes;
    }
  },
  'equal time': ({ seams }, moment) => {
    const minutes = Math.max(SETTLE_MINUTES + RUN_MINUTES, REHEARSAL_MINUTES / seams.length);
    const from = moment.index * Math.floor(REHEARSAL_MINUTES / minutes);
    for (let place = 0; (place + 1) * minutes <= REHEARSAL_MINUTES + 1e-9 && place < seams.length; place++)
      drill(seams[(from + place) % seams.length], minutes, moment);
  },
};

function playThrough(seams, moment, percent, minutes) {
  const atMs = moment.atMs + moment.minutesOn * 60_000;
  for (const seam of seams) log(seam, percent, runOnce(seam, percent, moment), atMs);
  moment.minutesOn += minutes;
}

/** Minutes worked until four in five seams are ready at the beginning of one, and how many were never visited. */
function season(policy, seed) {
  const random = seededRandom(seed);
  const ensemble = ensembleOf(random);
  let [last, minutes] = [0, 0];
  for (let index = 0; index < MOST_REHEARSALS; index++) {
    const day = 7 * Math.floor(index / WEEKDAYS.length) + WEEKDAYS[index % WEEKDAYS.length];
    for (const seam of ensemble.seams)
      seam.skill = seam.floor + (seam.skill - seam.floor) * 2 ** (-(day - last) / seam.halfLife);
    last = day;
    const ready = ensemble.seams.filter(({ skill }) => skill >= READY_SKILL).length;
    const unvisited = ensemble.seams.filter(({ runs }) => runs.length === 0).length;
    if (ready >= READY_SHARE * ensemble.seams.length && unvisited === 0) return { minutes, unvisited };
    const atMs = Date.UTC(2026, 8, 1, 19) + day * DAY_MS;
    minutes += policy(ensemble, { atMs, minutesOn: 0, random, index }) ?? REHEARSAL_MINUTES;
  }
  const unvisited = ensemble.seams.filter(({ runs }) => runs.length === 0).length;
  return { minutes, unvisited, isNever: true };
}

/** Whole programmes over weeks, as a planner meets them. */
function largePlan() {
  const random = seededRandom(7);
  const pieces = Array.from({ length: 40 }, (_, piece) => ({
    pieceId: `piece ${piece}`,
    title: `Piece ${piece}`,
    lengthSeconds: 240,
    goalPercent: 100,
    practicePercent: null,
    lastWholeAtMs: null,
    seams: Array.from({ length: 60 }, (_seam, seam) => ({
      barIndex: 4 * seam,
      name: `into bar ${4 * seam}`,
      score: Math.round(20 + 70 * random()),
      sections: [],
      bestPercent: 80,
      spacing: { intervalDays: 10 * random(), lastAtMs: Date.UTC(2026, 8, 1), reached: random() },
    })),
  }));
  const start = performance.now();
  for (let week = 0; week < 12; week++)
    planFor({
      minutes: 90,
      already: NOTHING_PLAYED,
      atMs: Date.UTC(2026, 8, 7 + 7 * week),
      concertAtMs: Date.UTC(2026, 11, 1),
      rehearsalsLeft: 12 - week,
      present: null,
      weights: PLAIN_WEIGHTS,
      wishes: NO_WISHES,
      pieces,
    });
  return performance.now() - start;
}

export function benchSeason() {
  const rows = Object.entries(POLICIES).map(([name, policy]) => {
    const seasons = Array.from({ length: PIECES }, (_, seed) => season(policy, seed + 1));
    const minutes = seasons.map((one) => one.minutes).sort((a, b) => a - b);
    const mean = minutes.reduce((sum, one) => sum + one, 0) / PIECES;
    const never = seasons.reduce((sum, { unvisited }) => sum + unvisited, 0);
    return {
      name,
      mean,
      never,
      unreached: seasons.filter(({ isNever }) => isNever).length,
    };
  });
  for (const { name, mean, never, unreached } of rows)
    console.log(
      `season, ${name}: ${mean.toFixed(0)} min until 80 % of the seams are ready; ${unreached} of ${PIECES} pieces never; ${never} seams never visited`,
    );
  const best = Math.min(...rows.slice(1).map(({ mean }) => mean));
  console.log(
    `season, the plan against the best of the others: ${((100 * rows[0].mean) / best).toFixed(0)} % of the minutes (wanted 70)`,
  );
  console.log(
    `plan of 40 pieces with 60 seams, twelve weeks: ${largePlan().toFixed(0)} ms (wanted under 200)`,
  );
}
