import { analysedTake, runFrom, seededRandom, simulatedTake } from '@anchorbeat/core';
import { sceneFor } from './takeScenes.mjs';

const TAKES = 1400;
/** What the simulated timekeeper brings along to the next onset, and the hands' share of the spread (`simulatedPlayer.ts`). */
const CARRIED = 0.6;
const HAND = 0.4;
const BEFORE_ONSETS = 28;
const DECAYS = [2.1, 2.4, 2.7, 3, 3.3, 3.6, 3.9];

/** Habits whose size nothing on paper gives: what each makes of an onset, by beats from the anchor, and its sizes in seconds. */
const HABITS = {
  held: () => [{ share: () => 0, sizes: [0] }],
  early: (spread) => [{ share: () => -1, sizes: sizesFor(spread) }],
  late: (spread) => [{ share: () => 1, sizes: sizesFor(spread) }],
  rushed: (spread) => DECAYS.map((tau) => growing(-1.5, tau, spread)),
  dragged: (spread) => DECAYS.map((tau) => growing(1.5, tau, spread)),
  'settled-in': (spread) =>
    DECAYS.flatMap((tau) =>
      [-1.5, 1.5].map((start) => ({
        share: (beats) => start * Math.exp(-beats / tau),
        sizes: sizesFor(spread),
      })),
    ),
  followed: (spread) => [
    {
      share: (beats) => (beats < 0.5 ? 1 : beats < 1.5 ? 0.4 : 0),
      sizes: steps(Math.max(0.09, 2 * spread), 0.22, 30),
    },
  ],
};

function growing(most, tau, spread) {
  return { share: (beats) => most * (1 - Math.exp(-beats / tau)), sizes: sizesFor(spread) };
}

function sizesFor(spread) {
  return steps(2.6, 5, 30).map((spreads) => Math.min(spreads * spread, 0.18));
}

function steps(from, to, count) {
  return Array.from({ length: count }, (_, index) => from + ((to - from) * (index + 0.5)) / count);
}

/**
 * The most that any listener could tell: one who knows each player's spread, how sizes are drawn and which onset stands for which
 * beat, to whom no onset is missing, and who has but these names to choose from (Bayes' rule over all of it). What is wrong here
 * cannot be told apart at all.
 */
export function benchBestListener() {
  const right = new Map(Object.keys(HABITS).map((habit) => [habit, { right: 0, all: 0 }]));
  for (let index = 0; index < TAKES; index++) {
    const random = seededRandom(9000 + index * 7);
    const habit = Object.keys(HABITS)[index % right.size];
    const { proof, seam } = sceneFor(habit, random);
    const plan = runFrom(proof, 0);
    const spreadMs = 10 + 30 * random();
    const wishes = {
      habit,
      seed: index,
      spreadMs,
      constantMs: 40,
      missing: 0,
      extra: 0,
      atPerformed: [seam],
    };
    const { onsets, mistakes } = simulatedTake(proof, plan, {
      ...wishes,
      untilSeconds: plan.lengthSeconds - 0.01,
    });
    if (habit !== 'held' && Math.abs(mistakes.get(seam) ?? 0) < 2 * spreadMs) continue;
    const asked = analysedTake(proof, plan, { onsets, play: 'pulse' }).onsets.map(({ asked }) => asked);
    if (asked.length !== onsets.length) continue;
    const count = right.get(habit);
    count.all++;
    if (likeliest(asked, onsets, seam, spreadMs / 1000) === habit) count.right++;
  }
  const told = [...right].map(([habit, count]) => `${habit} ${((100 * count.right) / count.all).toFixed(0)}`);
  console.log(`  a listener who knew all of the player could tell, in %: ${told.join(', ')}`);
}

function likeliest(asked, onsets, seam, spread) {
  const anchor = asked.findIndex(({ performed }) => performed >= seam);
  const heard = asked.slice(Math.max(0, anchor - BEFORE_ONSETS));
  const first = asked.length - heard.length;
  const root = rootOf(heard.length, spread);
  const misses = against(
    root,
    heard.map(({ seconds }, index) => onsets[first + index] - seconds - 0.04),
  );
  const evidence = ({ share, sizes }) => {
    const shape = heard.map(({ beats }, index) =>
      first + index < anchor ? 0 : share(beats - asked[anchor].beats),
    );
    const expected = against(root, shape);
    const [together, square] = [dot(misses, expected), dot(expected, expected)];
    return meanOf(sizes.map((size) => size * together - (size * size * square) / 2));
  };
  const scores = Object.entries(HABITS).map(([habit, waysOf]) => [
    habit,
    meanOf(waysOf(spread).map(evidence)),
  ]);
  return scores.reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}

/** The root (Cholesky) of how onsets go together: timekeeper, hands, and where the person stands, known to 60 ms. */
function rootOf(count, spread) {
  const hand = (HAND * spread) ** 2;
  const root = [];
  for (let row = 0; row < count; row++) {
    const line = new Float64Array(row + 1);
    for (let column = 0; column <= row; column++) {
      let rest = (spread ** 2 - hand) * CARRIED ** (row - column) + 0.06 ** 2 + (row === column ? hand : 0);
      for (let k = 0; k < column; k++) rest -= line[k] * (row === column ? line[k] : root[column][k]);
      line[column] = row === column ? Math.sqrt(rest) : rest / root[column][column];
    }
    root.push(line);
  }
  return root;
}

function against(root, values) {
  const told = new Float64Array(values.length);
  for (let row = 0; row < values.length; row++) {
    let rest = values[row];
    for (let k = 0; k < row; k++) rest -= root[row][k] * told[k];
    told[row] = rest / root[row][row];
  }
  return told;
}

function dot(a, b) {
  return a.reduce((sum, value, index) => sum + value * b[index], 0);
}

/** The logarithm of the mean of what has these logarithms. */
function meanOf(logs) {
  const most = Math.max(...logs);
  return most + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - most), 0) / logs.length);
}
