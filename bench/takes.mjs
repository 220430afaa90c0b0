import {
  analysedTake,
  EXPLANATIONS,
  proofOf,
  readPiece,
  runFrom,
  seededRandom,
  simulatedTake,
} from '@anchorbeat/core';
import { benchBestListener } from './bestListener.mjs';
import { sceneFor } from './takeScenes.mjs';

const TAKES = 6000;
const HABITS = EXPLANATIONS.filter((name) => name !== 'too-few');
/** Ten minutes of eighths with a seam every eight bars: how long the analysis of such a take lasts. */
function longTake() {
  const kinds = [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 158' }] },
    { meter: '15/16 as 4+4+4+3' },
    { meter: '4/4' },
    { meter: '6/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
    { meter: '4/4', tempo: [{ equivalence: 'dotted quarter = quarter' }] },
    { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'eighth = eighth' }] },
  ];
  const rhythms = { '4/4': 'e e e e e e e e', '6/8': 'e e e e e e', '7/8 as 2+2+3': 'e e e e e e e' };
  const bars = [];
  let rhythm;
  for (let index = 0; index < 444; index++) {
    const kind = index % 8 === 0 ? kinds[(index / 8) % kinds.length] : {};
    rhythm = kind.meter ? rhythms[kind.meter] : rhythm;
    bars.push({ ...kind, ...(rhythm && { rhythm }) });
  }
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Long', bars });
  if (!reading.ok) throw new Error(reading.problems[0].message);
  const proof = proofOf(reading.piece);
  const plan = runFrom(proof, 0);
  const untilSeconds = plan.lengthSeconds - 0.01;
  const { onsets } = simulatedTake(proof, plan, {
    habit: 'settled-in',
    seed: 5,
    play: 'notes',
    untilSeconds,
  });
  const times = Array.from({ length: 7 }, () => {
    const began = performance.now();
    analysedTake(proof, plan, { onsets, play: 'notes' });
    return performance.now() - began;
  }).sort((a, b) => a - b);
  console.log(
    `take of ${onsets.length} onsets in ${Math.round(untilSeconds)} s over 55 seams: ${times[3].toFixed(0)} ms (wanted under 100 for 3,000)`,
  );
}

/** How often a simulated mistake is called by its name, as a table: habits down, names across. */
export function benchTakes() {
  const table = new Map(HABITS.map((habit) => [habit, new Map()]));
  let [surelyWrong, told, milliseconds, onsetCount] = [0, 0, 0, 0];
  for (let index = 0; index < TAKES; index++) {
    const random = seededRandom(9000 + index);
    const habit = HABITS[index % HABITS.length];
    const { proof, seam } = sceneFor(habit, random);
    const plan = runFrom(proof, 0);
    const play = habit === 'triplet' ? 'notes' : 'pulse';
    const spreadMs = 10 + 30 * random();
    const { onsets, mistakes } = simulatedTake(proof, plan, {
      habit,
      seed: index,
      play,
      spreadMs,
      constantMs: -40 + 160 * random(),
      missing: 0.05 * random(),
      extra: 0.03 * random(),
      atPerformed: [seam],
      untilSeconds: plan.lengthSeconds - 0.01,
    });
    if (habit !== 'held' && Math.abs(mistakes.get(seam) ?? 0) < 2 * spreadMs) continue;
    const began = performance.now();
    const verdict = analysedTake(proof, plan, { onsets, play }).seams.find(
      ({ performed }) => performed === seam,
    );
    milliseconds += performance.now() - began;
    onsetCount += onsets.length;
    const name = verdict?.explanation ?? 'no seam';
    const row = table.get(habit);
    row.set(name, (row.get(name) ?? 0) + 1);
    told++;
    if (name !== habit && name !== 'too-few' && (verdict?.probability ?? 0) > 0.9) surelyWrong++;
  }
  console.log(
    `takes: ${told} simulated, effect over twice the spread; wanted: right in 95 %, held in 97 %, surely wrong in 1 %`,
  );
  for (const [habit, row] of table) {
    const count = [...row.values()].reduce((sum, value) => sum + value, 0);
    const right = ((100 * (row.get(habit) ?? 0)) / Math.max(1, count)).toFixed(0);
    const others = [...row].filter(([name]) => name !== habit).sort(([, a], [, b]) => b - a);
    console.log(
      `  ${habit.padEnd(15)}${right.padStart(3)} % of ${String(count).padStart(3)}   ${others.map(([name, value]) => `${name} ${value}`).join(', ')}`,
    );
  }
  console.log(
    `  surely wrong: ${((100 * surelyWrong) / told).toFixed(1)} %; ${((1000 * milliseconds) / onsetCount).toFixed(0)} ms for 1,000 onsets`,
  );
  benchBestListener();
  longTake();
}
